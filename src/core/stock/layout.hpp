#pragma once
#include "core/piece/drawing.hpp"
#include "core/stock/offcut.hpp"

namespace awl {

/// A foam sheet as it is bought.
struct SheetSize {
  double width_mm = 1000.0, height_mm = 600.0;
  bool operator==(const SheetSize&) const = default;
};

/// Sheet that is to hand: an offcut or (without a number) a new sheet of the layout's size.
struct Blank {
  int offcut = 0;  ///< its number in the shop book
  std::string name;
  double thickness_mm = 0.0;
  std::vector<Vec2> outline;
  double area_mm2 = 0.0;
  std::string stuff;  ///< its kind, where it is not the build's foam
  int place = 0;      ///< among the sheets of its kind and thickness, unused offcuts counted: HeldCopy::blank
  bool operator==(const Blank&) const = default;
};

/// One copy of a piece on one sheet.
struct Placement {
  PieceId piece;
  int sheet = 0;
  Pose pose;
  int copy = 0;       ///< 1: the flipped one of a pair
  bool held = false;  ///< put down by the maker
};

/// Pieces laid on sheets of one size.
struct Layout {
  SheetSize sheet;
  std::vector<Placement> placements;
  int sheets = 0;
  std::vector<Blank> blanks;  ///< one for each sheet, offcuts first
  double density = 0.0;       ///< piece area over the area of the sheets in use
  double overlap_mm2 = 0.0;   ///< exact, from polygons; 0 when the layout is right
};

/// Room that holds any one of its sheets and offcuts.
SheetSize room_of(const Layout& layout);

/// What a copy claims of its sheet, with room round it, as one outline: what falls out of a large hole is left to other
/// pieces (the hole's ring hangs on the outline by a line without width; what lies inside counts by even and odd).
std::vector<Vec2> claim_of(const Piece& piece, double by_mm);

/// What is left of the sheets in use, as offcuts worth keeping: at least `least_mm` across everywhere they are counted.
std::vector<Offcut> leftovers(const std::vector<Piece>& pieces, const Layout& layout, const std::string& foam,
    double gap_mm, double least_mm = 60.0);

/// Sum of the areas in which placed outlines overlap each other or leave their sheet (Clipper, 1/1000 mm).
double overlap_area_mm2(const std::vector<Piece>& pieces, const Layout& layout);

/// Everything on one sheet as a drawing: its border, and each copy in its place.
Drawing draw_sheet(const std::vector<Piece>& pieces, const Layout& layout, int sheet);

}  // namespace awl
