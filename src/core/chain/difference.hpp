#pragma once
#include "core/derived/derived.hpp"
#include "core/piece/changes.hpp"

namespace awl {

/// How what is now differs from what was: another version, or another wearer.
struct Difference {
  std::vector<PieceChange> pieces;
  std::vector<double> off_mm;  ///< per vertex of the present panels' form: how far its outside stands out over the
                               ///< former one's, + outward
  double most_mm = 0.0;
};

/// Errors: empty_input while one of them has no pieces yet.
Result<Difference> difference_between(const Derived& former, const Derived& present);

}  // namespace awl
