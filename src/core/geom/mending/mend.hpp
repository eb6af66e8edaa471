#pragma once
#include <string>

#include "core/base/progress.hpp"
#include "core/base/result.hpp"
#include "core/geom/mesh.hpp"

namespace awl {

/// A mesh made elsewhere, mended as far as that can be done without guessing.
struct Mended {
  Mesh mesh;
  std::vector<std::string> did;  ///< what was repaired, in words
  std::vector<std::string>
      asks;  ///< what only the maker can know: openings, double walls, surfaces that cut each other
  int openings = 0;
  bool crosses_itself = false;
};

/// More triangles than this are finer than foam can show: workshop value.
inline constexpr int kFineEnough = 60'000;

/// Own check, grid weld, then soup to surface: duplicates, orientation, stitched borders, doubled corners, triangles
/// without area, crumbs, outward normals. Holes stay: eye holes and neck openings are wanted.
///
/// A mesh of more than `most` triangles is brought down to so many, and that is said.
///
/// Errors: empty_input; bad_file for numbers that are none; degenerate_shape for what is no surface in the end;
/// cancelled. Source: docs/formulas/flattening.md, "importing a mesh" (CGAL's polygon mesh processing).
Result<Mended> mend(const Mesh& raw, int most = kFineEnough, const Progress& progress = {});

/// The surface with the places where it cuts through itself smoothed, or cut out and closed anew. Loses shape there:
/// ask first. Errors: no_solution if it still cuts through itself. Source: CGAL's polygon mesh processing.
Result<Mesh> without_self_cuts(const Mesh& mesh);

/// Triangles brought down to about `wanted`, shape kept as well as may be (quadric edge collapse, CGAL).
/// Contract: a surface: no edge with three triangles. Errors: out_of_range below 50 triangles; degenerate_shape;
/// cancelled.
Result<Mesh> simplified(const Mesh& mesh, int wanted, const Progress& progress = {});

}  // namespace awl
