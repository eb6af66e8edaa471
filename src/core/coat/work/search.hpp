#pragma once
#include "core/base/progress.hpp"
#include "core/coat/work/generation.hpp"

namespace awl {

struct ScheduleSearch {
  int generations =
      1200;  ///< how many plans are tried; counted, not timed, so that the same project gives the same plan
  std::uint64_t seed = 7;
  bool stop_at_bound = true;  ///< false: for tests of the bound
  bool prove = false;         ///< tries hard to show that no plan is ready earlier than the one found
};
/// "Search longer".
inline ScheduleSearch long_search() {
  ScheduleSearch search;
  search.generations = 15'000, search.prove = true;
  return search;
}

/// The best plan found, and how good any could be.
struct FoundSchedule {
  Schedule schedule;
  Moment bound = 0;          ///< no plan is ready before
  bool proven_best = false;  ///< ready at the bound
  int tried = 0;
  ScheduleKeys keys;                ///< that made it
  std::vector<std::string> undone;  ///< ticked steps that must be done again: what had to follow came too late
  int days = 0;                     ///< of the table it was found on
};

/// Orders a project's steps so that it is ready as early as may be.
///
/// Errors: those of check_project; no_solution if some step never fits (no hour is open for it, no outdoor day);
/// cancelled. Source: docs/formulas/coat-schedule.md. Cost: about 0.03 ms a generation of 50 steps.
Result<FoundSchedule> find_schedule(const Project& project, const ScheduleSearch& search = {}, const Progress& = {});

/// What the schedule is with ticks taken back that `undone` names. Only for questions about a found schedule.
Project without_undone(Project project, const std::vector<std::string>& undone);

/// Times of a plan in slots.
Schedule schedule_from(const Project& project, const TimeTable& table, const SlotOrder& plan);

}  // namespace awl
