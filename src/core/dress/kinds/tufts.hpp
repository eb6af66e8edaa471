#pragma once
#include "core/dress/dressing.hpp"

namespace awl {

/// Tufts of hair, fur or straw in rows from an edge inwards.
struct Tufts {
  static constexpr const char* kKind = "tufts";
  static constexpr const char* kLabel = "Tufts of hair or fur";
  int rows = 6;
  double pitch_mm = 12.0;  ///< from row to row
  double wide_mm = 20.0;   ///< of a tuft where it is glued
  double overlap = 0.4;    ///< share of its width that lies under its neighbour
  double long_mm = 45.0;
  double lift_mm = 14.0;
  bool operator==(const Tufts&) const = default;
};
std::vector<Dial> dials_of(Tufts& tufts);
void put_on(const Tufts& tufts, Dressing& d);

}  // namespace awl
