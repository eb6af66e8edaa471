#pragma once
#include "core/derived/derived.hpp"

namespace awl {

/// The outer face of a part's foam.
Mesh outer_face(const PartForm& form);

/// What was pointed at on the stand for a part to sit on: an earlier part's number, or 0 for the head.
///
/// Errors: unknown_name where the part has no seat; out_of_range where the place is not on the head nor on a part made
/// before it; empty_input before there is a head.
Result<int> host_at(const Part& part, const Build& build, const Derived& derived, const Vec3& place);

/// A part sat on a spot of a host, 0 for the head; what its foot was cut to follows.
/// `box`: of the host's outer face before it was cut to others, as its form is made.
Part seated_on(Part part, int host, const Box& box, const Vec3& place);

}  // namespace awl
