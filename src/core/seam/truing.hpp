#pragma once
#include "core/seam/glue_up.hpp"

namespace awl {

struct TruingOptions {
  GlueUpOptions glue = {};
  double stay = 10.0;   ///< how dear it is to move an outline, against coming out off the form: 10 usual, 0.3 closer
  double strain = 0.1;  ///< and to strain the sheet more
  double knot_mm = 25.0;
  int rounds = 6;
  double near_enough_mm = 0.0;  ///< what comes out nearer than that (p95) is left as it is
};

/// How a set comes out when it is glued.
struct TruthTold {
  double p95_mm = 0.0, most_mm = 0.0;
  double rim_mm = 0.0;  ///< the rim whose girth is farthest off, by how much
  double strain = 0.0;  ///< from the flat piece to where it is glued: 99th part in a hundred of the worst panel
};

/// Outlines corrected so that what is glued comes out nearer to the form.
struct Trued {
  std::vector<std::vector<Vec2>> flat;                                 ///< per panel, in place of Panel::flat
  TruthTold before, after;                                             ///< on the set's own mesh
  TruthTold finer_before, finer_after;                                 ///< and on one of four times the triangles
  double moved_p50_mm = 0.0, moved_p95_mm = 0.0, moved_most_mm = 0.0;  ///< of outlines
  int rounds = 0;
  bool better = false;       ///< on both meshes: else `flat` is as it was
  bool near_enough = false;  ///< as it was: nothing was tried
};

/// Moves the outlines of flat pieces so that, glued up, they come out nearer to the form (Gauss and Newton at the glued
/// state). Both sides of every seam stay equally long. What does not also come out better on the finer mesh is held
/// back: moves are made four times as dear, twice, and then given up.
///
/// Contract: a set of one part whose panels lie flat and were not given flat. Errors: cancelled; empty_input for a set
/// without panels; no_solution if the glue-up cannot be factorised. Source: docs/formulas/truing.md.
/// Cost: 5 to 20 s for a hood on one core; half of it runs beside the rest on a second.
Result<Trued> true_outlines(const PanelSet& set, const TruingOptions& options = {}, const Progress& progress = {});

/// How a set comes out, from what was glued.
TruthTold told_of(const PanelSet& set, const GluedUp& glued);

}  // namespace awl
