#pragma once
#include "core/base/progress.hpp"
#include "core/piece/drawing.hpp"
#include "core/stock/offcut.hpp"

namespace awl {

/// A foam sheet as it is bought.
struct SheetSize {
  double width_mm = 1000.0, height_mm = 600.0;
  bool operator==(const SheetSize&) const = default;
};

struct NestOptions {
  double gap_mm = 4.0;      ///< between pieces
  double margin_mm = 5.0;   ///< from the sheet's edge
  double cell_mm = 2.0;     ///< of the bitmap
  int turns = 8;            ///< orientations tried, evenly round
  int tries = 1;            ///< orders tried; the best is kept. The first is by area, the rest chosen by a seeded search
  bool turn_freely = true;  ///< false: a grain or a texture; pieces are only turned about by half
};

/// Sheet that is to hand: an offcut or (without a number) a new sheet of the layout's size.
struct Blank {
  int offcut = 0;                ///< its number in the shop book
  std::string name;
  double thickness_mm = 0.0;
  std::vector<Vec2> outline;
  double area_mm2 = 0.0;
  std::string stuff;             ///< its kind, where it is not the build's foam
  int place = 0;                 ///< among the sheets of its kind and thickness, unused offcuts counted: HeldCopy::blank
  bool operator==(const Blank&) const = default;
};

/// A copy of a piece the maker has put down: stays where it is.
struct HeldCopy {
  std::string piece;             ///< by name, which lasts longer than numbers
  int copy = 0;                  ///< 1: the flipped one of a pair
  int blank = 0;                 ///< which of the sheets of its thickness
  Vec2 at = Vec2::Zero();
  double angle_rad = 0.0;
  bool operator==(const HeldCopy&) const = default;
};

/// One copy of a piece on one sheet.
struct Placement {
  PieceId piece;
  int sheet = 0;
  Pose pose;
  int copy = 0;               ///< 1: the flipped one of a pair
  bool held = false;          ///< put down by the maker
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

/// Sheet of another kind than the build's foam: blocks for slabs, card for templates.
struct OtherSheet {
  std::string stuff;             ///< as Piece::stuff
  double thickness_mm = 0.0;
  SheetSize size;
  bool operator==(const OtherSheet&) const = default;
};

/// What pieces are laid on, beside new sheets.
struct NestStock {
  std::vector<Offcut> offcuts;   ///< used first, the smallest that still holds something first; only those of a piece's thickness
  std::vector<HeldCopy> held;
  std::vector<OtherSheet> others;  ///< sizes of other kinds; what is not listed comes in the size of the build's own
  bool operator==(const NestStock&) const = default;
};

/// Lays all copies on as few sheets as it can, second copies flipped, by bitmap and bottom-left; each kind and thickness on sheets of its own, the build's foam first, the thinnest first.
///
/// With `tries` above 1 it searches over orders of the pieces (swaps, insertions; a fixed seed) and keeps what needs least sheet.
/// Errors: out_of_range for a sheet that is no sheet, or when a piece is larger than it (piece, both sizes, and the
///         place "pieces/NAME"); overlap if the exact check fails, or held copies lie over each other; cancelled.
/// Source: docs/formulas/nesting.md.
Result<Layout> nest(const std::vector<Piece>& pieces, const SheetSize& sheet, const NestOptions& options = {}, const NestStock& stock = {}, const Progress& progress = {});

/// What is left of the sheets in use, as offcuts worth keeping: at least `least_mm` across everywhere they are counted.
std::vector<Offcut> leftovers(const std::vector<Piece>& pieces, const Layout& layout, const std::string& foam, double gap_mm, double least_mm = 60.0);

/// Sum of the areas in which placed outlines overlap each other or leave their sheet (Clipper, 1/1000 mm).
double overlap_area_mm2(const std::vector<Piece>& pieces, const Layout& layout);

/// Everything on one sheet as a drawing: its border, and each copy in its place.
Drawing draw_sheet(const std::vector<Piece>& pieces, const Layout& layout, int sheet);

}  // namespace awl
