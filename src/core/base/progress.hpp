#pragma once
#include <algorithm>
#include <functional>
#include <mutex>
#include <utility>
#include <vector>

namespace awl {

/// One callback for progress and cancel, passed down by reference.
///
/// Contract: long work calls keep_going at least every 50 ms and stops when it answers false.
/// Ownership: holds its callback; cheap to make a span of it for a part of the work.
class Progress {
 public:
  using Callback = std::function<bool(double fraction)>;

  Progress() = default;
  explicit Progress(Callback callback) : callback_(std::move(callback)) {}

  /// False once somebody asked to stop. `fraction` in 0..1 of this work.
  bool keep_going(double fraction) const { return !callback_ || callback_(from_ + fraction * (to_ - from_)); }

  /// The part [from, to] of this progress, for a step of the work.
  Progress span(double from, double to) const {
    Progress part = *this;
    part.from_ = from_ + from * (to_ - from_);
    part.to_ = from_ + to * (to_ - from_);
    return part;
  }

 private:
  Callback callback_;
  double from_ = 0.0;
  double to_ = 1.0;
};

/// Progress of jobs that run side by side: each tells its own, what is passed on is the sum by their shares.
///
/// Threads: every job may tell from a thread of its own; the callback is called by one at a time.
/// Contract: outlives its jobs.
class SideBySide {
 public:
  /// `shares` of the work, one a job, in any unit.
  SideBySide(Progress whole, std::vector<double> shares)
      : whole_(std::move(whole)), shares_(std::move(shares)), reached_(shares_.size(), 0.0) {}

  Progress of(std::size_t job) {
    return Progress([this, job](double fraction) {
      const std::lock_guard lock(door_);
      reached_[job] = std::max(reached_[job], fraction);
      double done = 0.0, all = 0.0;
      for (std::size_t i = 0; i < shares_.size(); ++i) done += shares_[i] * reached_[i], all += shares_[i];
      return whole_.keep_going(all > 0.0 ? done / all : 0.0);
    });
  }

 private:
  Progress whole_;
  std::vector<double> shares_, reached_;
  std::mutex door_;
};

}  // namespace awl
