#pragma once
#include <array>
#include <optional>

#include "core/fit/fit_head.hpp"
#include "core/fit/fit_part.hpp"

namespace awl {

/// The axis the lower jaw turns about, to begin with: level, through here. Source: docs/formulas/fit-turning.md eq.
/// (3).
Vec3 jaw_hinge(const Vec3& between_ears);

/// A place of the lower jaw when it is opened, degrees: turned about the hinge before the ear flaps and shifted
/// forward. Source: docs/formulas/fit-turning.md eq. (3).
Vec3 with_jaw_open(const Vec3& between_ears, const Vec3& place, double open_deg);

/// How far things move when the wearer's jaw opens so wide.
struct JawOpening {
  double jaw_deg = 0.0;    ///< of the wearer's own jaw
  double part_deg = 0.0;   ///< of the part, which turns about fixed screws
  double chin_mm = 0.0;    ///< the chin goes so far
  double throw_mm = 0.0;   ///< and the part's tip so far
  double slides_mm = 0.0;  ///< the chin slides so far in its cup, since its own hinge shifts
};

/// A part that the wearer's own jaw opens: where its screws go, and what comes of it.
struct JawWork {
  Vec3 hinge = Vec3::Zero();                ///< in the middle of the head
  std::array<std::optional<Vec3>, 2> at{};  ///< where the axis comes out through the part: left, right
  double off_mm = 0.0;                      ///< the part ends so far from the axis; 0: it reaches it
  double lever_mm = 0.0, tip_mm = 0.0;      ///< from the axis to the chin, and to the part's farthest place
  std::optional<double> chin_gap_mm;        ///< from the chin to the part; none: the part does not come before it
  std::array<JawOpening, 3> openings{};     ///< talking, loud, wide
  double carries_n = 0.0;                   ///< what hangs on the chin at rest
};

/// How a part would work as a jaw. None without the places of ears and chin. Cost: 1 ms.
/// Source: docs/formulas/fit-turning.md eq. (4)-(6).
std::optional<JawWork> jaw_work(const FitHead& head, const FitPart& part);

}  // namespace awl
