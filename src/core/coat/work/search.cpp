#include "core/coat/work/search.hpp"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "core/base/random.hpp"
#include "core/base/text.hpp"
#include "core/coat/work/bound.hpp"

namespace awl {
namespace {

constexpr int kSlotsADay = static_cast<int>(kDayMin) / kSlotMin;
constexpr int kMostDays = 400;
/// Past these stalls a plan up to an hour later is gone on with; past those the best is taken up again.
constexpr int kPatience = 60, kMostPatience = 150;
constexpr double kPushedLate = 0.05;  // how often a plan is pushed late before it is changed
constexpr int kAllowedWorse = 60 / kSlotMin;
constexpr int kLongestHoldBack = 5 * 60 / kSlotMin;

/// Days within which a plan likely ends: hands at the usual rate, waits one after the other.
int likely_days(const Project& p) {
  double hands = 0.0, waits = 0.0;
  for (const WorkStep& s : p.steps) {
    hands += s.hands_min;
    waits += s.dries_min;
  }
  for (const WorkLink& l : p.links) waits += l.or_after_min ? *l.or_after_min * 0.25 : l.wait_min;
  double open = 0.0;
  for (const BenchHours& h : p.days.usual)
    if (h.hands > 0) open += h.to_min - h.from_min;
  const Moment late = std::max(p.now.value_or(p.start), p.start) - p.start;
  const double days = hands / std::max(open, 60.0) * 2.0 + waits / kDayMin + static_cast<double>(late) / kDayMin +
      static_cast<double>(p.days.closed.size()) + 14.0;
  return std::clamp(static_cast<int>(days), 14, kMostDays);
}

class Search {
 public:
  Search(const Project& project, const TimeTable& table, const ScheduleSearch& options)
      : p_(project), options_(options), table_(table), bound_(project, table), generation_(project, table),
        random_(options.seed) {
    for (int l = 0; l < static_cast<int>(p_.links.size()); ++l)
      if (p_.links[l].within_min) {
        if (!p_.links[l].is_hard()) windows_.push_back(l);
        before_window_.push_back(p_.links[l].from);
      }
    for (int i = 0; i < static_cast<int>(p_.steps.size()); ++i)
      if (!generation_.is_done(i)) open_.push_back(i);
  }

  /// The search on a table no longer than what was found needs: all that is reckoned grows with it.
  std::optional<FoundSchedule> run(const ScheduleKeys& first, const Progress& progress, bool& stopped) {
    attempt(first);
    if (!best_) return std::nullopt;
    begin();
    reached_ = bound_.find(best_->ready);
    if (!at_bound()) improve(progress, stopped);
    if (options_.prove && !stopped && reached_ < best_->ready && bound_.is_impossible_by_days(best_->ready - 1))
      reached_ = best_->ready;
    reached_ = std::min(reached_, best_->ready);
    FoundSchedule found;
    found.schedule = schedule_from(p_, table_, *best_);
    found.bound = table_.moment_of(reached_);
    found.proven_best = best_->ready <= reached_;
    found.tried = tried_;
    found.keys = best_keys_;
    return found;
  }

 private:
  bool at_bound() const { return options_.stop_at_bound && best_ && best_->ready <= reached_; }

  /// Tries a plan; keeps it if it is the best so far.
  std::optional<SlotOrder> attempt(const ScheduleKeys& keys) {
    ++tried_;
    auto plan = generation_.run(keys);
    if (plan && (!best_ || plan->better_than(*best_))) {
      best_ = plan;
      best_keys_ = keys;
    }
    return plan;
  }

