#pragma once

namespace awl::bench {

/// A system of pairs on a grid of places, factorised and solved by PairSystem and, beside it, by Eigen's SimplicialLDLT
/// with the same order of least fill; both have their pattern looked through beforehand.
void pair_jobs();

}  // namespace awl::bench
