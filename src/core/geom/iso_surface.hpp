#pragma once
#include <functional>

#include "core/base/progress.hpp"
#include "core/base/result.hpp"
#include "core/geom/mesh.hpp"

namespace awl {

/// A box of cubic cells; the first corner is exactly `low`.
struct Grid {
  Vec3 low = Vec3::Zero();
  double cell_mm = 2.0;
  std::array<int, 3> cells{0, 0, 0};
};
Grid grid_over(const Vec3& low, const Vec3& high, double cell_mm);

/// Surface where `field` is zero, inside where it is negative, by marching tetrahedra (six to a cell).
///
/// Shape:  where the surface leaves the grid it has a border lying exactly on the grid's side.
/// Cost:   one call of `field` per grid corner.
/// Errors: cancelled.
Result<Mesh> iso_surface(const Grid& grid, const std::function<double(const Vec3&)>& field, const Progress& progress = {});

}  // namespace awl
