#pragma once
#include <type_traits>

#include "core/chain/stages/colour.hpp"
#include "core/chain/stages/cut.hpp"
#include "core/chain/stages/dress.hpp"
#include "core/chain/stages/fitting.hpp"
#include "core/chain/stages/form.hpp"
#include "core/chain/stages/head.hpp"
#include "core/chain/stages/panels.hpp"
#include "core/chain/stages/plan.hpp"

namespace awl {

/// Stages that are run side by side: none of them looks at what another of them makes.
template <Stage... S>
struct Abreast {
  static constexpr double kShare = (S::kShare + ...);
};

/// Stages in their order; each entry one of them, or several abreast.
template <class... Entry>
struct StageList {
  static constexpr double kWhole = (Entry::kShare + ...);
  /// Each in turn, until one says no.
  template <class Each>
  static void run(Each&& each) {
    (void)(each(std::type_identity<Entry>()) && ...);
  }
};

/// The chain in its order. A new stage is a file in stages/ and a word here.
using Stages = StageList<HeadStage, CheckStage, TellingStage, FormStage, HeadPlanStage, FoamHeadStage,
    Abreast<PanelStage, WayStage>, Abreast<FittingStage, DressStage>, Abreast<PieceStage, ColourStage>,
    Abreast<LayoutStage, PlanStage>>;

}  // namespace awl
