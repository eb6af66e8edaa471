#pragma once
#include "core/dress/dressing.hpp"

namespace awl {

/// Plates hung in rows below a line and laced to each other; or a single row of holes that is laced.
struct LacedPlates {
  static constexpr const char* kKind = "lacing";
  static constexpr const char* kLabel = "Laced plates";
  enum class Path { ladder, crossed, straight };
  Path path = Path::ladder;
  int rows = 3;           ///< plates, one below the other
  double high_mm = 45.0;  ///< of a plate
  double overlap_mm = 12.0;
  double flare = 0.04;     ///< each row is so much longer than the one above
  int columns = 0;         ///< pairs of holes in a row; 0: by their distance
  double pitch_mm = 14.0;  ///< from hole to hole
  double apart_mm = 16.0;  ///< both rows of holes, across the gap
  double tail_mm = 150.0;
  int cords = 0;  ///< cut from one reel; 0: one a row
  double hole_mm = 3.0;
  double stands_mm = 6.0;  ///< the lowest plate stands off so far
  /// Cord alone is reckoned by its number of holes.
  LineNeed needs() const { return rows == 0 && columns > 0 ? LineNeed::if_given : LineNeed::line; }
  bool operator==(const LacedPlates&) const = default;
};
std::vector<Dial> dials_of(LacedPlates& plates);
void put_on(const LacedPlates& plates, Dressing& d);

/// Cord for one lacing of `columns` pairs of holes through sheets of `thick_mm`, tails and all, without spare.
double lace_mm(LacedPlates::Path path, int columns, double pitch_mm, double apart_mm, double thick_mm, double tail_mm);

}  // namespace awl