  /// Five ways to say what is urgent, with windows let go and kept.
  void begin() {
    const std::size_t n = p_.steps.size();
    double open = 0.0;
    for (const BenchHours& h : p_.days.usual) open += (h.to_min - h.from_min) * h.hands / double{kSlotMin};
    const std::vector<double> plain = generation_.tails(1.0);
    const std::vector<double> slow = generation_.tails(kSlotsADay / std::max(open, 1.0));
    ScheduleKeys keys{std::vector<double>(n, 0.0), std::vector<char>(p_.links.size(), 0), std::vector<int>(n, 0)};
    for (int way = 0; way < 5; ++way) {
      for (std::size_t i = 0; i < n; ++i) {
        const double head = bound_.heads()[i];
        const double by_way[] = {-plain[i], -slow[i], head, head - plain[i], 0.5 * head - slow[i]};
        keys.rank[i] = by_way[way];
      }
      for (const char kept : {0, 1}) {
        std::fill(keys.together.begin(), keys.together.end(), kept);
        attempt(keys);
        if (windows_.empty()) break;
      }
    }
  }

  /// What must end first goes first, give or take a few hours.
  ScheduleKeys by_latest_ends(const StartDomains& starts, double blur_slots) {
    ScheduleKeys keys = best_keys_;
    for (std::size_t i = 0; i < starts.size(); ++i)
      if (!starts[i].empty()) keys.rank[i] = starts[i].back() + blur_slots * random_.normal();
    std::fill(keys.not_before.begin(), keys.not_before.end(), 0);
    for (const int l : windows_) keys.together[l] = random_.uniform() < 0.5 ? 1 : 0;
    return keys;
  }

  /// A plan of the starts the generation is limited to, with keys that give the same or a better one without limits.
  std::optional<SlotOrder> attempt_limited(ScheduleKeys& keys) {
    ++tried_;
    const auto limited = generation_.run(keys);
    if (!limited) return std::nullopt;
    generation_.be_limited(false);
    for (const int i : before_window_) keys.not_before[i] = limited->start[i];
    auto plan = attempt(keys);
    if (!plan || limited->better_than(*plan)) {
      for (const int i : open_) keys.not_before[i] = limited->start[i];
      plan = attempt(keys);
    }
    return plan;
  }

  /// The latest start of a step that ends by `end` and finds hands and places; -1 if there is none.
  int latest_start(int step, int end) const {
    const WorkStep& s = p_.steps[step];
    const StepSlots& slots = table_.of(step);
    const int dries = slots_of(s.dries_min);
    while (end >= 0) {
      const int start = slots.last_start[end];
      if (start < 0) return -1;
      int clash = -1;
      for (int t = slots.finish[start] - 1; t >= start && clash < 0; --t)
        if (table_.takes(s, t) && hands_taken_[t] + s.hands > table_.hands_at(t)) clash = t;
      for (int t = std::min(slots.finish[start] + dries, table_.end()) - 1;
           s.places > 0 && t >= slots.finish[start] && clash < 0; --t)
        if (places_taken_[t] + s.places > p_.places) clash = t - dries;
      if (clash < 0) return start;
      end = std::min(end - 1, clash);
    }
    return -1;
  }

  /// Each step as late as the plan's own end allows, those that end last first; what then begins first goes first.
  /// Windows are left out of it: only the order is taken. Source: valls2005.
  ScheduleKeys pushed_late(const ScheduleKeys& from, const SlotOrder& at) {
    std::vector<int> order = open_, late = at.start;
    std::sort(order.begin(), order.end(), [&](int a, int b) {
      return at.finish[a] != at.finish[b] ? at.finish[a] > at.finish[b] : at.start[a] > at.start[b];
    });
    hands_taken_.assign(static_cast<std::size_t>(table_.end()), 0);
    places_taken_.assign(static_cast<std::size_t>(table_.end()), 0);
    ScheduleKeys keys = from;
    std::fill(keys.not_before.begin(), keys.not_before.end(), 0);
    for (const int i : order) {
      const WorkStep& step = p_.steps[i];
      const int dries = slots_of(step.dries_min);
      int end = std::min(table_.end(), at.ready - dries);
      for (const int l : generation_.links_from()[i])
        end = std::min(end, late[p_.links[l].to] - slots_of(p_.links[l].wait_min));
      const int start = latest_start(i, end);
      if (start >= 0) late[i] = start;
      keys.rank[i] = late[i];
      if (start < 0) continue;
      const int finish = table_.of(i).finish[start];
      for (int t = start; t < finish; ++t)
        if (table_.takes(step, t)) hands_taken_[t] += step.hands;
      for (int t = finish; t < std::min(finish + dries, table_.end()); ++t) places_taken_[t] += step.places;
    }
    return keys;
  }

