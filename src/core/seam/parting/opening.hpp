#pragma once
#include <optional>

#include "core/seam/parting/patchwork.hpp"

namespace awl::parting {

/// Where a patch lies over itself once it is flat: the corner of the surface to cut through, and a triangle at each of
/// the two edges of its border that cross.
struct Lap {
  int corner = -1, here = -1, there = -1;
};

/// Cuts a patch that is strained beyond the tolerance through its hot place: a dart to its border, or a seam right
/// across, whichever leaves least. One that lies over itself is cut through the corner told, so that what crosses comes
/// apart; as any other where no cut does that.
///
/// Answers the patches it became (one if a dart was enough), finished; nothing if no cut helps.
std::vector<int> open_hot(Patchwork& work, int patch, double tolerance, bool darts, const std::optional<Lap>& lap = {});

}  // namespace awl::parting
