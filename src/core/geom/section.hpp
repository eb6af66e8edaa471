#pragma once
#include <vector>

#include "core/geom/mesh.hpp"

namespace awl {

/// A plane through `origin` with unit `normal`.
struct Plane {
  Vec3 origin = Vec3::Zero();
  Vec3 normal = Vec3::UnitY();
  double height(const Vec3& p) const { return normal.dot(p - origin); }
};
/// The plane through three points (normal by the right-hand rule).
Plane plane_through(const Vec3& a, const Vec3& b, const Vec3& c);

/// A point that rides on a mesh edge: (1 - t) * from + t * to.
struct EdgePoint {
  int from = -1, to = -1;
  double t = 0.0;
  Vec3 on(const std::vector<Vec3>& vertices) const { return (1.0 - t) * vertices[from] + t * vertices[to]; }
};

/// Where a plane crosses the given edges (pairs of vertices).
std::vector<EdgePoint> crossings(
    const std::vector<std::array<int, 2>>& edges, const std::vector<Vec3>& vertices, const Plane& plane);

/// Where a function of the vertices is zero, as polylines through the mesh with the negative side on the left; closed
/// ones repeat their first point at the end.
std::vector<std::vector<Vec3>> zero_lines(const Mesh& mesh, const std::vector<double>& values);

/// The section as polylines through the mesh, closed ones repeating their first point at the end.
std::vector<std::vector<Vec3>> section_lines(const Mesh& mesh, const Plane& plane);

/// Indices of the convex hull, counter-clockwise. Cost: n log n. Source: bibliography andrew1979.
std::vector<int> convex_hull(const std::vector<Vec2>& points);

/// Length of the closed polygon through `points` in the order of `order`.
double closed_length(const std::vector<Vec2>& points, const std::vector<int>& order);

/// What a tape round the points reads: the perimeter of their convex hull.
double tape_round_mm(const std::vector<Vec2>& points);

/// Two unit vectors in the plane, so that (u, v, normal) is right-handed.
struct PlaneFrame {
  Vec3 origin, u, v;
  Vec2 operator()(const Vec3& p) const { return {u.dot(p - origin), v.dot(p - origin)}; }
};
PlaneFrame frame_of(const Plane& plane);

}  // namespace awl
