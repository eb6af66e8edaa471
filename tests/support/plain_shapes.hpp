#pragma once
#include <cmath>
#include <functional>
#include <map>

#include "core/base/numbers.hpp"
#include "core/geom/mesh.hpp"

namespace awl::test {

using Map = std::function<Vec3(double u, double v)>;

/// A surface over the unit square in nu x nv squares; closed round in a direction if `wrap` says so.
inline Mesh structured(int nu, int nv, bool wrap_u, bool wrap_v, const Map& map) {
  const int columns = wrap_u ? nu : nu + 1, rows = wrap_v ? nv : nv + 1;
  Mesh m;
  for (int j = 0; j < rows; ++j)
    for (int i = 0; i < columns; ++i)
      m.vertices.push_back(map(static_cast<double>(i) / nu, static_cast<double>(j) / nv));
  const auto at = [&](int i, int j) { return (j % rows) * columns + i % columns; };
  for (int j = 0; j < nv; ++j)
    for (int i = 0; i < nu; ++i) {
      m.triangles.push_back({at(i, j), at(i + 1, j), at(i + 1, j + 1)});
      m.triangles.push_back({at(i, j), at(i + 1, j + 1), at(i, j + 1)});
    }
  return m;
}

/// Vertices at one place made one; what has no area left is dropped.
inline Mesh welded(const Mesh& mesh) {
  std::map<std::array<long, 3>, int> known;
  std::vector<int> now;
  Mesh out;
  for (const Vec3& p : mesh.vertices) {
    const auto [it, fresh] =
        known.try_emplace({std::lround(p.x() * 1e6), std::lround(p.y() * 1e6), std::lround(p.z() * 1e6)},
            static_cast<int>(out.vertices.size()));
    if (fresh) out.vertices.push_back(p);
    now.push_back(it->second);
  }
  for (const Tri& t : mesh.triangles) {
    const Tri w{now[t[0]], now[t[1]], now[t[2]]};
    if (w[0] != w[1] && w[1] != w[2] && w[2] != w[0]) out.triangles.push_back(w);
  }
  return out;
}

inline Vec3 on_sphere(double radius, double u, double v) {
  return radius *
      Vec3(std::sin(kPi * v) * std::cos(kTwoPi * u), std::cos(kPi * v), std::sin(kPi * v) * std::sin(kTwoPi * u));
}
inline Mesh grid_sphere(double radius) {
  return welded(structured(32, 16, true, false, [=](double u, double v) { return on_sphere(radius, u, v); }));
}
inline Mesh grid_hemisphere(double radius) {
  return welded(structured(32, 10, true, false, [=](double u, double v) { return on_sphere(radius, u, 0.5 * v); }));
}
inline Mesh cylinder(double radius, double height) {
  return structured(32, 12, true, false, [=](double u, double v) {
    return Vec3(radius * std::cos(kTwoPi * u), height * (v - 0.5), -radius * std::sin(kTwoPi * u));
  });
}
inline Mesh cone(double radius, double height) {
  return welded(structured(32, 12, true, false, [=](double u, double v) {
    return Vec3(
        radius * (1.0 - v) * std::cos(kTwoPi * u), height * (v - 0.5), -radius * (1.0 - v) * std::sin(kTwoPi * u));
  }));
}
inline Vec3 on_torus(double ring, double tube, double u, double v) {
  const double r = ring + tube * std::cos(v);
  return {r * std::cos(u), tube * std::sin(v), -r * std::sin(u)};
}
inline Mesh torus(double ring, double tube) {
  return structured(
      32, 16, true, true, [=](double u, double v) { return on_torus(ring, tube, kTwoPi * u, kTwoPi * v); });
}

inline Mesh box(double side) {
  Mesh all;
  for (int axis = 0; axis < 3; ++axis)
    for (const double s : {-1.0, 1.0}) {
      const Mesh face = structured(8, 8, false, false, [=](double u, double v) {
        Vec3 p;
        p[axis] = 0.5 * side * s, p[(axis + 1) % 3] = s * side * (u - 0.5), p[(axis + 2) % 3] = side * (v - 0.5);
        return p;
      });
      const int n = static_cast<int>(all.vertices.size());
      all.vertices.insert(all.vertices.end(), face.vertices.begin(), face.vertices.end());
      for (const Tri& t : face.triangles) all.triangles.push_back({t[0] + n, t[1] + n, t[2] + n});
    }
  return welded(all);
}

/// An icosahedron, each triangle split in four `times` over.
inline Mesh icosphere(double radius, int times) {
  const double g = 0.5 * (1.0 + std::sqrt(5.0));
  Mesh m;
  for (const Vec3& p : {Vec3(-1, g, 0), Vec3(1, g, 0), Vec3(-1, -g, 0), Vec3(1, -g, 0), Vec3(0, -1, g), Vec3(0, 1, g),
           Vec3(0, -1, -g), Vec3(0, 1, -g), Vec3(g, 0, -1), Vec3(g, 0, 1), Vec3(-g, 0, -1), Vec3(-g, 0, 1)})
    m.vertices.push_back(radius * p.normalized());
  m.triangles = {{0, 11, 5}, {0, 5, 1}, {0, 1, 7}, {0, 7, 10}, {0, 10, 11}, {1, 5, 9}, {5, 11, 4}, {11, 10, 2},
      {10, 7, 6}, {7, 1, 8}, {3, 9, 4}, {3, 4, 2}, {3, 2, 6}, {3, 6, 8}, {3, 8, 9}, {4, 9, 5}, {2, 4, 11}, {6, 2, 10},
      {8, 6, 7}, {9, 8, 1}};
  for (int round = 0; round < times; ++round) {
    std::map<std::pair<int, int>, int> middles;
    const auto middle = [&](int a, int b) {
      const auto [it, fresh] = middles.try_emplace(std::minmax(a, b), static_cast<int>(m.vertices.size()));
      if (fresh) m.vertices.push_back(radius * (m.vertices[a] + m.vertices[b]).normalized());
      return it->second;
    };
    std::vector<Tri> split;
    for (const Tri& t : m.triangles) {
      const int a = middle(t[0], t[1]), b = middle(t[1], t[2]), c = middle(t[2], t[0]);
      for (const Tri& one : {Tri{t[0], a, c}, Tri{t[1], b, a}, Tri{t[2], c, b}, Tri{a, b, c}}) split.push_back(one);
    }
    m.triangles = std::move(split);
  }
  return m;
}

/// What of a mesh lies above y = 0 with its middle, with a jagged rim.
inline Mesh upper_half(const Mesh& mesh) {
  std::vector<int> kept, old;
  for (int f = 0; f < static_cast<int>(mesh.triangles.size()); ++f) {
    const Tri& t = mesh.triangles[f];
    if (mesh.vertices[t[0]].y() + mesh.vertices[t[1]].y() + mesh.vertices[t[2]].y() > 0.0) kept.push_back(f);
  }
  return part_of(mesh, kept, old);
}

}  // namespace awl::test
