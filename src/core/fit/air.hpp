#pragma once
#include <optional>
#include <string>

#include "core/fit/fit_head.hpp"
#include "core/fit/fit_part.hpp"
#include "core/fit/rules.hpp"

namespace awl {

/// What lets air in and what keeps it, never a promise.
struct Air {
  struct Opening {
    std::string zone;  ///< "before the face", "at the sides", "above", "behind", "below"
    double mm2 = 0.0;
  };
  std::vector<Opening> openings;
  double open_mm2 = 0.0;
  std::optional<double> dead_ml;  ///< air that stays before nose and mouth; none: nothing is before them
  bool fogs = false;              ///< something to look through stands close before nose or mouth
  double covered_share = 0.0;     ///< of the scalp
};

/// Source: docs/formulas/fit-air.md. Cost: about 55 ms.
Air air_of(const FitHead& head, const std::vector<FitPart>& parts, const FitRules& rules);

}  // namespace awl
