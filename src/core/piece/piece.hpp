#pragma once
#include <map>

#include "core/geom/curve.hpp"
#include "core/piece/edge_cut.hpp"
#include "core/seam/panels.hpp"

namespace awl {

/// A registration mark on a seam edge: it meets the one of the same letter and number on the other piece.
struct Tick {
  Vec2 at = Vec2::Zero();
  Vec2 inward = Vec2::UnitY();  ///< unit, into the piece
  int number = 0;               ///< 1, 2 ... along the seam
  double along_mm = 0.0;        ///< 3D arc length along the seam where it stands
  std::string word = {};        ///< "front", "back", "left", "right": a quarter of a ring, without a number
};

/// A stretch of a piece's outline that belongs to one seam, or a free edge.
struct PieceEdge {
  std::string letter;  ///< of the seam; empty on a free edge
  SeamId seam;
  Curve curve;             ///< from corner to corner, the piece on the left; empty where it is not known as one
  std::vector<Vec2> line;  ///< the same as points
  double length_mm = 0.0;
  double tilt_deg = 0.0;  ///< blade angle from the square cut: + outward ridge, - inward furrow; the mean along it
  std::vector<double> tilts_deg;  ///< the same along each stretch of the line; empty where it is the same all along
  EdgeCut cut = EdgeCut::tilted;
  double margin_mm = 0.0;  ///< of material beyond the line
  std::vector<Tick> ticks;
  std::string stays_apart;  ///< of a trench over which the pieces could not be made one: why
};

/// A place the maker finds again on the glued form: a small named cross on the piece.
struct PieceCross {
  Vec2 at = Vec2::Zero();
  std::string name;
};

/// What a line drawn on a piece is for.
enum class TraceKind { foot, glue, centre, level, place, drill, open, burn, carve, stitch, grain, fold, slot };
/// Which copies of a piece that is cut twice carry it: the wearer's left one is the pattern, the right one flipped.
enum class TraceSide { both, left, right };
const char* name_of(TraceKind kind);
const char* name_of(TraceSide side);

/// Something drawn on a piece and not cut through: where another part sits, a bore to drill, a line to burn.
struct PieceTrace {
  std::vector<Vec2> line;  ///< of a bore its middle alone
  bool closed = false;
  TraceKind kind = TraceKind::place;
  std::string label;  ///< printed beside it; empty: none
  TraceSide side = TraceSide::both;
  double bore_mm = 0.0;  ///< diameter of what is drilled
};

/// Where a copy of a piece, or a panel on it, lies: flipped first (x to -x), then turned, then moved.
struct Pose {
  Vec2 at = Vec2::Zero();
  double angle_rad = 0.0;
  bool flipped = false;
  Vec2 operator()(const Vec2& p) const { return at + turned(p); }
  /// A direction.
  Vec2 turned(const Vec2& p) const;
  /// First the other, then this.
  Pose after(const Pose& first) const;
};

/// A further panel of a piece that is folded over a trench, and where it lies on the piece.
struct FoldedOn {
  PanelId panel;
  std::optional<PanelId> twin;  ///< the one its flipped copy makes
  Pose pose;                    ///< from the panel's own flat place
};

/// A flat piece to cut, seen from its outside, millimetres.
struct Piece {
  PieceId id;
  int number = 0;  ///< in glue order
  std::string name;
  PanelId panel;                ///< the panel it makes; invalid for a plate, which is cut flat and stays flat
  std::optional<PanelId> twin;  ///< the panel its flipped copy makes
  std::vector<FoldedOn> also;   ///< panels beyond trenches that are part of it
  std::vector<SeamId> folds;    ///< seams within it: of both copies
  int copies = 1;
  std::vector<Vec2> outline;  ///< closed, counter-clockwise
  std::vector<PieceEdge> edges;
  std::vector<std::vector<Vec2>> holes;  ///< closed, cut out
  std::vector<Curve> hole_curves;        ///< of each hole; empty, all or one, where only points are known
  std::vector<PieceCross> crosses;
  std::vector<PieceTrace> traces;
  Vec2 label_at = Vec2::Zero();  ///< the roomiest place
  double label_room_mm = 0.0;    ///< distance from there to the outline
  std::optional<Vec2> front;     ///< unit direction of the wearer's front, where it shows
  double thickness_mm = 0.0;
  double area_mm2 = 0.0;        ///< holes taken off
  std::string heat_note;        ///< how it is bent; empty for a plate
  double bend_across_mm = 0.0;  ///< how round it is to stay; 0: flat, or a plate
  std::vector<Vec2> cut_line;   ///< where the knife goes, if margins or kerf move it off the outline; else empty
  Curve knife;                  ///< the knife line as cubics, closed; empty where only points are known
  std::vector<std::vector<Vec2>> clips;  ///< in margins that are folded: closed triangles to take out, or open snips
  std::vector<std::string> notes;        ///< printed on it: what was cut on the foam
  int part = 0;                          ///< the build's part it is cut for, if it was made otherwise than from panels
  std::string stuff;  ///< the kind of sheet it is cut from, as in data/materials; empty: the build's foam
  std::string face_up = "this side out";  ///< printed on it
  double letter_mm = 5.0;                 ///< capital height of its seam letters
  Rings guides;  ///< drawn, not cut: folds of a paper net, where the slab above ends; closed ones repeat their first
                 ///< point

  /// Every panel it makes, those of its flipped copy too.
  std::vector<PanelId> panels() const;
  const std::vector<Vec2>& knife_line() const { return cut_line.empty() ? outline : cut_line; }
  std::string cut_note() const;  ///< "cut 1" or "cut 2, flip 1"
};

struct TickRule {
  double every_mm = 60.0;  ///< workshop value
  double turn_deg = 20.0;  ///< or sooner, when the seam has turned so far
  double apart_mm = 8.0;
  bool quarters = false;  ///< where level seams pass the wearer's front, back and sides
};

/// Where the sphere that fits a panel best has its surface: how round it must be bent, in mm.
double bend_radius_mm(const Panel& panel);

/// A plate as a piece: outline and holes as they are, no seams.
Piece plate_piece(const std::string& name, int number, std::vector<Vec2> outline, std::vector<std::vector<Vec2>> holes,
    double thickness_mm);

/// Puts a named cross on the piece whose panel is nearest to a place of the form; its flipped copy carries the mirrored
/// one.
void add_cross(std::vector<Piece>& pieces, const PanelSet& panels, const Vec3& place, const std::string& name);

/// Which cut each edge gets, its margin, and where the knife goes: the rule for the sheet's thickness, the maker's own
/// choices (by part and name of the seam) and the margins (`own`: of parts that have others). `part_of` gives the
/// part's number of each span of the form. Source: docs/formulas/edges.md.
void set_edges(std::vector<Piece>& pieces, const PanelSet& panels, const std::vector<int>& part_of,
    const std::vector<SeamCut>& cuts, const Margins& margins, const std::map<int, Margins>& own = {});

/// The knife's line of one piece, from its edges' margins and what pen and blade take.
void set_knife_line(Piece& piece, const Margins& margins);
/// Marks across seams as notches in the knife's line: what is drawn inside a template of card is not traced.
void cut_notches(Piece& piece);
/// Puts a piece's words where there is most room.
void find_label_place(Piece& piece);

/// Pieces of a panel set: mirrored panels become one outline to cut twice and flip once.
std::vector<Piece> make_pieces(const PanelSet& panels, const TickRule& rule = {});

}  // namespace awl
