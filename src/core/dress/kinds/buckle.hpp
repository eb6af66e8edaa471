#pragma once
#include "core/dress/dressing.hpp"

namespace awl {

/// A buckle sized from its strap, with the slots the strap goes through.
struct Buckle {
  static constexpr const char* kKind = "buckle";
  static constexpr const char* kLabel = "Buckle";
  double strap_mm = 30.0, strap_thick_mm = 2.0;
  double bar_mm = 9.0;    ///< width of its frame
  double open_mm = 24.0;  ///< its window along the strap
  bool slotted = false;   ///< the strap goes through slots in the part
  LineNeed needs() const { return LineNeed::place; }
  bool operator==(const Buckle&) const = default;
};
std::vector<Dial> dials_of(Buckle& buckle);
void put_on(const Buckle& buckle, Dressing& d);

}  // namespace awl
