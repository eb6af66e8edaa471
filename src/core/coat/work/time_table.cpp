#include "core/coat/work/time_table.hpp"

#include <algorithm>

namespace awl {
namespace {

/// What is begun before closing is worth laying out the tools for: workshop value.
constexpr int kFirstBitSlots = 6;

/// The longest stretch of slots in these hours that a step could be worked at, within a span of the day.
int longest_of(std::vector<BenchHours> hours, const WorkStep& step, int from_min, int to_min) {
  std::sort(hours.begin(), hours.end(), [](const auto& a, const auto& b) { return a.from_min < b.from_min; });
  int longest = 0, start = 0, end = -1;
  for (const BenchHours& h : hours) {
    if (h.hands < step.hands) continue;
    const int from = slots_of(std::max(h.from_min, from_min)), to = std::min(h.to_min, to_min) / kSlotMin;
    if (from >= to) continue;
    if (from > end) start = from;
    end = std::max(end, to);
    longest = std::max(longest, end - start);
  }
  return longest;
}

/// Of any day at all, so that it does not hang on how far one looks ahead.
int longest_opening(const Project& p, const WorkStep& step) {
  const auto hours_on = [&](Day day) {
    const auto own = p.days.on.find(day);
    return own == p.days.on.end() ? p.days.usual : own->second;
  };
  int longest = 0;
  if (step.outdoors && p.days.outdoors) {
    for (const Span& span : *p.days.outdoors)
      for (Day day = day_of(span.from); day <= day_of(span.to) && day.number < day_of(span.from).number + 400;
           ++day.number)
        if (p.days.closed.count(day) == 0)
          longest = std::max(longest,
              longest_of(hours_on(day), step, static_cast<int>(std::max<Moment>(0, span.from - midnight_of(day))),
                  static_cast<int>(std::min<Moment>(kDayMin, span.to - midnight_of(day)))));
    return longest;
  }
  longest = longest_of(p.days.usual, step, 0, kDayMin);
  for (const auto& [day, hours] : p.days.on)
    if (p.days.closed.count(day) == 0) longest = std::max(longest, longest_of(hours, step, 0, kDayMin));
  return longest;
}

}  // namespace

int StepSlots::start_done_from(int slot) const {
  // Finishes never fall as starts rise: search over the starts.
  int low = 0, high = static_cast<int>(next_start.size());
  while (low < high) {
    const int middle = (low + high) / 2;
    const int start = next_start[middle];
    if (start >= static_cast<int>(finish.size()) || finish[start] >= slot)
      high = middle;
    else
      low = start + 1;
  }
  return low < static_cast<int>(next_start.size()) ? next_start[low] : static_cast<int>(next_start.size());
}

TimeTable::TimeTable(const Project& p, int days)
    : origin_(midnight_of(day_of(p.start))), hands_(static_cast<std::size_t>(days) * (kDayMin / kSlotMin), 0),
      outdoors_(hands_.size(), p.days.outdoors ? 0 : 1) {
  const Day first = day_of(p.start);
  for (int d = 0; d < days; ++d) {
    const Day day{first.number + d};
    if (p.days.closed.count(day) > 0) continue;
    const auto own = p.days.on.find(day);
    for (const BenchHours& h : own == p.days.on.end() ? p.days.usual : own->second) {
      const int base = d * static_cast<int>(kDayMin / kSlotMin);
      for (int s = slots_of(h.from_min); s < h.to_min / kSlotMin; ++s)
        hands_[base + s] = std::max(hands_[base + s], static_cast<std::uint8_t>(h.hands));
    }
  }
  if (p.days.outdoors)
    for (const Span& span : *p.days.outdoors)
      for (int s = std::max(0, slot_from(span.from)); s < std::min(end(), slot_until(span.to)); ++s) outdoors_[s] = 1;
  for (const WorkStep& step : p.steps) {
    length_.push_back(slots_of(step.hands_min));
    auto& kind = kinds_[{length_.back(), step.hands, step.outdoors, step.may_pause}];
    if (!kind) {
      const bool pauses = step.may_pause || length_.back() > longest_opening(p, step);
      kind = std::make_unique<StepSlots>(slots_for(step, length_.back(), pauses));
    }
    of_step_.push_back(kind.get());
  }
}

int TimeTable::slot_from(Moment moment) const {
  const Moment since = moment - origin_;
  return static_cast<int>(std::clamp<Moment>(since <= 0 ? 0 : (since + kSlotMin - 1) / kSlotMin, 0, end()));
}

int TimeTable::slot_until(Moment moment) const {
  const Moment since = moment - origin_;
  return since < 0 ? -1 : static_cast<int>(std::min<Moment>(since / kSlotMin, end()));
}

StepSlots TimeTable::slots_for(const WorkStep& step, int length, bool pauses) const {
  StepSlots slots;
  const int n = end();
  std::vector<int> run(n + 1, 0), open;  // open slots from here on without a break; all of them in order
  std::vector<int> rank(n + 1, 0);       // how many open slots lie before
  for (int s = n - 1; s >= 0; --s) run[s] = takes(step, s) ? run[s + 1] + 1 : 0;
  for (int s = 0; s < n; ++s) {
    rank[s] = static_cast<int>(open.size());
    if (run[s] > 0) open.push_back(s);
  }
  slots.pauses = pauses;
  slots.finish.assign(n, -1);
  for (int s = 0; s < n; ++s) {
    if (length == 0) {
      slots.finish[s] = s;
    } else if (run[s] >= length) {
      slots.finish[s] = s + length;
    } else if (slots.pauses && run[s] > 0) {
      const bool opens = s == 0 || run[s - 1] == 0;
      const std::size_t last = static_cast<std::size_t>(rank[s] + length - 1);
      if ((opens || run[s] >= std::min(kFirstBitSlots, length)) && last < open.size()) slots.finish[s] = open[last] + 1;
    }
  }
  slots.next_start.assign(n, n);
  for (int s = n - 1; s >= 0; --s)
    slots.next_start[s] = slots.finish[s] >= 0 ? s : (s + 1 < n ? slots.next_start[s + 1] : n);
  slots.last_start.assign(n + 1, -1);
  for (int s = 0; s < n; ++s)
    if (slots.finish[s] >= 0 && slots.finish[s] <= n) slots.last_start[slots.finish[s]] = s;
  for (int s = 1; s <= n; ++s) slots.last_start[s] = std::max(slots.last_start[s], slots.last_start[s - 1]);
  return slots;
}

}  // namespace awl
