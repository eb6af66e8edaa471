#pragma once
#include "core/dress/dressing.hpp"

namespace awl {

/// What closes an opening: a lens, a tint, mesh or cloth behind it; or a disc set on a place: a nose, an eye, a boss.
struct Lens {
  static constexpr const char* kKind = "lens";
  static constexpr const char* kLabel = "Lens, mesh, disc";
  enum class Of { clear, tinted, mesh, cloth, foam };
  Of of = Of::clear;
  double hold_mm = 8.0;     ///< bigger than the opening by this all round
  double rise_mm = 0.0;     ///< domed
  double across_mm = 30.0;  ///< of a disc on a place, where it covers no opening
  double frame_mm = 0.0;    ///< a ring strip round it; 0: none
  bool behind = true;       ///< glued from inside
  LineNeed needs() const { return LineNeed::place; }
  bool operator==(const Lens&) const = default;
};
std::vector<Dial> dials_of(Lens& lens);
void put_on(const Lens& lens, Dressing& d);

}  // namespace awl
