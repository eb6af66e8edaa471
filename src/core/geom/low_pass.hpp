#pragma once
#include "core/geom/mesh.hpp"

namespace awl {

/// Rounds off what is smaller than a radius: waves of 2 pi r lose half their height, longer ones next to nothing, so
/// that a tube hardly gets thinner.
///
/// Solves (M + r^4 B' M^-1 B) x = M x0 with the cotangent operator B; along borders B is the second difference. Chains
/// of edges sharper than 45 degrees that are longer than 8 r and seldom fork keep their place.
/// Contract: a surface without loose vertices. Source: docs/formulas/parting.md. Cost: one sparse factor.
Mesh low_passed(const Mesh& mesh, double radius_mm);

}  // namespace awl
