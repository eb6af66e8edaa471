#pragma once
#include <cstdlib>

namespace awl::test {

/// Whether this is one of the long campaigns of ./run hard, which has hours.
inline bool hard() { return std::getenv("NOGGIN_AWL_HARD") != nullptr; }

/// How many of something are tried: so many in every run, and so many with hours.
inline int tries(int usually, int in_hours) { return hard() ? in_hours : usually; }

}  // namespace awl::test
