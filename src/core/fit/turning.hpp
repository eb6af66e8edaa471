#pragma once
#include <optional>

#include "core/fit/fit_head.hpp"
#include "core/fit/fit_part.hpp"
#include "core/fit/rules.hpp"

namespace awl {

/// Shoulders and chest below a head, as heights below the throat with half breadth and half depth; or a level plane.
struct Torso {
  struct Level {
    double down_mm, wide_mm, deep_mm;
  };
  double top_mm = 0.0;  ///< height of the throat in the head frame
  double middle_z_mm = -34.0;
  std::vector<Level> levels;
  std::optional<double> plane_mm;  ///< instead of levels: everything below it
  /// How deep a place is in the body; below 0 outside.
  double depth_mm(const Vec3& p) const;
};
/// The shoulders of a wearer. `breadth_mm`: from shoulder to shoulder; 0: as usual for the length of the head.
Torso shoulders_of(double throat_y_mm, double neck_girth_mm, double head_length_mm, double breadth_mm = 0.0);

/// How far the wearer can move before a rim meets the body. Degrees.
struct Turning {
  double nod_deg = 0.0, up_deg = 0.0;
  std::array<double, 2> turn_deg{}, tilt_deg{};  ///< to the left, to the right
  bool stopped = false;                          ///< anything stops before the neck itself does
  Vec3 nod_at = Vec3::Zero();                    ///< what meets the chest first
  std::optional<double> jaw_deg;  ///< how far the jaw opens before the chin meets something; none: nothing is before it
};

/// Source: docs/formulas/fit-turning.md. Cost: 7 to 40 ms.
Turning turning_of(const FitHead& head, const std::vector<FitPart>& parts, const Torso& body, const FitRules& rules);

}  // namespace awl
