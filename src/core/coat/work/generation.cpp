#include "core/coat/work/generation.hpp"

#include <algorithm>
#include <functional>
#include <numeric>

namespace awl {
namespace {

/// How often the first of a group is put off until its window counts as one that cannot be met.
constexpr int kMostPutOffs = 400, kMostPutOffsOfWindow = 60;

int ceil_slot(Moment minutes) { return static_cast<int>((minutes + kSlotMin - 1) / kSlotMin); }

/// Groups of a graph's nodes that reach each other (Tarjan, in reverse order of the graph).
std::vector<int> strong_components(const std::vector<std::vector<int>>& next) {
  const int n = static_cast<int>(next.size());
  std::vector<int> index(n, -1), low(n, 0), component(n, -1), stack;
  int count = 0, found = 0;
  const std::function<void(int)> visit = [&](int i) {
    index[i] = low[i] = count++;
    stack.push_back(i);
    for (const int j : next[i]) {
      if (index[j] < 0) visit(j);
      if (component[j] < 0) low[i] = std::min(low[i], low[j]);
    }
    if (low[i] != index[i]) return;
    for (int j = -1; j != i;) {
      j = stack.back();
      stack.pop_back();
      component[j] = found;
    }
    ++found;
  };
  for (int i = 0; i < n; ++i)
    if (index[i] < 0) visit(i);
  return component;
}

}  // namespace

Generation::Generation(const Project& project, const TimeTable& table)
    : p_(project), table_(table), order_(in_working_order(project)), into_(p_.steps.size()), from_(p_.steps.size()),
      done_(p_.steps.size(), nullptr),
      now_(table.slot_from(std::max(project.start, project.now.value_or(project.start)))) {
  for (int l = 0; l < static_cast<int>(p_.links.size()); ++l) {
    into_[p_.links[l].to].push_back(l);
    from_[p_.links[l].from].push_back(l);
  }
  for (const TickedStep& t : p_.done) done_[p_.index_of(t.id)] = &t;
  for (const WorkStep& s : p_.steps) dries_.push_back(slots_of(s.dries_min));
}

std::vector<double> Generation::tails(double elapsed_per_hand) const {
  std::vector<double> tail(p_.steps.size(), 0.0);
  for (auto it = order_.rbegin(); it != order_.rend(); ++it) {
    double after = dries_[*it];
    for (const int l : from_[*it])
      after = std::max(after, tail[p_.links[l].to] + static_cast<double>(slots_of(p_.links[l].wait_min)));
    tail[*it] = table_.length_of(*it) * elapsed_per_hand + after;
  }
  return tail;
}

void Generation::limit_to(const std::vector<std::vector<int>>& starts) {
  limits_.resize(starts.size());
  for (std::size_t i = 0; i < starts.size(); ++i) {
    std::vector<int>& next = limits_[i];
    next.assign(table_.end(), table_.end());
    int from = 0;
    for (const int start : starts[i])
      for (; from <= start; ++from) next[from] = start;
  }
}

/// Steps bound by a maximum, and whatever lies between them, become one group; groups in a circle become one.
void Generation::join_groups(const std::vector<char>& together) {
  if (!group_of_.empty() && grouped_by_ == together) return;
  grouped_by_ = together;
  const int n = static_cast<int>(p_.steps.size());
  std::vector<std::vector<int>> next(n);
  for (int l = 0; l < static_cast<int>(p_.links.size()); ++l) {
    const WorkLink& link = p_.links[l];
    next[link.from].push_back(link.to);
    const bool bound = link.within_min && (link.is_hard() || together[l] != 0) && !is_done(link.from);
    if (bound) next[link.to].push_back(link.from);
  }
  group_of_ = strong_components(next);
  const int count = group_of_.empty() ? 0 : *std::max_element(group_of_.begin(), group_of_.end()) + 1;
  groups_.assign(count, {});
  for (const int i : order_) groups_[group_of_[i]].push_back(i);
}

/// The real end of a ticked step need not lie on the grid.
Moment Generation::end_min(int step) const {
  return done_[step] != nullptr ? done_[step]->end - table_.origin()
                                : static_cast<Moment>(plan_.finish[step]) * kSlotMin;
}

Generation::Allowed Generation::allowed_after(int link) const {
  const WorkLink& l = p_.links[link];
  const Moment end = end_min(l.from);
  Allowed a{ceil_slot(end + l.wait_min), table_.end(), table_.end()};
  if (!l.within_min) return a;
  a.until = static_cast<int>(std::max<Moment>(-1, (end + *l.within_min) / kSlotMin));
  const bool kept = keys_->together[link] != 0 && let_go_[link] == 0 && !is_done(l.from);
  if (l.or_after_min && !kept) a.again = ceil_slot(end + *l.or_after_min);
  return a;
}

/// The last slot of those a step would take at which no hands are free, or -1.
int Generation::conflict_of_hands(int step, int start, int finish) const {
  const WorkStep& s = p_.steps[step];
  for (int t = finish - 1; t >= start; --t)
    if (table_.takes(s, t) && hands_taken_[t] + s.hands > table_.hands_at(t)) return t;
  return -1;
}

int Generation::conflict_of_places(int step, int finish) const {
  const WorkStep& s = p_.steps[step];
  if (s.places == 0) return -1;
  for (int t = std::min(finish + dries_[step], table_.end()) - 1; t >= finish; --t)
    if (places_taken_[t] + s.places > p_.places) return t;
  return -1;
}

Generation::Found Generation::earliest(int step, int from) const {
  const StepSlots& slots = table_.of(step);
  int start = std::max(from, now_);
  bool windows = false;
  for (const int l : into_[step]) {
    start = std::max(start, allowed_after(l).from);
    windows |= p_.links[l].within_min.has_value();
  }
  while (start < table_.end()) {
    start = limited_ ? limits_[step][start] : slots.next_start[start];
    if (start >= table_.end()) break;
    Found found{start, -1};
    int later = start;
    if (windows)
      for (const int l : into_[step]) {
        const Allowed a = allowed_after(l);
        if (start <= a.until || start >= a.again) continue;
        if (a.again < table_.end())
          later = std::max(later, a.again);
        else
          found.late_link = l;
      }
    if (later == start) {
      const int finish = slots.finish[start];
      if (const int at = conflict_of_hands(step, start, finish); at >= 0)
        later = at + 1;
      else if (const int busy = conflict_of_places(step, finish); busy >= 0)
        later = std::max(start + 1, slots.start_done_from(busy + 1));
      else
        return found;
    }
    start = later;
  }
  return {};
}

void Generation::take(int step, int start, int sign) {
  const WorkStep& s = p_.steps[step];
  const int finish = table_.of(step).finish[start];
  for (int t = start; t < finish; ++t)
    if (table_.takes(s, t)) hands_taken_[t] = static_cast<std::uint8_t>(hands_taken_[t] + sign * s.hands);
  if (s.places > 0)
    for (int t = finish; t < std::min(finish + dries_[step], table_.end()); ++t)
      places_taken_[t] = static_cast<std::int16_t>(places_taken_[t] + sign * s.places);
  plan_.start[step] = sign > 0 ? start : -1;
  plan_.finish[step] = sign > 0 ? finish : -1;
}

/// Puts off the step before a link that was missed, so that its end comes within reach of `start`.
bool Generation::put_off(int link, int start, std::vector<int>& least) {
  const WorkLink& l = p_.links[link];
  if (is_done(l.from)) return false;
  const int needed = start - *l.within_min / kSlotMin;
  const int later = std::max(plan_.start[l.from] + 1, table_.of(l.from).start_done_from(std::max(0, needed)));
  least[l.from] = std::max(least[l.from], later);
  return true;
}

bool Generation::lay_members(const std::vector<int>& group, std::vector<int>& least) {
  std::size_t laid = 0;
  for (; laid < group.size(); ++laid) {
    const int step = group[laid];
    const Found found = earliest(step, least[step]);
    if (found.start >= 0 && found.late_link < 0) {
      take(step, found.start, +1);
      continue;
    }
    const bool may_go_on = found.start >= 0 && put_off(found.late_link, found.start, least);
    for (std::size_t k = 0; k < laid; ++k) take(group[k], plan_.start[group[k]], -1);
    if (!may_go_on) stuck_ = step;
    return false;
  }
  return true;
}

bool Generation::lay_group(const std::vector<int>& group) {
  if (group.size() == 1) {
    const Found found = earliest(group.front(), keys_->not_before[group.front()]);
    if (found.start < 0 || found.late_link >= 0) {
      stuck_ = group.front();
      return false;
    }
    take(group.front(), found.start, +1);
    return true;
  }
  std::vector<int> least = keys_->not_before;
  const std::vector<int> at_first = least;
  bool windows = false;
  for (const int i : group)
    for (const int l : into_[i])
      windows |= keys_->together[l] != 0 && !p_.links[l].is_hard() && let_go_[l] == 0 && p_.links[l].within_min;
  for (int tries = 0; tries < kMostPutOffs; ++tries) {
    stuck_ = -1;
    if (lay_members(group, least)) return true;
    if (windows && (stuck_ >= 0 || tries == kMostPutOffsOfWindow)) {
      // A window that cannot be met is left for the long wait.
      for (const int i : group)
        for (const int l : into_[i]) let_go_[l] = 1;
      windows = false;
      least = at_first;
      continue;
    }
    if (stuck_ >= 0) return false;
  }
  stuck_ = group.front();
  return false;
}

/// Ticked steps lie where they were, and dry on.
void Generation::reset() {
  const std::size_t n = p_.steps.size();
  plan_.start.assign(n, -1);
  plan_.finish.assign(n, -1);
  hands_taken_.assign(table_.end(), 0);
  places_taken_.assign(table_.end(), 0);
  let_go_.assign(p_.links.size(), 0);
  for (int i = 0; i < static_cast<int>(n); ++i) {
    if (done_[i] == nullptr) continue;
    plan_.start[i] = table_.slot_until(done_[i]->start);
    plan_.finish[i] = table_.slot_from(done_[i]->end);
    const int dry = table_.slot_from(done_[i]->end + p_.steps[i].dries_min);
    for (int t = std::max(0, plan_.finish[i]); t < dry; ++t)
      places_taken_[t] = static_cast<std::int16_t>(places_taken_[t] + p_.steps[i].places);
  }
}

std::optional<SlotOrder> Generation::run(const ScheduleKeys& keys) {
  keys_ = &keys;
  join_groups(keys.together);
  reset();
  stuck_ = -1;
  const int count = static_cast<int>(groups_.size());
  std::vector<int> missing(count, 0);
  std::vector<double> rank(count, 1e300);
  const auto is_between = [&](const WorkLink& l) { return group_of_[l.from] != group_of_[l.to]; };
  for (const WorkLink& l : p_.links)
    if (is_between(l)) ++missing[group_of_[l.to]];
  for (int i = 0; i < static_cast<int>(p_.steps.size()); ++i)
    rank[group_of_[i]] = std::min(rank[group_of_[i]], keys.rank[i]);
  std::vector<int> open;
  for (int g = 0; g < count; ++g)
    if (missing[g] == 0) open.push_back(g);
  while (!open.empty()) {
    const auto least = std::min_element(
        open.begin(), open.end(), [&](int a, int b) { return rank[a] != rank[b] ? rank[a] < rank[b] : a > b; });
    const int g = *least;
    open.erase(least);
    std::vector<int> undone;
    for (const int i : groups_[g])
      if (!is_done(i)) undone.push_back(i);
    if (!undone.empty() && !lay_group(undone)) return std::nullopt;
    for (const int i : groups_[g])
      for (const int l : from_[i])
        if (is_between(p_.links[l]) && --missing[group_of_[p_.links[l].to]] == 0)
          open.push_back(group_of_[p_.links[l].to]);
  }
  plan_.ready = 0;
  plan_.sum = 0;
  for (int i = 0; i < static_cast<int>(p_.steps.size()); ++i) {
    plan_.ready = std::max(plan_.ready, plan_.finish[i] + dries_[i]);
    plan_.sum += plan_.finish[i];
  }
  return plan_;
}

}  // namespace awl
