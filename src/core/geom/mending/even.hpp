#pragma once
#include "core/base/result.hpp"
#include "core/geom/mesh.hpp"

namespace awl {

/// What triangles of one size are to keep.
struct EvenGoal {
  double edge_mm = 6.0;
  double sharp_deg = 45.0;  ///< edges that turn by more stay edges; their vertices slide along them
  int rounds = 4;
};

/// The same surface in triangles of one size. Borders stay, their vertices slide along them.
///
/// Contract: a surface: no edge with three triangles. Errors: degenerate_shape if nothing is left of it;
/// too_large beyond a hundred thousand triangles or with an edge a thousand times as long, told with where that ends.
/// Source: CGAL's isotropic remeshing (botsch2004).
Result<Mesh> evened(const Mesh& mesh, const EvenGoal& goal);

/// The edge of about so many even triangles on a surface: 2 to 20 mm.
double even_edge_mm(const Mesh& mesh, int triangles);

/// Evened to about so many triangles. `half`: its border in x = 0 lies there exactly again.
/// Contract and errors: as of evened.
Result<Mesh> evened_to(const Mesh& mesh, int triangles, bool half = false);

/// Holes whose rim is shorter than `most_rim_mm` closed with triangles of the size round them.
struct Filled {
  Mesh mesh;
  int holes = 0;
};
/// Contract: as of evened.
Filled with_holes_filled(const Mesh& mesh, double most_rim_mm);

}  // namespace awl
