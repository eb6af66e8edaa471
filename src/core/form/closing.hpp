#pragma once
#include "core/base/progress.hpp"
#include "core/base/result.hpp"
#include "core/geom/mesh.hpp"

namespace awl {

/// How tape lies over a head and what is under it.
struct ClosingOptions {
  double tightness_mm = 60.0;  ///< closing radius: hollows narrower than this are bridged
  double ease_mm = 10.0;       ///< distance kept from the head; must be below tightness_mm
  double cell_mm = 3.0;        ///< grid used to find the surface
  double edge_mm = 6.0;        ///< edge length of the evened mesh
  int fairing_rounds = 200;    ///< how far the sheet's stiffness bridges small bumps such as ears
};

/// The x >= 0 half of the smooth shell that tape pulled over a padded head would make.
///
/// Shape:  {points whose distance from the outside of {d < r} is r - c}, d the distance from the head; closed but for
///         its border, which lies exactly in x = 0. Then faired like a stiff sheet pressed on: each round lowers the
///         second difference and lifts again whatever came nearer than the ease.
/// Errors: out_of_range unless 0 <= ease < tightness; cancelled.
/// Source: docs/formulas/headform.md, "clearance shell".
/// Cost:   about a million closest-point queries at the default cell.
Result<Mesh> closing_shell_half(const Mesh& head, const ClosingOptions& options, const Progress& progress = {});

}  // namespace awl
