#pragma once
#include "core/dress/dressing.hpp"

namespace awl {

/// A graded row of teeth along a jaw, largest in its middle, with a gum beside it.
struct Teeth {
  static constexpr const char* kKind = "teeth";
  static constexpr const char* kLabel = "Teeth and gums";
  enum class From { rod, sheet };
  From from = From::rod;
  int count = 12;
  double gap_mm = 2.0, margin_mm = 5.0;
  double least = 0.5;  ///< the outermost, as a share of the largest
  double high_mm = 30.0, root_mm = 6.0;
  double uneven = 0.0;  ///< heights give or take this share
  double lean = 0.15;
  bool down = true;  ///< they point down; else up
  double gum_mm = 8.0;
  int seed = 1;
  bool operator==(const Teeth&) const = default;
};
std::vector<Dial> dials_of(Teeth& teeth);
void put_on(const Teeth& teeth, Dressing& d);

/// Widths, places and heights of a row. Source: docs/formulas/dress-rows.md. Contract: they have room.
struct ToothRow {
  std::vector<double> wide_mm, at_mm, high_mm;
  double open_share = 0.0;  ///< of the band they stand in, to see through
};
ToothRow teeth_along(const Teeth& teeth, double length_mm);

}  // namespace awl
