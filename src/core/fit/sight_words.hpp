#pragma once
#include "core/fit/sight.hpp"

namespace awl {

/// What both fields come to: shares, zones, meridians, floor and blind places. Contract: the eyes' fields are there.
void tell_sight(Sight& sight, const FitRules& rules, const SightOptions& options);

}  // namespace awl
