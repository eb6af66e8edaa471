#include "core/derived/colour_map.hpp"

#include <catch2/catch.hpp>

#include "core/builds/demo_coat.hpp"
#include "core/coat/work/audit.hpp"
#include "core/steps/care.hpp"
#include "support/bench_data.hpp"

using namespace awl;

namespace {

struct Painted {
  Build build;
  Derived derived;
};

Painted painted(const char* demo, const std::function<void(Build&)>& change = {}) {
  Painted p;
  p.build = *demo_by_name(demo, Day{20794});
  if (change) change(p.build);
  p.derived = test::chain()->derive(p.build);
  CAPTURE(demo, p.derived.error ? p.derived.error->text : std::string());
  REQUIRE(p.derived.complete());
  return p;
}

bool has(const Derived& d, const std::string& id) {
  return std::any_of(d.remarks.begin(), d.remarks.end(), [&](const Remark& r) { return r.id == id; });
}

}  // namespace

TEST_CASE("every demo has colours on its whole form and a plan that breaks nothing", "[coat][colours][demos]") {
  for (const DemoEntry& entry : demo_gallery()) {
    CAPTURE(entry.id);
    const Painted p = painted(entry.id.c_str());
    REQUIRE(p.derived.colours);
    const ColourMap& map = *p.derived.colours;
    CHECK(map.lost.empty());
    CHECK(map.areas.size() == p.build.coat.areas.size());
    for (const double mm2 : map.area_mm2) CHECK(mm2 > 0.0);
    CHECK(p.derived.plan->masking.size() == map.areas.size());
    CHECK(broken_by(p.derived.plan->project, p.derived.plan->found.schedule).empty());
    CHECK(p.derived.plan->spare_min >= 0.0);
    const CareSheet care = care_sheet(p.build, p.derived, test::chain()->materials());
    for (int k = 0; k < 3; ++k) CHECK(care.box_mm[k] > 0.0);
    CHECK(care.sections.size() >= 5);
  }
}

TEST_CASE("areas of a form add up to it, and a panel goes before its part", "[coat][colours]") {
  const Painted p = painted("ferry-keeper", [](Build& b) {
    b.dress = {};
    b.coat.areas.clear();
    ColourArea whole;
    whole.name = "helm";
    whole.of = "part 1";
    (void)add_area(b, whole);
  });
  const ColourMap& map = *p.derived.colours;
  CHECK(map.area_mm2[0] == Approx(area_mm2(p.derived.form->surface.mesh)));
  CHECK(map.bare_mm[0] == 0.0);
  const std::string panel = p.derived.panels->panels.front().name;
  const Painted two = painted("ferry-keeper", [&](Build& b) {
    b.dress = {};
    b.coat.areas.clear();
    ColourArea one, whole;
    one.name = "patch";
    one.of = "panel 1 " + panel;
    whole.name = "helm";
    whole.of = "part 1";
    (void)add_area(b, one);
    (void)add_area(b, whole);
  });
  const ColourMap& split = *two.derived.colours;
  REQUIRE(split.areas.size() == 2);
  CHECK(split.area_mm2[0] + split.area_mm2[1] == Approx(map.area_mm2[0]));
  CHECK(split.border_mm[0][1] > 50.0);
  CHECK(split.border_mm[0][1] == split.border_mm[1][0]);
}

TEST_CASE("an area of what is not there is told, and nothing is lost", "[coat][colours]") {
  const Painted p = painted("ferry-keeper", [](Build& b) {
    ColourArea gone;
    gone.name = "feather";
    gone.of = "part 9";
    (void)add_area(b, gone);
    gone.of = "nonsense";
    (void)add_area(b, gone);
  });
  CHECK(p.derived.colours->lost.size() == 2);
  CHECK(has(p.derived, "coat.lost-area"));
  CHECK(area_of(p.build.coat.areas.back()).error().code == Errc::bad_file);
  ColourArea named;
  named.of = "panel 2 crown left";
  CHECK(area_of(named)->panel == "crown left");
}

TEST_CASE("schools add and drop their steps", "[coat][expand]") {
  const auto steps = [](const std::function<void(Build&)>& change) {
    const Painted p = painted("reed-mask", [&](Build& b) {
      b.dress = {};
      b.coat.shade = Shade::wash;
      change(b);
    });
    std::vector<std::string> ids;
    for (const PlannedStep& s : p.derived.plan->steps) ids.push_back(s.id);
    return ids;
  };
  const auto count = [](const std::vector<std::string>& ids, const std::string& prefix) {
    return std::count_if(ids.begin(), ids.end(), [&](const std::string& id) { return id.starts_with(prefix); });
  };
  const auto plain = steps([](Build&) {});
  CHECK(count(plain, "fill/") == 2);
  CHECK(count(plain, "tape/") == 0);
  const auto other = steps([](Build& b) {
    b.coat.fill_seams = false;
    b.coat.bare_seams = SeamLook::cover;
    b.coat.tape_inside = true;
    b.coat.build_up = BuildUp::clay;
    b.coat.seal = "primer";
    b.coat.seal_coats = 4;
    b.coat.dry_brush = false;
  });
  CHECK(count(other, "fill/") == 0);
  CHECK(count(other, "cover/") == 1);
  CHECK(count(other, "tape/") == 1);
  CHECK(count(other, "build-clay/") == 2);
  CHECK(count(other, "seal/primer/sand") == 3);
  CHECK(count(other, "seal/primer/") == 7);
  CHECK(count(other, "dry-brush/") == 0);
}

