#pragma once
#include "core/geom/nearest.hpp"
#include "core/seam/parting/patchwork.hpp"

namespace awl::parting {

/// Moves the borders of neighbouring patches to shorter ones along creases and hollows, within a band, by a least cut.
///
/// Kept only where both stay disks, and neither is strained beyond what is allowed. Answers the patches that changed,
/// under their new numbers. Source: docs/formulas/parting.md (least cut: dinic1970).
std::vector<int> straighten(Patchwork& work, const std::set<int>& patches, double limit);

/// Smooths borders and corners on the surface; its triangles keep their connection, so nothing can come apart. Patches
/// among `patches` only are moved, borders to others hold. Those touched are numbered anew and are not measured.
std::vector<int> slide(Patchwork& work, const Nearest& surface, const std::set<int>& patches, int rounds);

}  // namespace awl::parting
