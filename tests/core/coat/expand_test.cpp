#include "core/coat/expand.hpp"

#include <catch2/catch.hpp>

#include "core/coat/plan.hpp"
#include "support/bench_data.hpp"
#include "support/finishing_rules.hpp"

using namespace awl;

namespace {

CoatSpec expand_spec() {
  CoatSpec s;
  s.start = Day{20794};
  s.due = Day{20820};
  return s;
}

/// A hood with a crest on it, of two foams.
FinishWork hood_and_crest() {
  FinishWork work = work_on(*test::materials().foam("eva-firm"), {12, 2.4, 0.14});
  work.joints.front() = {work.stuffs[0].stuff, work.stuffs[0].stuff, 2.4, "hood", "hood", {}};
  const Foam soft = *test::materials().foam("eva-soft");
  work.stuffs.push_back({soft, {"crest"}, {4, 0.8, 0.05}, true, true, false});
  work.joints.push_back({soft, soft, 0.8, "crest", "crest", {}});
  work.joints.push_back({soft, work.stuffs[0].stuff, 0.0, "crest on hood", "crest", "hood"});
  return work;
}

Project expanded(const CoatSpec& s, const FinishWork& work) {
  const auto served = serve(s, work, test::materials());
  REQUIRE(served);
  return expand(s, *served, work, test::finishing_rules()).project;
}

int index_at(const Project& p, const std::string& id) {
  const int i = p.index_of(id);
  CAPTURE(id);
  REQUIRE(i >= 0);
  return i;
}

const WorkLink* link_of(const Project& p, const std::string& from, const std::string& to) {
  for (const WorkLink& l : p.links)
    if (l.from == index_at(p, from) && l.to == index_at(p, to)) return &l;
  return nullptr;
}

int steps_of(const Project& p, const std::string& prefix) {
  return static_cast<int>(
      std::count_if(p.steps.begin(), p.steps.end(), [&](const WorkStep& s) { return s.id.starts_with(prefix); }));
}

}  // namespace

TEST_CASE("whatever is chosen, the steps make a project that can be planned", "[coat][expand][property]") {
  Random random(9);
  const auto pick = [&](std::initializer_list<const char*> of) {
    return std::string(*(of.begin() + random.below(of.size())));
  };
  for (int i = 0; i < 60; ++i) {
    CoatSpec s = expand_spec();
    s.glue = pick({"contact", "contact-water", "instant", "hot-glue", "spray-glue", "epoxy"});
    s.seal = pick({"none", "rubber", "glue-coats", "primer", "spray-filler", "house-paint"});
    s.paint = pick({"acrylic", "spray", "metallic"});
    s.clear = pick({"none", "matt", "spray-clear"});
    s.fill_seams = random.uniform() < 0.5;
    s.heat_seal = random.uniform() < 0.5;
    s.bare_seams = static_cast<SeamLook>(random.below(3));
    s.build_up = static_cast<BuildUp>(random.below(3));
    s.shade = static_cast<Shade>(random.below(3));
    s.tape_inside = random.uniform() < 0.5;
    s.dry_brush = random.uniform() < 0.5;
    s.sand_between = random.uniform() < 0.5;
    s.seal_coats = random.below(6);
    s.hands = 1 + random.below(2);
    s.temperature_c = random.uniform(5.0, 35.0);
    s.damp = random.uniform(0.2, 0.9);
    const Project p = expanded(s, hood_and_crest());
    CAPTURE(i, s.glue, s.seal, s.paint, s.clear);
    CHECK(check_project(p));
    std::set<std::string> ids;
    for (const WorkStep& step : p.steps) {
      CHECK(ids.insert(step.id).second);
      CHECK_FALSE(step.stage.empty());
    }
    // Everything hangs together: only cutting waits for nothing.
    std::set<int> follows;
    for (const WorkLink& l : p.links) follows.insert(l.to);
    for (int k = 0; k < static_cast<int>(p.steps.size()); ++k)
      if (follows.count(k) == 0) CHECK(rule_of(p.steps[k].id) == "cut");
  }
}

TEST_CASE("contact cement is brushed and joined while it grabs; instant glue in one go", "[coat][expand]") {
  const Project p = expanded(expand_spec(), hood_and_crest());
  const WorkLink* grab = link_of(p, "glue/hood/contact/1a", "glue/hood/contact/1b");
  REQUIRE(grab != nullptr);
  CHECK(grab->is_hard());
  CHECK(grab->wait_min == 12);
  CHECK(*grab->within_min == 48);
  CHECK(link_of(p, "glue/hood/contact/1b", "glue/crest on hood/contact/1a") != nullptr);
  CHECK(link_of(p, "glue/crest/contact/1b", "glue/crest on hood/contact/1a") != nullptr);
  CoatSpec s = expand_spec();
  s.glue = "instant";
  const Project instant = expanded(s, hood_and_crest());
  CHECK(steps_of(instant, "glue/hood/") == 1);
  // Another glue for one joint alone.
  s.joint_glues = {{"crest on hood", "epoxy"}};
  const Project mixed = expanded(s, hood_and_crest());
  CHECK(steps_of(mixed, "glue/crest on hood/epoxy/") == 1);
  CHECK(steps_of(mixed, "glue/hood/instant/") == 1);
  // A long seam is glued a stretch at a time.
  FinishWork large = hood_and_crest();
  large.joints.front().seam_m = 14.0;
  CHECK(steps_of(expanded(expand_spec(), large), "glue/hood/") >= 4);
}

