#pragma once
#include "core/fit/fit_part.hpp"
#include "core/fit/rules.hpp"
#include "core/fit/spec.hpp"
#include "core/make/yield.hpp"

namespace awl {

/// What one hold comes to: holes and marks, shopping, steps. None where its part is not worn.
std::optional<Yield> fitted_hold(
    const FitHead& head, const std::vector<FitPart>& parts, const Hold& hold, const FitRules& rules);

namespace fitting {

extern const char* const kMagnetCaution;
std::string mm(double value);
const FitPart* part_of_id(const std::vector<FitPart>& parts, int id);

}  // namespace fitting
}  // namespace awl
