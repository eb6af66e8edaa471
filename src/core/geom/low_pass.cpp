#include "core/geom/low_pass.hpp"

#include <Eigen/Geometry>
#include <Eigen/Sparse>
#include <Eigen/SparseCholesky>
#include <algorithm>
#include <cmath>
#include <map>

namespace awl {
namespace {

using Sparse = Eigen::SparseMatrix<double>;

constexpr double kLeastCotangent = 0.02, kMostCotangent = 4.0;
constexpr double kSharpCos = 0.70710678118654752;  // 45 degrees
constexpr double kHeldWeight = 1000.0;
constexpr double kLongChain = 8.0;  // radii
constexpr double kForkShare = 0.08;

double cotangent(const Vec3& at, const Vec3& a, const Vec3& b) {
  const Vec3 u = a - at, v = b - at;
  return std::clamp(u.dot(v) / std::max(1e-12, u.cross(v).norm()), 2.0 * kLeastCotangent, 2.0 * kMostCotangent);
}

/// Vertices of sharp chains that are long and seldom fork.
std::vector<char> held_vertices(const Mesh& mesh, const Topology& topo, double radius_mm) {
  std::vector<char> held(mesh.vertices.size(), 0);
  std::map<int, std::vector<std::pair<int, double>>> next;
  for (const auto& e : topo.edges) {
    if (e.right < 0) continue;
    const Vec3 a = area_vector(mesh, mesh.triangles[e.left]), b = area_vector(mesh, mesh.triangles[e.right]);
    if (a.dot(b) > kSharpCos * a.norm() * b.norm()) continue;
    const double mm = (mesh.vertices[e.a] - mesh.vertices[e.b]).norm();
    next[e.a].push_back({e.b, mm});
    next[e.b].push_back({e.a, mm});
  }
  std::vector<char> seen(mesh.vertices.size(), 0);
  for (const auto& [start, ways] : next) {
    if (seen[start]) continue;
    std::vector<int> chain{start};
    seen[start] = 1;
    double twice = 0.0;
    int forks = 0;
    for (std::size_t i = 0; i < chain.size(); ++i) {
      const auto& on = next.at(chain[i]);
      forks += on.size() > 2 ? 1 : 0;
      for (const auto& [to, mm] : on) {
        twice += mm;
        if (!seen[to]) seen[to] = 1, chain.push_back(to);
      }
    }
    const double length = 0.5 * twice;
    // A needle is all creases too, but they meet at its tip and at its foot.
    if (length > kLongChain * radius_mm && forks <= std::max(2.0, kForkShare * static_cast<double>(chain.size())))
      for (const int v : chain) held[v] = 1;
  }
  return held;
}

}  // namespace

Mesh low_passed(const Mesh& mesh, double radius_mm) {
  if (!(radius_mm > 0.0) || mesh.triangles.empty()) return mesh;
  const int n = static_cast<int>(mesh.vertices.size());
  const Topology topo = topology_of(mesh);
  std::vector<double> mass(n, 0.0);
  for (const Tri& t : mesh.triangles)
    for (const int v : t) mass[v] += area_vector(mesh, t).norm() / 6.0;
  for (double& m : mass) m = std::max(m, 1e-6);
  std::vector<std::vector<int>> beside(n);
  for (const auto& e : topo.edges)
    if (e.right < 0) beside[e.a].push_back(e.b), beside[e.b].push_back(e.a);
  std::vector<Eigen::Triplet<double>> rows;
  const auto row = [&](int v, int w, double weight) {
    rows.emplace_back(v, v, weight);
    rows.emplace_back(v, w, -weight);
  };
  for (const auto& e : topo.edges) {
    double weight = 0.0;
    for (const int f : {e.left, e.right}) {
      if (f < 0) continue;
      const Tri& t = mesh.triangles[f];
      const int c = t[0] + t[1] + t[2] - e.a - e.b;
      weight += 0.5 * cotangent(mesh.vertices[c], mesh.vertices[e.a], mesh.vertices[e.b]);
    }
    weight = std::clamp(weight, kLeastCotangent, kMostCotangent);
    if (beside[e.a].empty()) row(e.a, e.b, weight);
    if (beside[e.b].empty()) row(e.b, e.a, weight);
  }
  for (int v = 0; v < n; ++v)
    for (const int w : beside[v]) {
      const double mm = std::max(1e-3, (mesh.vertices[v] - mesh.vertices[w]).norm());
      if (beside[v].size() == 2) row(v, w, mass[v] / (mm * mm));
    }
  Sparse b(n, n);
  b.setFromTriplets(rows.begin(), rows.end());
  const auto held = held_vertices(mesh, topo, radius_mm);
  Eigen::VectorXd inverse(n), data(n);
  for (int v = 0; v < n; ++v) inverse[v] = 1.0 / mass[v], data[v] = mass[v] * (held[v] ? kHeldWeight : 1.0);
  const double r4 = std::pow(radius_mm, 4);
  Sparse system = r4 * Sparse(b.transpose() * inverse.asDiagonal() * b);
  for (int v = 0; v < n; ++v) system.coeffRef(v, v) += data[v];
  const Eigen::SimplicialLDLT<Sparse> solver(system);
  if (solver.info() != Eigen::Success) return mesh;
  Eigen::MatrixXd right(n, 3);
  for (int v = 0; v < n; ++v) right.row(v) = data[v] * mesh.vertices[v].transpose();
  const Eigen::MatrixXd x = solver.solve(right);
  if (!x.allFinite()) return mesh;
  Mesh smooth = mesh;
  for (int v = 0; v < n; ++v) smooth.vertices[v] = x.row(v).transpose();
  return smooth;
}

}  // namespace awl
