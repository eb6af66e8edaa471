#include "core/geom/section.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>
#include <map>
#include <numeric>

namespace awl {

Plane plane_through(const Vec3& a, const Vec3& b, const Vec3& c) { return {a, (b - a).cross(c - a).normalized()}; }

std::vector<EdgePoint> crossings(
    const std::vector<std::array<int, 2>>& edges, const std::vector<Vec3>& vertices, const Plane& plane) {
  std::vector<double> height(vertices.size());
  std::vector<char> above(vertices.size());
  for (std::size_t v = 0; v < vertices.size(); ++v) above[v] = (height[v] = plane.height(vertices[v])) >= 0.0 ? 1 : 0;
  std::vector<EdgePoint> points;
  for (const auto& [a, b] : edges)
    if (above[a] != above[b]) points.push_back({a, b, height[a] / (height[a] - height[b])});
  return points;
}

std::vector<std::vector<Vec3>> section_lines(const Mesh& mesh, const Plane& plane) {
  std::vector<double> heights;
  heights.reserve(mesh.vertices.size());
  for (const Vec3& p : mesh.vertices) heights.push_back(plane.height(p));
  return zero_lines(mesh, heights);
}

std::vector<std::vector<Vec3>> zero_lines(const Mesh& mesh, const std::vector<double>& values) {
  std::map<std::pair<int, int>, std::pair<int, int>>
      next;  // edge left by -> edge entered by, walking with the inside left
  std::map<std::pair<int, int>, Vec3> at;
  const auto key = [](int a, int b) { return std::pair{std::min(a, b), std::max(a, b)}; };
  for (const Tri& t : mesh.triangles) {
    std::pair<int, int> up{-1, -1}, down{-1, -1};
    for (int k = 0; k < 3; ++k) {
      const int a = t[k], b = t[(k + 1) % 3];
      const double ha = values[a], hb = values[b];
      if ((ha < 0.0) == (hb < 0.0)) continue;
      (ha < 0.0 ? up : down) = key(a, b);
      at[key(a, b)] = mesh.vertices[a] + ha / (ha - hb) * (mesh.vertices[b] - mesh.vertices[a]);
    }
    if (up.first >= 0) next[up] = down;
  }
  std::map<std::pair<int, int>, int> entered;
  for (const auto& [from, to] : next) ++entered[to];
  std::vector<std::vector<Vec3>> lines;
  const auto walk = [&](std::pair<int, int> start) {
    std::vector<Vec3> line{at[start]};
    for (auto it = next.find(start); it != next.end(); it = next.find(start)) {
      start = it->second;
      line.push_back(at[start]);
      next.erase(it);
    }
    lines.push_back(std::move(line));
  };
  std::vector<std::pair<int, int>> open;
  for (const auto& [from, to] : next)
    if (entered.count(from) == 0) open.push_back(from);
  for (const auto& from : open) walk(from);
  while (!next.empty()) walk(next.begin()->first);
  return lines;
}

std::vector<int> convex_hull(const std::vector<Vec2>& points) {
  std::vector<int> order(points.size());
  std::iota(order.begin(), order.end(), 0);
  std::sort(order.begin(), order.end(), [&](int a, int b) {
    return points[a].x() != points[b].x() ? points[a].x() < points[b].x() : points[a].y() < points[b].y();
  });
  if (order.size() < 3) return order;
  const auto turn = [&](int o, int a, int b) {
    const Vec2 u = points[a] - points[o], w = points[b] - points[o];
    return u.x() * w.y() - u.y() * w.x();
  };
  std::vector<int> hull(2 * order.size());
  std::size_t k = 0;
  for (const int p : order) {
    while (k >= 2 && turn(hull[k - 2], hull[k - 1], p) <= 0.0) --k;
    hull[k++] = p;
  }
  for (std::size_t i = order.size() - 1, lower = k + 1; i-- > 0;) {
    while (k >= lower && turn(hull[k - 2], hull[k - 1], order[i]) <= 0.0) --k;
    hull[k++] = order[i];
  }
  hull.resize(k > 1 ? k - 1 : k);
  return hull;
}

double closed_length(const std::vector<Vec2>& points, const std::vector<int>& order) {
  double sum = 0.0;
  for (std::size_t i = 0; i < order.size(); ++i)
    sum += (points[order[(i + 1) % order.size()]] - points[order[i]]).norm();
  return sum;
}

double tape_round_mm(const std::vector<Vec2>& points) { return closed_length(points, convex_hull(points)); }

PlaneFrame frame_of(const Plane& plane) {
  const Vec3 help = std::abs(plane.normal.x()) < 0.9 ? Vec3::UnitX() : Vec3::UnitY();
  const Vec3 u = (help - plane.normal.dot(help) * plane.normal).normalized();
  return {plane.origin, u, plane.normal.cross(u)};
}

}  // namespace awl
