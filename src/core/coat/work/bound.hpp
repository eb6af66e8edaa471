#pragma once
#include "core/coat/work/time_table.hpp"

namespace awl {

/// Starts that are left to each step, rising; empty for ticked ones.
using StartDomains = std::vector<std::vector<int>>;

/// Before which no plan can be ready, however long one searches.
///
/// A time is refuted when some step has no start left that agrees with one of each step it is linked to, or when within
/// some stretch of time steps need more hands, outdoor hours, whole openings or drying places than there are. A
/// refutation is a proof; that none is found proves nothing. Contract: the project and the table outlive it. Source:
/// docs/formulas/coat-schedule.md, lower bound.
class LowerBound {
 public:
  LowerBound(const Project& project, const TimeTable& table);

  /// True: nothing can be ready by this slot.
  bool is_impossible(int ready) const;
  /// The same, having tried of each step whether it can lie on the first or the last of its days at all: refutes more,
  /// at some hundred times the cost.
  bool is_impossible_by_days(int ready) const;
  /// The least slot not refuted, at most `known`, at which a plan is known to be ready.
  int find(int known) const;

  /// First start of each step with nobody else about.
  const std::vector<int>& heads() const { return free_.head; }
  /// Starts of each step that agree with one of every step it is linked to, if all is to be ready by a slot; nothing if
  /// some step has none.
  std::optional<StartDomains> starts_for(int ready) const;

 private:
  /// Slots of which a step needs some: prefix sums of hands, and the stretches without a break.
  struct Supply {
    std::vector<int> sum;
    struct Stretch {
      int from, to, hands;
    };
    std::vector<Stretch> stretches;
    int between(int from, int to) const { return sum[to] - sum[from]; }
    int whole(int length, int from, int to) const;
    std::pair<int, int> hours(int from, int to) const;
  };
  Supply supply_of(bool outdoors) const;
  void find_heads();
  using Domains = StartDomains;
  /// When each step can start and end at the earliest, and end at the latest.
  struct Ranges {
    std::vector<int> head, head_end, latest;
  };
  Ranges ranges_of(const Domains& starts) const;
  bool drop_after(int link, Domains& starts) const;
  bool drop_before(int link, Domains& starts) const;
  bool make_consistent(Domains& starts) const;
  bool lacks_something(const Domains& starts) const;
  bool lacks_hands(const Ranges& r) const;
  bool lacks_openings(const Ranges& r, bool outdoors) const;
  bool lacks_places(const Ranges& r) const;
  bool lacks_drying_days(const Ranges& r) const;

  const Project& p_;
  const TimeTable& table_;
  std::vector<int> order_;
  std::vector<std::vector<int>> into_, from_;
  std::vector<const TickedStep*> done_;
  std::vector<int> open_steps_;  ///< those not ticked
  int now_ = 0, done_ready_ = 0;
  Domains starts_;
  Ranges free_;
  Supply all_, outside_;
  std::vector<int> next_end_;  ///< the first slot from here on at which hands-on work can end
};

}  // namespace awl
