#pragma once
#include <vector>

#include "core/geom/mesh.hpp"

namespace awl {

/// How far a flat piece must stretch or squeeze to become its panel: e = 1/sigma - 1 per direction.
struct Strain {
  double max = 0.0;                         ///< largest |e| of any triangle
  double p99 = 0.0, p95 = 0.0, mean = 0.0;  ///< of |e|, weighted by area
  double stretch = 0.0, squeeze = 0.0;      ///< largest e > 0 and largest -e
  bool operator==(const Strain&) const = default;
};

/// Gradients of the three corner functions in a frame of the triangle's own, and its area.
struct TriangleFrame {
  Eigen::Matrix<double, 2, 3> gradients;
  double area_mm2 = 0.0;
};
TriangleFrame frame_of_triangle(const Vec3& a, const Vec3& b, const Vec3& c);

/// Singular values s1 >= s2 (s2 negative if turned over), with J = U diag(s) V^T, U and V rotations.
struct Polar2 {
  double s1 = 0.0, s2 = 0.0;
  Eigen::Matrix2d u, v;
};
Polar2 signed_svd(const Eigen::Matrix2d& j);

/// Worst signed strain of each triangle (+ stretch, - squeeze) of the map mesh -> uv.
std::vector<double> triangle_strains(const Mesh& panel, const std::vector<Vec2>& uv);
Strain summarise(const Mesh& panel, const std::vector<Vec2>& uv);
/// Triangles turned over by the map.
int count_flips(const Mesh& panel, const std::vector<Vec2>& uv);

}  // namespace awl
