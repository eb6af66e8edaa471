#include "core/chain/stages/plan.hpp"

#include "core/chain/shop.hpp"
#include "core/derived/stuffs.hpp"

namespace awl {

Result<std::optional<PlanStage::Inputs>> PlanStage::inputs(
    const Shop& shop, const Build& build, const Derived& derived) {
  auto work = finish_work(build, derived, shop.materials());
  if (!work) return fail(work);
  return Inputs{std::move(*work), build.coat};
}

Result<Plan> PlanStage::run(Shop& shop, const Inputs& in, const Progress& progress) {
  return plan_finishing(in.coat, in.work, shop.materials(), shop.rules(), progress);
}

void PlanStage::keep(Derived& derived, const Held<Made>& made) { derived.plan = made; }

}  // namespace awl
