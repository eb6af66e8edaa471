#pragma once
#include "core/base/result.hpp"
#include "core/geom/mesh.hpp"

namespace awl {

/// A flat region in triangles.
struct FlatMesh {
  std::vector<Vec2> vertices;
  std::vector<Tri> triangles;  ///< counter-clockwise
};

/// Triangles of about `edge_mm` inside a closed outline, holes left out; the outline's own corners are kept as they
/// are.
///
/// Errors: degenerate_shape for fewer than three corners, an outline or hole that crosses itself or another, or no
/// area. Accuracy: smallest angle 20 degrees but where two edges of the outline meet more sharply (Delaunay refinement,
/// CGAL).
Result<FlatMesh> triangulate(
    const std::vector<Vec2>& outline, const std::vector<std::vector<Vec2>>& holes, double edge_mm);

/// A smooth closed or open curve through points, sampled about every `step_mm`; corners stay corners (centripetal
/// Catmull-Rom between them, which never loops or overshoots within a span).
struct CurvePoint {
  Vec2 at = Vec2::Zero();
  bool corner = false;
  bool operator==(const CurvePoint&) const = default;
};
std::vector<Vec2> smooth_curve(const std::vector<CurvePoint>& points, bool closed, double step_mm);

}  // namespace awl
