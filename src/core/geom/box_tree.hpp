#pragma once
#include <Eigen/Geometry>
#include <limits>

#include "core/geom/mesh.hpp"

namespace awl {

/// The triangle of a mesh that is closest to a place.
struct ClosestTriangle {
  int triangle = -1;
  Vec3 point = Vec3::Zero(), weights = Vec3::Zero();         ///< barycentric, of the triangle's corners
  double squared = std::numeric_limits<double>::infinity();  ///< of its distance, mm
};

/// Boxes round the triangles of one mesh, four to a node. It does not keep the mesh.
///
/// Accuracy: boxes are of single precision and a hair too large, what is found is exact in double. Triangles that are
/// not finite are left out.
class BoxTree {
 public:
  explicit BoxTree(const Mesh& mesh);

  /// No triangle where the mesh has none, or none is as near as `within_mm`. `mesh`: the one it was made of.
  ClosestTriangle closest(
      const Mesh& mesh, const Vec3& p, double within_mm = std::numeric_limits<double>::infinity()) const;

 private:
  struct Node {
    Eigen::Array4f low[3], high[3];  ///< of each of four; empty ones have nothing in them
    int child[4];                    ///< a node, or ~ a triangle
  };
  struct Making;

  int add(Making& making, std::size_t first, std::size_t last, Eigen::AlignedBox3f& box);

  std::vector<Node> nodes_;
  double most_ = 0.0;  ///< largest coordinate by size
  int any_ = 0;        ///< one of its triangles
};

}  // namespace awl
