#include "core/dress/shapes.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"

namespace awl {
namespace {

/// Rings of equal count joined one after the other; the first and the last are closed by fans.
Mesh joined_rings(const std::vector<std::vector<Vec3>>& rings, bool closed_round) {
  Mesh mesh;
  const int n = static_cast<int>(rings.front().size()), rows = static_cast<int>(rings.size());
  for (const auto& ring : rings) mesh.vertices.insert(mesh.vertices.end(), ring.begin(), ring.end());
  const int joints = closed_round ? rows : rows - 1;
  for (int r = 0; r < joints; ++r)
    for (int k = 0; k < n; ++k) {
      const int a = r * n + k, b = r * n + (k + 1) % n, c = (r + 1) % rows * n + k,
                d = (r + 1) % rows * n + (k + 1) % n;
      mesh.triangles.push_back({a, b, c});
      mesh.triangles.push_back({c, b, d});
    }
  if (closed_round) return mesh;
  for (int k = 1; k + 1 < n; ++k) {
    mesh.triangles.push_back({0, k + 1, k});
    mesh.triangles.push_back({(rows - 1) * n, (rows - 1) * n + k, (rows - 1) * n + k + 1});
  }
  return mesh;
}

std::vector<Vec3> ring_round(const Vec3& middle, const Vec3& u, const Vec3& v, double radius, int corners) {
  std::vector<Vec3> ring;
  for (int k = 0; k < corners; ++k) {
    const double a = kTwoPi * k / corners;
    ring.push_back(middle + radius * (std::cos(a) * u + std::sin(a) * v));
  }
  return ring;
}

}  // namespace

Mesh dome_on(const FormLine::At& at, double across_mm, double high_mm) {
  // Of small ones there are thousands: no finer than is seen.
  constexpr double kSmallMm = 6.0;
  const bool small = across_mm < kSmallMm;
  const int corners = small ? 6 : 8;
  const double r = 0.5 * across_mm;
  std::vector<std::vector<Vec3>> rings;
  for (const auto& [out, up] : {std::pair{1.0, -0.3}, {1.0, 0.2}, {0.7, 0.8}, {0.05, 1.0}})
    if (!small || up < 0.0 || up > 0.5)
      rings.push_back(ring_round(at.at + up * high_mm * at.normal, at.along, at.left, out * r, corners));
  return joined_rings(rings, false);
}

Mesh ring_on(const FormLine::At& at, double across_mm, double wide_mm, double high_mm) {
  constexpr int kCorners = 12;
  const double out = 0.5 * across_mm + wide_mm, in = 0.5 * across_mm;
  std::vector<std::vector<Vec3>> rings;
  for (const auto& [r, up] : {std::pair{out, -0.3}, {out, 0.6}, {0.5 * (out + in), 1.0}, {in, 0.6}, {in, -0.3}})
    rings.push_back(ring_round(at.at + up * high_mm * at.normal, at.along, at.left, r, kCorners));
  return joined_rings(rings, true);
}

Mesh bar_along(const std::vector<Vec3>& line, double across_mm, bool closed) {
  constexpr int kCorners = 6;
  if (line.size() < 2) return {};
  std::vector<std::vector<Vec3>> rings;
  Vec3 u = Vec3::Zero();
  for (std::size_t i = 0; i < line.size(); ++i) {
    const Vec3 &a = line[i > 0  ? i - 1
                       : closed ? line.size() - 1
                                : 0],
               &b = line[i + 1 < line.size() ? i + 1
                       : closed              ? 0
                                             : i];
    const Vec3 along = (b - a).normalized();
    if (u.norm() < 0.5) u = along.cross(std::abs(along.y()) < 0.9 ? Vec3::UnitY() : Vec3::UnitX());
    u = (u - along.dot(u) * along).normalized();
    rings.push_back(ring_round(line[i], u, along.cross(u), 0.5 * across_mm, kCorners));
  }
  return joined_rings(rings, closed);
}

Mesh band_along(const DressSite& site, const FormLine& line, double left_mm, double right_mm, double over_mm,
    double thick_mm, bool inside) {
  if (line.size() < 2) return {};
  std::vector<std::vector<Vec3>> rings;
  for (std::size_t i = 0; i < line.size(); ++i) {
    const Vec3 left = line.left(i);
    std::vector<Vec3> ring;
    constexpr int kAcross = 3;  // places across, so that it bends over a dome
    const auto put = [&](double share, double up) {
      const Vec3 asked = line.at[i] + (left_mm - share * (left_mm + right_mm)) * left;
      const NearestHit hit = site.hit(asked);
      const Vec3 normal = site.normal_at(hit);
      // What reaches out over a rim goes on straight.
      const Vec3 off = asked - hit.point, beyond = off - normal.dot(off) * normal;
      const Vec3 foot = hit.point + (beyond.norm() > 0.6 ? beyond : Vec3(Vec3::Zero()));
      ring.push_back(inside ? Vec3(foot + (site.inside_of(hit) - hit.point) - up * normal) : Vec3(foot + up * normal));
    };
    for (int k = 0; k < kAcross; ++k) put(static_cast<double>(k) / (kAcross - 1), over_mm - 0.15);
    for (int k = kAcross - 1; k >= 0; --k) put(static_cast<double>(k) / (kAcross - 1), over_mm + thick_mm);
    if (!inside) std::reverse(ring.begin(), ring.end());
    rings.push_back(std::move(ring));
  }
  return joined_rings(rings, line.closed);
}

Mesh cone_on(
    const Vec3& at, const Vec3& along, const Vec3& up, double wide_mm, double deep_mm, double high_mm, double lean) {
  constexpr int kCorners = 8;
  const Vec3 deep = up.cross(along).normalized();
  std::vector<std::vector<Vec3>> rings;
  for (const auto& [share, size] : {std::pair{-0.08, 1.0}, {0.3, 0.86}, {0.65, 0.5}, {0.9, 0.2}, {1.0, 0.03}}) {
    const Vec3 middle = at + share * high_mm * up + lean * share * share * high_mm * deep;
    std::vector<Vec3> ring;
    for (int k = 0; k < kCorners; ++k) {
      const double a = kTwoPi * k / kCorners;
      ring.push_back(middle + 0.5 * size * (wide_mm * std::cos(a) * along + deep_mm * std::sin(a) * deep));
    }
    rings.push_back(std::move(ring));
  }
  return joined_rings(rings, false);
}

Mesh leaf_on(const DressSite& site, const Vec3& root, const Vec3& along, double long_mm, double wide_mm,
    const std::vector<double>& widths, double over_mm, double lift_mm, double thick_mm) {
  const int rows = static_cast<int>(widths.size());
  std::vector<std::vector<Vec3>> rings;
  Vec3 at = root, way = along;
  for (int r = 0; r < rows; ++r) {
    const double share = static_cast<double>(r) / (rows - 1);
    const NearestHit hit = site.hit(at);
    const Vec3 normal = site.normal_at(hit);
    way = (way - normal.dot(way) * normal).normalized();
    const Vec3 side = normal.cross(way);
    const double up = over_mm + lift_mm * share * share, half = 0.5 * wide_mm * std::max(widths[r], 0.02);
    // Beyond the rim it goes on as it came.
    const Vec3 off = at - hit.point, foot = off.norm() > 1.0 ? at : hit.point;
    const auto edge = [&](double aside) {
      const NearestHit h = site.hit(foot + aside * side);
      const Vec3 put =
          off.norm() > 1.0 || (h.point - foot).norm() < 0.5 * std::abs(aside) ? Vec3(foot + aside * side) : h.point;
      return put;
    };
    const Vec3 l = edge(half), m = foot + 0.12 * wide_mm * widths[r] * normal, q = edge(-half);
    rings.push_back({q + up * normal, m + up * normal, l + up * normal, l + (up + thick_mm) * normal,
        m + (up + thick_mm) * normal, q + (up + thick_mm) * normal});
    at = foot + long_mm / (rows - 1) * way;
  }
  return joined_rings(rings, false);
}

Mesh cap_over(const std::vector<Vec3>& rim, const Vec3& out, double over_mm, double rise_mm, double thick_mm) {
  constexpr int kRings = 6;
  if (rim.size() < 3) return {};
  Vec3 middle = Vec3::Zero(), area = Vec3::Zero();
  for (const Vec3& p : rim) middle += p / static_cast<double>(rim.size());
  for (std::size_t i = 0; i < rim.size(); ++i) area += (rim[i] - middle).cross(rim[(i + 1) % rim.size()] - middle);
  Vec3 normal = area.norm() > 1e-9 ? Vec3(area.normalized()) : out;
  std::vector<Vec3> ring = rim;
  if (normal.dot(out) < 0.0) normal = -normal, std::reverse(ring.begin(), ring.end());
  std::vector<std::vector<Vec3>> rings;
  const auto layer = [&](double share, double up) {
    std::vector<Vec3> at;
    for (const Vec3& p : ring) at.push_back(middle + share * (p - middle) + up * normal);
    rings.push_back(std::move(at));
  };
  for (int k = 0; k <= kRings; ++k) {  // from below its middle outwards
    const double share = std::max(0.02, static_cast<double>(k) / kRings);
    layer(share, over_mm + rise_mm * (1.0 - share * share));
  }
  for (int k = kRings; k >= 0; --k) {
    const double share = std::max(0.02, static_cast<double>(k) / kRings);
    layer(share, over_mm + thick_mm + rise_mm * (1.0 - share * share));
  }
  return joined_rings(rings, false);
}

Mesh block_on(const FormLine::At& at, double along_mm, double across_mm, double high_mm, double over_mm) {
  const Vec3 a = 0.5 * along_mm * at.along, b = 0.5 * across_mm * at.left;
  std::vector<std::vector<Vec3>> rings;
  for (const double up : {over_mm - 0.2, over_mm + high_mm}) {
    const Vec3 m = at.at + up * at.normal;
    rings.push_back({m - a - b, m + a - b, m + a + b, m - a + b});
  }
  return joined_rings(rings, false);
}

}  // namespace awl
