#pragma once
#include "core/base/progress.hpp"
#include "core/base/result.hpp"
#include "core/form/under_tape.hpp"

namespace awl {

/// How tape lies over a head and what is under it.
struct ClosingOptions {
  double tightness_mm = 60.0;  ///< closing radius: hollows narrower than this are bridged
  double ease_mm = 10.0;       ///< distance kept from the head; must be below tightness_mm
  double cell_mm = 3.0;        ///< grid used to find the surface
  double edge_mm = 6.0;        ///< edge length of the evened mesh
  int passes = 6;              ///< of evening the mesh
  double far_cell_mm = 0.0;    ///< grid of the far surface the tape is carried back from; 0: as `cell_mm`
  std::function<double(const Vec3&)> wanted = {};  ///< where negative no shell is needed; its border there is ragged
  int fairing_rounds = 200;                        ///< how far the sheet's stiffness bridges small bumps such as ears
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

/// The same over a head with shapes of card on it. The tape lies right on the card, whatever the ease of the head; near
/// it the sheet is not faired, so that edges stay as sharp as the card.
/// Errors: as above.
Result<Mesh> closing_shell_half(
    const Nearest& head, const CardField& cards, const ClosingOptions& options, const Progress& progress = {});

}  // namespace awl
