#pragma once
#include "core/dress/form_line.hpp"

namespace awl {

/// How far every vertex of a mesh is from a line, over the surface: fast marching (Kimmel and Sethian 1998). Vertices
/// that are not joined to the line are 1e300 away. `within`: only so far, the rest stays 1e300.
std::vector<double> distance_over(const Mesh& mesh, const std::vector<Vec3>& line, bool closed, double within = 1e300);

/// Lines of one value, with the smaller values on the left; triangles at vertices without a value are left out.
std::vector<SiteLine> level_lines(const Mesh& mesh, const std::vector<double>& values, double level);

/// How values of the vertices grow over the surface in the triangle of a place, per millimetre.
Vec3 slope_at(const Mesh& mesh, const std::vector<double>& values, const NearestHit& hit);
/// The direction in which values of the vertices grow, in the triangle of a place; unit, zero where they do not.
Vec3 growth_at(const Mesh& mesh, const std::vector<double>& values, const NearestHit& hit);

}  // namespace awl
