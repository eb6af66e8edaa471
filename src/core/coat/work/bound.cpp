#include "core/coat/work/bound.hpp"

#include <algorithm>
#include <functional>

namespace awl {

LowerBound::Supply LowerBound::supply_of(bool outdoors) const {
  WorkStep any;
  any.outdoors = outdoors;
  Supply supply;
  supply.sum.assign(table_.end() + 1, 0);
  for (int t = 0; t < table_.end(); ++t) {
    const int hands = table_.takes(any, t) ? table_.hands_at(t) : 0;
    supply.sum[t + 1] = supply.sum[t] + hands;
    if (hands == 0) continue;
    if (supply.stretches.empty() || supply.stretches.back().to != t) supply.stretches.push_back({t, t, 0});
    supply.stretches.back().to = t + 1;
    supply.stretches.back().hands = std::max(supply.stretches.back().hands, hands);
  }
  return supply;
}

/// How many steps of a length that cannot be interrupted fit between two slots.
int LowerBound::Supply::whole(int length, int from, int to) const {
  int count = 0;
  auto at = std::lower_bound(
      stretches.begin(), stretches.end(), from, [](const Stretch& s, int slot) { return s.to <= slot; });
  for (; at != stretches.end() && at->from < to; ++at)
    count += (std::min(at->to, to) - std::max(at->from, from)) / length * at->hands;
  return count;
}

/// How many stretches reach into [from, to], ends in them counted, and how long they are together.
std::pair<int, int> LowerBound::Supply::hours(int from, int to) const {
  std::pair<int, int> found{0, 0};
  auto at = std::lower_bound(
      stretches.begin(), stretches.end(), from, [](const Stretch& s, int slot) { return s.to < slot; });
  for (; at != stretches.end() && at->from < to; ++at) {
    ++found.first;
    found.second += std::min(at->to, to) - std::max(at->from, from);
  }
  return found;
}

LowerBound::LowerBound(const Project& project, const TimeTable& table)
    : p_(project), table_(table), order_(in_working_order(project)), into_(p_.steps.size()), from_(p_.steps.size()),
      done_(p_.steps.size(), nullptr),
      now_(table.slot_from(std::max(project.start, project.now.value_or(project.start)))), all_(supply_of(false)),
      outside_(supply_of(true)), next_end_(table.end() + 1, table.end()) {
  for (int l = 0; l < static_cast<int>(p_.links.size()); ++l) {
    into_[p_.links[l].to].push_back(l);
    from_[p_.links[l].from].push_back(l);
  }
  for (const TickedStep& t : p_.done) {
    const int i = p_.index_of(t.id);
    done_[i] = &t;
    done_ready_ = std::max(done_ready_, table_.slot_from(t.end) + slots_of(p_.steps[i].dries_min));
  }
  for (const int i : order_)
    if (done_[i] == nullptr) open_steps_.push_back(i);
  for (int t = table_.end(); t >= 0; --t)
    next_end_[t] = t > 0 && table_.hands_at(t - 1) > 0 ? t : (t < table_.end() ? next_end_[t + 1] : table_.end());
  find_heads();
}

/// Drops starts of the step after a link that no start of the one before allows. Both are in rising order, and so are
/// their ends.
bool LowerBound::drop_after(int link, Domains& starts) const {
  const WorkLink& l = p_.links[link];
  const std::vector<int>& before = starts[l.from];
  const std::vector<int>& ends = table_.of(l.from).finish;
  const int wait = slots_of(l.wait_min);
  std::size_t at = 0;
  const auto is_alone = [&](int start) {
    if (before.empty() || ends[before.front()] > start - wait) return true;
    if (!l.within_min) return false;
    if (l.or_after_min && ends[before.front()] <= start - slots_of(*l.or_after_min)) return false;
    while (at < before.size() && ends[before[at]] < start - *l.within_min / kSlotMin) ++at;
    return at == before.size() || ends[before[at]] > start - wait;
  };
  return std::erase_if(starts[l.to], is_alone) > 0;
}

/// The same of the step before a link.
bool LowerBound::drop_before(int link, Domains& starts) const {
  const WorkLink& l = p_.links[link];
  const std::vector<int>& after = starts[l.to];
  const std::vector<int>& ends = table_.of(l.from).finish;
  const int wait = slots_of(l.wait_min);
  std::size_t at = 0;
  const auto is_alone = [&](int start) {
    const int end = ends[start];
    if (after.empty() || after.back() < end + wait) return true;
    if (!l.within_min) return false;
    if (l.or_after_min && after.back() >= end + slots_of(*l.or_after_min)) return false;
    while (at < after.size() && after[at] < end + wait) ++at;
    return at == after.size() || after[at] > end + *l.within_min / kSlotMin;
  };
  return std::erase_if(starts[l.from], is_alone) > 0;
}

/// Drops starts until every one has partners across all links, or for as long as it pays.
bool LowerBound::make_consistent(Domains& starts) const {
  constexpr int kMostPasses = 6;
  bool moved = true;
  for (int pass = 0; moved && pass < kMostPasses; ++pass) {
    moved = false;
    for (const int i : open_steps_) {
      for (const int l : into_[i])
        if (done_[p_.links[l].from] == nullptr) moved |= drop_after(l, starts);
      if (starts[i].empty()) return false;
    }
    for (auto it = open_steps_.rbegin(); it != open_steps_.rend(); ++it) {
      for (const int l : from_[*it])
        if (done_[p_.links[l].to] == nullptr) moved |= drop_before(l, starts);
      if (starts[*it].empty()) return false;
    }
  }
  return true;
}

/// All starts the days leave, after what is ticked, and then after each other.
void LowerBound::find_heads() {
  const std::size_t n = p_.steps.size();
  starts_.assign(n, {});
  for (const int i : open_steps_) {
    const StepSlots& slots = table_.of(i);
    for (int s = now_; s < table_.end(); ++s)
      if (slots.finish[s] >= 0) starts_[i].push_back(s);
    for (const int l : into_[i]) {
      const TickedStep* done = done_[p_.links[l].from];
      if (done == nullptr) continue;
      const WorkLink& link = p_.links[l];
      const int from = table_.slot_from(done->end + link.wait_min);
      const int until = link.within_min ? table_.slot_until(done->end + *link.within_min) : table_.end();
      const int again = link.or_after_min ? table_.slot_from(done->end + *link.or_after_min) : table_.end();
      std::erase_if(starts_[i], [&](int s) { return s < from || (s > until && s < again); });
    }
  }
  make_consistent(starts_);
  free_ = ranges_of(starts_);
}

std::optional<StartDomains> LowerBound::starts_for(int ready) const {
  Domains starts(p_.steps.size());
  for (const int i : open_steps_) {
    const int end = std::min(ready, table_.end()) - slots_of(p_.steps[i].dries_min);
    if (end < 0) return std::nullopt;
    const auto last = std::upper_bound(starts_[i].begin(), starts_[i].end(), table_.of(i).last_start[end]);
    starts[i].assign(starts_[i].begin(), last);
    if (starts[i].empty()) return std::nullopt;
  }
  if (!make_consistent(starts)) return std::nullopt;
  return starts;
}

/// First starts and ends, and last ends, of what is left.
LowerBound::Ranges LowerBound::ranges_of(const Domains& starts) const {
  Ranges r{
      std::vector<int>(starts.size(), now_), std::vector<int>(starts.size(), 0), std::vector<int>(starts.size(), 0)};
  for (const int i : open_steps_) {
    const bool any = !starts[i].empty();
    r.head[i] = any ? starts[i].front() : table_.end();
    r.head_end[i] = any ? table_.of(i).finish[starts[i].front()] : table_.end();
    r.latest[i] = any ? table_.of(i).finish[starts[i].back()] : table_.end();
  }
  return r;
}

/// Within some stretch from a head to a latest end, more work than hands. Only steps that can start no earlier than the
/// one and must end no later than the other are counted.
bool LowerBound::lacks_hands(const Ranges& r) const {
  std::vector<int> by_end = open_steps_;
  std::sort(by_end.begin(), by_end.end(), [&](int a, int b) { return r.latest[a] < r.latest[b]; });
  for (const int first : open_steps_) {
    const int from = r.head[first];
    int need = 0, need_outside = 0;
    for (const int i : by_end) {
      if (r.head[i] < from) continue;
      const int work = table_.length_of(i) * p_.steps[i].hands;
      need += work;
      if (p_.steps[i].outdoors) need_outside += work;
      if (need > all_.between(from, r.latest[i]) || need_outside > outside_.between(from, r.latest[i])) return true;
    }
  }
  return false;
}

/// Steps that cannot be interrupted, against what whole openings hold of their length.
bool LowerBound::lacks_openings(const Ranges& r, bool outdoors) const {
  std::vector<int> by_end, lengths;
  for (const int i : open_steps_)
    if (!table_.of(i).pauses && table_.length_of(i) > 0 && (!outdoors || p_.steps[i].outdoors)) {
      by_end.push_back(i);
      lengths.push_back(table_.length_of(i));
    }
  std::sort(by_end.begin(), by_end.end(), [&](int a, int b) { return r.latest[a] < r.latest[b]; });
  std::sort(lengths.begin(), lengths.end());
  lengths.erase(std::unique(lengths.begin(), lengths.end()), lengths.end());
  const Supply& supply = outdoors ? outside_ : all_;
  for (const int length : lengths)
    for (const int first : by_end) {
      if (table_.length_of(first) < length) continue;
      int need = 0;
      for (const int i : by_end)
        if (r.head[i] >= r.head[first] && table_.length_of(i) >= length)
          if (++need > 1 && need > supply.whole(length, r.head[first], r.latest[i])) return true;
    }
  return false;
}

/// Coats against drying places: their hours together, and one after the other with their ends in bench time.
bool LowerBound::lacks_places(const Ranges& r) const {
  std::vector<int> by_end, times;
  const auto dries = [&](int i) { return slots_of(p_.steps[i].dries_min); };
  for (const int i : open_steps_)
    if (p_.steps[i].places > 0 && dries(i) > 0) {
      by_end.push_back(i);
      times.push_back(dries(i));
    }
  std::sort(
      by_end.begin(), by_end.end(), [&](int a, int b) { return r.latest[a] + dries(a) < r.latest[b] + dries(b); });
  for (const int first : by_end) {
    long need = 0;
    for (const int i : by_end) {
      if (r.head_end[i] < r.head_end[first]) continue;
      need += static_cast<long>(dries(i)) * p_.steps[i].places;
      if (need > static_cast<long>(p_.places) * (r.latest[i] + dries(i) - r.head_end[first])) return true;
    }
  }
  std::sort(by_end.begin(), by_end.end(), [&](int a, int b) { return r.latest[a] < r.latest[b]; });
  std::sort(times.begin(), times.end());
  times.erase(std::unique(times.begin(), times.end()), times.end());
  for (const int time : times)
    for (const int first : by_end) {
      int need = 0, row = 0, end = next_end_[r.head_end[first]];
      for (const int i : by_end) {
        if (r.head_end[i] < r.head_end[first] || dries(i) < time) continue;
        need += p_.steps[i].places;
        for (; end <= r.latest[i] && end < table_.end(); end = next_end_[std::min(end + time, table_.end())]) ++row;
        if (need > row * p_.places) return true;
      }
    }
  return false;
}

/// Between the ends of coats in one opening each but the last dries within it. So in a number of openings so many
/// coats, the slowest, may dry beyond closing; all others share the openings' own hours.
bool LowerBound::lacks_drying_days(const Ranges& r) const {
  std::vector<int> by_end;
  const auto dries = [&](int i) { return slots_of(p_.steps[i].dries_min); };
  for (const int i : open_steps_)
    if (p_.steps[i].places > 0 && dries(i) > 0) by_end.push_back(i);
  std::sort(by_end.begin(), by_end.end(), [&](int a, int b) { return r.latest[a] < r.latest[b]; });
  std::vector<int> times;
  for (const int first : by_end) {
    const int from = r.head_end[first];
    times.clear();
    long sum = 0;
    for (const int i : by_end) {
      if (r.head_end[i] < from) continue;
      // One place each, though it may take more: the slowest come first.
      times.insert(std::upper_bound(times.begin(), times.end(), dries(i), std::greater<>()), dries(i));
      sum += dries(i);
      const auto [count, open] = all_.hours(from, r.latest[i]);
      long last = 0;
      for (std::size_t k = 0; k < std::min(times.size(), static_cast<std::size_t>(count) * p_.places); ++k)
        last += times[k];
      if (sum - last > static_cast<long>(p_.places) * open) return true;
    }
  }
  return false;
}

bool LowerBound::is_impossible(int ready) const {
  if (ready < done_ready_) return true;
  const auto starts = starts_for(ready);
  return !starts || lacks_something(*starts);
}

bool LowerBound::lacks_something(const Domains& starts) const {
  const Ranges r = ranges_of(starts);
  return lacks_hands(r) || lacks_places(r) || lacks_drying_days(r) || lacks_openings(r, false) ||
      lacks_openings(r, true);
}

bool LowerBound::is_impossible_by_days(int ready) const {
  constexpr int kDay = static_cast<int>(kDayMin) / kSlotMin;
  if (ready < done_ready_) return true;
  auto starts = starts_for(ready);
  if (!starts || lacks_something(*starts)) return true;
  for (const int i : open_steps_)
    for (const bool first : {true, false}) {
      std::vector<int>& own = (*starts)[i];
      const int day = (first ? own.front() : own.back()) / kDay;
      if (own.front() / kDay == own.back() / kDay) continue;
      Domains there = *starts;
      std::erase_if(there[i], [&](int s) { return s / kDay != day; });
      if (make_consistent(there) && !lacks_something(there)) continue;
      std::erase_if(own, [&](int s) { return s / kDay == day; });
      if (!make_consistent(*starts) || lacks_something(*starts)) return true;
    }
  return false;
}

int LowerBound::find(int known) const {
  int refuted = -1, open = known;
  for (const int i : open_steps_) refuted = std::max(refuted, free_.head_end[i] + slots_of(p_.steps[i].dries_min) - 1);
  refuted = std::min(std::max(refuted, done_ready_ - 1), known - 1);
  while (open - refuted > 1) {
    const int middle = refuted + (open - refuted) / 2;
    (is_impossible(middle) ? refuted : open) = middle;
  }
  return open;
}

}  // namespace awl
