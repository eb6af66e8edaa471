#include <clocale>

#include "support/catch_runner.hpp"

// As a window program does: the user's locale holds for the whole process, a decimal comma too.
int main(int argc, char** argv) {
  std::setlocale(LC_ALL, "");
  return awl::test::run_tests(argc, argv);
}
