#include "cli/verb_help.hpp"
#include "cli/verbs.hpp"
#include "core/base/numbers.hpp"
#include "core/chain/chain.hpp"
#include "core/io/build_file.hpp"
#include "core/io/plan_calendar.hpp"
#include "core/io/plan_case.hpp"
#include "core/io/shop_jobs.hpp"
#include "core/steps/shopping.hpp"

namespace awl {
namespace {

Json step_json(const PlannedStep& s) {
  Json pauses = Json::array(), cautions = Json::array(), after = Json::array();
  for (const Span& p : s.pauses) pauses.push_back({iso_text(p.from), iso_text(p.to)});
  if (!s.caution.empty()) cautions.push_back(s.caution);
  for (const PlannedWhy& w : s.after) after.push_back({{"id", w.id}, {"why", w.why}});
  return {{"id", s.id}, {"title", s.name}, {"stage", s.stage}, {"scope", s.scope}, {"start", iso_text(s.start)},
      {"end", iso_text(s.end)}, {"ready", iso_text(s.ready)}, {"pause", pauses}, {"hands", s.hands},
      {"outdoors", s.outdoors}, {"fills_wait", s.fills_wait}, {"slack_min", s.slack_min},
      {"latest_start", iso_text(s.latest_start)}, {"cautions", cautions}, {"why_after", after}, {"done", s.done}};
}

Json plan_json(const Plan& plan) {
  Json steps = Json::array(), needs = Json::array(), masking = Json::array();
  for (const PlannedStep& s : plan.steps) steps.push_back(step_json(s));
  for (const Need& n : plan.needs)
    needs.push_back(
        {{"id", n.id}, {"name", n.name}, {"ml", rounded(n.ml, 1)}, {"cans", n.cans}, {"mass_g", rounded(n.dry_g, 1)}});
  for (const PlannedMask& m : plan.masking)
    masking.push_back({{"area", m.area}, {"tape_mm", rounded(m.tape_mm, 0)}, {"paper_mm2", rounded(m.paper_mm2, 0)},
        {"over", m.over}});
  const std::optional<Moment> due = plan.project.due;
  return {{"ready", iso_text(plan.ready)}, {"due", due ? Json(iso_text(*due)) : Json()},
      {"spare_min", due ? Json(*due - plan.ready) : Json()}, {"bound", iso_text(plan.found.bound)},
      {"proven_best", plan.found.proven_best}, {"steps", steps}, {"needs", needs}, {"masking", masking},
      {"again", plan.found.undone}, {"remarks", remarks_json(plan.remarks)}};
}

/// A project by itself, told as a build's plan is.
Plan plan_of(const Project& project, bool longer) {
  Plan plan;
  plan.project = project;
  plan.found = need(find_schedule(project, longer ? long_search() : ScheduleSearch{}));
  plan.steps = planned_steps(plan.project, plan.found);
  plan.ready = plan.found.schedule.ready;
  return plan;
}

/// A calendar's changes are counted from the file that is there.
void write_calendar(const std::string& path, const Plan& plan, const std::string& uid) {
  std::error_code none;
  const std::string before = std::filesystem::exists(path, none) ? need(read_file(path)) : std::string();
  need(write_file_safely(
      path, calendar_text(events_of(plan.steps, uid), before, plan.project.now.value_or(plan.project.start))));
}

void print_plan(const Plan& plan, std::ostream& out) {
  Day last{-1};
  for (const PlannedStep& s : plan.steps) {
    if (day_of(s.start) != last) out << day_of(s.start).spoken() << "\n";
    last = day_of(s.start);
    out << "  " << clock_text(s.start) << "  " << s.name << (s.done ? " (done)" : "") << "\n";
    if (!s.caution.empty() && !s.done) out << "         " << s.caution << "\n";
  }
  out << "Ready " << day_of(plan.ready).spoken() << " at " << clock_text(plan.ready)
      << (plan.found.proven_best ? "; no order is faster.\n" : "; at best " + iso_text(plan.found.bound) + ".\n");
}

Plan build_plan(const VerbOptions& o, std::string& uid) {
  const auto shop = chain();
  Build build = need(open_build(o.input));
  if (!o.now.empty()) {
    need(parse_moment(o.now));
    build.coat.now = o.now;
  }
  build.coat.search_longer = build.coat.search_longer || o.longer;
  const Derived derived = shop->derive(build);
  if (derived.error) throw Failed{*derived.error};
  uid = job_uid(build.name, build.wearer);
  return *derived.plan;
}

void tell_plan(const VerbOptions& o, std::ostream& out) {
  if (o.input.empty() && o.spec.empty())
    throw Failed{{Errc::empty_input, "Name a build, or a project with --spec.", "plan"}};
  std::string uid = "plan";
  Plan plan;
  if (o.spec.empty()) {
    plan = build_plan(o, uid);
  } else {
    Project project = need(read_plan_case(o.spec));
    if (!o.now.empty()) project.now = need(parse_moment(o.now));
    plan = plan_of(project, o.longer);
    uid = std::filesystem::path(o.spec).stem().string();
  }
  if (!o.ics.empty()) write_calendar(o.ics, plan, uid);
  if (!o.csv.empty()) need(write_file_safely(o.csv, plan_csv(plan.steps)));
  if (o.json)
    out << line_of(plan_json(plan));
  else
    print_plan(plan, out);
}

Json range_json(const std::pair<double, double>& r, double per) {
  return {rounded(r.first / per, 2), rounded(r.second / per, 2)};
}

void tell_quote(const VerbOptions& o, std::ostream& out) {
  const auto shop = chain();
  const Build build = need(open_build(o.input));
  const Derived derived = shop->derive(build);
  if (derived.error) throw Failed{*derived.error};
  std::map<std::string, std::vector<StageLog>> logs;
  std::map<std::string, double> stock;
  if (!o.book.empty()) {
    auto book = need(ShopBook::open(o.book));
    logs = need(JobPages(book).logs());
  }
  const Shopping list = need(shopping(build, derived, shop->materials(), stock));
  const std::vector<StageTime> stages = stage_times(*derived.plan, logs);
  const WholeTime time = whole_time(stages);
  const Quote quote = quote_of(list.price, time, build.coat.rates);
  if (!o.json) {
    out << "Materials " << fixed(quote.materials, 2) << ", " << fixed(quote.hours, 1) << " h (four times of five "
        << fixed(time.p80_min.first / 60.0, 1) << " to " << fixed(time.p80_min.second / 60.0, 1) << ", from "
        << time.logs << " logs): " << fixed(quote.price, 2) << ", range " << fixed(quote.price_p80.first, 0) << " to "
        << fixed(quote.price_p80.second, 0) << ".\n";
    return;
  }
  Json each = Json::array();
  for (const StageTime& s : stages)
    each.push_back({{"stage", s.stage}, {"rule_min", rounded(s.rule_min, 1)}, {"median_min", rounded(s.median_min, 1)},
        {"p80_min", range_json(s.p80_min, 1.0)}, {"logs", s.logs}});
  out << line_of({{"materials", rounded(quote.materials, 2)}, {"waste", rounded(quote.waste, 2)},
      {"hours",
          {{"median", rounded(quote.hours, 2)}, {"p50", range_json(time.p50_min, 60.0)},
              {"p80", range_json(time.p80_min, 60.0)}, {"logs", time.logs}}},
      {"labour", rounded(quote.labour, 2)}, {"overheads", rounded(quote.overheads, 2)},
      {"margin", rounded(quote.margin, 2)}, {"price", rounded(quote.price, 2)},
      {"price_p80", {rounded(quote.price_p80.first, 2), rounded(quote.price_p80.second, 2)}},
      {"all_priced", list.all_priced}, {"stages", each}});
}

}  // namespace

Result<void> verbPlan(const VerbOptions& o, std::ostream& out) {
  return as_verb([&] { tell_plan(o, out); });
}
Result<void> verbQuote(const VerbOptions& o, std::ostream& out) {
  return as_verb([&] { tell_quote(o, out); });
}

}  // namespace awl
