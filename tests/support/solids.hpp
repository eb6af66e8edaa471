#pragma once
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/geom/iso_surface.hpp"
#include "core/geom/mesh.hpp"
#include "core/geom/remesh.hpp"
#include "core/geom/split.hpp"
#include "support/turned.hpp"

namespace awl::test {

inline Mesh cube(double side) {
  Mesh m;
  for (int i = 0; i < 8; ++i) m.vertices.push_back(side * Vec3(i & 1, (i >> 1) & 1, (i >> 2) & 1));
  m.triangles = {{0, 2, 1}, {1, 2, 3}, {4, 5, 6}, {5, 7, 6}, {0, 1, 4}, {1, 5, 4}, {2, 6, 3}, {3, 6, 7}, {0, 4, 2},
      {2, 4, 6}, {1, 3, 5}, {3, 7, 5}};
  return m;
}

/// A patch of a surface given by a map from the unit square; open on all sides.
template <class Map>
Mesh patch(int n, Map map) {
  Mesh m;
  for (int j = 0; j <= n; ++j)
    for (int i = 0; i <= n; ++i) m.vertices.push_back(map(static_cast<double>(i) / n, static_cast<double>(j) / n));
  for (int j = 0; j < n; ++j)
    for (int i = 0; i < n; ++i) {
      const int a = j * (n + 1) + i, b = a + 1, c = a + n + 1, d = c + 1;
      if ((i + j) % 2 == 0)
        m.triangles.push_back({a, b, d}), m.triangles.push_back({a, d, c});
      else
        m.triangles.push_back({a, b, c}), m.triangles.push_back({b, d, c});
    }
  return m;
}

/// Half a cylinder or cone between two radii.
inline Mesh frustum(double bottom, double top, double height, int n) {
  return patch(n, [=](double u, double v) {
    const double a = kPi * u, r = bottom + v * (top - bottom);
    return Vec3(-r * std::cos(a), v * height, r * std::sin(a));
  });
}

inline Mesh ball(double radius, double edge) {
  const Vec3 box = Vec3::Constant(radius * 1.15);
  RemeshGoal goal;
  goal.edge_mm = [=](const Vec3&) { return edge; };
  goal.project = [=](const Vec3& p, bool) { return Vec3(radius * p.normalized()); };
  return remesh(
      *iso_surface(grid_over(-box, box, 0.08 * radius), [=](const Vec3& p) { return p.norm() - radius; }), goal);
}

/// One of n equal gores of a hemisphere.
inline Mesh gore(const Mesh& sphere, int n) {
  Mesh m = sphere;
  EdgeLabels held;
  const double a = kTwoPi / n;
  const auto cut = [&](const std::function<double(const Vec3&)>& f) {
    split_along(m, f, held);
    m = keep_where(m, f, held);
  };
  cut([](const Vec3& p) { return p.y(); });
  cut([](const Vec3& p) { return p.x(); });
  if (n > 2) cut([=](const Vec3& p) { return p.z() * std::sin(a) - p.x() * std::cos(a); });
  return m;
}

/// An upright cone on its base, closed but for the base.
inline Mesh upright_cone(double radius, double height, int around = 72, int rows = 24) {
  return turned([=](double s) { return radius * (1.0 - s); }, [=](double s) { return height * s; }, rows, around, 1)
      .mesh;
}

}  // namespace awl::test
