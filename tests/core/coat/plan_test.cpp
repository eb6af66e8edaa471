#include "core/coat/plan.hpp"

#include <catch2/catch.hpp>

#include "core/coat/work/audit.hpp"
#include "support/bench_data.hpp"
#include "support/finishing_rules.hpp"

using namespace awl;

namespace {

CoatSpec spec() {
  CoatSpec s;
  s.start = Day{20731};
  s.due = Day{20745};
  return s;
}

const WorkSize kHood{16, 2.6, 0.13};

Plan plan(const CoatSpec& s, const std::string& foam = "eva-firm") {
  const auto made =
      plan_finishing(s, work_on(*test::materials().foam(foam), kHood), test::materials(), test::finishing_rules());
  REQUIRE(made);
  return *made;
}

int at(const Plan& p, const std::string& id, bool last = false) {
  int found = -1;
  for (int i = 0; i < static_cast<int>(p.steps.size()); ++i)
    if (rule_of(p.steps[i].id) == id && (last || found < 0)) found = i;
  return found;
}

bool has(const Plan& p, const std::string& id) {
  return std::any_of(p.remarks.begin(), p.remarks.end(), [&](const Remark& r) { return r.id == id; });
}

}  // namespace

TEST_CASE("nothing is begun before what it needs is dry", "[coat][plan]") {
  CoatSpec s = spec();
  s.hours_a_day = GENERATE(1.0, 4.0, 9.0);
  s.seal = GENERATE("rubber", "glue-coats", "primer", "house-paint");
  s.fill_seams = GENERATE(true, false);
  const Plan p = plan(s);
  CAPTURE(s.hours_a_day, s.seal, s.fill_seams);
  REQUIRE_FALSE(p.steps.empty());
  const auto follows = [&](const std::string& before, const std::string& after) {
    const int b = at(p, before, true), a = at(p, after);
    if (b < 0 || a < 0) return;
    CAPTURE(before, after);
    CHECK(p.steps[a].start >= p.steps[b].ready);
  };
  follows("cut", "glue"), follows("glue", "fill"), follows("fill", "sand"), follows("sand", "seal"),
      follows("heat-seal", "seal");
  follows("seal", "paint"), follows("paint", "wash"), follows("wash", "dry-brush"), follows("dry-brush", "clear");
  follows("clear", "padding"), follows("glue", "heat-seal");
  for (std::size_t i = 1; i < p.steps.size(); ++i)
    CHECK(p.steps[i].start >= p.steps[i - 1].end - (p.steps[i - 1].pauses.empty() ? 0 : 1440));
  CHECK(broken_by(p.project, p.found.schedule).empty());
}

TEST_CASE("hands-on work is done while the bench is open", "[coat][plan]") {
  const Plan p = plan(spec());
  for (const PlannedStep& step : p.steps) {
    CAPTURE(step.name);
    CHECK(minute_of_day(step.start) >= 9 * 60);
    CHECK(minute_of_day(step.end) <= 13 * 60);
    CHECK(minute_of_day(step.end) > 9 * 60);
  }
}

TEST_CASE("waits are filled with other work that is allowed", "[coat][plan]") {
  Project p;
  p.start = midnight_of(Day{20731});
  for (const char* id : {"seal", "paint", "strap"}) {
    WorkStep s;
    s.id = id;
    s.hands_min = 60;
    p.steps.push_back(s);
  }
  p.links = {{0, 1, 90, {}, {}, "it is dry"}};
  const auto found = find_schedule(p);
  REQUIRE(found);
  const auto steps = planned_steps(p, *found);
  REQUIRE(steps.size() == 3);
  CHECK(steps[1].id == "strap");
  CHECK(steps[1].fills_wait);
  CHECK_FALSE(steps[0].fills_wait);
  CHECK_FALSE(steps[2].fills_wait);
  CHECK(steps[2].after.front().why == "it is dry");
}

TEST_CASE("the day is met or missed by what the plan says", "[coat][plan]") {
  CoatSpec s = spec();
  const Plan easy = plan(s);
  CHECK(easy.spare_min > 0.0);
  CHECK_FALSE(has(easy, "coat.late"));
  CHECK(easy.ready >= easy.found.bound);
  s.due = Day{s.start.number + 1};
  const Plan late = plan(s);
  CHECK(late.spare_min < 0.0);
  REQUIRE(has(late, "coat.late"));
  CHECK(late.remarks.back().sentence.find("misses the day by") != std::string::npos);
  CHECK(late.spare_min == Approx(easy.spare_min - 13 * 1440.0));
}

