#pragma once
#include <map>

#include "core/base/remark.hpp"
#include "core/coat/amounts.hpp"
#include "core/coat/expand.hpp"
#include "core/coat/work/slack.hpp"

namespace awl {

/// Why a step comes after another.
struct PlannedWhy {
  std::string id, why;
};

/// One step put in the calendar.
struct PlannedStep {
  std::string id, stage, scope, name, caution;
  Moment start = 0, end = 0;
  Moment ready = 0;  ///< done and dry
  std::vector<Span> pauses;
  int hands_min = 0, hands = 1;
  bool fills_wait = false;  ///< done while something else dries
  bool outdoors = false;    ///< not to be done indoors
  bool done = false;
  int slack_min = 0;  ///< by how much it alone may be put off
  Moment latest_start = 0;
  std::vector<PlannedWhy> after;
  Moment wait_min() const { return ready - end; }
};

struct Need {
  std::string name;
  double ml = 0.0;
  std::string id = {};
  int cans = 0;
  double dry_g = 0.0, film_mm = 0.0;
};

/// What is masked, by name.
struct PlannedMask {
  std::string area;
  double tape_mm = 0.0, paper_mm2 = 0.0;
  std::vector<std::string> over;
};

/// Steps in order, and whether it is ready by the day.
struct Plan {
  Project project;                 ///< what it was reckoned from
  FoundSchedule found;             ///< and how it came out
  std::vector<PlannedStep> steps;  ///< in the order of their starts
  std::vector<Need> needs;
  std::vector<PlannedMask> masking;
  double hands_min = 0.0, waiting_min = 0.0;
  Moment ready = 0;
  double spare_min = 0.0;  ///< until the bench opens on the due day; negative when late
  std::vector<Remark> remarks;
  Day ready_day() const { return day_of(ready); }
  /// The first step that is not ticked; null if all are.
  const PlannedStep* next() const;
};

/// A found schedule told step by step.
std::vector<PlannedStep> planned_steps(const Project& project, const FoundSchedule& found);

/// Orders the steps by the rules: waits run on (overnight too), other allowed work in them.
///
/// What a material does not bear is not planned on it: another product serves there, or the step is left out, and a
/// remark says so. Errors: unknown_name (a product, or none that serves); those of check_coat, check_order,
/// find_schedule.
Result<Plan> plan_finishing(const CoatSpec& spec, const FinishWork& work, const Materials& materials,
    const std::vector<StepRule>& rules, const Progress& progress = {});

/// What each stage takes this maker, in the order of the work. `logs` by stage, of other jobs.
std::vector<StageTime> stage_times(const Plan& plan, const std::map<std::string, std::vector<StageLog>>& logs);

/// What seal, paint and clear coat weigh once dry, g/m2; nothing of a product that is not there.
double dry_coats_g_m2(const CoatSpec& spec, const Materials& materials);

/// What is said of products and days: what is not borne, what flakes, cracks or is late.
std::vector<Remark> coat_remarks(const CoatSpec& spec, const FinishWork& work, const Served& served, const Plan& plan);

/// "14:05" on its day's clock.
std::string clock_text(Moment moment);

/// Of work by hand: "34 h 10 min".
std::string hands_text(double minutes);

/// "3 h 20 min", "2 days 4 h".
std::string duration_text(double minutes);

}  // namespace awl
