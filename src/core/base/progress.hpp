#pragma once
#include <functional>
#include <utility>

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

}  // namespace awl
