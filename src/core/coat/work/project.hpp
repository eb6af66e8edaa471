#pragma once
#include <map>
#include <optional>
#include <set>
#include <string>
#include <vector>

#include "core/base/moment.hpp"

namespace awl {

/// From when to when the bench is open on a day, in minutes since midnight, and for how many pairs of hands.
struct BenchHours {
  int from_min = 9 * 60, to_min = 13 * 60;
  int hands = 1;
  bool operator==(const BenchHours&) const = default;
};

/// A stretch of time.
struct Span {
  Moment from = 0, to = 0;
  bool operator==(const Span&) const = default;
};

/// When there is work at the bench. Hands-on work is done only in it; what dries goes on at night and on closed days.
struct WorkDays {
  std::vector<BenchHours> usual = std::vector<BenchHours>(1);
  std::map<Day, std::vector<BenchHours>> on;  ///< in place of the usual hours on these days
  std::set<Day> closed;
  /// When work outdoors can be done, within the bench's hours; nothing said: at any of them.
  std::optional<std::vector<Span>> outdoors;
  bool operator==(const WorkDays&) const = default;
};

/// One thing to do.
struct WorkStep {
  std::string id;  ///< "stage/scope/number": ticks hang on it, so it does not change with the order
  std::string title, stage, scope;
  std::vector<std::string> cautions;
  int hands_min = 0;
  int hands = 1;           ///< pairs of hands it takes, 1 or 2
  bool may_pause = false;  ///< may be laid down at closing and taken up when the bench opens
  bool outdoors = false;
  int dries_min = 0;  ///< afterwards; it holds its drying places so long
  int places = 0;
  bool operator==(const WorkStep&) const = default;
};

/// What of an id names the rule: "seal" of "seal/rubber/2".
inline std::string rule_of(const std::string& id) { return id.substr(0, id.find('/')); }

/// What must lie between the end of one step and the start of another.
struct WorkLink {
  int from = 0, to = 0;
  int wait_min = 0;                 ///< at least
  std::optional<int> within_min;    ///< at most
  std::optional<int> or_after_min;  ///< or again from here on: past its window a coat is left to cure
  std::string why;
  /// The brush and the join: later is too late.
  bool is_hard() const { return within_min && !or_after_min; }
  bool operator==(const WorkLink&) const = default;
};

/// A step that is done, at its real times.
struct TickedStep {
  std::string id;
  Moment start = 0, end = 0;
  bool operator==(const TickedStep&) const = default;
};

/// Everything a plan is reckoned from.
struct Project {
  Moment start = 0;           ///< nothing is begun before
  std::optional<Moment> now;  ///< nothing that is not ticked is begun before
  std::optional<Moment> due;
  WorkDays days;
  int places = 1;  ///< where coats can dry
  std::vector<WorkStep> steps;
  std::vector<WorkLink> links;
  std::vector<TickedStep> done;
  bool operator==(const Project&) const = default;
  int index_of(const std::string& id) const;  ///< -1 if there is none
};

inline constexpr int kMostWorkSteps = 400;

/// Times are planned in steps of this.
inline constexpr int kSlotMin = 5;

/// Whether it can be planned at all. Errors: no_solution naming the circle in which steps wait for each other, or that
/// no hour is open; out_of_range and unknown_name with the step and the limit; too_large.
Result<void> check_project(const Project& project);

/// Indices of the steps, each after those it waits for. Contract: check_project.
std::vector<int> in_working_order(const Project& project);

/// When every step is done.
struct PlacedStep {
  Moment start = 0, end = 0;
  std::vector<Span> pauses;  ///< while the bench is closed
  bool done = false;
  bool operator==(const PlacedStep&) const = default;
};

struct Schedule {
  std::vector<PlacedStep> steps;  ///< one for each of the project's
  Moment ready = 0;               ///< the last is done and dry
  bool operator==(const Schedule&) const = default;
};

/// When a step is done and dry.
inline Moment ready_of(const WorkStep& step, const PlacedStep& at) { return at.end + step.dries_min; }

}  // namespace awl
