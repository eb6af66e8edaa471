#pragma once
#include <Eigen/Core>
#include <array>
#include <functional>
#include <numeric>
#include <span>
#include <vector>

namespace awl {

using Vec2 = Eigen::Vector2d;
using Vec3 = Eigen::Vector3d;
using Tri = std::array<int, 3>;

/// A triangle surface in millimetres; corners run counter-clockwise seen from outside.
struct Mesh {
  std::vector<Vec3> vertices;
  std::vector<Tri> triangles;
  bool operator==(const Mesh&) const = default;
};

/// Smallest and largest coordinates of a set of points.
struct Box {
  Vec3 low = Vec3::Constant(1e300), high = Vec3::Constant(-1e300);
  void include(const Vec3& p) { low = low.cwiseMin(p), high = high.cwiseMax(p); }
  Vec3 size() const { return high - low; }
};
Box box_of(const std::vector<Vec3>& points);

/// Twice the area times the unit normal of one triangle.
Vec3 area_vector(const Mesh& mesh, const Tri& t);
double area_mm2(const Mesh& mesh);
/// Volume enclosed; meaningful for closed meshes only, negative if inside out.
double volume_mm3(const Mesh& mesh);

/// Angle at a corner of a triangle between its other two, radians.
double corner_angle(const Vec3& at, const Vec3& p, const Vec3& q);

/// Closest point of one triangle as barycentric weights. Source: bibliography ericson2005, chapter 5.
Vec3 closest_weights(const Vec3& p, const Vec3& a, const Vec3& b, const Vec3& c);

/// Unit normals at the vertices, weighted by corner angle.
std::vector<Vec3> vertex_normals(const Mesh& mesh);

/// Smallest corner angle of all triangles in degrees.
double smallest_angle_deg(const Mesh& mesh);

/// Numbers in rows, one row after the other.
class Rows {
 public:
  Rows() = default;
  /// `tell` is called twice, with what takes a row and a number for it, and must tell the same both times.
  template <class Tell>
  Rows(std::size_t rows, const Tell& tell) : begin_(rows + 1, 0) {
    tell([&](int row, int) { ++begin_[row + 1]; });
    std::partial_sum(begin_.begin(), begin_.end(), begin_.begin());
    numbers_.resize(begin_.back());
    std::vector<int> next(begin_.begin(), begin_.end() - 1);
    tell([&](int row, int number) { numbers_[next[row]++] = number; });
  }
  std::span<const int> operator[](std::size_t row) const {
    return {numbers_.data() + begin_[row], numbers_.data() + begin_[row + 1]};
  }

 private:
  std::vector<int> begin_, numbers_;
};

/// The triangles round each vertex, in rising order.
Rows faces_round(const Mesh& mesh);

/// Who touches whom: the faces round each vertex and across each edge.
struct Topology {
  struct Edge {
    int a = -1, b = -1;         ///< vertices, a < b
    int left = -1, right = -1;  ///< triangles; right is -1 on a border
    int more = 0;               ///< triangles beyond the second: not a surface there
  };
  std::vector<Edge> edges;
  std::vector<std::array<int, 3>> edges_of;  ///< per triangle: edge k runs from corner k to corner k+1
  Rows faces_round;

  bool is_border(int edge) const { return edges[edge].right < 0; }
};
Topology topology_of(const Mesh& mesh);

/// Closed border loops as vertex lists, with the surface on the left; first loop starts at the smallest vertex.
std::vector<std::vector<int>> border_loops(const Mesh& mesh);

/// Vertices minus edges plus triangles, counting only vertices in use.
int euler_characteristic(const Mesh& mesh);

/// For each triangle the number of its connected part (across shared edges for which `joined` is true), 0-based.
std::vector<int> connected_parts(const Mesh& mesh, const std::function<bool(int a, int b)>& joined);

/// The listed triangles as a mesh of their own; `vertex_of` receives the old index of each new vertex.
Mesh part_of(const Mesh& mesh, const std::vector<int>& triangles, std::vector<int>& vertex_of);

/// Whole surface from its x >= 0 half. Vertices with |x| < snap_mm lie on the mirror plane and are shared.
struct Mirrored {
  Mesh mesh;
  std::vector<int> twin_of;  ///< vertex -> its mirror image (itself on the plane)
};
Mirrored mirror_half(const Mesh& half, double snap_mm = 1e-6);

}  // namespace awl
