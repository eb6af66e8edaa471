#pragma once
#include "core/geom/mesh.hpp"

namespace awl {

/// Displacement of every vertex that moves all its planes by `h_mm` outwards (inwards if negative).
///
/// Per vertex (sum w n n' + eps I) d = sum w h n + eps h N with w the corner angle: at a fold of turn delta it moves
/// h / cos(delta/2) and so builds in the mitre, which a unit normal does not. Source: docs/formulas/flattening.md.
std::vector<Vec3> plane_offset(const Mesh& mesh, double h_mm);

/// The mesh moved by plane_offset.
Mesh offset_by_planes(const Mesh& mesh, double h_mm);

/// Every vertex moved by its own distance along plane_offset, but never so far that a triangle turns over, nor a mitre
/// further than 2.5 times that distance: where a tip or an edge is thinner than the sheet it is solid.
Mesh sheet_offset(const Mesh& mesh, const std::vector<double>& by_mm);

/// A surface with borders made solid: the surface, its offset by `mm`, and a rim between them. Closed, oriented
/// outwards. With `mm` positive the surface is the inner face, negative the outer one.
Mesh thickened(const Mesh& surface, double mm);

/// The closed solid between two faces of the same connectivity, with rims along their borders.
Mesh solid_between(const Mesh& outer, const Mesh& inner);

}  // namespace awl
