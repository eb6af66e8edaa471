#include "core/coat/work/project.hpp"

#include <algorithm>
#include <functional>

#include "core/base/text.hpp"

namespace awl {
namespace {

constexpr int kLongestStepMin = 60 * 24 * 14;
constexpr int kLongestWaitMin = 60 * 24 * 180;

std::string where_of(const WorkStep& step) { return "steps/" + step.id; }

Result<void> check_between(int value, int least, int most, const std::string& what, const std::string& where) {
  if (value >= least && value <= most) return {};
  return fail(Errc::out_of_range,
      what + " is " + std::to_string(value) + "; it may be " + std::to_string(least) + " to " + std::to_string(most) +
          ".",
      where);
}

Result<void> check_step(const WorkStep& s, int places) {
  const std::string named = "of step " + in_quotes(s.id);
  if (s.id.empty()) return fail(Errc::empty_input, "A step has no id.", "steps");
  struct Limit {
    int value, least, most;
    const char* what;
  };
  for (const Limit& l : {Limit{s.hands_min, 0, kLongestStepMin, "The time in minutes "},
           Limit{s.hands, 1, 2, "The number of hands "}, Limit{s.dries_min, 0, kLongestWaitMin, "The drying time "},
           Limit{s.places, 0, std::max(places, 0), "The number of drying places "}})
    if (auto good = check_between(l.value, l.least, l.most, l.what + named, where_of(s)); !good) return good;
  return {};
}

Result<void> check_link(const WorkLink& l, const Project& p) {
  const int n = static_cast<int>(p.steps.size());
  if (l.from < 0 || l.to < 0 || l.from >= n || l.to >= n)
    return fail(Errc::unknown_name, "A link names a step that is not there.", "links");
  const std::string named = "between " + in_quotes(p.steps[l.from].id) + " and " + in_quotes(p.steps[l.to].id);
  const std::string where = "links/" + p.steps[l.from].id + "/" + p.steps[l.to].id;
  if (auto good = check_between(l.wait_min, 0, kLongestWaitMin, "The wait " + named, where); !good) return good;
  if (l.within_min)
    if (auto good = check_between(*l.within_min, l.wait_min, kLongestWaitMin, "The longest wait " + named, where);
        !good)
      return good;
  if (l.or_after_min && !l.within_min)
    return fail(Errc::out_of_range, "The wait " + named + " starts anew after a window that it does not have.", where);
  if (l.or_after_min)
    return check_between(*l.or_after_min, *l.within_min, kLongestWaitMin, "The long wait " + named, where);
  return {};
}

Result<void> check_hours(const std::vector<BenchHours>& hours, const std::string& where) {
  for (const BenchHours& h : hours) {
    if (h.from_min < 0 || h.to_min > kDayMin || h.from_min >= h.to_min)
      return fail(Errc::out_of_range,
          "The bench cannot be open from " + hour_text(std::clamp(h.from_min, 0, 5999)) + " to " +
              hour_text(std::clamp(h.to_min, 0, 5999)) + ".",
          where);
    if (auto good = check_between(h.hands, 0, 2, "The number of pairs of hands", where); !good) return good;
  }
  return {};
}

/// Steps that wait for each other in a circle, or nothing.
std::vector<int> circle_in(const Project& p) {
  std::vector<std::vector<int>> next(p.steps.size());
  for (const WorkLink& l : p.links) next[l.from].push_back(l.to);
  std::vector<char> state(p.steps.size(), 0);  // 1 on the way, 2 done
  std::vector<int> way;
  const std::function<bool(int)> circles = [&](int i) {
    if (state[i] == 2) return false;
    way.push_back(i);
    if (state[i] == 1) return true;
    state[i] = 1;
    for (const int j : next[i])
      if (circles(j)) return true;
    state[i] = 2;
    way.pop_back();
    return false;
  };
  for (int i = 0; i < static_cast<int>(p.steps.size()); ++i)
    if (circles(i)) return {std::find(way.begin(), way.end(), way.back()), way.end()};
  return {};
}

}  // namespace

int Project::index_of(const std::string& id) const {
  const auto at = std::find_if(steps.begin(), steps.end(), [&](const WorkStep& s) { return s.id == id; });
  return at == steps.end() ? -1 : static_cast<int>(at - steps.begin());
}

Result<void> check_project(const Project& p) {
  if (p.steps.size() > kMostWorkSteps)
    return fail(Errc::too_large,
        "The plan has " + std::to_string(p.steps.size()) + " steps; " + std::to_string(kMostWorkSteps) +
            " are the most.",
        "steps");
  if (auto good = check_between(p.places, 0, 99, "The number of drying places", "places"); !good) return good;
  std::set<std::string> ids;
  for (const WorkStep& s : p.steps) {
    if (auto good = check_step(s, p.places); !good) return good;
    if (!ids.insert(s.id).second)
      return fail(Errc::out_of_range, "Two steps are called " + in_quotes(s.id) + ".", where_of(s));
  }
  for (const WorkLink& l : p.links)
    if (auto good = check_link(l, p); !good) return good;
  for (const TickedStep& t : p.done) {
    if (ids.count(t.id) == 0)
      return fail(Errc::unknown_name, "A step " + in_quotes(t.id) + " is ticked that is not in the plan.", "done");
    if (t.end < t.start)
      return fail(Errc::out_of_range,
          "Step " + in_quotes(t.id) + " ends at " + iso_text(t.end) + ", before it starts at " + iso_text(t.start) +
              ": was the clock set back?",
          "done/" + t.id);
  }
  if (auto good = check_hours(p.days.usual, "open"); !good) return good;
  for (const auto& [day, hours] : p.days.on)
    if (auto good = check_hours(hours, "open_on/" + day.iso()); !good) return good;
  if (const std::vector<int> circle = circle_in(p); !circle.empty()) {
    std::string text;
    for (const int i : circle) text += (text.empty() ? "" : ", then ") + p.steps[i].id;
    return fail(Errc::no_solution, "These steps wait for each other in a circle: " + text + ".", "links");
  }
  return {};
}

std::vector<int> in_working_order(const Project& p) {
  std::vector<int> before(p.steps.size(), 0), order;
  std::vector<std::vector<int>> next(p.steps.size());
  for (const WorkLink& l : p.links) {
    ++before[l.to];
    next[l.from].push_back(l.to);
  }
  for (int i = 0; i < static_cast<int>(p.steps.size()); ++i)
    if (before[i] == 0) order.push_back(i);
  for (std::size_t k = 0; k < order.size(); ++k)
    for (const int j : next[order[k]])
      if (--before[j] == 0) order.push_back(j);
  expects(order.size() == p.steps.size(), "steps wait for each other in a circle");
  return order;
}

}  // namespace awl
