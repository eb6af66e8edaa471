#pragma once
#include <functional>

#include "core/geom/mesh.hpp"

namespace awl {

/// What an adaptive remeshing aims at. Borders stay borders; their vertices only slide along them.
struct RemeshGoal {
  std::function<double(const Vec3&)> edge_mm;                ///< wanted edge length at a place
  std::function<Vec3(const Vec3&, bool on_border)> project;  ///< back onto the true surface; asked from several threads
  std::function<int(const Vec3&)> border_kind =
      {};  ///< borders of different kinds keep the corners between them; none: all alike
  int passes = 6;
  int smoothings = 4;  ///< rounds of flip and smooth after the passes
};

/// Even triangles of the wanted size on the same surface.
///
/// Contract: `mesh` is a manifold without loose vertices. Split above 4/3, collapse below 0.8 of the wanted length,
/// flip for the larger smallest angle, tangential smoothing weighted area/h^3. Source: bibliography botsch2004.
Mesh remesh(Mesh mesh, const RemeshGoal& goal);

}  // namespace awl
