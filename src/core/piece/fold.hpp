#pragma once
#include <cmath>

#include "core/piece/piece.hpp"

namespace awl {

/// A groove on one face of a sheet along which it is folded, so that its walls close on each other.
struct FoldGroove {
  double turn_deg = 0.0;  ///< of the fold, + outwards: grooved on the inside; else on the outside
  double depth_mm = 0.0;  ///< what is left under it stands a fifth of the sheet
  double wide_mm = 0.0;   ///< at the face it is cut into
  double apart_mm = 0.0;  ///< between the middle layers' edges of what it joins, as the sheet lies flat
  /// A seam that hardly turns wants none: the sheet goes on.
  bool needed() const { return wide_mm >= 0.5; }
  /// From its bottom to the face, along one wall.
  double wall_mm() const { return std::hypot(depth_mm, 0.5 * wide_mm); }
};
/// Contract: thickness > 0, |turn| <= 150 degrees. Source: docs/formulas/edges.md, "trench".
FoldGroove fold_groove(double thickness_mm, double turn_deg);

/// Pieces on both sides of a trench as one piece with the trench drawn on it, wherever they fit against each other in
/// the flat; a piece and its own mirror image where the trench runs in the middle. The one that is glued first keeps
/// its place. Where they do not fit, both edges say why (PieceEdge::stays_apart).
///
/// Accuracy: edges lie within 1 mm of each other when laid side by side; outlines do not overlap.
/// Contract: edges are set (set_edges); knife lines are set anew by the caller for pieces with `also`.
/// Source: docs/formulas/edges.md, "one piece over a trench".
void fold_pieces(std::vector<Piece>& pieces, const PanelSet& panels);

/// Slots drawn on a piece that is bent one way tighter than its sheet bears: straight lines across the bend, as far
/// apart as plan_slots says, where it is so tight. Returns false where none are needed or none help.
/// Source: docs/formulas/edges.md, "slots on the piece".
bool draw_slots(Piece& piece, const Panel& panel, double bears_strain);

}  // namespace awl
