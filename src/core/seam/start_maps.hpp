#pragma once
#include <vector>

#include "core/seam/strain.hpp"

namespace awl {

/// First maps of a disk to the plane, for the flattener to improve. `border` is the panel's border loop.
namespace start_maps {

/// Least-squares conformal map, two farthest border vertices held, scaled to the 3D area. Source: levy2002.
std::vector<Vec2> conformal(
    const Mesh& panel, const std::vector<TriangleFrame>& frames, const std::vector<int>& border);

/// Border on a circle by arc length, inside by mean-value weights: never turns a triangle over. Source: floater2003.
std::vector<Vec2> circle(const Mesh& panel, const std::vector<int>& border);

}  // namespace start_maps
}  // namespace awl
