#pragma once
#include <optional>

#include "core/dress/form_line.hpp"

namespace awl {

/// A strip that lies along a line, laid flat. Source: docs/formulas/dress-strips.md.
struct FlatStrip {
  std::vector<Vec2> middle, left, right;
  std::vector<Vec2> outline;  ///< closed, counter-clockwise
  double length_mm = 0.0;     ///< of the middle line
  double left_mm = 0.0, right_mm = 0.0;
  double turn_rad = 0.0;
  std::optional<double> radius_mm;  ///< of the middle, where it is an arc
  double straight_strain = 0.0;     ///< of its edges, if it were cut straight
  double lie_strain = 0.0;          ///< of its edges on a dome, cut curved
};
struct StripOptions {
  double wide_mm = 20.0, thick_mm = 2.0;
  double over_mm = 0.0;                           ///< from the outer face to the strip's underside
  bool inside = false;                            ///< it lies on the inner face
  double more_start_mm = 0.0, more_end_mm = 0.0;  ///< straight on at both ends, to fold over
  bool straight = false;
  double start_mitre_rad = 0.0, end_mitre_rad = 0.0;  ///< half the turn at a corner where the next length begins
};
/// Contract: the line has two places or more.
FlatStrip flat_strip(const DressSite& site, const FormLine& line, const StripOptions& options);

inline constexpr double kSheetRoomMm = 950.0;  ///< of a usual sheet

/// The stretches a strip is cut into so that each is no longer than `room_mm` and lies flat without lying over itself.
int lengths_of(const FlatStrip& strip, double room_mm, double wide_mm);

}  // namespace awl
