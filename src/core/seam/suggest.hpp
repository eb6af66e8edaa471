#pragma once
#include "core/base/progress.hpp"
#include "core/form/import.hpp"
#include "core/seam/drawn.hpp"
#include "core/seam/panels.hpp"

namespace awl {

/// What suggested panels should be like.
struct SuggestOptions {
  double tolerance = 0.04;             ///< p99 strain every panel should stay below
  double thickness_mm = 0.0;           ///< of the sheet; panels are measured at its middle
  bool outside = false;                ///< the surface is the sheet's outer face
  bool keep_middle = true;             ///< of a mirrored form: panels may lie across the middle line
  std::vector<DrawnSeam> strips = {};  ///< where seams hide and where they would show; lines that cut are ignored
  int most_panels = 16;                ///< of the half, or of the whole if it is not mirrored
  bool slits = false;                  ///< darts may be left where that saves a panel; of parted forms
  bool parts = true;                   ///< not by normals alone
  /// The surface itself may be cut (Suggestion::cut), not by lines. Contract: its home is it turned, moved and scaled.
  bool exact = false;
};

/// Lines that would cut a form into panels that lie flat, and what that costs.
struct Suggestion {
  std::vector<DrawnSeam> seams;  ///< inked, in the draft's home frame
  int panels = 0;                ///< of the whole form
  double seam_mm = 0.0;          ///< of the whole form
  double seen_mm = 0.0;          ///< of it, what does not lie in a strip that hides it
  double worst = 0.0;            ///< p99 strain of the worst panel, measured on the cut form
  bool meets = false;            ///< worst is within the tolerance
  /// With `exact`: the surface as it was parted, in the draft's home frame, to be taken in place of the lines.
  std::shared_ptr<const CutMesh> cut = {};
};

/// Suggests panels for a draft without seams. Gentle mirrored forms are grouped by their normals: a group that would
/// not lie flat is parted, neighbours that lie flat together are joined. Others, and those of which that makes many
/// panels, are parted by measured strain (seam/parting). The borders are drawn into the form anew, and what comes out
/// is measured.
///
/// Source: docs/formulas/flattening.md, "suggested panels" (after cohensteiner2004); docs/formulas/parting.md.
/// Errors: cancelled; no_solution if the form comes apart in no way that lies flat.
Result<Suggestion> suggest_panels(const Draft& draft, const SuggestOptions& options, const Progress& progress = {});

/// Cuts a draft's drawn seams and flattens: what a suggestion or a maker's own lines come to.
Result<PanelSet> panels_with(
    Draft draft, const std::vector<DrawnSeam>& seams, const PanelOptions& options, const Progress& progress = {});

}  // namespace awl
