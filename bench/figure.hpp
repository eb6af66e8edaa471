#pragma once
#include <algorithm>
#include <chrono>
#include <cstdio>
#include <string>
#include <vector>

namespace awl::bench {

inline double now_ms() {
  return std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now().time_since_epoch()).count();
}

/// The median of five runs, printed under its name.
template <class Work>
void figure(const std::string& name, Work&& work) {
  std::vector<double> times;
  for (int i = 0; i < 5; ++i) {
    const double start = now_ms();
    work();
    times.push_back(now_ms() - start);
  }
  std::sort(times.begin(), times.end());
  std::printf("%-42s\t%.3f\n", name.c_str(), times[2]);
}

}  // namespace awl::bench
