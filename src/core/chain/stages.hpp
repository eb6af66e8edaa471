#pragma once
#include <tuple>

#include "core/chain/stages/colour.hpp"
#include "core/chain/stages/cut.hpp"
#include "core/chain/stages/dress.hpp"
#include "core/chain/stages/fitting.hpp"
#include "core/chain/stages/form.hpp"
#include "core/chain/stages/head.hpp"
#include "core/chain/stages/panels.hpp"
#include "core/chain/stages/plan.hpp"

namespace awl {

template <Stage... S>
struct StageList {
  static constexpr double kWhole = (S::kShare + ...);
  /// Each in turn, until one says no.
  template <class Each>
  static void run(Each&& each) {
    (void)(each.template operator()<S>() && ...);
  }
};

/// The chain in its order. A new stage is a file in stages/ and a word here.
using Stages = StageList<HeadStage, CheckStage, TellingStage, FormStage, HeadPlanStage, FoamHeadStage, PanelStage,
    WayStage, FittingStage, DressStage, PieceStage, LayoutStage, ColourStage, PlanStage>;

}  // namespace awl
