#pragma once
#include <array>
#include <cstdint>
#include <vector>

#include "core/geom/mesh.hpp"

namespace awl {

/// Cells of a piece's mask, column by column, as runs upwards; made once for each piece and turn.
struct CellMask {
  struct Run {
    int column = 0, from = 0, to = 0;  ///< rows from..to, both in it
  };
  std::vector<Run> runs;
  std::vector<int> by_length;  ///< runs, the longest first: those tell soonest that there is no room
  int columns = 0, rows = 0;
  Vec2 low = Vec2::Zero();  ///< corner of cell (0, 0)

  /// Cells whose middle lies in the outline, on a grid that begins at the outline's low corner.
  static CellMask of(const std::vector<Vec2>& outline, double cell_mm);
  /// The same on a grid given beforehand; runs are cut off at 0 and at its size.
  static CellMask on_grid(const std::vector<Vec2>& outline, double cell_mm, const Vec2& low, int columns, int rows);
};

/// Which cells of a sheet are taken, one bit each, with what is needed to tell for a whole column at once where a mask
/// is free.
///
/// For each run length 2^k the bits "any of the next 2^k cells upwards is taken" are kept; a run of any length is the
/// union of two of them, so that a mask is tried at all heights of a column by two shifts a run.
class BitSheet {
 public:
  BitSheet(int columns, int rows);
  int columns() const { return columns_; }
  int rows() const { return rows_; }
  bool taken(int column, int row) const { return word(0, column, row / 64) >> (row % 64) & 1; }
  void take(const CellMask& mask, int column, int row);
  void take_all();
  void release(const CellMask& mask);

  /// The lowest row at which the mask, its low column at `column`, meets nothing; -1 if there is none.
  int lowest_free(const CellMask& mask, int column) const;

 private:
  static constexpr int kLevels = 13;
  std::uint64_t word(int level, int column, int w) const {
    return bits_[(static_cast<std::size_t>(column) * levels_ + level) * words_ + w];
  }
  std::uint64_t* column_bits(int level, int column) {
    return &bits_[(static_cast<std::size_t>(column) * levels_ + level) * words_];
  }
  const std::uint64_t* column_bits(int level, int column) const {
    return &bits_[(static_cast<std::size_t>(column) * levels_ + level) * words_];
  }
  void renew(int column);

  int columns_, rows_, words_, levels_ = 1;
  std::vector<std::uint64_t> bits_;
  std::vector<int> longest_free_;  ///< of each column: a longer run need not be tried there
};

}  // namespace awl
