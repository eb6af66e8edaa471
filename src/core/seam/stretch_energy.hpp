#pragma once
#include <vector>

#include "core/seam/flatten.hpp"
#include "core/seam/pair_system.hpp"

namespace awl {

/// Sum over triangles of area * (Phi(s1) + Phi(s2)) plus springs on border edges, minimised by projected Newton.
///
/// psi(s) = (s^2 + s^-2)/2 - 1 (1), Phi = psi + mu g0 (psi/g0)^p (2), spring = w (h/L) (|e| - L)^2 (3).
/// The Hessian of each triangle is known in closed form (eigenvalues psi''(s1), psi''(s2), (psi'1+psi'2)/(s1+s2),
/// (psi'1-psi'2)/(s1-s2)) and clamped at zero; the pattern is analysed once. Source: docs/formulas/flattening.md.
class StretchEnergy {
 public:
  struct Finish {  ///< mu = 0 switches the p-norm off
    double mu = 0.0, p = 2.0, g0 = 1.0;
  };

  StretchEnergy(const Mesh& panel, std::vector<TriangleFrame> frames);

  /// Contract: each along an edge of the panel.
  void set_springs(std::vector<EdgeTarget> springs);
  /// Runs Newton steps until the gain is small. False if cancelled. Contract: no triangle of `uv` is turned over.
  bool minimise(
      std::vector<Vec2>& uv, const Finish& finish, double spring_weight, int most_steps, const Progress& progress);

 private:
  double value(const std::vector<Vec2>& uv, const Finish& finish, double weight) const;
  double assemble(const std::vector<Vec2>& uv, const Finish& finish, double weight);
  void add_triangle(std::size_t f, const Eigen::Matrix2d& j, const Finish& finish);
  double add_springs(const std::vector<Vec2>& uv, double weight);
  double longest_step(const std::vector<Vec2>& uv, const Eigen::VectorXd& step) const;
  Eigen::Matrix2d jacobian(std::size_t f, const std::vector<Vec2>& uv) const;

  std::vector<Tri> triangles_;
  std::vector<TriangleFrame> frames_;
  std::vector<EdgeTarget> springs_;
  PairSystem hessian_;
  std::vector<std::array<PairSystem::Spot, 3>> spots_;  ///< per triangle: corners 0 and 1, 1 and 2, 2 and 0
  std::vector<PairSystem::Spot> spring_spots_;
  Eigen::VectorXd gradient_;
};

}  // namespace awl
