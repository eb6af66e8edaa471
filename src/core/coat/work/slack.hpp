#pragma once
#include "core/coat/work/search.hpp"

namespace awl {

/// For each step by how much it alone may be put off, all else in the same order, until the plan is ready later; 0 for
/// ticked ones.
///
/// Contract: found for this project. Accuracy: takes it that a later start never helps; a plan where it does counts as
/// having no slack there.
/// Cost: some eight generations a step, 10 to 40 ms in all.
std::vector<int> slack_min(const Project& project, const FoundSchedule& found);

/// What else moves when a step is put off.
struct Slip {
  int step = 0;
  Moment was = 0, becomes = 0;
};
struct Slipping {
  Moment ready = 0;
  std::vector<Slip> slips;  ///< steps that start at another time, in the order of their new starts
};
/// Errors: unknown_name; out_of_range beyond 60 days; no_solution if nothing fits any more.
Result<Slipping> what_slips(const Project& project, const FoundSchedule& found, const std::string& step, int later_min);

}  // namespace awl
