#pragma once
#include "core/seam/panels.hpp"

namespace awl {

/// A registration mark on a seam edge: it meets the one of the same letter and number on the other piece.
struct Tick {
  Vec2 at = Vec2::Zero();
  Vec2 inward = Vec2::UnitY();  ///< unit, into the piece
  int number = 0;               ///< 1, 2 ... along the seam
  double along_mm = 0.0;        ///< 3D arc length along the seam where it stands
};

/// A stretch of a piece's outline that belongs to one seam, or a free edge.
struct PieceEdge {
  std::string letter;           ///< of the seam; empty on a free edge
  SeamId seam;
  std::vector<Vec2> line;       ///< from corner to corner, the piece on the left
  double length_mm = 0.0;
  double tilt_deg = 0.0;        ///< blade angle from the square cut: + outward ridge, - inward furrow
  std::vector<Tick> ticks;
};

/// A flat piece to cut, seen from its outside, millimetres.
struct Piece {
  PieceId id;
  int number = 0;               ///< in glue order
  std::string name;
  PanelId panel;                ///< the panel it makes
  std::optional<PanelId> twin;  ///< the panel its flipped copy makes
  int copies = 1;
  std::vector<Vec2> outline;    ///< closed, counter-clockwise
  std::vector<PieceEdge> edges;
  Vec2 label_at = Vec2::Zero(); ///< the roomiest place
  double label_room_mm = 0.0;   ///< distance from there to the outline
  std::optional<Vec2> front;    ///< unit direction of the wearer's front, where it shows
  double thickness_mm = 0.0;
  double area_mm2 = 0.0;

  std::string cut_note() const;  ///< "cut 1" or "cut 2, flip 1"
};

struct TickRule {
  double every_mm = 60.0;        ///< workshop value
  double turn_deg = 20.0;        ///< or sooner, when the seam has turned so far
  double apart_mm = 8.0;
};

/// Pieces of a panel set: mirrored panels become one outline to cut twice and flip once.
std::vector<Piece> make_pieces(const PanelSet& panels, double thickness_mm, const TickRule& rule = {});

/// Twice-checked helpers of polygons.
bool inside(const std::vector<Vec2>& outline, const Vec2& p);
double distance_to_outline(const std::vector<Vec2>& outline, const Vec2& p);
double signed_area_mm2(const std::vector<Vec2>& outline);

}  // namespace awl
