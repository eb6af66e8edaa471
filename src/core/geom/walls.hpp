#pragma once
#include "core/base/result.hpp"
#include "core/geom/mesh.hpp"

namespace awl {

/// The part of a double-walled mesh that is seen from outside.
struct OuterWall {
  Mesh mesh;
  double kept_share = 1.0;  ///< of the area
};

/// Keeps what sees more of the sky than the wall behind it: the outer of two walls, whether they are parted or joined
/// at their rims.
///
/// Shape:  a hollow with a rim gives its outer wall with a border where the rim was; a single wall stays as it is.
/// Errors: degenerate_shape if nothing is seen from outside.
/// Cost:   rays x triangles; 64 rays a triangle.
Result<OuterWall> outer_wall(const Mesh& mesh);

}  // namespace awl
