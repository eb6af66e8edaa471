#pragma once
#include "core/coat/serving.hpp"
#include "core/coat/step_rule.hpp"

namespace awl {

/// The rules counted out for a build: which steps there are, on what, and what waits for what and why.
struct Expansion {
  Project project;
  MaskingPlan masking;              ///< of the colour areas, by their place in Served::areas
  std::optional<Error> unmaskable;  ///< no order of painting is allowed: areas go in their own order then
};

/// Coats follow each other, each material goes its own way, every joint its own glue; steps left out hand on what they
/// wait for. Ids are "rule/scope/number" and do not change with the order.
/// Contract: rules are in order (check_order).
Expansion expand(
    const CoatSpec& spec, const Served& served, const FinishWork& work, const std::vector<StepRule>& rules);

}  // namespace awl
