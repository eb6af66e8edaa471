#pragma once
#include "core/dress/dressing.hpp"

namespace awl {

/// A line worked into the surface: cut and opened by heat, burned, carved as a V; or drawn on it only, as grain.
struct Scored {
  static constexpr const char* kKind = "scored";
  static constexpr const char* kLabel = "Panel line, gouge, grain";
  enum class How { open, burn, carve, grain, brush };
  How how = How::open;
  double depth_mm = 2.0;
  int beside = 1;  ///< lines in all, to the left of the first
  double apart_mm = 8.0;
  double taper = 0.0;  ///< of lines beside: each is shorter than the one before by this share
  bool operator==(const Scored&) const = default;
};
std::vector<Dial> dials_of(Scored& scored);
void put_on(const Scored& asked, Dressing& d);

}  // namespace awl
