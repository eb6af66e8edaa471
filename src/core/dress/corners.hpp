#pragma once
#include "core/dress/form_line.hpp"

namespace awl {

/// A stretch of a line between two corners, and half the turn at each, radians, + to the left; 0 where the line ends.
struct MitredStretch {
  FormLine line;
  double start_rad = 0.0, end_rad = 0.0;
};

/// A line parted where it turns too sharply for a strip of this width to follow in one: both lengths are mitred there.
/// One stretch, the line itself, where it turns nowhere so. Source: docs/formulas/dress-strips.md.
std::vector<MitredStretch> parted_at_corners(const DressSite& site, const FormLine& line, double wide_mm);

}  // namespace awl
