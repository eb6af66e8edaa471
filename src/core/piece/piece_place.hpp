#pragma once
#include <memory>

#include "core/geom/nearest.hpp"
#include "core/piece/piece.hpp"

namespace awl {

/// Where a place of the form lies on one of the pieces.
struct OnPiece {
  int piece = -1;  ///< index; -1: on none
  Vec2 at = Vec2::Zero();
  bool flipped = false;  ///< on the copy that is cut flipped

  bool there() const { return piece >= 0; }
  bool same_copy(const OnPiece& other) const { return piece == other.piece && flipped == other.flipped; }
};

/// Goes between places of a form and its flat pieces, panel by panel. Ownership: keeps references to both; `part_of`
/// gives the part's number of each span.
class PiecePlaces {
 public:
  PiecePlaces(const std::vector<Piece>& pieces, const PanelSet& panels, const std::vector<int>& part_of);

  /// The piece a place of the form lies on, among those of a part (0: any); what lies farther than 15 mm from every
  /// piece lies on none.
  OnPiece on_piece(const Vec3& place, int part) const;

  /// Where a place of a flat piece is on the form. Up to 3 mm beside the piece it is drawn to its edge.
  /// Errors: out_of_range with how far it lies beside the piece; unknown_name for a piece that makes no panel.
  Result<Vec3> on_form(int piece, const Vec2& flat, bool flipped) const;

 private:
  const std::vector<Piece>& pieces_;
  const PanelSet& panels_;
  const std::vector<int>& part_of_;
  std::vector<Nearest> trees_;
};

}  // namespace awl
