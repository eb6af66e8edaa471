#pragma once
#include "core/dress/dressing.hpp"

namespace awl {

/// Scales, petals or feathers in rows over a part, laid from the far end to the base so that each row hides the roots
/// of the one before it.
struct Scales {
  static constexpr const char* kKind = "scales";
  static constexpr const char* kLabel = "Scales, petals, feathers";
  enum class Tip { round, pointed, square, feather };
  Tip tip = Tip::round;
  double long_mm = 30.0, exposed_mm = 18.0, wide_mm = 22.0;
  double reach_mm = 0.0;  ///< from the line they begin at; 0: all the way
  double lift_mm = 2.0;   ///< of the free end
  bool operator==(const Scales&) const = default;
};
std::vector<Dial> dials_of(Scales& scales);
void put_on(const Scales& scales, Dressing& d);

}  // namespace awl
