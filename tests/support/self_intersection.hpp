#pragma once
#include "core/geom/mesh.hpp"

namespace awl::test {

/// Whether any two triangles of the mesh cross, by CGAL's exact predicates; behind plain vectors, since CGAL compiles
/// slowly.
bool crosses_itself(const Mesh& mesh);

}  // namespace awl::test
