#include "core/seam/rigid_map.hpp"

#include <Eigen/OrderingMethods>
#include <algorithm>
#include <array>
#include <cmath>
#include <complex>

namespace awl {
namespace {

using Sparse = Eigen::SparseMatrix<double>;
using Complex = std::complex<double>;

/// Directions of the edges k -> k + 1 in the triangle's own frame (strain.hpp), as unit complex numbers.
std::array<Complex, 3> edge_directions(const Mesh& mesh, const Tri& t) {
  const Vec3 e1 = mesh.vertices[t[1]] - mesh.vertices[t[0]], e2 = mesh.vertices[t[2]] - mesh.vertices[t[0]];
  const double length = e1.norm(), x = e1.dot(e2) / length, y = std::sqrt(std::max(0.0, e2.squaredNorm() - x * x));
  const Complex b(x - length, y), c(-x, -y);
  return {Complex(1.0, 0.0), b / std::abs(b), c / std::abs(c)};
}

int middle_face(const Mesh& mesh, const std::vector<TriangleFrame>& frames) {
  Vec3 middle = Vec3::Zero();
  double area = 0.0;
  const auto centre = [&](const Tri& t) -> Vec3 {
    return (mesh.vertices[t[0]] + mesh.vertices[t[1]] + mesh.vertices[t[2]]) / 3.0;
  };
  for (std::size_t f = 0; f < frames.size(); ++f)
    middle += frames[f].area_mm2 * centre(mesh.triangles[f]), area += frames[f].area_mm2;
  middle /= area;
  int best = 0;
  for (int f = 0; f < static_cast<int>(frames.size()); ++f)
    if ((centre(mesh.triangles[f]) - middle).squaredNorm() < (centre(mesh.triangles[best]) - middle).squaredNorm())
      best = f;
  return best;
}

/// How far each triangle's own frame is turned when the panel is unrolled ring by ring from its middle.
std::vector<Complex> turns_from_middle(const Mesh& mesh, const std::vector<TriangleFrame>& frames) {
  const Topology topo = topology_of(mesh);
  std::vector<Complex> turn(mesh.triangles.size(), Complex(0.0, 0.0));
  std::vector<int> queue{middle_face(mesh, frames)};
  queue.reserve(mesh.triangles.size());
  turn[queue[0]] = {1.0, 0.0};
  for (std::size_t i = 0; i < queue.size(); ++i) {
    const int f = queue[i];
    const auto own = edge_directions(mesh, mesh.triangles[f]);
    for (int k = 0; k < 3; ++k) {
      const int edge = topo.edges_of[f][k];
      const int g = topo.edges[edge].left == f ? topo.edges[edge].right : topo.edges[edge].left;
      if (g < 0 || turn[g] != Complex(0.0, 0.0)) continue;
      const auto& its = topo.edges_of[g];
      const int there = its[0] == edge ? 0 : its[1] == edge ? 1 : 2;
      // The shared edge runs the other way round in the neighbour.
      const Complex t = -turn[f] * own[k] * std::conj(edge_directions(mesh, mesh.triangles[g])[there]);
      turn[g] = t / std::abs(t);
      queue.push_back(g);
    }
  }
  return turn;
}

}  // namespace

RigidMap::RigidMap(const Mesh& mesh, const std::vector<TriangleFrame>& frames)
    : mesh_(mesh), frames_(frames), x_(mesh.vertices.size()) {
  const int n = static_cast<int>(mesh.vertices.size());
  const auto lower = [&](const std::vector<Tri>& corners) {
    std::vector<Eigen::Triplet<double>> entries;
    entries.reserve(6 * corners.size() + 1);
    for (std::size_t f = 0; f < corners.size(); ++f)
      for (int i = 0; i < 3; ++i)
        for (int j = 0; j <= i; ++j)
          entries.emplace_back(std::max(corners[f][i], corners[f][j]), std::min(corners[f][i], corners[f][j]),
              frames[f].area_mm2 * frames[f].gradients.col(i).dot(frames[f].gradients.col(j)));
    entries.emplace_back(0, 0, 1.0);  // the whole may not slide: the row of the first vertex is held softly
    Sparse a(n, n);
    a.setFromTriplets(entries.begin(), entries.end());
    return a;
  };
  Eigen::PermutationMatrix<Eigen::Dynamic, Eigen::Dynamic, int> order;
  Eigen::AMDOrdering<int>()(lower(mesh.triangles).selfadjointView<Eigen::Lower>(), order);
  row_.resize(n);
  for (int r = 0; r < n; ++r) row_[order.indices()[r]] = r;
  rows_ = mesh.triangles;
  for (Tri& t : rows_)
    for (int& v : t) v = row_[v];
  factor_.compute(lower(rows_));
  solvable_ =
      factor_.info() == Eigen::Success && factor_.vectorD().allFinite() && (factor_.vectorD().array() != 0.0).all();
}

void RigidMap::add_turned(int face, double c, double s) {
  const auto& g = frames_[face].gradients;
  const double a = frames_[face].area_mm2;
  for (int k = 0; k < 3; ++k) x_[rows_[face][k]] += a * Vec2(c * g(0, k) - s * g(1, k), s * g(0, k) + c * g(1, k));
}

void RigidMap::solve() {
  const Matrix& l = factor_.matrixL().nestedExpression();
  const auto d = factor_.vectorD();
  const int n = static_cast<int>(x_.size());
  const int *start = l.outerIndexPtr(), *count = l.innerNonZeroPtr(), *at = l.innerIndexPtr();
  const double* value = l.valuePtr();
  const auto end = [&](int j) { return count != nullptr ? start[j] + count[j] : start[j + 1]; };
  for (int j = 0; j < n; ++j) {
    const Vec2 own = x_[j];
    for (int p = start[j]; p < end(j); ++p)
      if (at[p] != j) x_[at[p]] -= value[p] * own;
  }
  for (int j = n - 1; j >= 0; --j) {
    Vec2 own = x_[j] / d[j];
    for (int p = start[j]; p < end(j); ++p)
      if (at[p] != j) own -= value[p] * x_[at[p]];
    x_[j] = own;
  }
}

std::vector<Vec2> RigidMap::unrolled() {
  const auto turn = turns_from_middle(mesh_, frames_);
  std::fill(x_.begin(), x_.end(), Vec2::Zero());
  for (int f = 0; f < static_cast<int>(rows_.size()); ++f) add_turned(f, turn[f].real(), turn[f].imag());
  solve();
  std::vector<Vec2> uv(mesh_.vertices.size());
  for (std::size_t v = 0; v < uv.size(); ++v) uv[v] = x_[row_[v]];
  return uv;
}

void RigidMap::improve(std::vector<Vec2>& uv, int rounds) {
  constexpr double kStillMm2 = 1e-8;
  std::vector<Vec2> now(uv.size());
  for (std::size_t v = 0; v < uv.size(); ++v) now[row_[v]] = uv[v];
  for (int round = 0; round < rounds; ++round) {
    std::fill(x_.begin(), x_.end(), Vec2::Zero());
    for (int f = 0; f < static_cast<int>(rows_.size()); ++f) {
      const Tri& t = rows_[f];
      const auto& g = frames_[f].gradients;
      // Gradients sum to nothing, so edges will do; the rotation nearest to J is (J + cof J) made a unit.
      const Vec2 a = now[t[1]] - now[t[0]], b = now[t[2]] - now[t[0]];
      const double c = a.x() * g(0, 1) + b.x() * g(0, 2) + a.y() * g(1, 1) + b.y() * g(1, 2);
      const double s = a.y() * g(0, 1) + b.y() * g(0, 2) - a.x() * g(1, 1) - b.x() * g(1, 2);
      const double l = std::max(std::sqrt(c * c + s * s), 1e-12);
      add_turned(f, c / l, s / l);
    }
    solve();
    double moved = 0.0;
    for (std::size_t r = 0; r < now.size(); ++r) moved = std::max(moved, (x_[r] - now[r]).squaredNorm());
    now.swap(x_);
    if (round > 2 && moved < kStillMm2) break;
  }
  for (std::size_t v = 0; v < uv.size(); ++v) uv[v] = now[row_[v]];
}

}  // namespace awl
