#pragma once
#include "core/dress/dressing.hpp"

namespace awl {

/// A stiffener that stands edge-on inside along a line: a rib, a ring, a wedge.
struct Rib {
  static constexpr const char* kKind = "rib";
  static constexpr const char* kLabel = "Rib or stiffener";
  double deep_mm = 15.0;
  double end_mm = 4.0;  ///< its depth at both ends of an open line
  bool operator==(const Rib&) const = default;
};
std::vector<Dial> dials_of(Rib& rib);
void put_on(const Rib& rib, Dressing& d);

}  // namespace awl
