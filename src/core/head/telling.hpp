#pragma once
#include "core/head/headform.hpp"

namespace awl {

/// How much one more measure would tell about a build.
struct Telling {
  MeasureId id;
  double share = 0.0;  ///< of the uncertainty about the places, removed by this measure after those before it: 0..1
};

/// The measures to take next, the most telling first, for a build that depends on these places of the head.
///
/// Greedy on the posterior: with C the covariance of the modes given what is known and W = sum B'B over the places, a
/// measure with gradient g and tolerance t removes g C W C g' / (g C g' + t^2) of trace(W C).
/// Source: docs/formulas/headform.md, "short list".
std::vector<Telling> most_telling(
    const Centre& centre, const MeasureSet& known, const std::vector<ModeColumns>& places, int count);

}  // namespace awl
