#pragma once
#include "core/coat/work/time_table.hpp"

namespace awl {

/// By what one schedule differs from another: which step goes first, which windows are kept, what waits on purpose.
struct ScheduleKeys {
  std::vector<double> rank;     ///< of each step: the least goes first
  std::vector<char> together;   ///< of each link: its window is kept, as if there were no later time
  std::vector<int> not_before;  ///< of each step, slots: a coat may have to wait so that the next meets its window
  bool operator==(const ScheduleKeys&) const = default;
};

/// Starts and ends of all steps in slots.
struct SlotOrder {
  std::vector<int> start, finish;
  int ready = 0;  ///< slot at which all is dry
  long sum = 0;   ///< of all finishes
  bool better_than(const SlotOrder& o) const { return ready != o.ready ? ready < o.ready : sum < o.sum; }
};

/// Puts steps on the bench one by one, each as early as it can be.
///
/// Steps that must follow each other within a while are laid down together: the first is moved on until the last fits
/// (a hard maximum, or a window that `together` keeps). All else they wait for is laid down before.
/// Contract: the project and the table outlive it.
/// Source: docs/formulas/coat-schedule.md, serial generation.
class Generation {
 public:
  Generation(const Project& project, const TimeTable& table);

  /// Nothing if the table is too short, or a ticked step's window cannot be met; `stuck` is the step it failed at.
  std::optional<SlotOrder> run(const ScheduleKeys& keys);
  int stuck() const { return stuck_; }
  /// Of each step the starts it may take while it is limited.
  void limit_to(const std::vector<std::vector<int>>& starts);
  void be_limited(bool limited) { limited_ = limited; }

  /// Longest way from each step to the end in slots; `elapsed_per_hand` is what an hour at the bench comes to in hours.
  std::vector<double> tails(double elapsed_per_hand) const;
  /// Steps with a real time of their own.
  bool is_done(int step) const { return done_[step] != nullptr; }
  const std::vector<std::vector<int>>& links_into() const { return into_; }
  const std::vector<std::vector<int>>& links_from() const { return from_; }

 private:
  struct Allowed {
    int from = 0, until = 0, again = 0;  ///< [from, until] or from `again` on; slots
  };
  struct Found {
    int start = -1;
    int late_link = -1;  ///< the link whose step must come later
  };
  void join_groups(const std::vector<char>& together);
  Moment end_min(int step) const;
  Allowed allowed_after(int link) const;
  Found earliest(int step, int from) const;
  int conflict_of_hands(int step, int start, int finish) const;
  int conflict_of_places(int step, int finish) const;
  void take(int step, int start, int sign);
  bool lay_group(const std::vector<int>& group);
  bool lay_members(const std::vector<int>& group, std::vector<int>& least);
  bool put_off(int link, int start, std::vector<int>& least);
  void reset();

  const Project& p_;
  const TimeTable& table_;
  std::vector<int> order_;
  std::vector<std::vector<int>> into_, from_;  ///< links by the step they end at; and begin at
  std::vector<const TickedStep*> done_;
  std::vector<int> dries_;
  int now_ = 0;
  std::vector<char> grouped_by_;  ///< the `together` the groups were made for
  std::vector<std::vector<int>> groups_;
  std::vector<int> group_of_;
  const ScheduleKeys* keys_ = nullptr;
  bool limited_ = false;
  std::vector<std::vector<int>> limits_;  ///< of each step, the next start from each slot on
  std::vector<char> let_go_;              ///< windows that could not be kept in this run
  std::vector<std::uint8_t> hands_taken_;
  std::vector<std::int16_t> places_taken_;
  SlotOrder plan_;
  int stuck_ = -1;
};

}  // namespace awl
