#define CATCH_CONFIG_RUNNER
#include "support/catch_runner.hpp"

#include <catch2/catch.hpp>

int awl::test::run_tests(int argc, char** argv) { return Catch::Session().run(argc, argv); }
