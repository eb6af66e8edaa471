#include "core/dress/distance.hpp"

#include <Eigen/Geometry>
#include <cmath>
#include <queue>

#include "core/geom/section.hpp"
#include "core/seam/strain.hpp"

namespace awl {
namespace {

constexpr double kNever = 1e300;

/// Arrival at a corner from two others by a plane wave; the way along a side where none passes between them.
double planar_arrival(const Vec3& c, const Vec3& a, double ta, const Vec3& b, double tb) {
  const double along_sides = std::min(ta + (c - a).norm(), tb + (c - b).norm());
  // Unknown direction of a unit gradient g in the plane of the triangle: g.(a - c) = ta - t, g.(b - c) = tb - t.
  const Vec3 u = a - c, v = b - c;
  const double uu = u.dot(u), uv = u.dot(v), vv = v.dot(v), det = uu * vv - uv * uv;
  if (det < 1e-12 * uu * vv) return along_sides;
  // t solves |Q^-1 form| = 1 with q = inverse Gram matrix.
  const double q11 = vv / det, q12 = -uv / det, q22 = uu / det;
  const double sum = q11 + 2.0 * q12 + q22, first = (q11 + q12) * ta + (q12 + q22) * tb,
               rest = q11 * ta * ta + 2.0 * q12 * ta * tb + q22 * tb * tb - 1.0;
  const double root = first * first - sum * rest;
  if (root < 0.0) return along_sides;
  const double t = (first + std::sqrt(root)) / sum;
  // The front must come from between both sides: the gradient, as a mix of u and v, points back into the triangle.
  const double mu = q11 * (t - ta) + q12 * (t - tb), mv = q12 * (t - ta) + q22 * (t - tb);
  if (mu < 0.0 || mv < 0.0 || t < std::max(ta, tb)) return along_sides;
  return std::min(t, along_sides);
}

}  // namespace

std::vector<double> distance_over(const Mesh& mesh, const std::vector<Vec3>& line, bool closed, double within) {
  std::vector<double> far(mesh.vertices.size(), kNever);
  std::vector<std::vector<int>> round(mesh.vertices.size());
  for (std::size_t f = 0; f < mesh.triangles.size(); ++f)
    for (const int v : mesh.triangles[f]) round[v].push_back(static_cast<int>(f));
  using Entry = std::pair<double, int>;
  std::priority_queue<Entry, std::vector<Entry>, std::greater<>> open;
  const auto reach = [&](int v, double d) {
    if (d < far[v] && d <= within) far[v] = d, open.push({d, v});
  };
  // Corners of the triangles the line passes, by how far they are from it through the air: they are next to it.
  const Nearest near(mesh);
  std::vector<char> met(mesh.triangles.size(), 0);
  for (const Vec3& p : line)
    if (const int f = near.to(p).triangle; f >= 0) met[f] = 1;
  const std::size_t stretches = line.size() < 2 ? 0 : line.size() - (closed ? 0 : 1);
  for (std::size_t f = 0; f < met.size(); ++f) {
    if (!met[f]) continue;
    for (const int v : mesh.triangles[f]) {
      double d = line.size() == 1 ? (line[0] - mesh.vertices[v]).norm() : kNever;
      for (std::size_t i = 0; i < stretches; ++i)
        d = std::min(
            d, (closest_on_stretch(mesh.vertices[v], line[i], line[(i + 1) % line.size()]) - mesh.vertices[v]).norm());
      reach(v, d);
    }
  }
  std::vector<char> done(mesh.vertices.size(), 0);
  while (!open.empty()) {
    const auto [d, v] = open.top();
    open.pop();
    if (done[v] || d > far[v]) continue;
    done[v] = 1;
    for (const int f : round[v]) {
      const Tri& t = mesh.triangles[f];
      for (int k = 0; k < 3; ++k) {
        const int c = t[k], a = t[(k + 1) % 3], b = t[(k + 2) % 3];
        if (done[c] || c == v) continue;
        if (done[a] && done[b])
          reach(c, planar_arrival(mesh.vertices[c], mesh.vertices[a], far[a], mesh.vertices[b], far[b]));
        else
          reach(c, d + (mesh.vertices[c] - mesh.vertices[v]).norm());
      }
    }
  }
  return far;
}

std::vector<SiteLine> level_lines(const Mesh& mesh, const std::vector<double>& values, double level) {
  Mesh known;
  known.vertices = mesh.vertices;
  for (const Tri& t : mesh.triangles)
    if (values[t[0]] < kNever && values[t[1]] < kNever && values[t[2]] < kNever) known.triangles.push_back(t);
  std::vector<double> above;
  above.reserve(values.size());
  for (const double v : values) above.push_back(v - level);
  std::vector<SiteLine> lines;
  for (auto& at : zero_lines(known, above)) {
    SiteLine line{{}, std::move(at), false};
    line.closed = line.at.size() > 3 && (line.at.front() - line.at.back()).norm() < 1e-9;
    if (line.closed) line.at.pop_back();
    if (line.at.size() > 1) lines.push_back(std::move(line));
  }
  return lines;
}

Vec3 slope_at(const Mesh& mesh, const std::vector<double>& values, const NearestHit& hit) {
  const Tri& t = mesh.triangles[hit.triangle];
  const Vec3 &a = mesh.vertices[t[0]], &b = mesh.vertices[t[1]], &c = mesh.vertices[t[2]];
  const Vec3 normal = (b - a).cross(c - a);
  const double doubled = normal.squaredNorm();
  if (doubled < 1e-18) return Vec3::Zero();
  return (values[t[0]] * normal.cross(c - b) + values[t[1]] * normal.cross(a - c) +
             values[t[2]] * normal.cross(b - a)) /
      doubled;
}

Vec3 growth_at(const Mesh& mesh, const std::vector<double>& values, const NearestHit& hit) {
  const Vec3 growth = slope_at(mesh, values, hit);
  return growth.norm() > 1e-12 ? Vec3(growth.normalized()) : Vec3(Vec3::Zero());
}

}  // namespace awl
