#pragma once
#include "core/base/progress.hpp"
#include "core/base/result.hpp"
#include "core/geom/mesh.hpp"

namespace awl {

/// A place of a form that sheet of this thickness cannot show.
struct TooFine {
  enum class Kind { spike, detail } kind = Kind::detail;  ///< taken off and closed over; or rounded away
  Vec3 at = Vec3::Zero();
  double length_mm = 0.0, thickness_mm = 0.0;  ///< of a spike: how long it is, and how thick in the mean
};

/// A surface as foam can show it.
struct FoamShape {
  Mesh mesh;
  std::vector<TooFine> told;
  int shells_dropped = 0, holes_filled = 0;
  double most_moved_mm = 0.0;
  bool thin_all_over = false;              ///< more than half would go; everything was left
  std::vector<std::string> words() const;  ///< what was done, in sentences
};

struct FoamShapeOptions {
  double thickness_mm = 5.0;  ///< what is smaller is rounded off; 0: only evened
  int triangles = 4000;       ///< about so many, of edges 2 to 20 mm
};

/// Evens a surface and brings it down to what sheet of a thickness can show: crumbs out, small holes closed, what is
/// finer rounded, spikes and thin tubes taken off; each is told with its place.
///
/// Contract: mended (geom/mend). Errors: degenerate_shape; cancelled. Source: docs/formulas/parting.md.
/// Cost: 0.3 to 3 s.
Result<FoamShape> foam_shape(const Mesh& mesh, const FoamShapeOptions& options, const Progress& progress = {});

}  // namespace awl
