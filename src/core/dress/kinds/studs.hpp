#pragma once
#include "core/dress/dressing.hpp"

namespace awl {

/// Things set one by one along a line: rivets, studs, screws, holes, eyelets, spikes, crosses stitched over a seam.
struct Studs {
  static constexpr const char* kKind = "studs";
  static constexpr const char* kLabel = "Rivets, studs, holes";
  enum class What { rivet, stud, screw, spike, hole, eyelet, stitch };
  What what = What::rivet;
  double across_mm = 9.0;  ///< of a head; of a stitch across the line
  double bore_mm = 3.0;
  SpacingRule spacing;
  int rows = 1;
  double apart_mm = 15.0;  ///< rows from each other
  bool staggered = true;
  double over_mm = 0.0;  ///< what lies between them and the part: a strip they go through
  bool operator==(const Studs&) const = default;
};
std::vector<Dial> dials_of(Studs& studs);
void put_on(const Studs& studs, Dressing& d);

/// Dials of what stands in a row, and the grip that draws the second one nearer to the first.
void add_spacing(Dials& dials, SpacingRule& rule);
void add_spacing_grip(Dressing& d, const SpacingRule& rule);

}  // namespace awl
