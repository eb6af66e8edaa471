#include "core/coat/work/slack.hpp"

#include <algorithm>

#include "core/base/text.hpp"

namespace awl {
namespace {

constexpr int kLongestDelayMin = 60 * static_cast<int>(kDayMin);

}  // namespace

std::vector<int> slack_min(const Project& project, const FoundSchedule& found) {
  const Project p = without_undone(project, found.undone);
  const TimeTable table(p, found.days);
  Generation generation(p, table);
  std::vector<int> slack(p.steps.size(), 0);
  const int ready = table.slot_from(found.schedule.ready);
  for (int i = 0; i < static_cast<int>(p.steps.size()); ++i) {
    if (found.schedule.steps[i].done) continue;
    const int start = table.slot_from(found.schedule.steps[i].start);
    const auto holds = [&](int by) {
      ScheduleKeys keys = found.keys;
      keys.not_before[i] = std::max(keys.not_before[i], start + by);
      const auto plan = generation.run(keys);
      return plan && plan->ready <= ready;
    };
    int low = 0, high = ready - table.slot_from(ready_of(p.steps[i], found.schedule.steps[i])) + 1;
    while (high - low > 1) {
      const int middle = (low + high) / 2;
      (holds(middle) ? low : high) = middle;
    }
    slack[i] = low * kSlotMin;
  }
  return slack;
}

Result<Slipping> what_slips(
    const Project& project, const FoundSchedule& found, const std::string& step, int later_min) {
  const Project p = without_undone(project, found.undone);
  const int index = p.index_of(step);
  if (index < 0) return fail(Errc::unknown_name, "There is no step " + in_quotes(step) + " in the plan.", "steps");
  if (later_min < 0 || later_min > kLongestDelayMin)
    return fail(Errc::out_of_range,
        "A step cannot be put off by " + std::to_string(later_min) + " minutes; 0 to " +
            std::to_string(kLongestDelayMin) + " are looked at.",
        "steps/" + step);
  const TimeTable table(p, std::min(400, found.days + later_min / static_cast<int>(kDayMin) + 14));
  Generation generation(p, table);
  ScheduleKeys keys = found.keys;
  keys.not_before[index] =
      std::max(keys.not_before[index], table.slot_from(found.schedule.steps[index].start + later_min));
  const auto plan = generation.run(keys);
  if (!plan) return fail(Errc::no_solution, "Put off so far, the plan does not fit any more.", "steps/" + step);
  const Schedule moved = schedule_from(p, table, *plan);
  Slipping s;
  s.ready = moved.ready;
  for (int i = 0; i < static_cast<int>(p.steps.size()); ++i)
    if (moved.steps[i].start != found.schedule.steps[i].start)
      s.slips.push_back({i, found.schedule.steps[i].start, moved.steps[i].start});
  std::sort(s.slips.begin(), s.slips.end(), [](const Slip& a, const Slip& b) { return a.becomes < b.becomes; });
  return s;
}

}  // namespace awl