TEST_CASE("oil shading takes no clear coat of water, and hot glue comes after the heat", "[coat][expand]") {
  const Painted oil = painted("ferry-keeper", [](Build& b) { b.coat.shade = Shade::oil; });
  for (const PlannedStep& s : oil.derived.plan->steps)
    if (rule_of(s.id) == "clear") CHECK(s.name.find("Matt") == std::string::npos);
  CHECK(has(oil.derived, "coat.not-borne"));
  const Painted hot = painted("ferry-keeper", [](Build& b) { b.coat.glue = "hot-glue"; });
  Moment sealed = 0, glued = 0;
  for (const PlannedStep& s : hot.derived.plan->steps) {
    if (rule_of(s.id) == "heat-seal") sealed = s.end;
    if (rule_of(s.id) == "glue") glued = std::max(glued, s.start);
  }
  CHECK(sealed > 0);
  CHECK(glued >= sealed);
}

TEST_CASE("ticks hang on steps, not on their order", "[coat][acts]") {
  Build b = *demo_by_name("ferry-keeper", Day{20794});
  b = *apply_act(b, "tick cut/all/1 2026-12-07T09:00 2026-12-07T11:30");
  CHECK(b.coat.ticks.size() == 1);
  CHECK(b.coat.now == "2026-12-07T11:30");
  b.coat.areas.front().hard_edge = true;
  Derived d = test::chain()->derive(b);
  REQUIRE(d.plan);
  CHECK(d.plan->steps.front().done);
  CHECK(d.plan->next()->start >= *parse_moment("2026-12-07T11:30"));
  b = *apply_act(b, "untick cut/all/1");
  CHECK(b.coat.now.empty());
  CHECK(apply_act(b, "untick cut/all/1").error().code == Errc::unknown_name);
  CHECK_FALSE(apply_act(b, "tick cut/all/1 yesterday 2026-12-07T11:30"));
  b = *apply_act(b, "glue-joint epoxy great helm");
  d = test::chain()->derive(b);
  CHECK(std::any_of(d.plan->needs.begin(), d.plan->needs.end(), [](const Need& n) { return n.id == "epoxy"; }));
  CHECK(apply_act(b, "drop-area 1")->coat.areas.size() + 1 == b.coat.areas.size());
  CHECK_FALSE(apply_act(b, "paint-area 99 1"));
}

TEST_CASE("every step of a plan can be ticked and taken back, whatever its joint is called", "[coat][acts]") {
  const Painted p = painted("heron-warden");
  int spaced = 0;
  for (const PlannedStep& s : p.derived.plan->steps) {
    CAPTURE(s.id);
    spaced += s.id.find(' ') != std::string::npos ? 1 : 0;
    const auto ticked = apply_act(p.build, "tick " + s.id + " " + iso_text(s.start) + " " + iso_text(s.end));
    REQUIRE(ticked);
    REQUIRE(ticked->coat.ticks.size() == 1);
    CHECK(ticked->coat.ticks.front() == StepTick{s.id, iso_text(s.start), iso_text(s.end)});
    const auto back = apply_act(*ticked, "untick " + s.id);
    REQUIRE(back);
    CHECK(back->coat == p.build.coat);
  }
  CHECK(spaced > 2);
  CHECK_FALSE(apply_act(p.build, "tick 2026-12-07T09:00 2026-12-07T09:20"));
}

TEST_CASE("colours and days that cannot be are refused by place", "[coat][acts]") {
  const auto where = [](const std::function<void(Build&)>& change) {
    Build b = *demo_by_name("ferry-keeper", Day{20794});
    change(b);
    const auto good = check_inputs(b);
    return good ? std::string() : good.error().where;
  };
  CHECK(where([](Build&) {}).empty());
  CHECK(where([](Build& b) { b.coat.areas.front().pigment = 99; }) == "coat/areas/1");
  CHECK(where([](Build& b) { b.coat.pigments.front().rgb = 0x1000000; }) == "coat/pigments");
  CHECK(where([](Build& b) { b.coat.open_on.clear(); }) == "coat/open");
  CHECK(where([](Build& b) { b.coat.damp = 1.4; }) == "coat/damp");
  CHECK(where([](Build& b) { b.coat.ticks = {{"a", "2026-12-07T10:00", "2026-12-07T09:00"}}; }) == "coat/ticks");
  CHECK(where([](Build& b) { b.coat.outdoors = {{Day{20794}, 900, 600}}; }) == "coat/outdoors");
}

TEST_CASE("seams of a joint and fades of an area are set by their acts", "[coat][acts]") {
  Build b = *demo_by_name("heron-warden", Day{20794});
  b = *apply_act(b, "seam-joint cover swept crest on cowl");
  b = *apply_act(b, "seam-joint sand swept crest on cowl");
  REQUIRE(b.coat.joint_looks.size() == 1);
  CHECK(b.coat.joint_looks.front() == JointLook{"swept crest on cowl", SeamLook::sand});
  CHECK(apply_act(b, "seam-joint -  swept crest on cowl")->coat.joint_looks.empty());
  CHECK(apply_act(b, "seam-joint melt cowl").error().code == Errc::unknown_name);
  CHECK(apply_act(b, "seam-joint cover").error().code == Errc::empty_input);
  b = *apply_act(b, "fade-area 1 2 outwards");
  CHECK(b.coat.areas.front().fades_to == 2);
  CHECK(b.coat.areas.front().fades == FadeWay::outwards);
  CHECK(apply_act(b, "fade-area 1 0")->coat.areas.front().fades_to == 0);
  CHECK(apply_act(b, "fade-area 1 2 inwards").error().code == Errc::unknown_name);
  CHECK(apply_act(b, "fade-area 99 2").error().code == Errc::unknown_name);
}
