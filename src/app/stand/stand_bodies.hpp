#pragma once
#include "app/stand/stand_scene.hpp"

namespace awl {

/// The colour of heads and limbs that are nobody's.
inline const Vec3f kStandBlue(0.62f, 0.68f, 0.74f);

StandBody bodyOf(const Mesh& mesh, const Vec3f& colour);
/// A turned plinth: a profile of (radius, height) revolved round the neck's foot.
StandBody plinth();
/// A person's neck and shoulders below the head, so that a helm is judged against the body that carries it.
/// `breadth_mm` 0: estimated from the head.
StandBody shouldersOf(const Headform& head, double breadth_mm);
/// Arms where guards are worn on them, left and right: nothing floats. None for what is worn on the head.
std::vector<StandBody> limbsOf(const PartForm& part);

}  // namespace awl
