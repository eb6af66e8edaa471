#pragma once
#include "core/derived/derived.hpp"

namespace awl {

/// The outer face of a part's foam.
Mesh outer_face(const PartForm& form);

/// A part sat on a spot that was pointed at, on the head or the earlier part that is nearest there; what its foot was
/// cut to follows.
///
/// `place`: of the form as derived. Errors: unknown_name where it has no seat; out_of_range where the place is not on
/// the head nor on a part made before it; empty_input before there is a head.
Result<Part> seated_at(Part part, const Build& build, const Derived& derived, const Vec3& place);

}  // namespace awl
