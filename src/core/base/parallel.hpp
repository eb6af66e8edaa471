#pragma once
#include <atomic>
#include <exception>
#include <functional>
#include <mutex>
#include <thread>
#include <vector>

namespace awl {

/// Runs job(0..count-1) on all cores; results must go to places of their own, so order never shows.
///
/// What a job throws is thrown again on the caller's thread once all have stopped; jobs not yet begun are left out
/// then.
inline void parallel_for(int count, const std::function<void(int)>& job) {
  const int helpers = std::min<int>(count, static_cast<int>(std::max(1u, std::thread::hardware_concurrency()))) - 1;
  std::atomic<int> next{0};
  std::mutex door;
  std::exception_ptr thrown;
  const auto work = [&] {
    try {
      for (int i = next++; i < count; i = next++) job(i);
    } catch (...) {
      const std::lock_guard lock(door);
      if (!thrown) thrown = std::current_exception();
      next = count;
    }
  };
  std::vector<std::thread> threads;
  for (int t = 0; t < helpers; ++t) threads.emplace_back(work);
  work();
  for (auto& thread : threads) thread.join();
  if (thrown) std::rethrow_exception(thrown);
}

}  // namespace awl
