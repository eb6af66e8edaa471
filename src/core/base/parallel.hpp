#pragma once
#include <functional>

namespace awl {

/// Runs job(0..count-1) on all cores; results must go to places of their own, so order never shows.
///
/// A job may do the same with jobs of its own: all that began in one outermost call share its threads, no more of them
/// at work than there are cores, and who is free helps where there is most left to do, the outer jobs first.
/// What a job throws is thrown again on the caller's thread once all have stopped; jobs not yet begun are left out
/// then. Threads are as nice as the one that calls.
void parallel_for(int count, const std::function<void(int)>& job);

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
