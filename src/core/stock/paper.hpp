#pragma once
#include <functional>

#include "core/stock/nest.hpp"

namespace awl {

/// What a printer fills of a page, and what neighbouring pages share.
struct PaperPage {
  double width_mm = 194.0, height_mm = 257.0, overlap_mm = 10.0;
};

/// Pages that are glued together, or a single one, and the patterns on them. Paper is no foam: it has no grain and
/// costs little, so that each pattern lies on it once, its flipped copy is traced from the same.
struct Spread {
  std::string title;  ///< part and numbers of what lies on it
  std::vector<PieceId> pieces;
  std::vector<Pose> poses;  ///< of each, from the lower left corner of the spread
  int columns = 1, rows = 1;
  std::vector<char> used;  ///< by page, row by row from below: something lies on it
  SheetSize room;
  bool uses(int column, int row) const {
    return column >= 0 && row >= 0 && column < columns && row < rows && used[row * columns + column] != 0;
  }
  int pages() const;
  int joins() const;  ///< neighbouring pages that are glued together
};

/// Lays every pattern once: whole on a page where it fits one, several together if they are of one part; the rest each
/// over as few pages, then with as few joins, as any turn of it needs. `part_of`: what is kept together; in the order
/// the parts come in, by number.
///
/// Errors: out_of_range for a page without room; those of nest. Cost: some 10 ms a pattern.
Result<std::vector<Spread>> spread_on_paper(const std::vector<Piece>& pieces, const PaperPage& page,
    const std::function<std::string(const Piece&)>& part_of = {}, const Progress& progress = {});

/// The patterns of a spread as drawn.
Drawing drawing_of(const Spread& spread, const std::vector<Piece>& pieces);

}  // namespace awl
