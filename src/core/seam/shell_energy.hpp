#pragma once
#include <Eigen/SparseCore>
#include <algorithm>
#include <array>
#include <memory>
#include <optional>
#include <vector>

#include "core/base/progress.hpp"
#include "core/seam/strain.hpp"

namespace awl {

/// Elastic energy of thin foam sheets joined along their seams, minimised by projected Newton.
///
/// Membrane: h A (k(e1) e1^2 + k(e2) e2^2) / 2 with e the principal Green strains from the flat triangle to where it
/// lies, k = 1 stretched and `squeeze` squeezed (1): no Poisson effect, as closed-cell foam nearly has none. Bending:
/// h^3/12 * 1/(A1 + A2) (|K x| - s)^2 / 2 per inner edge, K the cotangent stencil of the flat triangles (2), s the
/// length K x has at the angle the edge rests at, 2 |edge| sin(theta/2) (3). Young's modulus divides out.
/// Newton with the whole Hessian where that is positive definite, else with its geometric part clamped.
/// Source: docs/formulas/glue-up.md (after bergou2006, and teran2005 for the clamp). Units: millimetres, radians.
class ShellEnergy {
 public:
  /// `mirrored`: the place of that vertex, mirrored in x = 0.
  struct Corner {
    int vertex = -1;
    bool mirrored = false;
  };
  struct Face {
    std::array<int, 3> vertices;
    TriangleFrame rest;  ///< of the flat triangle
    double thickness_mm = 5.0;
  };
  struct Hinge {
    std::array<Corner, 4> corners;  ///< its edge, then the corner opposite on the left and on the right
    std::array<double, 4> weights;  ///< (2)
    double stiffness = 0.0;
    double rest_mm = 0.0;  ///< (3), not negative
  };

  /// Of a hinge between triangles of `areas_mm2` together, so that a strip bent to a hoop takes what Euler's beam does;
  /// a ball takes a third less than a plate would. Source: docs/formulas/glue-up.md (2).
  static double bending_stiffness(double thickness_mm, double areas_mm2) {
    return thickness_mm * thickness_mm * thickness_mm / 12.0 / std::max(areas_mm2, 1e-9);
  }

  ShellEnergy(int vertices, std::vector<Face> faces, std::vector<Hinge> hinges, double squeeze);
  ~ShellEnergy();
  /// These stay in the plane x = 0.
  void hold_in_middle(std::vector<int> vertices) { middle_ = std::move(vertices); }

  /// What minimise came to.
  struct Outcome {
    bool cancelled = false;
    int steps = 0;
    double last_step_mm = 0.0;
  };
  /// Steps until none moves a vertex by more than `still_mm`, or there were `most_steps`.
  Outcome minimise(std::vector<Vec3>& places, int most_steps, double still_mm, const Progress& progress);
  double value(const std::vector<Vec3>& places) const;
  /// How places answer to loads on every coordinate, a column each, with the stiffness they have where they are. None
  /// if it cannot be factorised.
  std::optional<Eigen::MatrixXd> response(const std::vector<Vec3>& places, const Eigen::MatrixXd& loads);
  /// How the energy of one stretched face changes with its corners, xyz each.
  static Eigen::Matrix<double, 9, 1> pull_of(const Face& face, const std::array<Vec3, 3>& corners, double squeeze);
  /// How the value changes with every coordinate.
  Eigen::VectorXd gradient_at(const std::vector<Vec3>& places);

 private:
  struct Factor;  ///< of the Hessian, by supernodes (CHOLMOD)
  void analyse();
  Eigen::Index block_start(int row, int column) const;
  void add_block(Eigen::Index k, int row, int column, const Eigen::Matrix3d& block);
  void add_face(std::size_t f, const std::vector<Vec3>& places, bool clamped);
  void add_hinge(std::size_t i, const std::vector<Vec3>& places, bool clamped);
  void assemble(const std::vector<Vec3>& places, bool clamped);
  bool factorise(const std::vector<Vec3>& places);
  Vec3 bent(const Hinge& hinge, const std::vector<Vec3>& places) const;

  int vertices_;
  std::vector<Face> faces_;
  std::vector<Hinge> hinges_;
  std::vector<int> middle_;
  double squeeze_;
  int wary_ = 0;
  std::vector<std::vector<int>> rows_;  ///< per block column, its block rows, the diagonal first
  std::vector<std::array<Eigen::Index, 6>> face_blocks_;
  std::vector<std::array<Eigen::Index, 10>> hinge_blocks_;
  Eigen::SparseMatrix<double> hessian_;
  Eigen::VectorXd gradient_;
  std::unique_ptr<Factor> factor_;
};

}  // namespace awl
