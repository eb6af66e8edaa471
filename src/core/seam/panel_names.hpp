#pragma once
#include "core/seam/panels.hpp"

namespace awl {

/// Gives each panel a name by where it lies on the head ("front left", "crown"), or a number on other meshes.
void name_panels(std::vector<Panel>& panels, bool on_head);

/// Letters A, B ... in the order of the seams; a seam and its mirror image share one.
void letter_seams(std::vector<Seam>& seams);

}  // namespace awl
