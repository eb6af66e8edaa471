#pragma once
#include "core/base/progress.hpp"
#include "core/piece/drawing.hpp"

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
};

/// One copy of a piece on one sheet.
struct Placement {
  PieceId piece;
  int sheet = 0;
  Pose pose;
};

/// Pieces laid on sheets of one size.
struct Layout {
  SheetSize sheet;
  std::vector<Placement> placements;
  int sheets = 0;
  double density = 0.0;       ///< piece area over the area of the sheets in use
  double overlap_mm2 = 0.0;   ///< exact, from polygons; 0 when the layout is right
};

/// Lays all copies on as few sheets as it can, second copies flipped, by bitmap and bottom-left; each thickness on sheets of its own, the thinnest first.
///
/// Errors: out_of_range for a sheet that is no sheet, or when a piece is larger than it (piece, both sizes, and the
///         place "pieces/NAME"); overlap if the exact check fails; cancelled.
/// Source: docs/formulas/nesting.md.
Result<Layout> nest(const std::vector<Piece>& pieces, const SheetSize& sheet, const NestOptions& options = {}, const Progress& progress = {});

/// Sum of the areas in which placed outlines overlap each other or leave their sheet (Clipper, 1/1000 mm).
double overlap_area_mm2(const std::vector<Piece>& pieces, const Layout& layout);

/// Everything on one sheet as a drawing: its border, and each copy in its place.
Drawing draw_sheet(const std::vector<Piece>& pieces, const Layout& layout, int sheet);

}  // namespace awl
