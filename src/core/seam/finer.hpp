#pragma once
#include "core/seam/panels.hpp"

namespace awl {

/// The same pieces on a mesh of four times the triangles: what is told of gluing them up is checked on it.
///
/// Edges are halved: flat ones at their middle, those of the form where the curve through both ends at right angles to
/// their normals has its middle (vlachos2001). A mirrored set stays exactly mirrored. Contract: panels lie flat.
PanelSet finer(const PanelSet& set);

/// Moves of the coarse form's vertices carried over to the finer one's; halved edges move by the mean of their ends.
std::vector<Vec3> finer_moves(const PanelSet& coarse, const PanelSet& fine, const std::vector<Vec3>& moves);

}  // namespace awl
