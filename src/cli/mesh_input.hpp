#pragma once
#include "cli/verbs.hpp"
#include "core/geom/mesh.hpp"
#include "core/seam/cutter.hpp"

namespace awl {

/// Cuts of a file somebody wrote; none for no path. Contract, of both: within as_verb.
std::vector<CutLine> read_cuts(const std::string& path);

/// The mesh to work on: wound one way, and no finer than can be laid flat in good time. What was done is said.
Mesh sound_mesh(const VerbOptions& options, std::vector<std::string>& said);

}  // namespace awl
