#pragma once
#include "core/seam/parting/patchwork.hpp"

namespace awl::parting {

/// Cuts a patch that is strained beyond the tolerance through its hot place: a dart to its border, or a seam right
/// across, whichever leaves least. `through`: a vertex of the surface it is cut through instead; -1: none.
///
/// Answers the patches it became (one if a dart was enough), finished; nothing if no cut helps.
std::vector<int> open_hot(Patchwork& work, int patch, double tolerance, bool darts, int through = -1);

}  // namespace awl::parting
