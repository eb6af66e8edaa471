#pragma once
#include "core/geom/polygon.hpp"
#include "core/geom/section.hpp"

namespace awl {

/// A surface made closed: every border filled by a fan to its middle.
Mesh capped(const Mesh& surface);

/// Puts another mesh beside what there is; nothing is welded.
void add_mesh(Mesh& to, const Mesh& more);

/// What a plane cuts out of a closed solid, seen against the plane's normal: outer rings counter-clockwise, holes
/// clockwise.
Rings section_region(const Mesh& solid, const Plane& plane);

/// The shadow of a solid on a plane, in the plane's frame. Accuracy: 1/1000 mm (Clipper). Cost: n log n in its
/// triangles.
Rings silhouette(const Mesh& solid, const PlaneFrame& frame);

/// Three right-angled directions that lie with a solid: the longest extent first, each turned to the side its name says
/// in the head frame where it has one (up, wearer's left, front).
struct OwnAxes {
  Vec3 along, across, deep;
};
OwnAxes own_axes(const Mesh& solid);

}  // namespace awl
