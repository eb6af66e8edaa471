#pragma once
#include "core/geom/mesh.hpp"

namespace awl {

/// Whether any two triangles of a surface cut each other, by exact predicates (CGAL). Contract: an orientable surface.
bool cuts_itself(const Mesh& mesh);

}  // namespace awl