  /// Plans from another beginning: for a time by which all is to be ready, of the starts that leaves alone. What is
  /// found is better than all before; if nothing is, plans by the same urgency and of any starts are gone on with.
  void begin_elsewhere(SlotOrder& at, ScheduleKeys& keys) {
    constexpr double kBlurs[] = {0.0, 12.0, 48.0, 144.0};
    const int room = std::max(1, best_->ready - reached_);
    const int target =
        random_.uniform() < 0.6 ? best_->ready - 1 : reached_ + random_.below(static_cast<std::size_t>(room));
    const auto starts = bound_.starts_for(target);
    if (!starts) return;
    generation_.limit_to(*starts);
    std::optional<SlotOrder> first;
    for (const bool limited : {true, false}) {
      for (const double blur : kBlurs) {
        generation_.be_limited(limited);
        ScheduleKeys next = by_latest_ends(*starts, blur);
        const auto plan = limited ? attempt_limited(next) : attempt(next);
        if (!plan || (first && !plan->better_than(*first))) continue;
        first = plan;
        keys = std::move(next);
      }
      generation_.be_limited(false);
      if (first) break;
    }
    if (first) at = *first;
  }

  void improve(const Progress& progress, bool& stopped) {
    if (open_.empty()) return;
    SlotOrder at = *best_, best_here = at;
    ScheduleKeys keys = best_keys_;
    begin_elsewhere(at, keys);
    for (int stalls = 0, rounds = 0; tried_ < options_.generations && !at_bound();) {
      if (tried_ % 50 == 0 && !progress.keep_going(static_cast<double>(tried_) / options_.generations)) {
        stopped = true;
        return;
      }
      ScheduleKeys next = random_.uniform() < kPushedLate ? pushed_late(keys, at) : keys;
      change(next, at);
      const auto plan = attempt(next);
      if (plan && (!at.better_than(*plan) || (stalls > kPatience && plan->ready <= best_here.ready + kAllowedWorse))) {
        if (plan->better_than(best_here)) {
          best_here = *plan;
          stalls = 0;
        }
        at = *plan;
        keys = std::move(next);
      }
      if (++stalls <= kMostPatience) continue;
      stalls = 0;
      if (++rounds % 2 == 1) {
        at = *best_;
        keys = best_keys_;
      } else {
        begin_elsewhere(at, keys);
      }
      best_here = at;
    }
  }

  int any_of(const std::vector<int>& list) { return list[random_.below(list.size())]; }

  void change(ScheduleKeys& keys, const SlotOrder& at) {
    const double what = random_.uniform();
    if (what < 0.35) {
      move_one(keys, at);
    } else if (what < 0.6) {
      hurry_ancestors(keys, at);
    } else if (what < 0.8 && !windows_.empty()) {
      char& kept = keys.together[any_of(windows_)];
      kept = kept == 0 ? 1 : 0;
    } else if (!before_window_.empty()) {
      hold_back(keys, at);
    } else {
      move_one(keys, at);
    }
  }

  /// Before or after another step that lies near it.
  void move_one(ScheduleKeys& keys, const SlotOrder& at) {
    const int i = any_of(open_);
    int other = any_of(open_);
    for (int tries = 0; tries < 4; ++tries) {
      const int nearer = any_of(open_);
      if (std::abs(at.start[nearer] - at.start[i]) < std::abs(at.start[other] - at.start[i]) && nearer != i)
        other = nearer;
    }
    keys.rank[i] = keys.rank[other] + (random_.uniform() < 0.5 ? -1e-3 : 1e-3) * (1.0 + random_.uniform());
  }