TEST_CASE("coats follow each other dry, sanded where they want it, within their window", "[coat][expand]") {
  CoatSpec s = expand_spec();
  const Project rubber = expanded(s, hood_and_crest());
  const WorkLink* window = link_of(rubber, "seal/rubber/1", "seal/rubber/2");
  REQUIRE(window != nullptr);
  CHECK(window->wait_min == 60);
  CHECK(*window->within_min == 480);
  CHECK(*window->or_after_min == 1440);
  CHECK(rubber.steps[index_at(rubber, "seal/rubber/3")].dries_min == 240);
  CHECK(rubber.steps[index_at(rubber, "seal/rubber/3")].places == 1);
  CHECK(rubber.steps[index_at(rubber, "seal/rubber/1")].outdoors);
  s.seal = "primer";
  s.seal_coats = 4;
  const Project primer = expanded(s, hood_and_crest());
  CHECK(steps_of(primer, "seal/primer/sand-") == 3);
  CHECK(link_of(primer, "seal/primer/1", "seal/primer/2") == nullptr);
  s.sand_between = false;
  CHECK(steps_of(expanded(s, hood_and_crest()), "seal/primer/") == 4);
}

TEST_CASE("cold and damp lengthen waits and windows, and never shorten a label's", "[coat][expand]") {
  CoatSpec s = expand_spec();
  s.seal = "primer";
  s.sand_between = false;
  const int usual = link_of(expanded(s, hood_and_crest()), "seal/primer/1", "seal/primer/2")->wait_min;
  CHECK(usual == 120);
  s.temperature_c = 10.0;
  s.damp = 0.8;
  CHECK(link_of(expanded(s, hood_and_crest()), "seal/primer/1", "seal/primer/2")->wait_min == 600);
  s.temperature_c = 35.0;
  s.damp = 0.3;
  s.fan = true;
  CHECK(link_of(expanded(s, hood_and_crest()), "seal/primer/1", "seal/primer/2")->wait_min == 120);
}

TEST_CASE("details go on in their turn", "[coat][expand]") {
  FinishWork work = hood_and_crest();
  work.details = {{"detail-1", "battle marks", "hood", DetailTurn::before_seal, 20.0, false, true, "Fresh blade.", {}},
      {"detail-2", "teeth", "hood", DetailTurn::after_paint, 30.0, true, false, {}, {}},
      {"detail-3", "visor", "hood", DetailTurn::last, 15.0, true, false, "Never over nose and mouth.", {}},
      {"detail-4", "feet drawn", "hood", DetailTurn::before_glue, 5.0, false, false, {}, {}}};
  const Project p = expanded(expand_spec(), work);
  const auto comes_before = [&](const std::string& first, const std::string& then) {
    // Along the links, whatever lies between.
    std::vector<int> stack{index_at(p, first)};
    std::set<int> seen;
    while (!stack.empty()) {
      const int i = stack.back();
      stack.pop_back();
      if (i == index_at(p, then)) return true;
      if (!seen.insert(i).second) continue;
      for (const WorkLink& l : p.links)
        if (l.from == i) stack.push_back(l.to);
    }
    return false;
  };
  CHECK(comes_before("details-early/detail-4/1", "glue/hood/contact/1a"));
  CHECK(comes_before("details/detail-1/1", "seal/rubber/1"));
  CHECK(comes_before("paint/acrylic/2", "details-late/detail-2/1"));
  CHECK(comes_before("details-late/detail-2/1", "details-last/detail-3/1"));
  CHECK(comes_before("clear/matt/2", "details-last/detail-3/1"));
  CHECK(p.steps[index_at(p, "details-last/detail-3/1")].cautions.front().find("nose and mouth") != std::string::npos);
}

