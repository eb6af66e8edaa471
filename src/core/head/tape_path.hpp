#pragma once
#include "core/head/headform.hpp"

namespace awl {

/// Where a tape or ruler lies on a headform, found on its mesh.
struct TapePath {
  MeasureId id;
  std::vector<Vec3> line;  ///< a closed round repeats its first place; a straight distance has two places
  bool straight = false;
};

/// The paths of all measures on this headform, in the order of MeasureId. Cost: one cut of all planes, about 2 ms.
std::vector<TapePath> tape_paths(const HeadFitter& fitter, const Headform& head);

}  // namespace awl