  /// One of the last steps and all it waits for become more urgent.
  void hurry_ancestors(ScheduleKeys& keys, const SlotOrder& at) {
    int last = any_of(open_);
    for (int tries = 0; tries < 3; ++tries)
      if (const int later = any_of(open_); at.finish[later] > at.finish[last]) last = later;
    const double by = random_.uniform() * kSlotsADay * 2.0;
    std::vector<char> marked(p_.steps.size(), 0);
    std::vector<int> stack{last};
    while (!stack.empty()) {
      const int i = stack.back();
      stack.pop_back();
      if (marked[i] != 0) continue;
      marked[i] = 1;
      keys.rank[i] -= by;
      for (const int l : generation_.links_into()[i]) stack.push_back(p_.links[l].from);
    }
  }

  /// A step before a window waits: until the next opening, or up to five hours; or does not wait any more.
  void hold_back(ScheduleKeys& keys, const SlotOrder& at) {
    const int i = any_of(before_window_);
    if (generation_.is_done(i)) return;
    const double what = random_.uniform();
    if (what < 0.35 || at.start[i] < 0) {
      keys.not_before[i] = 0;
    } else if (what < 0.7) {
      int slot = std::min(at.start[i], table_.end() - 1);
      while (slot < table_.end() && table_.hands_at(slot) > 0) ++slot;
      while (slot < table_.end() && table_.hands_at(slot) == 0) ++slot;
      keys.not_before[i] = slot;
    } else {
      keys.not_before[i] = at.start[i] + 1 + random_.below(kLongestHoldBack);
    }
  }

