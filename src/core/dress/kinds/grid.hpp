#pragma once
#include "core/dress/dressing.hpp"

namespace awl {

/// A field of holes, or a grille of bars, round a place.
struct HoleField {
  static constexpr const char* kKind = "grid";
  static constexpr const char* kLabel = "Hole grid or grille";
  enum class Of { holes, bars };
  Of of = Of::holes;
  double wide_mm = 60.0, high_mm = 40.0;
  double across_mm = 5.0;  ///< of a hole; of bars the gap between them
  double pitch_mm = 10.0, pitch_up_mm = 10.0;
  double edge_mm = 6.0;
  bool staggered = true;
  LineNeed needs() const { return LineNeed::place; }
  bool operator==(const HoleField&) const = default;
};
std::vector<Dial> dials_of(HoleField& grid);
void put_on(const HoleField& grid, Dressing& d);

}  // namespace awl
