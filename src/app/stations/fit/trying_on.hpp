#pragma once
#include <functional>

#include "app/stand/stand_scene.hpp"
#include "core/fit/worn.hpp"

namespace awl {

/// The form as it is at a moment of a part's way on (`share` 0: far off, 1: at its place), coloured by the room there
/// is at its place. Null where nothing moves and nothing is coloured. `on`: null for no part.
std::shared_ptr<const WornMap> tryingOn(
    const Derived& d, const Build& build, const GoingOn* on, double share, bool colours);

/// The lines of fittings, where they can be seen: on the outer side of what they are cut into. Empty while nothing is
/// worked out.
std::vector<std::vector<Vec3>> fittingLines(const Derived& d, const std::function<bool(const Yield&)>& wanted);

}  // namespace awl
