#pragma once
// Only for the sources that are compiled with CGAL.
#include <CGAL/Exact_predicates_inexact_constructions_kernel.h>
#include <CGAL/Surface_mesh.h>

#include "core/geom/mesh.hpp"

namespace awl {

using CgalKernel = CGAL::Exact_predicates_inexact_constructions_kernel;
using CgalSurface = CGAL::Surface_mesh<CgalKernel::Point_3>;

/// To CGAL and back. Contract: an orientable surface without edges of more than two triangles.
CgalSurface surface_of(const Mesh& mesh);
Mesh plain(const CgalSurface& surface);

}  // namespace awl
