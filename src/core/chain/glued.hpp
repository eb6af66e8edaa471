#pragma once
#include "core/derived/derived.hpp"
#include "core/seam/glue_up.hpp"

namespace awl {

/// What gluing up tells, in a maker's words, and where.
struct GlueFinding {
  std::string sentence;
  Vec3 at = Vec3::Zero();  ///< on the form
  double mm = 0.0;         ///< its size, for the order
  std::vector<Remedy> remedies = {};
};

/// All parts of a build glued up from their flat pieces, each by itself.
struct GluedForm {
  std::shared_ptr<const PanelSet> panels;  ///< what was glued
  std::vector<Vec3> moved;     ///< per vertex of its form, from where it is meant to be to where it comes out
  std::vector<double> off_mm;  ///< per vertex, how far it stands off the form: + outward
  double p95_mm = 0.0, most_mm = 0.0;
  std::vector<GlueFinding> findings;  ///< the gravest first; one at least
};

/// Glues up what was derived. Plates are left as they are bent: nothing pulls them but the maker's hands.
/// Errors: cancelled; empty_input while there are no panels.
Result<GluedForm> glue_form(
    const Derived& derived, const Build& build, const Materials& materials, const Progress& progress = {});

}  // namespace awl
