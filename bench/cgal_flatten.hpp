#pragma once
#include "core/geom/mesh.hpp"

namespace awl::bench {

/// CGAL's as-rigid-as-possible parameterisation of a disk, for comparison only.
std::vector<Vec2> cgal_as_rigid_as_possible(const Mesh& panel);

}  // namespace awl::bench
