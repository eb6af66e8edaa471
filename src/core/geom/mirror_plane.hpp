#pragma once
#include <optional>

#include "core/geom/mesh.hpp"

namespace awl {

/// A plane in which a surface is its own image: n . x = d.
struct MirrorPlane {
  Vec3 normal = Vec3::UnitX();
  double d = 0.0;
  double off_mm = 0.0;  ///< 95 of 100 places of the image lie nearer to the surface than this
};

/// Looks for one: principal axes, those of the file and diagonals are tried, each refined by laying the image over the
/// surface. Nothing if 95 of 100 places do not come within `within_mm`.
///
/// Contract: not empty. Source: docs/formulas/parting.md. Cost: 0.1 to 0.3 s.
std::optional<MirrorPlane> mirror_plane_of(const Mesh& mesh, double within_mm);

/// The mesh turned and moved so that the plane becomes x = 0, by the least turn; others keep their direction.
Mesh with_plane_upright(const Mesh& mesh, const MirrorPlane& plane);

}  // namespace awl