  const Project& p_;
  const ScheduleSearch& options_;
  const TimeTable& table_;
  LowerBound bound_;
  Generation generation_;
  Random random_;
  std::vector<int> windows_, before_window_, open_;
  std::vector<int> hands_taken_, places_taken_;  ///< by slot, while a plan is pushed late
  std::optional<SlotOrder> best_;
  ScheduleKeys best_keys_;
  int reached_ = 0, tried_ = 0;
};

/// The longest way to the end goes first, windows are let go, nothing waits on purpose.
ScheduleKeys plain_keys(const Project& p, const Generation& generation) {
  ScheduleKeys keys{generation.tails(1.0), std::vector<char>(p.links.size(), 0), std::vector<int>(p.steps.size(), 0)};
  for (double& rank : keys.rank) rank = -rank;
  return keys;
}

/// Ticked steps whose follower cannot come in time any more: a hard maximum missed.
std::vector<std::string> missed_brushes(const Project& p, const TimeTable& table) {
  const LowerBound bound(p, table);
  std::vector<std::string> missed;
  for (const WorkLink& l : p.links) {
    if (!l.is_hard()) continue;
    const auto done = [&](int step) {
      return std::find_if(p.done.begin(), p.done.end(), [&](const TickedStep& t) { return t.id == p.steps[step].id; });
    };
    const auto from = done(l.from);
    if (from == p.done.end() || done(l.to) != p.done.end()) continue;
    if (bound.heads()[l.to] > table.slot_until(from->end + *l.within_min)) missed.push_back(from->id);
  }
  return missed;
}

/// Ticked steps that a step must follow within a while.
std::vector<std::string> brushes_before(const Project& p, int step) {
  std::vector<std::string> before;
  for (const WorkLink& l : p.links)
    if (l.to == step && l.is_hard())
      for (const TickedStep& t : p.done)
        if (t.id == p.steps[l.from].id) before.push_back(t.id);
  return before;
}

Error no_room_for(const Project& p, int step) {
  const std::string named = step >= 0 ? in_quotes(p.steps[step].title.empty() ? p.steps[step].id : p.steps[step].title)
                                      : std::string("the last step");
  bool any = false;
  for (const BenchHours& h : p.days.usual) any |= h.hands > 0;
  for (const auto& [day, hours] : p.days.on)
    for (const BenchHours& h : hours) any |= h.hands > 0;
  if (!any) return {Errc::no_solution, "The bench is never open: give it working hours.", "open"};
  const std::string where = step >= 0 ? "steps/" + p.steps[step].id : "steps";
  if (step >= 0 && p.steps[step].outdoors && p.days.outdoors)
    return {Errc::no_solution,
        "No day on which one may work outdoors holds " + named + ": name one more, or a longer one.", where};
  if (step >= 0 && p.steps[step].hands == 2)
    return {Errc::no_solution, "Nobody is there to help with " + named + ", which takes two pairs of hands.", where};
  for (const WorkLink& l : p.links)
    if (step >= 0 && l.is_hard() && (l.to == step || l.from == step))
      return {Errc::no_solution,
          "No day lets " + in_quotes(p.steps[l.to].id) + " follow " + in_quotes(p.steps[l.from].id) + " after " +
              std::to_string(l.wait_min) + " to " + std::to_string(*l.within_min) +
              " minutes: open the bench longer, or take a glue that waits.",
          where};
  return {Errc::no_solution, "No time within " + std::to_string(kMostDays) + " days holds " + named + ".", where};
}

}  // namespace

Schedule schedule_from(const Project& p, const TimeTable& table, const SlotOrder& plan) {
  Schedule s;
  s.ready = p.start;
  for (int i = 0; i < static_cast<int>(p.steps.size()); ++i) {
    PlacedStep at{table.moment_of(plan.start[i]), table.moment_of(plan.finish[i]), {}, false};
    for (const TickedStep& t : p.done)
      if (t.id == p.steps[i].id) at = {t.start, t.end, {}, true};
    if (!at.done)
      for (int t = plan.start[i]; t < plan.finish[i]; ++t) {
        if (table.takes(p.steps[i], t)) continue;
        if (at.pauses.empty() || at.pauses.back().to != table.moment_of(t))
          at.pauses.push_back({table.moment_of(t), table.moment_of(t)});
        at.pauses.back().to = table.moment_of(t + 1);
      }
    s.ready = std::max(s.ready, ready_of(p.steps[i], at));
    s.steps.push_back(std::move(at));
  }
  return s;
}

Project without_undone(Project p, const std::vector<std::string>& undone) {
  std::erase_if(
      p.done, [&](const TickedStep& t) { return std::find(undone.begin(), undone.end(), t.id) != undone.end(); });
  return p;
}

Result<FoundSchedule> find_schedule(const Project& project, const ScheduleSearch& options, const Progress& progress) {
  if (auto good = check_project(project); !good) return fail(good);
  Project p = project;
  std::vector<std::string> undone;
  int stuck = -1;
  for (int days = likely_days(p); days <= kMostDays;
       days = days < kMostDays ? std::min(kMostDays, days * 2) : days + 1) {
    const TimeTable table(p, days);
    if (const auto missed = missed_brushes(p, table); !missed.empty()) {
      undone.insert(undone.end(), missed.begin(), missed.end());
      p = without_undone(std::move(p), missed);
    }
    Generation generation(p, table);
    const ScheduleKeys plain = plain_keys(p, generation);
    if (const auto first = generation.run(plain)) {
      // Whatever is better ends sooner: all that is reckoned from here on grows with the table.
      const int needed = first->ready / kSlotsADay + 3;
      const TimeTable shorter(p, std::min(days, needed));
      bool stopped = false;
      auto found = Search(p, shorter, options).run(plain, progress, stopped);
      if (stopped) return fail(Errc::cancelled, "The search was stopped.");
      expects(found.has_value(), "a plan fits a shorter table that ends after it");
      found->undone = undone;
      found->days = std::min(days, needed);
      return std::move(*found);
    }
    stuck = generation.stuck();
    if (const auto late = brushes_before(p, stuck); !late.empty()) {
      undone.insert(undone.end(), late.begin(), late.end());
      p = without_undone(std::move(p), late);
      days /= 2;  // the table is long enough
    }
  }
  return fail(no_room_for(p, stuck));
}

}  // namespace awl
