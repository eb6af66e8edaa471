#pragma once
#include "core/dress/dressing.hpp"

namespace awl {

/// A place marked on the pieces: where something made elsewhere will sit, by its outline.
struct Outline {
  static constexpr const char* kKind = "foot";
  static constexpr const char* kLabel = "Place for something";
  enum class Of { round, square };
  Of of = Of::round;
  double radius_mm = 15.0;
  double wide_mm = 40.0, high_mm = 30.0;
  double turned_deg = 0.0;
  LineNeed needs() const { return LineNeed::place; }
  bool operator==(const Outline&) const = default;
};
std::vector<Dial> dials_of(Outline& outline);
void put_on(const Outline& outline, Dressing& d);

}  // namespace awl
