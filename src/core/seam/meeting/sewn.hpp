#pragma once
#include "core/seam/meeting/meeting.hpp"

namespace awl {

/// The upper cut along the rim of the lower's opening and drawn to it, so that both lie edge to edge, mitred.
/// Errors: as of meet.
Result<Met> edge_to_edge(const MeetSide& upper, const MeetSide& lower);

/// Both cut where they cross and sewn to one: all of it is in `lower`. Errors: as of meet.
Result<Met> one_skin(const MeetSide& upper, const MeetSide& lower);

}  // namespace awl
