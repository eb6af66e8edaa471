#pragma once

namespace awl::bench {

/// 200 made-up plans: how many come within 5 % of what no plan can beat, how many are proved best, and what they take;
/// and the order of masking.
void plan_jobs();

}  // namespace awl::bench
