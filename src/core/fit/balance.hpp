#pragma once
#include <optional>

#include "core/fit/fit_head.hpp"
#include "core/fit/fit_part.hpp"
#include "core/fit/rules.hpp"

namespace awl {

/// Something that weighs and is small: a battery, a fan, a lamp.
struct Load {
  std::string name;
  double mass_g = 0.0;
  Vec3 at = Vec3::Zero();
};

/// What the neck holds.
struct Balance {
  double mass_g = 0.0;
  Vec3 centre = Vec3::Zero();
  double forward_nm = 0.0;                ///< about the joint under the skull; + tips forward
  double side_nm = 0.0;                   ///< + to the wearer's left
  double inertia_kg_cm2 = 0.0;            ///< about the upright axis through that joint
  double share = 0.0;                     ///< of the head's own forward pull
  std::optional<double> counterweight_g;  ///< at the place asked for, to bring it down to what is trimmed
  std::optional<double> tips_at_deg;  ///< a nod at which it would tip off its contacts; none: it does not rest freely
};

Balance balance_of(const FitHead& head, const std::vector<FitPart>& parts, const std::vector<Load>& loads,
    const FitRules& rules, bool child);

/// The mass that brings the forward pull to `target_nm` when it hangs at a depth. 0 if it is below already; none if the
/// place lies before the joint.
std::optional<double> counterweight_g(const FitHead& head, double forward_nm, double target_nm, double z_mm);
/// Where a given mass does so.
double counterweight_z_mm(const FitHead& head, double forward_nm, double target_nm, double mass_g);

/// At which nod something that only rests on its contacts tips off: its weight passes before the foremost of them.
std::optional<double> tips_at_deg(const std::vector<Vec3>& contacts, const Vec3& centre);

}  // namespace awl
