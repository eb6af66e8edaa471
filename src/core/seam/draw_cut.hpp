#pragma once
#include "core/seam/seam_mesh.hpp"

namespace awl {

/// One drawn cut: points on or near the mesh, in its coordinates. A cut that ends where it began is closed.
using CutLine = std::vector<Vec3>;

/// Draws cuts into a mesh: each becomes a smooth chain of edges of the one mesh, crossings share a vertex.
///
/// Between two points the cut runs in the plane through both and the mean normal, anchored anew at every edge; where a
/// walk fails it follows the shortest way along edges. Vertices nearer than 5 % of an edge are moved onto the cut.
/// Errors: bad_file if the mesh is no surface (an edge with three triangles); degenerate_shape for a cut of fewer than
///         two points; not_a_disk if two points lie on parts that are not connected.
Result<SeamMesh> draw_cuts(const Mesh& mesh, const std::vector<CutLine>& cuts);

}  // namespace awl
