#include <iostream>

#include "cli/cli.hpp"

int main(int argc, char** argv) { return awl::runCommand(argc, argv, std::cout, std::cerr); }
