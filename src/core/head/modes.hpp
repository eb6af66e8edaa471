#pragma once
#include <Eigen/Core>

#include "core/geom/mesh.hpp"

namespace awl {

/// The 32 ways in which heads differ: 23 symmetric, then 9 asymmetric.
inline constexpr int kModeCount = 32;
inline constexpr int kSymmetricModes = 23;

using Coefficients = Eigen::Matrix<double, kModeCount, 1>;
/// Displacement in mm of one template place for a unit of each mode.
using ModeColumns = Eigen::Matrix<double, 3, kModeCount>;

/// Every mode at a place of the template, an analytic function of the place.
///
/// Units:  `off_skin_mm` is the distance of the place from the head without its ears (0 on skin).
/// Source: docs/formulas/headform.md, "modes".
ModeColumns modes_at(const Vec3& place, double off_skin_mm);

/// Standard deviation of each coefficient in the adult population.
const Coefficients& mode_sd();

/// Many places that ride along with the modes: V = V0 + sum c_k B_k.
///
/// Of places that come in mirrored pairs only one side is kept and computed: at the mirror image a symmetric mode is
/// the mirrored displacement, an asymmetric one its negative.
class Riders {
 public:
  Riders() = default;
  /// `twin_of` may be empty (no symmetry known); otherwise place i mirrors place twin_of[i] exactly.
  Riders(std::vector<Vec3> places, const std::vector<double>& off_skin_mm, std::vector<int> twin_of = {});

  std::size_t size() const { return places_.size(); }
  const std::vector<Vec3>& places() const { return places_; }
  ModeColumns modes(int i) const;
  Vec3 at(int i, const Coefficients& c) const { return places_[i] + modes(i) * c; }
  std::vector<Vec3> carried(const Coefficients& c) const;

 private:
  bool derived(int i) const { return !twin_of_.empty() && twin_of_[i] < i; }

  std::vector<Vec3> places_;
  std::vector<int> twin_of_;
  std::vector<int> slot_of_;  ///< place -> its row in modes_ (that of its twin where it is derived)
  std::vector<Eigen::Matrix<float, 3, kModeCount>> modes_;  ///< single precision: carrying is bound by memory
};

}  // namespace awl
