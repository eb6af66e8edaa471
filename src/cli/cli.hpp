#pragma once
#include <ostream>

namespace awl {

/// Runs one command line. Answers 0 done, 1 an expected failure (its sentence on `err`), 2 wrong usage.
int runCommand(int argc, const char* const* argv, std::ostream& out, std::ostream& err);

}  // namespace awl
