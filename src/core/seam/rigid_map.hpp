#pragma once
#include <Eigen/Sparse>
#include <Eigen/SparseCholesky>
#include <vector>

#include "core/seam/strain.hpp"

namespace awl {

/// The as-rigid-as-possible map of a disk: every triangle only turned, as nearly as the panel allows.
///
/// Minimises sum A_f |J_f - R_f|^2 by turns: each R_f the rotation nearest to J_f, then one solve for all places. The
/// matrix is that of the mesh alone and is factored once, in an order of the vertices that keeps the factor thin; both
/// coordinates go through the factor together. Source: liu2008; the start in docs/formulas/flattening.md. Ownership:
/// refers to mesh and frames, which must outlive it. Cost: O(n^1.5) once, O(n log n) a round.
class RigidMap {
 public:
  RigidMap(const Mesh& mesh, const std::vector<TriangleFrame>& frames);

  /// False where the triangles are too thin or too unequal for the numbers to hold; nothing else may be asked then.
  bool is_solvable() const { return solvable_; }
  /// Unrolls the panel from its middle, triangle by triangle, then mends what does not meet by one solve. Exact on what
  /// can be unrolled; the more a panel domes, the more it is off round its border.
  std::vector<Vec2> unrolled();
  /// At most so many rounds; stops once nothing moves by more than 0.1 um.
  void improve(std::vector<Vec2>& uv, int rounds);

 private:
  using Matrix = Eigen::SparseMatrix<double>;
  void add_turned(int face, double c, double s);
  void solve();

  const Mesh& mesh_;
  const std::vector<TriangleFrame>& frames_;
  std::vector<Tri> rows_;  ///< the triangles' corners as rows of the factor
  std::vector<int> row_;   ///< of each vertex
  Eigen::SimplicialLDLT<Matrix, Eigen::Lower, Eigen::NaturalOrdering<int>> factor_;
  bool solvable_ = false;
  std::vector<Vec2> x_;  ///< right-hand side, then solution, by rows
};

}  // namespace awl