TEST_CASE("areas are painted in the order of least tape, masked before, the tape peeled", "[coat][expand]") {
  FinishWork work = hood_and_crest();
  const Foam firm = work.stuffs[0].stuff;
  CoatSpec s = expand_spec();
  s.pigments = {{1, "slate", 0x556677}, {2, "ochre", 0xbb8822}};
  s.areas = {{1, "hood", "part 1", 1, "spray", false, true, 0}, {2, "band", "panel 1 band", 2, "", true, true, 3}};
  work.areas = {{1, "hood", 0.12, firm}, {2, "band", 0.02, firm}};
  work.border_mm = {{0.0, 300.0}, {300.0, 0.0}};
  work.reach_mm = {{0.0, 0.0}, {0.0, 0.0}};
  work.bare_mm = {0.0, 0.0};
  const Project p = expanded(s, work);
  CHECK(steps_of(p, "paint/1/") == 3);
  CHECK(steps_of(p, "paint/2/") == 4);  // a mask and three coats
  const WorkStep& mask = p.steps[index_at(p, "paint/2/mask")];
  CHECK(mask.title == "Mask for the band: 0.3 m of tape, over hood");
  const WorkLink* dry = link_of(p, "paint/1/3", "paint/2/mask");
  REQUIRE(dry != nullptr);
  CHECK(dry->wait_min == 480);
  CHECK(p.steps[index_at(p, "paint/2/1")].cautions.front().find("Peel the tape") != std::string::npos);
  CHECK(p.steps[index_at(p, "paint/1/1")].outdoors);
}

TEST_CASE("days of the week, closed and outdoor days become a calendar", "[coat][expand]") {
  CoatSpec s = expand_spec();  // 7 December 2026 is a Monday
  s.opens_h = 17.5;
  s.hours_a_day = 2.5;
  s.hands = 2;
  s.open_on = {true, true, true, true, true, false, false};
  s.closed = {Day{20795}};
  const WorkDays days = work_days(s);
  REQUIRE(days.usual.size() == 1);
  CHECK(days.usual[0] == BenchHours{17 * 60 + 30, 20 * 60, 2});
  CHECK(days.closed.count(Day{20794}) == 0);
  CHECK(days.closed.count(Day{20795}) == 1);
  CHECK(days.closed.count(Day{20799}) == 1);
  CHECK(days.closed.count(Day{20800}) == 1);
  CHECK(days.closed.count(Day{20801}) == 0);
  CHECK_FALSE(days.outdoors);
  s.names_outdoors = true;
  s.outdoors = {{Day{20796}, 600, 900}};
  REQUIRE(work_days(s).outdoors);
  CHECK(work_days(s).outdoors->front() == Span{midnight_of(Day{20796}) + 600, midnight_of(Day{20796}) + 900});
}

TEST_CASE("seams of one joint may be treated otherwise than the build's", "[coat][expand]") {
  CoatSpec s = expand_spec();
  const Project all = expanded(s, hood_and_crest());
  const WorkStep usual = all.steps[index_at(all, "fill/all/1")];
  CHECK(usual.scope.empty());
  CHECK(steps_of(all, "cover/") == 0);
  s.joint_looks = {{"crest", SeamLook::cover}, {"nobody's", SeamLook::leave}};
  const Project some = expanded(s, hood_and_crest());
  const WorkStep& fill = some.steps[index_at(some, "fill/all/1")];
  const WorkStep& cover = some.steps[index_at(some, "cover/all/1")];
  CHECK(fill.hands_min < usual.hands_min);
  CHECK(fill.title.find("hood") != std::string::npos);
  CHECK(cover.title.find("crest") != std::string::npos);
  CHECK(cover.title.find("crest on hood") == std::string::npos);
  // What lies under nothing else still waits for both.
  CHECK(link_of(some, "cover/all/1", "seal/rubber/1") != nullptr);
  s.joint_looks.clear();
  for (const char* joint : {"hood", "crest", "crest on hood"}) s.joint_looks.push_back({joint, SeamLook::leave});
  CHECK(steps_of(expanded(s, hood_and_crest()), "fill/") == 0);
  CHECK(steps_of(expanded(s, hood_and_crest()), "sand/") == 0);
  s.fill_seams = false;
  s.bare_seams = SeamLook::fill;
  CHECK(check_coat(s).error().where == "coat/seams");
}

TEST_CASE("an area that fades is mixed in steps, and takes its time", "[coat][expand][colours]") {
  FinishWork work = hood_and_crest();
  work.areas = {{1, "hood", 0.14, work.stuffs[0].stuff}};
  work.border_mm = work.reach_mm = {{0.0}};
  work.bare_mm = {0.0};
  CoatSpec s = expand_spec();
  s.pigments = {{1, "black", 0x000000}, {2, "ash", 0xa3a3a3}};
  ColourArea area;
  area.id = 1;
  area.name = "hood";
  area.of = "part 1";
  area.pigment = 1;
  s.areas = {area};
  const int plain = expanded(s, work).steps[index_at(expanded(s, work), "paint/1/1")].hands_min;
  s.areas.front().fades_to = 2;
  const Project faded = expanded(s, work);
  const WorkStep& first = faded.steps[index_at(faded, "paint/1/1")];
  CHECK(first.title.find("down in 10 mixes") != std::string::npos);
  CHECK(first.hands_min == plain + 30);
  s.areas.front().fades_to = 9;
  CHECK(check_coat(s).error().code == Errc::unknown_name);
}