TEST_CASE("more hours a day never make it later", "[coat][plan]") {
  CoatSpec s = spec();
  double last = 1e12;
  for (const double hours : {1.5, 3.0, 6.0, 12.0}) {
    s.hours_a_day = hours;
    const double ready = static_cast<double>(plan(s).ready);
    CHECK(ready <= last + 1.0);
    last = ready;
  }
}

TEST_CASE("what does not hold on foam is warned against, with its remedy", "[coat][plan]") {
  CoatSpec s = spec();
  s.seal = "none";
  CHECK(has(plan(s), "coat.unsealed"));
  s = spec();
  s.seal = "house-paint";
  s.paint = "spray";
  CHECK(has(plan(s), "coat.paint-on-seal"));
  s = spec();
  s.seal = "primer";
  s.heat_seal = false;
  CHECK(has(plan(s), "coat.no-heat-seal"));
  s = spec();
  s.glue = "hot-glue";
  CHECK(has(plan(s, "insulation-board"), "coat.glue"));
  CHECK(plan(spec()).remarks.empty());
}

TEST_CASE("steps that are left out do not hold up the others", "[coat][plan]") {
  CoatSpec s = spec();
  s.fill_seams = false;
  s.heat_seal = false;
  const Plan p = plan(s);
  CHECK(at(p, "fill") < 0);
  CHECK(at(p, "sand") < 0);
  CHECK(at(p, "heat-seal") < 0);
  CHECK(p.steps[at(p, "seal")].start >= p.steps[at(p, "glue", true)].ready);
  CHECK(at(plan(spec(), "insulation-board"), "heat-seal") < 0);
}

TEST_CASE("coats are counted out and every hurtful step carries its caution", "[coat][plan]") {
  const Plan p = plan(spec());
  CHECK(
      std::count_if(p.steps.begin(), p.steps.end(), [](const PlannedStep& s) { return rule_of(s.id) == "seal"; }) == 3);
  for (const char* id : {"cut", "heat-shape", "glue", "sand", "heat-seal", "seal", "dry-fit"})
    CHECK_FALSE(p.steps[at(p, id)].caution.empty());
  double glue = 0.0;
  for (const Need& n : p.needs)
    if (n.name == "Contact cement") glue = n.ml;
  CHECK(glue == Approx(9.0 * 2.6 * 1.3));  // open pores drink
}

TEST_CASE("a circle in the rules is refused and named", "[coat][plan]") {
  std::vector<StepRule> circle(3);
  circle[0].id = "seal", circle[0].after = {"paint"};
  circle[1].id = "paint", circle[1].after = {"sand"};
  circle[2].id = "sand", circle[2].after = {"seal"};
  const auto made =
      plan_finishing(spec(), work_on(*test::materials().foam("eva-firm"), kHood), test::materials(), circle);
  REQUIRE_FALSE(made);
  CHECK(made.error().code == Errc::no_solution);
  for (const char* id : {"seal", "paint", "sand"}) CHECK(made.error().text.find(id) != std::string::npos);
}

TEST_CASE("numbers that cannot be are refused by place", "[coat][plan]") {
  const auto where = [](CoatSpec s) {
    return plan_finishing(
        s, work_on(*test::materials().foam("eva-firm"), kHood), test::materials(), test::finishing_rules())
        .error()
        .where;
  };
  CoatSpec s = spec();
  s.hours_a_day = 0.0;
  CHECK(where(s) == "coat/hours");
  s = spec();
  s.due = Day{s.start.number - 1};
  CHECK(where(s) == "coat/due");
  s = spec();
  s.paint = "ink";
  CHECK(where(s) == "ink");
}

TEST_CASE("times are spoken as on a clock", "[coat][plan]") {
  CHECK(clock_text(9 * 60 + 5) == "09:05");
  CHECK(clock_text(1440 + 61) == "01:01");
  CHECK(duration_text(45) == "45 min");
  CHECK(duration_text(200) == "3 h 20 min");
  CHECK(duration_text(1440 * 2 + 240) == "2 days 4 h");
}

TEST_CASE("what coats weigh follows from the products and how many there are", "[coat][amounts]") {
  CoatSpec s = spec();
  s.paint = "acrylic";
  s.clear = "none";
  const double one = dry_coats_g_m2(s, test::materials());
  // Three coats of rubber at 180 ml, two of acrylic at 120.
  CHECK(one == Approx(3 * 180 * 0.95 * 0.35 + 2 * 120 * 1.2 * 0.45));
  s.seal_coats = 6;
  CHECK(dry_coats_g_m2(s, test::materials()) == Approx(one + 3 * 180 * 0.95 * 0.35));
  s.seal = "none";
  s.paint = "ink";
  CHECK(dry_coats_g_m2(s, test::materials()) == 0.0);
}
