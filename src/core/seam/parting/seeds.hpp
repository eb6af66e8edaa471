#pragma once
#include "core/base/random.hpp"
#include "core/seam/parting/patchwork.hpp"

namespace awl::parting {

/// Parts triangles into so many patches that look one way each, and opens those that are no disks along the least tree.
///
/// Edges between the triangles that were cut are cut anew; those to others stay cut. Answers the new patches, not
/// measured. Source: VSA (cohensteiner2004), tree-cotree (erickson2004). With `random` other starts are taken.
std::vector<int> seed(Patchwork& work, const std::vector<int>& faces, int count, Random* random = nullptr);

}  // namespace awl::parting
