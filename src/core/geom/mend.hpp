#pragma once
#include <string>

#include "core/base/result.hpp"
#include "core/geom/mesh.hpp"

namespace awl {

/// A mesh made elsewhere, mended as far as that can be done without guessing.
struct Mended {
  Mesh mesh;
  std::vector<std::string> did;   ///< what was repaired, in words
  std::vector<std::string> asks;  ///< what only the maker can know: openings, double walls, surfaces that cut each other
  int openings = 0;
  bool crosses_itself = false;
};

/// Own check, grid weld, then soup to surface: duplicates, orientation, stitched borders, doubled corners, triangles without
/// area, crumbs, outward normals. Holes stay: eye holes and neck openings are wanted.
///
/// Errors: empty_input; bad_file for numbers that are none; degenerate_shape for what is no surface in the end.
/// Source: docs/formulas/flattening.md, "importing a mesh" (CGAL's polygon mesh processing).
Result<Mended> mend(const Mesh& raw);

/// The surface with the places where it cuts through itself smoothed, or cut out and closed anew. Loses shape there: ask first.
/// Errors: no_solution if it still cuts through itself. Source: CGAL's polygon mesh processing.
Result<Mesh> without_self_cuts(const Mesh& mesh);

/// Triangles brought down to about `wanted`, shape kept as well as may be (quadric edge collapse, CGAL).
/// Errors: out_of_range below 50 triangles.
Result<Mesh> simplified(const Mesh& mesh, int wanted);

}  // namespace awl
