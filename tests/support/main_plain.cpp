#define CATCH_CONFIG_RUNNER
#include <catch2/catch.hpp>
#include <clocale>

// As a window program does: the user's locale holds for the whole process, a decimal comma too.
int main(int argc, char** argv) {
  std::setlocale(LC_ALL, "");
  return Catch::Session().run(argc, argv);
}
