#include "core/coat/plan.hpp"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace awl {
namespace {

/// A glue's amount is of both faces and grows with the face; an open-pored face drinks more. Workshop values.
constexpr double kPorousFace = 1.3;

void add_need(Plan& plan, const std::string& id, const std::string& name, const CoatAmount& a) {
  for (Need& n : plan.needs)
    if (n.id == id) {
      n.ml += a.ml;
      n.dry_g += a.dry_g;
      n.film_mm = std::max(n.film_mm, a.film_mm);
      return;
    }
  plan.needs.push_back({name, a.ml, id, 0, a.dry_g, a.film_mm});
}

CoatAmount amount_on(const Coating& c, int coats, double area_m2) {
  CoatUse use;
  use.area_m2 = area_m2;
  use.coats = coats;
  use.ml_per_m2 = c.ml_per_m2;
  use.overspray = overspray_of(c.sprayed, false);
  use.can_ml = c.can_ml;
  use.density_g_ml = c.density_g_ml;
  use.solids = c.solids;
  return amount_of(use);
}

/// What is needed of each product, as the steps use it.
void list_needs(const Served& served, const Materials& materials, Plan& plan) {
  for (const Served::Joint& j : served.joints) {
    CoatAmount a;
    const bool drinks = j.joint->one.pores != Pores::closed || j.joint->other.pores != Pores::closed;
    a.ml = j.glue.product.ml_per_m * j.joint->seam_m * (drinks ? kPorousFace : 1.0);
    if (a.ml > 0.0) add_need(plan, j.glue.product.id, j.glue.product.name, a);
  }
  for (const Served::Coats& c : served.coats) {
    for (const auto which : {&Served::Coats::seal, &Served::Coats::paint, &Served::Coats::clear}) {
      const Coating& coating = (c.*which).product;
      if (coating.coats == 0 || (which == &Served::Coats::paint && !served.areas.empty())) continue;
      add_need(plan, coating.id, coating.name, amount_on(coating, coating.coats, c.work->size.area_m2));
    }
  }
  for (const Served::Area& a : served.areas)
    add_need(plan, a.paint.product.id, a.paint.product.name, amount_on(a.paint.product, a.coats, a.work->area_m2));
  for (Need& n : plan.needs)
    if (const Coating* c = materials.coating(n.id); c != nullptr && c->can_ml > 0.0)
      n.cans = static_cast<int>(std::ceil(n.ml / c->can_ml - 1e-9));
}

/// Whether something else waits or dries as this starts.
bool fills_a_wait(const Project& p, const Schedule& s, int step) {
  const Moment at = s.steps[step].start;
  return std::any_of(p.links.begin(), p.links.end(), [&](const WorkLink& l) {
    return l.to != step && l.from != step && l.wait_min > 0 && s.steps[l.from].end <= at &&
        at < s.steps[l.from].end + l.wait_min;
  });
}

}  // namespace

const PlannedStep* Plan::next() const {
  const auto at = std::find_if(steps.begin(), steps.end(), [](const PlannedStep& s) { return !s.done; });
  return at == steps.end() ? nullptr : &*at;
}

std::vector<PlannedStep> planned_steps(const Project& p, const FoundSchedule& found) {
  const std::vector<int> slack = slack_min(p, found);
  const Schedule& s = found.schedule;
  std::vector<int> order(p.steps.size());
  std::iota(order.begin(), order.end(), 0);
  std::stable_sort(order.begin(), order.end(), [&](int a, int b) {
    return s.steps[a].start != s.steps[b].start ? s.steps[a].start < s.steps[b].start : s.steps[a].end < s.steps[b].end;
  });
  const Moment spare = p.due ? std::max<Moment>(0, *p.due - s.ready) : 0;
  std::vector<PlannedStep> steps;
  for (const int i : order) {
    const WorkStep& w = p.steps[i];
    const PlacedStep& at = s.steps[i];
    PlannedStep step{w.id, w.stage, w.scope, w.title, joined_cautions(w.cautions), at.start, at.end, ready_of(w, at),
        at.pauses, w.hands_min, w.hands, fills_a_wait(p, s, i), w.outdoors, at.done, slack[i], 0, {}};
    step.latest_start = at.start + slack[i] + spare;
    for (const WorkLink& l : p.links)
      if (l.to == i) step.after.push_back({p.steps[l.from].id, l.why});
    steps.push_back(std::move(step));
  }
  return steps;
}

