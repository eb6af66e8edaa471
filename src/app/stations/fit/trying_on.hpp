#pragma once
#include "app/stand/stand_scene.hpp"
#include "core/fit/worn.hpp"

namespace awl {

/// The form as it is at a moment of a part's way on (`share` 0: far off, 1: at its place), coloured by the room there
/// is at its place. Null where nothing moves and nothing is coloured. `on`: null for no part.
std::shared_ptr<const WornMap> tryingOn(
    const Derived& d, const Build& build, const GoingOn* on, double share, bool colours);

}  // namespace awl
