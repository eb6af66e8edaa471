#pragma once
#include "core/dress/dressing.hpp"

namespace awl {

/// Lamps along a line, their cable and what they run on.
struct Lights {
  static constexpr const char* kKind = "lights";
  static constexpr const char* kLabel = "Lights";
  SpacingRule spacing;
  double across_mm = 8.0;
  double each_ma = 20.0;
  double battery_mah = 2000.0;
  double lead_mm = 300.0;  ///< from the nearest end of the line to the battery
  bool operator==(const Lights&) const = default;
};
std::vector<Dial> dials_of(Lights& lights);
void put_on(const Lights& lights, Dressing& d);

}  // namespace awl
