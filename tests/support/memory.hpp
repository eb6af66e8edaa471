#pragma once
#include <fstream>

namespace awl::test {

/// What this program holds of memory, megabytes. Source: proc(5).
inline double held_mb() {
  std::ifstream statm("/proc/self/statm");
  double all = 0.0, resident = 0.0;
  statm >> all >> resident;
  return resident * 4096.0 / 1e6;
}

}  // namespace awl::test
