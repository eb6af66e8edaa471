#pragma once
#include "core/base/result.hpp"
#include "core/geom/mesh.hpp"

namespace awl {

/// A mesh whose triangles all run the same way round.
struct Oriented {
  Mesh mesh;
  int turned = 0;           ///< triangles that were wound the other way
  bool inside_out = false;  ///< a closed piece of it was, as a whole
};

/// Winds every connected piece one way: as most of its triangles are; a closed one with its outside out.
///
/// Errors: bad_file if an edge belongs to more than two triangles; not_a_disk if a piece has one side only, as a
/// twisted band has. Cost:   linear.
Result<Oriented> oriented(Mesh mesh);

}  // namespace awl
