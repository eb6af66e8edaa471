#pragma once
#include <functional>

#include "core/seam/meeting/meeting.hpp"

namespace awl {

inline constexpr double kOnCutMm = 0.02;  ///< nearer than this a corner lies on what it was cut by

/// A rim that was cut to something.
struct Rim {
  double mm = 0.0;
  std::vector<std::pair<double, double>> tilts;  ///< degrees, and over how many mm
  int closed = 0;                                ///< loops that are all of it
};

/// Writes into the form how the blade is tilted along its rim, where that was cut to something. `middle`: its middle
/// layer; `on`: whether a place of it lies on the cut; `wall`: which way the cut runs through the sheet there, given
/// the sheet's own normal.
Rim tilt_rims(SeamMesh& form, const Mesh& middle, const std::function<bool(const Vec3&)>& on,
    const std::function<Vec3(const Vec3& at, const Vec3& normal)>& wall);

/// The tilt that all but a twentieth of the rim stays below.
double steepest_deg(const Rim& rim);

/// The middle layer of a whole form's sheet.
Mesh middle_of(const MeetSide& side);

}  // namespace awl
