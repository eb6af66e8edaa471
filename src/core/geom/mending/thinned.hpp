#pragma once
#include "core/base/progress.hpp"
#include "core/base/result.hpp"
#include "core/geom/mesh.hpp"

namespace awl {

/// A mesh of very many triangles brought down to about `wanted` in a hurry, for what then goes a slower, better way:
/// corners that are left stay where they were, openings keep theirs, and it joins edge to edge as before.
///
/// Contract: a surface: no edge with more than two triangles. Where no edge can go without a fold or a pinch more
/// triangles stay. The same mesh gives the same answer on any number of cores.
/// Source: garland1997 with the link condition of dey1999, many edges at once in blocks. Errors: cancelled.
Result<Mesh> thinned(const Mesh& mesh, int wanted, const Progress& progress = {});

}  // namespace awl