Result<Plan> plan_finishing(const CoatSpec& spec, const FinishWork& work, const Materials& materials,
    const std::vector<StepRule>& rules, const Progress& progress) {
  if (auto good = check_coat(spec); !good) return fail(good);
  if (auto good = check_order(rules); !good) return fail(good);
  const auto served = serve(spec, work, materials);
  if (!served) return fail(served);
  Expansion made = expand(spec, *served, work, rules);
  Plan plan;
  auto found = find_schedule(made.project, spec.search_longer ? long_search() : ScheduleSearch{}, progress);
  if (!found) return fail(found);
  plan.project = std::move(made.project);
  plan.found = std::move(*found);
  plan.steps = planned_steps(plan.project, plan.found);
  plan.ready = plan.found.schedule.ready;
  for (const PlannedStep& s : plan.steps) {
    plan.hands_min += s.hands_min;
    plan.waiting_min += static_cast<double>(s.wait_min());
  }
  // It must lie ready in the morning of the due day, when the bench opens.
  plan.spare_min = static_cast<double>(*plan.project.due - plan.ready);
  for (const MaskingStep& m : made.masking.steps) {
    PlannedMask mask{served->areas[static_cast<std::size_t>(m.area)].area->name, m.tape_mm, m.paper_mm2, {}};
    for (const int over : m.covers) mask.over.push_back(served->areas[static_cast<std::size_t>(over)].area->name);
    plan.masking.push_back(std::move(mask));
  }
  list_needs(*served, materials, plan);
  plan.remarks = coat_remarks(spec, work, *served, plan);
  if (made.unmaskable)
    plan.remarks.push_back({"coat.masking", Severity::warning, "coat", made.unmaskable->text, {}, {}, {}});
  return plan;
}

double dry_coats_g_m2(const CoatSpec& spec, const Materials& materials) {
  double grams = 0.0;
  const auto add = [&](const Result<Coating>& c, int asked) {
    if (c && c->coats > 0) grams += amount_on(*c, asked > 0 ? asked : c->coats, 1.0).dry_g;
  };
  add(materials.seal(spec.seal), spec.seal_coats);
  add(materials.paint(spec.paint), 0);
  add(materials.clear(spec.clear), spec.clear_coats);
  return grams;
}

std::vector<StageTime> stage_times(const Plan& plan, const std::map<std::string, std::vector<StageLog>>& logs) {
  std::vector<std::pair<std::string, double>> rules;
  for (const PlannedStep& s : plan.steps) {
    const auto at = std::find_if(rules.begin(), rules.end(), [&](const auto& r) { return r.first == s.stage; });
    if (at == rules.end())
      rules.push_back({s.stage, s.hands_min});
    else
      at->second += s.hands_min;
  }
  std::vector<StageTime> times;
  for (const auto& [stage, minutes] : rules) {
    const auto own = logs.find(stage);
    times.push_back(stage_time(stage, minutes, own == logs.end() ? std::vector<StageLog>{} : own->second));
  }
  return times;
}

std::string clock_text(Moment moment) { return hour_text(minute_of_day(moment)); }

std::string hands_text(double minutes) {
  const long m = std::lround(minutes);
  if (m < 60) return std::to_string(m) + " min";
  return std::to_string(m / 60) + " h" + (m % 60 > 0 ? " " + std::to_string(m % 60) + " min" : "");
}

std::string duration_text(double minutes) {
  const long m = std::lround(minutes);
  const long days = m / 1440, hours = m / 60 % 24, rest = m % 60;
  if (days > 0)
    return std::to_string(days) + (days == 1 ? " day" : " days") +
        (hours > 0 ? " " + std::to_string(hours) + " h" : "");
  if (hours > 0) return std::to_string(hours) + " h" + (rest > 0 ? " " + std::to_string(rest) + " min" : "");
  return std::to_string(rest) + " min";
}

}  // namespace awl
