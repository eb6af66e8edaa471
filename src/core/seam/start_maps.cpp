#include "core/seam/start_maps.hpp"

#include <Eigen/Geometry>
#include <Eigen/Sparse>
#include <Eigen/SparseCholesky>
#include <Eigen/SparseLU>
#include <cmath>

#include "core/base/numbers.hpp"

namespace awl::start_maps {
namespace {

using Sparse = Eigen::SparseMatrix<double>;
using Triplets = std::vector<Eigen::Triplet<double>>;

std::pair<int, int> farthest_pair(const Mesh& panel, const std::vector<int>& border) {
  std::pair<int, int> best{border[0], border[border.size() / 2]};
  double most = -1.0;
  for (std::size_t i = 0; i < border.size(); ++i)
    for (std::size_t j = i + 1; j < border.size(); ++j)
      if (const double d = (panel.vertices[border[i]] - panel.vertices[border[j]]).squaredNorm(); d > most)
        most = d, best = {border[i], border[j]};
  return best;
}

void scale_to_area(const Mesh& panel, const std::vector<TriangleFrame>& frames, std::vector<Vec2>& uv) {
  double flat = 0.0, solid = 0.0;
  for (std::size_t f = 0; f < frames.size(); ++f) {
    const Tri& t = panel.triangles[f];
    const Vec2 a = uv[t[1]] - uv[t[0]], b = uv[t[2]] - uv[t[0]];
    flat += 0.5 * (a.x() * b.y() - a.y() * b.x());
    solid += frames[f].area_mm2;
  }
  const double scale = std::sqrt(solid / std::max(std::abs(flat), 1e-12));
  for (Vec2& p : uv) p *= scale;
}

}  // namespace

std::vector<Vec2> conformal(
    const Mesh& panel, const std::vector<TriangleFrame>& frames, const std::vector<int>& border) {
  const int n = static_cast<int>(panel.vertices.size());
  const auto [p, q] = farthest_pair(panel, border);
  const double apart = (panel.vertices[p] - panel.vertices[q]).norm();
  // Unknowns: u at 2i, v at 2i+1 of the free vertices; the held pair goes to the right-hand side.
  std::vector<int> slot(n, -1);
  int count = 0;
  for (int v = 0; v < n; ++v)
    if (v != p && v != q) slot[v] = count++;
  Eigen::VectorXd rhs = Eigen::VectorXd::Zero(2 * count);
  Triplets entries;
  entries.reserve(frames.size() * 36);
  for (std::size_t f = 0; f < frames.size(); ++f) {
    const Tri& t = panel.triangles[f];
    // Residual sqrt(A) * (quarter turn of grad u - grad v): conformality of u and v.
    Eigen::Matrix<double, 2, 6> r;
    for (int k = 0; k < 3; ++k) {
      const Vec2 g = frames[f].gradients.col(k);
      r.col(2 * k) = Vec2(-g.y(), g.x());
      r.col(2 * k + 1) = -g;
    }
    const Eigen::Matrix<double, 6, 6> h = frames[f].area_mm2 * r.transpose() * r;
    for (int i = 0; i < 6; ++i) {
      const int vi = slot[t[i / 2]];
      if (vi < 0) continue;
      for (int j = 0; j < 6; ++j) {
        const int vj = slot[t[j / 2]];
        if (vj >= 0)
          entries.emplace_back(2 * vi + i % 2, 2 * vj + j % 2, h(i, j));
        else if (t[j / 2] == q && j % 2 == 0)
          rhs[2 * vi + i % 2] -= h(i, j) * apart;
      }
    }
  }
  Sparse a(2 * count, 2 * count);
  a.setFromTriplets(entries.begin(), entries.end());
  const Eigen::VectorXd x = Eigen::SimplicialLDLT<Sparse>(a).solve(rhs);
  std::vector<Vec2> uv(n, Vec2::Zero());
  uv[q] = {apart, 0.0};
  for (int v = 0; v < n; ++v)
    if (slot[v] >= 0) uv[v] = {x[2 * slot[v]], x[2 * slot[v] + 1]};
  scale_to_area(panel, frames, uv);
  return uv;
}

std::vector<Vec2> circle(const Mesh& panel, const std::vector<int>& border) {
  const int n = static_cast<int>(panel.vertices.size());
  std::vector<Vec2> uv(n, Vec2::Zero());
  std::vector<char> held(n, 0);
  double length = 0.0, along = 0.0;
  const auto edge = [&](std::size_t i) {
    return (panel.vertices[border[(i + 1) % border.size()]] - panel.vertices[border[i]]).norm();
  };
  for (std::size_t i = 0; i < border.size(); ++i) length += edge(i);
  const double radius = std::sqrt(area_mm2(panel) / kPi);
  for (std::size_t i = 0; i < border.size(); ++i) {
    const double a = kTwoPi * along / length;
    uv[border[i]] = radius * Vec2(std::cos(a), std::sin(a));
    held[border[i]] = 1;
    along += edge(i);
  }
  Triplets entries;
  Eigen::MatrixXd rhs = Eigen::MatrixXd::Zero(n, 2);
  std::vector<double> total(n, 0.0);
  for (const Tri& t : panel.triangles)
    for (int k = 0; k < 3; ++k) {
      const int i = t[k], j = t[(k + 1) % 3], l = t[(k + 2) % 3];
      if (held[i]) continue;
      const Vec3 a = panel.vertices[j] - panel.vertices[i], b = panel.vertices[l] - panel.vertices[i];
      const double half = std::tan(0.5 * std::atan2(a.cross(b).norm(), a.dot(b)));
      for (const auto& [w, to] : {std::pair{half / a.norm(), j}, std::pair{half / b.norm(), l}}) {
        total[i] += w;
        if (held[to])
          rhs.row(i) += w * uv[to].transpose();
        else
          entries.emplace_back(i, to, -w);
      }
    }
  for (int v = 0; v < n; ++v) {
    entries.emplace_back(v, v, held[v] ? 1.0 : total[v]);
    if (held[v]) rhs.row(v) = uv[v].transpose();
  }
  Sparse a(n, n);
  a.setFromTriplets(entries.begin(), entries.end());
  Eigen::SparseLU<Sparse> lu(a);
  const Eigen::MatrixXd x = lu.solve(rhs);
  for (int v = 0; v < n; ++v) uv[v] = x.row(v).transpose();
  return uv;
}

}  // namespace awl::start_maps
