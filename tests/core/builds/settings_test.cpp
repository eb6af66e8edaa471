#include "core/builds/settings.hpp"

#include <catch2/catch.hpp>
#include <cmath>
#include <set>

#include "support/bench_data.hpp"

using namespace awl;

namespace {

const Day kToday{20'000};

/// The showpiece with one of everything that has dials.
Build full_build() {
  Build build = *demo_by_name("heron-warden", kToday);
  for (const char* act :
      {"add-slit 1 back 110 40 lacing", "add-hold 1 magnets", "add-room battery", "add-cutout 1 ears"})
    build = *apply_act(build, act);
  return build;
}

double value_of(const Build& build, const std::string& place, const std::string& dial) {
  Build copy = build;
  const auto dials = dials_at(copy, place);
  for (const Dial& d : *dials)
    if (d.facts.id == dial) return d.value();
  return std::nan("");
}

}  // namespace

TEST_CASE("every place with something to set is listed, and is there", "[builds][settings]") {
  Build build = full_build();
  const auto places = dial_places(build);
  CHECK(std::set<std::string>(places.begin(), places.end()).size() == places.size());
  for (const char* wanted : {"foam", "foam/margins", "headform", "headform/way", "parts/1", "parts/1/way",
           "parts/1/seams", "fit", "fit/slit/1", "fit/room/1", "fit/cutout/1", "coat", "quote"}) {
    CAPTURE(wanted);
    CHECK(std::find(places.begin(), places.end(), wanted) != places.end());
  }
  std::set<std::string> settings;
  for (const std::string& place : places) {
    CAPTURE(place);
    const auto dials = dials_at(build, place);
    REQUIRE(dials);
    CHECK_FALSE(dials->empty());
    for (const Dial& d : *dials) {
      CHECK(settings.insert(place + "/" + d.facts.id).second);
      CHECK_FALSE(d.facts.label.empty());
      CHECK_FALSE(d.facts.tip.empty());
      CHECK((d.facts.kind == DialKind::word) == static_cast<bool>(d.word));
    }
  }
  CHECK(settings.size() > 150);
}

TEST_CASE("what a dial allows the build may hold, and what it does not is refused in words", "[builds][settings]") {
  const Build build = full_build();
  REQUIRE(check_inputs(build));
  // Two things together, or a thing with the whole of it, have rules of their own: they are told apart below.
  const std::set<std::string> together{"coat/bare-seams"};
  int turned = 0;
  for (const std::string& place : dial_places(build)) {
    if (place.starts_with("parts/") && place.find('/', 6) == std::string::npos) continue;  // forms_test does these
    if (place.starts_with("dress/")) continue;                                             // dress_case_test does these
    Build copy = build;
    const auto dials = dials_at(copy, place);
    for (const Dial& d : *dials) {
      const std::string setting = place + "/" + d.facts.id;
      CAPTURE(setting);
      if (d.facts.kind == DialKind::word || together.count(setting) != 0) continue;
      const double most =
          d.facts.kind == DialKind::choice ? static_cast<double>(d.facts.options.size()) - 1.0 : d.facts.most;
      for (const double value : {d.facts.least, most}) {
        const auto next = with_setting(build, place, d.facts.id, value);
        REQUIRE(next);
        CHECK(value_of(*next, place, d.facts.id) == value);
        CHECK(check_inputs(*next));
        ++turned;
      }
      for (const double value : {d.facts.least - 1.0, most + 1.0}) {
        if (value == 0.0 && !d.facts.zero.empty()) continue;
        const auto refused = with_setting(build, place, d.facts.id, value);
        REQUIRE_FALSE(refused);
        CHECK(refused.error().where == setting);
        CHECK(refused.error().text.find(d.facts.label) != std::string::npos);
      }
      if (!d.facts.zero.empty()) CHECK(with_setting(build, place, d.facts.id, 0.0));
    }
  }
  CHECK(turned > 120);
}

TEST_CASE("a value beyond its limits is told the same from the build as from the dial", "[builds][settings]") {
  Build build = full_build();
  const auto where = [&](const std::function<void(Build&)>& spoil) {
    Build spoilt = build;
    spoil(spoilt);
    const auto good = check_inputs(spoilt);
    return good ? std::string() : good.error().where;
  };
  CHECK(where([](Build& b) { b.foam.gap_mm = 70; }) == "foam/gap");
  CHECK(where([](Build& b) { b.foam.margins.kerf_mm = -1; }) == "foam/margins/kerf");
  CHECK(where([](Build& b) { b.foam.sheet.width_mm = std::nan(""); }) == "foam/width");
  CHECK(where([](Build& b) { b.parts[0].way.wall_mm = 300; }) == "parts/1/way/wall");
  CHECK(where([](Build& b) { b.head_way.clamp_mm = 1; }) == "headform/way/clamp");
  CHECK(where([](Build& b) { b.foam_head.pipe_mm = 5; }) == "headform/pipe");
  CHECK(where([](Build& b) { b.fit.wig_mm = 90; }) == "fit/wig");
  CHECK(where([](Build& b) { b.fit.slits[0].pitch_mm = 4; }) == "fit/slit/1/pitch");
  CHECK(where([](Build& b) { b.fit.rooms[0].size_mm.z() = 1; }) == "fit/room/1/deep");
  CHECK(where([](Build& b) { b.coat.hands = 3; }) == "coat/hands");
  CHECK(where([](Build& b) { b.coat.rates.margin = 9; }) == "quote/margin");
  const auto refused = with_setting(build, "foam", "gap", 70);
  REQUIRE_FALSE(refused);
  CHECK(refused.error().text == "Between pieces: 70 mm is outside 0 mm to 50 mm; the nearest that works is 50 mm.");
  const auto pipe = with_setting(build, "headform", "pipe", 5);
  REQUIRE_FALSE(pipe);
  CHECK(pipe.error().text.find("or 0: none") != std::string::npos);
}

TEST_CASE("an act sets anything there is to set, in the words a maker would use", "[builds][settings][acts]") {
  const Build build = full_build();
  const auto set = [&](const std::string& act) { return apply_act(build, "set " + act); };
  REQUIRE(set("foam/gap 5.5"));
  CHECK(set("foam/gap 5.5")->foam.gap_mm == 5.5);
  CHECK(set("foam/notched yes")->foam.notched);
  CHECK_FALSE(set("coat/heat-seal no")->coat.heat_seal);
  CHECK(set("coat/shade oil")->coat.shade == Shade::oil);
  CHECK(set("coat/glue epoxy")->coat.glue == "epoxy");
  CHECK(set("parts/1/seams/gores 6")->parts[0].seams.gores_per_side == 6);
  CHECK(set("parts/1/way/way slabs")->parts[0].way.way == Way::slabs);
  const int hold = build.fit.holds.back().id;
  CHECK(set("fit/hold/" + std::to_string(hold) + "/magnet 12 x 3 N42")->fit.holds.back().magnet == "12 x 3 N42");
  CHECK(set("quote/waste 0.2")->coat.rates.waste == 0.2);

  const auto text = [&](const std::string& act) {
    const auto done = set(act);
    return done ? std::string() : done.error().text;
  };
  CHECK(text("coat/shade green") == "Hollows cannot be \"green\"; it can be none, wash or oil.");
  CHECK(text("coat/fan maybe") == "A fan moves the air cannot be \"maybe\"; it can be no or yes.");
  CHECK(text("foam/gap wide").find("Between pieces: ") == 0);
  CHECK(text("foam/gap").find("is not said") != std::string::npos);
  CHECK(text("foam/colour 3").find("colour") != std::string::npos);
  CHECK(text("cellar/gap 3").find("\"cellar\"") != std::string::npos);
  CHECK(text("parts/77/way/wall 3").find("\"parts/77/way\"") != std::string::npos);
  CHECK(text("fit/hold/x/wide 3").find("\"fit/hold/x\"") != std::string::npos);
  CHECK(text("gap 3").find("as in foam/gap") != std::string::npos);
}
