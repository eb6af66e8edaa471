#pragma once
#include "core/builds/build.hpp"
#include "core/coat/plan.hpp"
#include "core/chain/step.hpp"

namespace awl {

/// The finishing plan of the materials and joints there are.
struct PlanStage {
  struct Inputs {
    FinishWork work;
    CoatSpec coat;
    bool operator==(const Inputs&) const = default;
  };
  using Made = Plan;
  static constexpr std::size_t kKept = 4;
  static constexpr double kShare = 0.01;
  static constexpr bool kTold = true;
  static Result<std::optional<Inputs>> inputs(const Shop& shop, const Build& build, const Derived& derived);
  static Result<Made> run(Shop& shop, const Inputs& in, const Progress& progress);
  static void keep(Derived& derived, const Held<Made>& made);
};

}  // namespace awl
