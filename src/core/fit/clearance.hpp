#pragma once
#include <array>

#include "core/fit/fit_head.hpp"
#include "core/fit/fit_part.hpp"
#include "core/fit/rules.hpp"

namespace awl {

/// Where a part touches or presses.
struct Contact {
  double area_mm2 = 0.0;
  double deepest_mm = 0.0;  ///< below 0 it presses
  Vec3 at = Vec3::Zero();
  std::string place;  ///< "the left ear rim"
};

/// A stretch of rim that stands off more than was meant.
struct Gape {
  double long_mm = 0.0, widest_mm = 0.0;
  Vec3 at = Vec3::Zero();
  std::string place;
};

/// What becomes of an ear.
struct EarRoom {
  bool left = false;
  double stands_off_mm = 0.0, room_mm = 0.0;
  enum class State { free, folded, pushes, uncovered } state = State::uncovered;
  double by_mm = 0.0;        ///< folded by, or pushes the side out by
  std::vector<Vec2> relief;  ///< outline of a hole for it, on the plane that looks along the ear: y up, x forward
  double relief_wide_mm = 0.0, relief_tall_mm = 0.0, relief_mm2 = 0.0;
};

/// How far the head is from one part's inside.
struct PartClearance {
  int part = 0;
  std::string name;
  std::vector<double> room_mm;  ///< per vertex of its inner face: distance less the layers; below 0 it presses
  double least_mm = 0.0;
  std::vector<Contact> contacts;  ///< the largest first
  /// What still presses with hair and padding squeezed and the ears folded, beside them.
  double pressing_mm2 = 0.0, pressing_mm = 0.0;
  std::string pressing_at;
  std::vector<Gape> gapes;  ///< the widest first
};

struct ClearanceOptions {
  double layers_mm = 0.0;
  double touch_mm = 1.0;
};

/// Room between one part and the head. Cost: 4 us for each vertex of the inner face.
/// Source: docs/formulas/fit-clearance.md.
PartClearance clearance_inside(
    const FitHead& head, const FitPart& part, const FitRules& rules, const ClearanceOptions& options);

/// What becomes of both ears under all parts. Empty where the places of the ears are not known.
std::vector<EarRoom> ear_rooms(const FitHead& head, const std::vector<FitPart>& parts, const FitRules& rules);

}  // namespace awl
