#pragma once
#include "core/dress/dressing.hpp"

namespace awl {

/// Gouges and dents strewn over a part: seeded by its own frame, so that every wearer gets the same.
struct Damage {
  static constexpr const char* kKind = "damage";
  static constexpr const char* kLabel = "Gouges and dents";
  enum class Of { gouges, dents, both };
  Of of = Of::both;
  int count = 18;
  double least_mm = 4.0, most_mm = 20.0;
  double grain_deg = 20.0, spread_deg = 35.0;  ///< of gouges, from level
  double depth_mm = 2.0;
  int seed = 1;
  LineNeed needs() const { return LineNeed::none; }
  bool operator==(const Damage&) const = default;
};
std::vector<Dial> dials_of(Damage& damage);
void put_on(const Damage& damage, Dressing& d);

}  // namespace awl
