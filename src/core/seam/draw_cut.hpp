#pragma once
#include "core/seam/cutter.hpp"
#include "core/seam/seam_mesh.hpp"

namespace awl {

/// Draws cuts into a mesh: each becomes a smooth chain of edges of the one mesh, crossings share a vertex. See Cutter.
/// Errors: bad_file if the mesh is no surface (an edge with three triangles); those of Cutter::draw, with
/// "cuts/NUMBER".
Result<SeamMesh> draw_cuts(const Mesh& mesh, const std::vector<CutLine>& cuts);

}  // namespace awl
