#pragma once
#include <optional>
#include <string>
#include <vector>

#include "core/fit/fit_head.hpp"
#include "core/fit/fit_part.hpp"
#include "core/fit/rules.hpp"

namespace awl {

/// Directions all round the head, ring by ring from below, each standing for so much of the sphere.
///
/// Frame: elevation from the level plane, azimuth from straight ahead, + to the wearer's left; degrees.
class SightGrid {
 public:
  explicit SightGrid(double step_deg = 1.0);
  struct Ring {
    int first = 0, count = 0;
    double low_deg = 0.0, high_deg = 0.0, mid_deg = 0.0, weight_sr = 0.0;
  };
  const std::vector<Ring>& rings() const { return rings_; }
  int size() const { return size_; }
  /// Number of the cell a direction falls into.
  int cell(const Vec3& direction) const;
  Vec3 direction(int ring, double index) const;  ///< of the middle of a ring's cell; whole numbers are middles
  double azimuth_deg(int ring, int index) const;
  int ring_of(double elevation_deg) const;
  double step_deg() const { return step_; }

 private:
  double step_;
  int size_ = 0;
  std::vector<Ring> rings_;
};

/// What one eye has of its view: looking straight ahead (what warns), or moved about (what can be read).
struct EyeField {
  std::vector<float> through;      ///< per cell: share of the light that comes in; 0 outside the eye's own field
  std::vector<std::uint8_t> open;  ///< per cell: within the field of the uncovered eye
  double unaided_sr = 0.0, kept_sr = 0.0;
};

struct Eye {
  Vec3 pupil = Vec3::Zero();
  EyeField ahead, looked;
  double edge_gain_sr_mm = 0.0;          ///< ahead, for every edge moved outwards by a millimetre
  std::array<double, 4> gain_by_side{};  ///< of it: above, outwards, below, inwards
};

/// What is seen of a place that matters, as a share of what the bare head sees of it.
struct SightZone {
  std::string id, words;  ///< "floor", "the floor an arm's length ahead"
  double kept = 0.0;
  bool there = true;  ///< false: not even the bare head sees it
};

/// What neither eye sees, within what both are open to.
struct BlindPlace {
  double sr = 0.0, az_deg = 0.0, el_deg = 0.0;  ///< its middle
  double wide_deg = 0.0, low_deg = 0.0, high_deg = 0.0;
  bool is_bar = false;  ///< surrounded by what is seen
  std::string words;
};

/// Floor that is seen through an opening below the one looked through.
struct FloorWindow {
  double from_m = 0.0, to_m = 0.0;
};

struct Sight {
  std::array<Eye, 2> eyes;  ///< left, right
  double kept = 0.0;        ///< share of both eyes' field ahead that either still has
  double kept_both = 0.0;   ///< share of what both have that both still have
  double looked = 0.0;      ///< share of what can be looked at that is light enough
  std::vector<SightZone> zones;
  struct Meridian {
    std::string words;
    double bare_deg = 0.0, kept_deg = 0.0;
  };
  std::vector<Meridian> meridians;                   ///< eight, from "left" round by "up"
  std::optional<double> floor_level_m, floor_nod_m;  ///< nearest floor that is seen; none: none is
  std::vector<FloorWindow> windows;
  std::vector<BlindPlace> blind;
  double eye_height_mm = 0.0;
  double least_through = 0.15;  ///< of the light; below it nothing is told apart
  SightGrid grid{1.0};
};

struct SightOptions {
  double eye_height_mm = 1550.0;
  double nod_deg = 25.0;  ///< as far as the head can be nodded at a step
  double step_deg = 1.0;
  bool refine = true;  ///< cells at an edge in sixteen parts
};

/// What is left of a wearer's sight. Nothing without the places of the eyes.
///
/// Accuracy: openings to 0.04 % of their solid angle when refined, 0.7 % otherwise; the places of the eyes matter more:
///           2 mm aside move a share by 1 to 2 points.
/// Source: docs/formulas/fit-sight.md.
std::optional<Sight> sight_of(
    const FitHead& head, const std::vector<FitPart>& parts, const FitRules& rules, const SightOptions& options = {});

/// How far an eye's own field reaches from straight ahead on a meridian (0: outwards, counter-clockwise by up).
double field_limit_deg(const FitRules::Sight& rules, bool ahead, double meridian_rad);

}  // namespace awl
