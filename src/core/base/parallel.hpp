#pragma once
#include <atomic>
#include <functional>
#include <thread>
#include <vector>

namespace awl {

/// Runs job(0..count-1) on all cores; results must go to places of their own, so order never shows.
inline void parallel_for(int count, const std::function<void(int)>& job) {
  const int helpers = std::min<int>(count, static_cast<int>(std::max(1u, std::thread::hardware_concurrency()))) - 1;
  std::atomic<int> next{0};
  const auto work = [&] {
    for (int i = next++; i < count; i = next++) job(i);
  };
  std::vector<std::thread> threads;
  for (int t = 0; t < helpers; ++t) threads.emplace_back(work);
  work();
  for (auto& thread : threads) thread.join();
}

}  // namespace awl
