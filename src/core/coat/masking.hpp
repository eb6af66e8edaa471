#pragma once
#include <string>
#include <vector>

#include "core/base/result.hpp"

namespace awl {

/// Surfaces painted in one colour, in one go.
struct MaskArea {
  std::string name;
  bool sprayed = false;
  bool hard_edge = false;  ///< a brushed one with a sharp border is taped too
  double lightness = 0.5;  ///< 0 black to 1 white
  bool bears_tape = true;  ///< false: once painted it may not be masked in this plan
  double area_mm2 = 0.0;
  double bare_mm = 0.0;    ///< border with what is never painted and must stay clean
  std::vector<int> after;  ///< areas that must be painted before it
  bool operator==(const MaskArea&) const = default;
};

/// Areas and the lengths along which they meet, or lie within reach of each other's spray.
struct MaskingQuestion {
  std::vector<MaskArea> areas;
  std::vector<std::vector<double>> border_mm, reach_mm;  ///< symmetric, one row an area
};

/// What is masked before one area is painted.
struct MaskingStep {
  int area = 0;
  std::vector<int> covers;  ///< areas that are taped over
  double border_mm = 0.0;   ///< along which tape runs
  double tape_mm = 0.0, paper_mm2 = 0.0;
  int darker_below = 0;  ///< sprayed neighbours darker than it: an extra light coat
  bool operator==(const MaskingStep&) const = default;
};
struct MaskingPlan {
  std::vector<MaskingStep> steps;  ///< in the order of painting
  double cost_mm = 0.0;            ///< what the order is chosen by; workshop values
  bool exact = true;               ///< no other order costs less
};

inline constexpr int kMostExactAreas = 14;

/// The order that takes least tape and fewest maskings: least cost over all orders by dynamic programming over the sets
/// of what is painted; beyond 14 areas the best of the most promising ones, never worse than taking the cheapest next.
///
/// Errors: no_solution when no order is allowed, naming an area that may not be taped; out_of_range for sizes that do
///         not match or beyond 64 areas.
/// Source: docs/formulas/coat-masking.md. Cost: 2^n n^2 sums.
Result<MaskingPlan> masking_order(const MaskingQuestion& question);

/// What painting one area costs when those are painted already, mm; nothing if it may not be then. For tests.
struct MaskingCost {
  double cost_mm = 0.0;
  MaskingStep step;
};
bool masking_cost(const MaskingQuestion& question, unsigned long painted, int area, MaskingCost& to);

/// The widest stroke that is not seen, and the narrowest that reads, at so many metres: one and three minutes of arc.
double seen_stroke_mm(double metres);
double read_stroke_mm(double metres);

}  // namespace awl
