#pragma once
#include "core/dress/dressing.hpp"

namespace awl {

/// Stuffing inside a closed part: a horn, a nose, a hat's tip.
struct Filling {
  static constexpr const char* kKind = "filling";
  static constexpr const char* kLabel = "Filling";
  double share = 0.6;   ///< of the room inside
  double kg_m3 = 12.0;  ///< as it is pressed in
  LineNeed needs() const { return LineNeed::none; }
  bool operator==(const Filling&) const = default;
};
std::vector<Dial> dials_of(Filling& filling);
void put_on(const Filling& filling, Dressing& d);

}  // namespace awl
