#pragma once
#include "core/base/progress.hpp"
#include "core/seam/panels.hpp"

namespace awl {

/// How a sheet behaves while it is glued.
struct GlueUpOptions {
  double squeeze = 0.6;  ///< stiffness squeezed over stretched: workshop value, data/materials/foams.json
  double keeps_bend =
      0.0;  ///< share of the form's own bend a piece keeps by itself: 0 flat as cut, more when it was bent with heat
  int most_steps = 40;
  double still_mm = 0.03;  ///< at rest once no place moves by more in a step
};

/// A place where three or more seams meet, or a dart ends, that stands out of its surroundings more (+) or less than on
/// the form.
struct GluedPoint {
  Vec3 at = Vec3::Zero();
  double out_mm = 0.0;
  bool dart = false;
};

/// A free edge of the form and of what was glued.
struct GluedRim {
  Vec3 at = Vec3::Zero();  ///< its middle, on the form
  double girth_mm = 0.0, glued_girth_mm = 0.0;
  double breadth_mm = 0.0, glued_breadth_mm = 0.0;  ///< across the wearer, x
};

/// Pieces of one part joined along their seams and let go: what they come to when glued.
struct GluedUp {
  std::vector<Vec3> places;    ///< of the sheet's middle layer, per vertex of the set's form, laid best over the form
  std::vector<Vec3> meant;     ///< the same of the form
  std::vector<double> off_mm;  ///< per vertex, how far it stands off the form: + outward
  double most_mm = 0.0, p95_mm = 0.0, mean_mm = 0.0;  ///< of |off|, by area
  int worst = -1;                                     ///< vertex
  std::vector<GluedPoint> points;                     ///< the most outstanding first
  std::vector<GluedRim> rims;
  double pucker_deg = 0.0;  ///< farthest a triangle leans from the form's, away from free edges
  Vec3 pucker_at = Vec3::Zero();
  int steps = 0;
  bool at_rest = true;  ///< false if it was still moving at the last step
};

/// Takes the flat pieces with their thickness and stretch, joins the seams and lets them relax (ShellEnergy). Of an
/// exactly mirrored set one half is solved. The result hangs in the air: gravity and the head under it are left out.
///
/// Contract: the panels lie flat; a set of one part, as make_panels gives it.
/// Errors: cancelled; empty_input for a set without panels.
/// Source: docs/formulas/glue-up.md. Cost: a sparse factorisation of 3 n unknowns a step, 10 to 40 steps.
Result<GluedUp> glue_up(const PanelSet& set, const GlueUpOptions& options = {}, const Progress& progress = {});
/// The same from places near to where it comes to rest, per vertex of the set's form: quicker.
Result<GluedUp> glue_up_from(
    std::vector<Vec3> start, const PanelSet& set, const GlueUpOptions& options = {}, const Progress& progress = {});

}  // namespace awl
