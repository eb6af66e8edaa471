#pragma once
#include "core/base/day.hpp"
#include "core/base/remark.hpp"
#include "core/stuff/bears.hpp"

namespace awl {

/// What a maker decides about finishing.
struct CoatSpec {
  std::string glue = "contact", seal = "rubber", paint = "acrylic", clear = "matt";
  bool fill_seams = true;
  bool heat_seal = true;
  Day start, due;
  double hours_a_day = 4.0;  ///< at the bench, from opens_h on
  double opens_h = 9.0;
  bool operator==(const CoatSpec&) const = default;
};

/// What a step does that some material may not bear: it is then planned for those that do, and for each in its own way.
enum class StepAct { other, cut, heat_shape, heat_seal, glue, glue_in, sand, seal, paint, clear };

/// One rule step of data/rules/finishing.json.
struct StepRule {
  std::string id, name, when, caution;
  StepAct act = StepAct::other;
  std::vector<std::string> after;
  double base_min = 0.0, per_piece = 0.0, per_m = 0.0, per_m2 = 0.0, wait_min = 0.0;
  int repeat = 1;
  bool meanwhile = false;
};

/// Errors: cannot_read; bad_file; no_solution when the rules run in a circle (the circle is named).
Result<std::vector<StepRule>> load_step_rules(const std::filesystem::path& file);

/// How much work something is.
struct WorkSize {
  int pieces = 0;
  double seam_m = 0.0, area_m2 = 0.0;
  bool operator==(const WorkSize&) const = default;
};

/// All that is made of one kind of sheet.
struct StuffWork {
  Foam stuff;
  std::vector<std::string> parts;  ///< by name
  WorkSize size;
  bool bent = true;  ///< some of its pieces do not stay flat
  bool worn = true;  ///< it ends up on the wearer: is glued and painted; false for templates of card
  bool operator==(const StuffWork&) const = default;
};

/// Two materials that meet at seams, or where one part sits on another.
struct JointWork {
  Foam one, other;
  double seam_m = 0.0;
  bool operator==(const JointWork&) const = default;
};

/// What a plan is made for.
struct FinishWork {
  std::vector<StuffWork> stuffs;
  std::vector<JointWork> joints;
  bool heated = true;  ///< pieces are stretched with heat where their material bears it
  bool operator==(const FinishWork&) const = default;
  WorkSize whole() const;
};
/// Work on one kind alone.
FinishWork work_on(const Foam& foam, const WorkSize& size);

/// One step put in the calendar. Minutes count from midnight of the start day.
struct PlannedStep {
  std::string id, name, caution;
  double start_min = 0.0, hands_min = 0.0, wait_min = 0.0;
  bool fills_wait = false;  ///< done while something else dries
  bool outdoors = false;    ///< not to be done indoors
  double done_min() const { return start_min + hands_min; }
  double ready_min() const { return start_min + hands_min + wait_min; }
};

struct Need {
  std::string name;
  double ml = 0.0;
};

/// Steps in order, and whether it is ready by the day.
struct Plan {
  std::vector<PlannedStep> steps;
  std::vector<Need> needs;
  double hands_min = 0.0, waiting_min = 0.0;
  double ready_min = 0.0;
  Day ready_day;
  double spare_min = 0.0;  ///< until the bench opens on the due day; negative when late
  std::vector<Remark> remarks;
};

/// Orders the steps by the rules, one pair of hands, waits running on (overnight too), and other allowed work in them.
///
/// Of the steps that may be done, the one with the longest chain behind it goes first. What a material does not bear is
/// not planned on it: another product serves there, or the step is left out, and a remark says so. Errors: unknown_name
/// (a product, or none that serves), out_of_range (hours a day 0.5 to 16, due before start), no_solution
///         (circular rules).
Result<Plan> plan_finishing(
    const CoatSpec& spec, const FinishWork& work, const Materials& materials, const std::vector<StepRule>& rules);

/// "14:05" on a day's clock from minutes since midnight of the start day; the day is given apart.
std::string clock_text(double minutes);

/// "3 h 20 min", "2 days 4 h".
std::string duration_text(double minutes);

}  // namespace awl
