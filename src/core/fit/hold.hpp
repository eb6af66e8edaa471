#pragma once
#include <optional>
#include <string>
#include <vector>

#include "core/base/result.hpp"
#include "core/fit/fit_head.hpp"
#include "core/fit/rules.hpp"

namespace awl {

/// A disc magnet, magnetised through its thickness.
struct Magnet {
  double radius_mm = 5.0, thick_mm = 3.0;
  double remanence_t = 1.30;
  bool operator==(const Magnet&) const = default;
};
/// Remanence of a grade: "N35" to "N52". Errors: unknown_name with the grades there are.
Result<double> remanence_t(const std::string& grade);
/// "10 x 3 N42". Errors: unknown_name, out_of_range with the limits.
Result<Magnet> magnet_from(const std::string& words);

/// Pull of two coaxial discs with a gap between them, newtons.
///
/// Source: docs/formulas/fit-hold.md eq. (1)-(2), after vokoun2009: the exact integral, 32 Gauss nodes.
/// Accuracy: 1e-4 of the force. A dipole would be 49 times too strong at 1 mm.
double magnet_pull_n(const Magnet& one, const Magnet& other, double gap_mm);
/// The same on thick soft steel: its image pulls.
double magnet_on_steel_n(const Magnet& one, double gap_mm);

/// What one thing must be held with, at a shake.
struct HoldNeed {
  double mass_g = 0.0;
  double arm_mm = 0.0;        ///< from the base's middle to its mass
  double half_base_mm = 0.0;  ///< half the width of the base it could tilt over
};
/// Newtons all magnets together must pull: straight off, tilting and sliding, with what is kept in hand.
double needed_n(const HoldNeed& need, const FitRules& rules);
/// How many of a pull hold it; two at least, since one spins. 0: none of that size would, however many go on.
int magnets_needed(double needed_n, double pull_n, const FitRules& rules);
/// The widest gap at which so many still hold; none: not even touching.
std::optional<double> gap_allowed_mm(
    const Magnet& one, const Magnet& other, int count, double needed_n, const FitRules& rules);

enum class LacingWay { crossed, straight };
struct Lacing {
  LacingWay way = LacingWay::crossed;
  int pairs = 6;
  double pitch_mm = 20.0, width_mm = 15.0, tails_mm = 200.0;
  bool operator==(const Lacing&) const = default;
};
double cord_mm(const Lacing& lacing);

/// An elastic of a width along a path: how long it is cut, what it pulls, how it presses.
struct Elastic {
  double path_mm = 0.0, width_mm = 15.0, tabs_mm = 30.0;
  bool face = false;
};
struct ElasticCut {
  double cut_mm = 0.0, pull_n = 0.0, presses_kpa = 0.0;
  bool too_tight = false;
};
ElasticCut elastic_cut(const Elastic& elastic, double radius_mm, const FitRules& rules);

/// The way of a chin strap: from ear flap under the jaw to ear flap, as a tape lies. Empty without those places.
std::vector<Vec3> chin_strap(const FitHead& head);
/// Its length. None without those places.
std::optional<double> chin_strap_mm(const FitHead& head);

/// Whether a band's tension holds a mass by friction: 2 pi mu T against twice the weight.
double band_holds_n(double tension_n, bool on_hair, const FitRules& rules);

}  // namespace awl
