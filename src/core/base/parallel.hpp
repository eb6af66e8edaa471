#pragma once
#include <cstddef>
#include <functional>

namespace awl {

/// Runs job(0..count-1) on all cores; results must go to places of their own, so order never shows.
///
/// A job may do the same with jobs of its own: all that began in one outermost call share its threads, no more of them
/// at work than there are cores, and who is free helps where there is most left to do, the outer jobs first.
/// What a job throws is thrown again on the caller's thread once all have stopped; jobs not yet begun are left out
/// then. Threads are as nice as the one that calls.
void parallel_for(int count, const std::function<void(int)>& job);

/// The same for many small things: each(0..count-1), a slice of them to a job.
template <class Each>
void parallel_each(std::size_t count, const Each& each) {
  constexpr std::size_t kSlices = 32;
  parallel_for(static_cast<int>(kSlices), [&](int slice) {
    const auto s = static_cast<std::size_t>(slice);
    for (std::size_t i = s * count / kSlices; i < (s + 1) * count / kSlices; ++i) each(i);
  });
}

/// While there is one, the calling thread waits for another one, and its core does other jobs of the same work.
class LentCore {
 public:
  LentCore();
  ~LentCore();
  LentCore(const LentCore&) = delete;
  LentCore& operator=(const LentCore&) = delete;

 private:
  class Crew* crew_;
};

}  // namespace awl
