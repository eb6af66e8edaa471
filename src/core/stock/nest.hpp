#pragma once
#include "core/base/progress.hpp"
#include "core/stock/layout.hpp"

namespace awl {

struct NestOptions {
  double gap_mm = 4.0;     ///< between pieces
  double margin_mm = 5.0;  ///< from the sheet's edge
  double cell_mm = 2.0;    ///< of the bitmap
  int turns = 8;           ///< orientations tried, evenly round
  int tries = 1;           ///< orders tried; the best is kept. The first is by area, the rest chosen by a seeded search
  bool turn_freely = true;  ///< false: a grain or a texture; pieces are only turned about by half
  bool operator==(const NestOptions&) const = default;
};

/// A copy of a piece the maker has put down: stays where it is.
struct HeldCopy {
  std::string piece;  ///< by name, which lasts longer than numbers
  int copy = 0;       ///< 1: the flipped one of a pair
  int blank = 0;      ///< which of the sheets of its thickness
  Vec2 at = Vec2::Zero();
  double angle_rad = 0.0;
  bool operator==(const HeldCopy&) const = default;
};

/// Sheet of another kind than the build's foam: blocks for slabs, card for templates.
struct OtherSheet {
  std::string stuff;  ///< as Piece::stuff
  double thickness_mm = 0.0;
  SheetSize size;
  bool operator==(const OtherSheet&) const = default;
};

/// What pieces are laid on, beside new sheets.
struct NestStock {
  std::vector<Offcut>
      offcuts;  ///< used first, the smallest that still holds something first; only those of a piece's thickness
  std::vector<HeldCopy> held;
  std::vector<OtherSheet> others;  ///< sizes of other kinds; what is not listed comes in the size of the build's own
  bool operator==(const NestStock&) const = default;
};

/// Lays all copies on as few sheets as it can, second copies flipped, by bitmap and bottom-left; each kind and
/// thickness on sheets of its own, the build's foam first, the thinnest first.
///
/// With `tries` above 1 it searches over orders of the pieces (swaps, insertions; a fixed seed) and keeps what needs
/// least sheet. Errors: out_of_range for a sheet that is no sheet, or when a piece is larger than it (piece, both
/// sizes, and the
///         place "pieces/NAME"); overlap if the exact check fails, or held copies lie over each other; cancelled.
/// Source: docs/formulas/nesting.md.
Result<Layout> nest(const std::vector<Piece>& pieces, const SheetSize& sheet, const NestOptions& options = {},
    const NestStock& stock = {}, const Progress& progress = {});

}  // namespace awl
