#pragma once

namespace awl::test {

/// Runs the tests a command line asks for; the number of those that failed. Catch's own part lies behind this one name:
/// a second is what it takes to compile a main, and half a minute with it.
int run_tests(int argc, char** argv);

}  // namespace awl::test
