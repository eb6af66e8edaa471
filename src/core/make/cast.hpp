#pragma once
#include "core/make/way.hpp"

namespace awl {

/// What a fill comes to.
struct CastFacts {
  const char* words;                           ///< "two-part foam"
  double dry_kg_l = 0.0;                       ///< of what is set
  double powder_kg_l = 0.0, water_kg_l = 0.0;  ///< mixed for a litre of it; no powder: none
  double layer_mm = 0.0;                       ///< poured at a time
  double wait_h = 0.0;                         ///< between two
  double whole_h = 0.0;                        ///< until it is opened
  double wall_mm = 0.0;                        ///< swilled round to this; 0: solid
  const char* caution;
};
/// Workshop values; what the product's label says goes first.
const CastFacts& facts_of(CastFill fill);

/// A form cast in its own wrap: a shell over a head or headform, cut off, closed and filled.
struct CastPlan {
  double litres = 0.0;       ///< of fill when set
  double form_litres = 0.0;  ///< of the whole form
  double dry_kg = 0.0, mixed_kg = 0.0;
  int pours = 1;
  double hours = 0.0;      ///< of waiting in all
  double shell_mm2 = 0.0;  ///< of the wrap
  double cut_mm = 0.0;     ///< up the back, from the foot to the crown
  std::vector<Vec3> cut;   ///< where it runs
};

/// Errors: degenerate_shape for a body without a foot to fill it by, or too small to hold anything.
Result<CastPlan> plan_cast(const Body& body, const WaySpec& spec);

/// What to do, in order, with what it takes; the cautions that belong to each step stand in it.
std::vector<std::string> cast_steps(const CastPlan& plan, const Body& body, const WaySpec& spec);
std::vector<Want> cast_wants(const CastPlan& plan, const WaySpec& spec);

}  // namespace awl
