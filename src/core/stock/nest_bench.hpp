#pragma once
#include <functional>
#include <memory>

#include "core/stock/bit_sheet.hpp"
#include "core/stock/nest.hpp"

// Inside the nester only.

namespace awl {

inline constexpr double kHalfDiagonal = 0.7072;  ///< of a cell

/// A copy in one orientation: its mask and how it is turned, at the origin.
struct Stamp {
  Pose pose;
  CellMask mask;
  double weight = 0.0;  ///< columns from its low side to where it is judged: between its middle and its far side
};

/// One copy to lay, with all its turns.
struct NestJob {
  const Piece* piece = nullptr;
  int copy = 0;
  std::shared_ptr<const std::vector<Stamp>> stamps;
};

struct Spot {
  int blank = -1, column = 0, row = 0, turn = -1;
};

/// Sheets of one thickness: the offcuts, then as many new ones as are needed.
class NestBench {
 public:
  NestBench(const SheetSize& sheet, const NestOptions& options, const std::vector<Offcut>& offcuts);

  /// Puts a copy the maker holds on its sheet before anything else.
  void hold(int blank, const std::vector<Vec2>& grown_outline);

  bool fits_empty(const CellMask& mask) const;

  /// Lays the jobs in this order. Empty if one finds no place. `keep_going` is asked after each.
  std::vector<Spot> lay(
      const std::vector<NestJob>& jobs, const std::vector<int>& order, const std::function<bool()>& keep_going) const;

  /// How much sheet that takes: every sheet but the last whole, of the last as far as it is used; offcuts count a
  /// little.
  double cost(const std::vector<NestJob>& jobs, const std::vector<Spot>& spots) const;

  int blanks(const std::vector<Spot>& spots) const;
  int offcuts() const { return offcuts_; }
  double corner_mm() const { return options_.margin_mm - 0.5 * options_.gap_mm; }

 private:
  BitSheet offcut_sheet(const Offcut& o) const;

  /// Leftmost, then lowest, its low column before `before`.
  static Spot first_spot(const BitSheet& sheet, const CellMask& mask, double before);

  NestOptions options_;
  std::shared_ptr<const BitSheet> fresh_;
  std::vector<BitSheet> start_;
  int offcuts_ = 0, held_to_ = 0;
};

/// Every turn in which a copy may lie, the second of a pair flipped.
std::vector<Stamp> stamps_of(const Piece& piece, bool flipped, const NestOptions& options);

/// The best of several orders: by size first, then what a seeded search makes of it. Errors: cancelled.
Result<std::vector<Spot>> best_spots(
    const NestBench& bench, const std::vector<NestJob>& jobs, const NestOptions& options, const Progress& progress);

}  // namespace awl
