#include "core/geom/offset.hpp"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"

namespace awl {

std::vector<Vec3> plane_offset(const Mesh& mesh, double h_mm) {
  const std::size_t n = mesh.vertices.size();
  std::vector<Eigen::Matrix3d> a(n, Eigen::Matrix3d::Zero());
  std::vector<Vec3> b(n, Vec3::Zero());
  for (const Tri& t : mesh.triangles) {
    const Vec3 &p = mesh.vertices[t[0]], &q = mesh.vertices[t[1]], &r = mesh.vertices[t[2]];
    const Vec3 across = area_vector(mesh, t);
    const double twice = across.norm();
    if (!(twice > 0.0)) continue;
    const Vec3 normal = across / twice;
    const Eigen::Matrix3d plane = normal * normal.transpose();
    const double at_p = std::atan2(twice, (q - p).dot(r - p)), at_q = std::atan2(twice, (r - q).dot(p - q));
    const double angles[3] = {at_p, at_q, kPi - at_p - at_q};
    for (int k = 0; k < 3; ++k) {
      a[t[k]] += angles[k] * plane;
      b[t[k]] += angles[k] * h_mm * normal;
    }
  }
  std::vector<Vec3> moves(n, Vec3::Zero());
  for (std::size_t v = 0; v < n; ++v) {
    const double eps = 1e-3 * a[v].trace();
    if (eps <= 0.0) continue;
    const Vec3 mean = b[v].normalized() * (h_mm < 0.0 ? -1.0 : 1.0);
    moves[v] = (a[v] + eps * Eigen::Matrix3d::Identity()).inverse() * (b[v] + eps * h_mm * mean);
  }
  return moves;
}

Mesh offset_by_planes(const Mesh& mesh, double h_mm) {
  Mesh out = mesh;
  const auto moves = plane_offset(mesh, h_mm);
  for (std::size_t v = 0; v < moves.size(); ++v) out.vertices[v] += moves[v];
  return out;
}

Mesh sheet_offset(const Mesh& mesh, const std::vector<double>& by_mm) {
  constexpr double kMitre = 2.5;
  if (std::all_of(by_mm.begin(), by_mm.end(), [](double mm) { return mm == 0.0; })) return mesh;
  auto step = plane_offset(mesh, 1.0);
  for (std::size_t v = 0; v < step.size(); ++v)
    step[v] *= by_mm[v] * std::min(1.0, kMitre / std::max(step[v].norm(), 1e-9));
  Mesh face = mesh;
  for (int round = 0; round < 8; ++round) {
    for (std::size_t v = 0; v < step.size(); ++v) face.vertices[v] = mesh.vertices[v] + step[v];
    std::vector<char> tight(step.size(), 0);
    bool any = false;
    for (const Tri& t : mesh.triangles) {
      const Vec3 was = area_vector(mesh, t), now = area_vector(face, t);
      if (now.dot(was) > 0.02 * was.squaredNorm()) continue;
      for (const int w : t) tight[w] = 1, any = true;
    }
    if (!any) break;
    for (std::size_t v = 0; v < step.size(); ++v)
      if (tight[v]) step[v] *= 0.6;
  }
  return face;
}

Mesh solid_between(const Mesh& outer, const Mesh& inner) {
  const int n = static_cast<int>(outer.vertices.size());
  Mesh solid = outer;
  solid.vertices.insert(solid.vertices.end(), inner.vertices.begin(), inner.vertices.end());
  for (const Tri& t : inner.triangles) solid.triangles.push_back({t[0] + n, t[2] + n, t[1] + n});
  for (const auto& loop : border_loops(outer))
    for (std::size_t i = 0; i < loop.size(); ++i) {
      const int a = loop[i], b = loop[(i + 1) % loop.size()];
      solid.triangles.push_back({b, a, a + n});
      solid.triangles.push_back({b, a + n, b + n});
    }
  return solid;
}

Mesh thickened(const Mesh& surface, double mm) {
  const Mesh other = offset_by_planes(surface, mm);
  return mm > 0.0 ? solid_between(other, surface) : solid_between(surface, other);
}

}  // namespace awl
