#pragma once
#include <atomic>
#include <chrono>
#include <condition_variable>
#include <mutex>
#include <optional>

namespace awl {

/// One at a time: a derivation, or a short question that it lets pass.
class Door {
 public:
  /// A derivation comes in once nobody is inside and no question is waiting.
  void enter() {
    std::unique_lock lock(mutex_);
    changed_.wait(lock, [this] { return !taken_ && waiting_ == 0; });
    taken_ = true;
  }
  /// A short question: waits for who is inside, at most `within`. False if that was too short.
  bool enter_briefly(std::optional<std::chrono::milliseconds> within) {
    std::unique_lock lock(mutex_);
    ++waiting_;
    const auto is_free = [this] { return !taken_; };
    const bool in = within ? changed_.wait_for(lock, *within, is_free) : (changed_.wait(lock, is_free), true);
    --waiting_;
    if (in)
      taken_ = true;
    else
      changed_.notify_all();
    return in;
  }
  void leave() {
    {
      const std::lock_guard lock(mutex_);
      taken_ = false;
    }
    changed_.notify_all();
  }
  /// Whether a question waits: a derivation then stops, leaves, and comes in again after it.
  bool is_asked() const { return waiting_ > 0; }

 private:
  std::mutex mutex_;
  std::condition_variable changed_;
  bool taken_ = false;
  std::atomic<int> waiting_{0};
};

}  // namespace awl
