#pragma once
#include "core/dress/dressing.hpp"

namespace awl {

/// A three-cornered strip along a line: it fills the corner between a part and what stands on it, tilts what lies over
/// it, or stands out by itself as a brow.
struct Wedge {
  static constexpr const char* kKind = "wedge";
  static constexpr const char* kLabel = "Wedge or fillet";
  double wide_mm = 15.0;    ///< on the face, away from the line
  double high_mm = 12.0;    ///< along the wall that stands on the line
  double corner_deg = 0.0;  ///< between face and wall; 0: as they stand there, square where no wall is
  bool operator==(const Wedge&) const = default;
};
std::vector<Dial> dials_of(Wedge& wedge);
void put_on(const Wedge& wedge, Dressing& d);

/// What a wedge is cut from and at which angles. Source: docs/formulas/dress-strips.md.
struct WedgeSection {
  double block_wide_mm = 0.0, block_high_mm = 0.0;
  double corner_rad = 0.0, outer_rad = 0.0;  ///< at the wall's foot, at its thin edge
  double area_mm2 = 0.0;
};
WedgeSection section_of(const Wedge& wedge, double corner_rad);

}  // namespace awl
