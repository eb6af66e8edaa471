#pragma once
#include <malloc.h>

#include <fstream>

namespace awl::test {

/// What this program holds of memory, megabytes, once what is free is given back. Source: proc(5), malloc_trim(3).
inline double held_mb() {
  malloc_trim(0);
  std::ifstream statm("/proc/self/statm");
  double all = 0.0, resident = 0.0;
  statm >> all >> resident;
  return resident * 4096.0 / 1e6;
}

}  // namespace awl::test
