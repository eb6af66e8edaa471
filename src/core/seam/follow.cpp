#include "core/seam/follow.hpp"

#include <Eigen/SparseCholesky>
#include <algorithm>
#include <cmath>

namespace awl {
namespace {

constexpr double kLeastCotangent = 0.01;

}  // namespace

Eigen::MatrixXd followed(const Panel& panel, const std::vector<int>& moved, const Eigen::MatrixXd& moves) {
  const auto n = static_cast<Eigen::Index>(panel.flat.size());
  std::vector<Eigen::Index> of_moved(panel.flat.size(), -1), inner(panel.flat.size(), -1);
  for (std::size_t i = 0; i < moved.size(); ++i) of_moved[moved[i]] = static_cast<Eigen::Index>(i);
  Eigen::Index count = 0;
  for (Eigen::Index v = 0; v < n; ++v)
    if (of_moved[v] < 0) inner[v] = count++;
  std::map<std::pair<int, int>, double> weight;
  for (const Tri& t : panel.solid.triangles)
    for (int k = 0; k < 3; ++k) {
      const Vec2 a = panel.flat[t[k]] - panel.flat[t[(k + 2) % 3]],
                 b = panel.flat[t[(k + 1) % 3]] - panel.flat[t[(k + 2) % 3]];
      weight[edge_of(t[k], t[(k + 1) % 3])] += 0.5 * a.dot(b) / std::max(std::abs(a.x() * b.y() - a.y() * b.x()), 1e-9);
    }
  // Rows of x and of y go through the same weights: both of a column side by side.
  const Eigen::Index columns = moves.cols();
  const auto moves_of = [&](Eigen::Index at) {
    Eigen::RowVectorXd row(2 * columns);
    row << moves.row(2 * at), moves.row(2 * at + 1);
    return row;
  };
  std::vector<Eigen::Triplet<double>> entries;
  Eigen::MatrixXd right = Eigen::MatrixXd::Zero(count, 2 * columns);
  for (const auto& [edge, w] : weight) {
    const double share = std::max(w, kLeastCotangent);
    for (const auto& [from, to] : {std::pair(edge.first, edge.second), std::pair(edge.second, edge.first)}) {
      if (inner[from] < 0) continue;
      entries.emplace_back(inner[from], inner[from], share);
      if (inner[to] >= 0)
        entries.emplace_back(inner[from], inner[to], -share);
      else
        right.row(inner[from]) += share * moves_of(of_moved[to]);
    }
  }
  Eigen::MatrixXd within(count, 2 * columns);
  if (count > 0) {
    Eigen::SparseMatrix<double> laplacian(count, count);
    laplacian.setFromTriplets(entries.begin(), entries.end());
    within = Eigen::SimplicialLDLT<Eigen::SparseMatrix<double>>(laplacian).solve(right);
  }
  Eigen::MatrixXd all(2 * n, columns);
  for (Eigen::Index v = 0; v < n; ++v) {
    const Eigen::RowVectorXd row = inner[v] >= 0 ? Eigen::RowVectorXd(within.row(inner[v])) : moves_of(of_moved[v]);
    all.row(2 * v) = row.head(columns), all.row(2 * v + 1) = row.tail(columns);
  }
  return all;
}

Eigen::MatrixXd followed_border(const Panel& panel, const Eigen::MatrixXd& moves) {
  std::vector<int> border;
  for (const BorderEdge& e : panel.border) border.push_back(e.a);
  return followed(panel, border, moves);
}

}  // namespace awl
