#pragma once
#include "core/dress/form_line.hpp"

namespace awl {

/// What is kept when a line becomes longer or shorter: how many there are, or how far apart they stand.
enum class Keeps { pitch, count };
/// What becomes of places too near to a seam, a rim or another detail.
enum class NearSeam { even, skip, share };

/// Things in a row along a line.
struct SpacingRule {
  Keeps keeps = Keeps::pitch;
  double pitch_mm = 25.0;
  int count = 12;
  double ends_mm = 10.0;     ///< free at both ends of an open line
  double keep_out_mm = 0.0;  ///< from seams, rims and eyes
  NearSeam near_seam = NearSeam::even;
  bool half_on = false;  ///< the row begins half a pitch on
  bool operator==(const SpacingRule&) const = default;
};
struct Spacing {
  std::vector<double> along_mm;
  double pitch_mm = 0.0;
  int dropped = 0;
};
/// Source: docs/formulas/dress-rows.md. `bars`: places along the line that are kept out of, as (from, to) in mm.
/// Errors: out_of_range where the line has no room, with the pitch that has.
Result<Spacing> spaced(
    double length_mm, bool closed, const SpacingRule& rule, const std::vector<std::pair<double, double>>& bars = {});

/// The stretches of a line nearer than `mm` to any of these lines.
std::vector<std::pair<double, double>> too_near(
    const FormLine& line, const std::vector<const SiteLine*>& others, double mm);

}  // namespace awl
