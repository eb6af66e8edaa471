#include "core/coat/masking.hpp"

#include <algorithm>
#include <cmath>
#include <map>
#include <optional>

#include "core/base/text.hpp"

namespace awl {
namespace {

// Workshop values.
constexpr double kSessionMm = 150.0;        // what laying out tape and paper is worth, in tape
constexpr double kLightOverDarkMm = 200.0;  // an extra light coat
constexpr double kTapeLoss = 1.15;
constexpr double kPaperWidthMm = 60.0;
constexpr std::size_t kBeam = 4000;
constexpr int kMostMaskedAreas = 64;

using Painted = unsigned long;

bool has(Painted set, int area) { return ((set >> area) & 1UL) != 0; }

Result<void> check(const MaskingQuestion& q) {
  const std::size_t n = q.areas.size();
  if (n > kMostMaskedAreas)
    return fail(Errc::out_of_range,
        "There are " + std::to_string(n) + " colour areas; " + std::to_string(kMostMaskedAreas) +
            " can be put in order. Make areas of one paint one.",
        "coat/areas");
  for (const auto* lengths : {&q.border_mm, &q.reach_mm}) {
    bool fits = lengths->size() == n;
    for (const auto& row : *lengths) fits = fits && row.size() == n;
    if (!fits) return fail(Errc::out_of_range, "The borders do not belong to these colour areas.", "coat/areas");
  }
  return {};
}

/// A way on through the sets of painted areas.
struct Route {
  double cost = 0.0;
  Painted before = 0;
  int last = -1;
};

MaskingPlan plan_along(const MaskingQuestion& q, const std::vector<int>& order) {
  MaskingPlan plan;
  Painted painted = 0;
  for (const int area : order) {
    MaskingCost one;
    masking_cost(q, painted, area, one);
    plan.cost_mm += one.cost_mm;
    plan.steps.push_back(one.step);
    painted |= 1UL << area;
  }
  return plan;
}

std::optional<MaskingPlan> exact_order(const MaskingQuestion& q) {
  const int n = static_cast<int>(q.areas.size());
  std::vector<Route> best(std::size_t{1} << n, Route{-1.0, 0, -1});
  best[0].cost = 0.0;
  MaskingCost one;
  for (Painted set = 0; set < best.size(); ++set) {
    if (best[set].cost < 0.0) continue;
    for (int area = 0; area < n; ++area) {
      if (has(set, area) || !masking_cost(q, set, area, one)) continue;
      Route& next = best[set | (1UL << area)];
      const double cost = best[set].cost + one.cost_mm;
      if (next.cost < 0.0 || cost < next.cost - 1e-9) next = {cost, set, area};
    }
  }
  if (best.back().cost < 0.0) return std::nullopt;
  std::vector<int> order;
  for (Painted set = best.size() - 1; set != 0; set = best[set].before) order.push_back(best[set].last);
  std::reverse(order.begin(), order.end());
  return plan_along(q, order);
}

/// Level by level the cheapest sets; the greedy way is one of them at each.
std::optional<MaskingPlan> beam_order(const MaskingQuestion& q) {
  struct Node {
    double cost = 0.0;
    std::vector<int> order;
  };
  const int n = static_cast<int>(q.areas.size());
  std::map<Painted, Node> level{{0, {}}};
  MaskingCost one;
  for (int depth = 0; depth < n; ++depth) {
    std::map<Painted, Node> next;
    for (const auto& [set, node] : level)
      for (int area = 0; area < n; ++area) {
        if (has(set, area) || !masking_cost(q, set, area, one)) continue;
        const double cost = node.cost + one.cost_mm;
        Node& to = next[set | (1UL << area)];
        if (!to.order.empty() && to.cost <= cost) continue;
        to.cost = cost;
        to.order = node.order;
        to.order.push_back(area);
      }
    if (next.empty()) return std::nullopt;
    while (next.size() > kBeam) {
      std::vector<double> costs;
      for (const auto& [set, node] : next) costs.push_back(node.cost);
      std::nth_element(costs.begin(), costs.begin() + kBeam - 1, costs.end());
      const double limit = costs[kBeam - 1];
      std::size_t kept = 0;
      std::erase_if(next, [&](const auto& entry) { return entry.second.cost > limit || ++kept > kBeam; });
    }
    level = std::move(next);
  }
  MaskingPlan plan = plan_along(q, level.begin()->second.order);
  plan.exact = false;
  return plan;
}

/// The cheapest next, and the next; nothing where it gets stuck.
std::optional<MaskingPlan> greedy_order(const MaskingQuestion& q) {
  std::vector<int> order;
  Painted painted = 0;
  MaskingCost one;
  while (order.size() < q.areas.size()) {
    int best = -1;
    double least = 0.0;
    for (int area = 0; area < static_cast<int>(q.areas.size()); ++area)
      if (!has(painted, area) && masking_cost(q, painted, area, one) && (best < 0 || one.cost_mm < least)) {
        best = area;
        least = one.cost_mm;
      }
    if (best < 0) return std::nullopt;
    order.push_back(best);
    painted |= 1UL << best;
  }
  MaskingPlan plan = plan_along(q, order);
  plan.exact = false;
  return plan;
}

double stroke_mm(double metres, double minutes_of_arc) {
  return metres * 1000.0 * std::tan(minutes_of_arc / 60.0 * 3.14159265358979323846 / 180.0);
}

}  // namespace

bool masking_cost(const MaskingQuestion& q, unsigned long painted, int area, MaskingCost& to) {
  const MaskArea& a = q.areas[area];
  to.cost_mm = 0.0;
  to.step.area = area;
  to.step.covers.clear();
  to.step.border_mm = 0.0;
  to.step.darker_below = 0;
  for (const int before : a.after)
    if (!has(painted, before)) return false;
  const bool taped = a.sprayed || a.hard_edge;
  double paper = 0.0;
  if (taped && a.bare_mm > 0.0) {
    to.step.border_mm += a.bare_mm;
    paper += a.bare_mm * kPaperWidthMm;
  }
  for (int j = 0; taped && j < static_cast<int>(q.areas.size()); ++j) {
    if (!has(painted, j)) continue;
    const bool meets = q.border_mm[area][j] > 0.0;
    const double along = meets ? q.border_mm[area][j] : a.sprayed ? q.reach_mm[area][j] : 0.0;
    if (along <= 0.0) continue;
    if (!q.areas[j].bears_tape) return false;
    to.step.border_mm += along;
    to.step.covers.push_back(j);
    const double strip = along * kPaperWidthMm;
    paper += q.areas[j].area_mm2 > 0.0 ? std::min(strip, q.areas[j].area_mm2) : strip;
    if (meets && a.sprayed && q.areas[j].sprayed && q.areas[j].lightness < a.lightness - 1e-9) ++to.step.darker_below;
  }
  to.step.tape_mm = to.step.border_mm * kTapeLoss;
  to.step.paper_mm2 = a.sprayed ? paper : 0.0;
  to.cost_mm =
      to.step.border_mm + (to.step.border_mm > 0.0 ? kSessionMm : 0.0) + kLightOverDarkMm * to.step.darker_below;
  return true;
}

Result<MaskingPlan> masking_order(const MaskingQuestion& question) {
  if (auto good = check(question); !good) return fail(good);
  if (question.areas.empty()) return MaskingPlan{};
  std::optional<MaskingPlan> plan;
  if (question.areas.size() <= kMostExactAreas) {
    plan = exact_order(question);
  } else {
    plan = beam_order(question);
    const auto greedy = greedy_order(question);
    if (greedy && (!plan || greedy->cost_mm < plan->cost_mm)) plan = greedy;
  }
  if (plan) return std::move(*plan);
  std::string names;
  for (const MaskArea& a : question.areas)
    if (!a.bears_tape) names += (names.empty() ? "" : ", ") + a.name;
  return fail(Errc::no_solution,
      names.empty() ? "The colour areas wait for each other in a circle."
                    : "No order of painting is allowed: beside what may not be taped over (" + names +
              ") something is sprayed later. Brush it, or paint it before.",
      "coat/areas");
}

double seen_stroke_mm(double metres) { return stroke_mm(metres, 1.0); }
double read_stroke_mm(double metres) { return stroke_mm(metres, 3.0); }

}  // namespace awl
