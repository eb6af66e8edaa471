#include "core/make/cast.hpp"

#include <catch2/catch.hpp>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/geom/solid.hpp"
#include "core/steps/assembly.hpp"
#include "core/steps/shopping.hpp"
#include "support/bench_data.hpp"
#include "support/plain_shapes.hpp"

using namespace awl;

namespace {

/// Half a ball, open below: known volume, skin and way up the back.
Body bowl() {
  Body body;
  body.open = test::grid_hemisphere(100.0), body.solid = capped(body.open), body.name = "bowl";
  return body;
}

Build headform(Way way) {
  Build b = test::demo();
  b.making = Making::headform, b.head_way.way = way;
  return b;
}

}  // namespace

TEST_CASE("A cast's volume, weight, pours and cut are those of what it fills") {
  WaySpec spec;
  spec.way = Way::cast;
  const auto foam = plan_cast(bowl(), spec);
  REQUIRE(foam);
  CHECK(foam->form_litres == Approx(2.0 / 3.0 * kPi).epsilon(0.03));
  CHECK(foam->litres == foam->form_litres);
  CHECK(foam->dry_kg == Approx(foam->litres * 0.035));
  CHECK(foam->pours == 2);  // 100 mm deep, 60 at a time
  CHECK(foam->hours == Approx(26.0));
  CHECK(foam->cut_mm == Approx(0.5 * kPi * 100.0).epsilon(0.02));
  for (const Vec3& p : foam->cut) {
    CHECK(std::abs(p.x()) < 1e-6);
    CHECK(p.z() < 1e-3);
  }
  spec.fill = CastFill::plaster;
  const auto plaster = plan_cast(bowl(), spec);
  CHECK(plaster->litres == Approx(2.0 * kPi * 0.15).epsilon(0.03));  // a wall of 15 mm
  CHECK(plaster->pours == 3);
  CHECK(plaster->mixed_kg > plaster->dry_kg);
  CHECK(plaster->dry_kg > 10.0 * foam->dry_kg);
  const auto steps = cast_steps(*plaster, bowl(), spec);
  CHECK(steps.size() == 5);
  CHECK(steps[1].find(fixed(plaster->cut_mm, 0) + " mm from the foot to the crown") != std::string::npos);
  const auto wants = cast_wants(*plaster, spec);
  CHECK(
      std::any_of(wants.begin(), wants.end(), [](const Want& w) { return w.id == "cast-plaster" && w.unit == "kg"; }));
  CHECK(std::none_of(wants.begin(), wants.end(), [](const Want& w) { return w.id == "cast-foam"; }));
}

TEST_CASE("What sets hot is nowhere put over a person") {
  for (const CastShell shell : {CastShell::tape, CastShell::card, CastShell::bandage})
    for (const CastFill fill : {CastFill::expanding, CastFill::plaster, CastFill::scraps}) {
      WaySpec spec;
      spec.shell = shell, spec.fill = fill;
      const auto steps = cast_steps(*plan_cast(bowl(), spec), bowl(), spec);
      CHECK((steps.front().find("On a person") != std::string::npos) == (shell == CastShell::tape));
      if (shell == CastShell::bandage) CHECK(steps.front().find("never on a face") != std::string::npos);
      if (fill != CastFill::scraps)
        CHECK(std::string(facts_of(fill).caution).find("ever over a person") != std::string::npos);
    }
}

TEST_CASE("What cannot be filled says why") {
  Body closed;
  closed.solid = closed.open = test::grid_sphere(80.0), closed.name = "ball";
  CHECK(plan_cast(closed, {}).error().text ==
      "The ball is closed all round and has no foot to be filled by; cut it open, or make it another way.");
  Body small;
  small.open = test::grid_hemisphere(15.0), small.solid = capped(small.open), small.name = "cup";
  CHECK(plan_cast(small, {}).error().text == "The cup holds 7 ml only: carve it, or cut it from sheet.");
}

TEST_CASE("A headform is made in every way, and each is told on the build sheet") {
  const Derived skin = test::chain()->derive(headform(Way::skin));
  REQUIRE(skin.complete());
  for (const Way way : {Way::slabs, Way::carve, Way::net, Way::cast}) {
    const Build b = headform(way);
    const Derived d = test::chain()->derive(b);
    INFO(name_of(way));
    REQUIRE(d.complete());
    CHECK(d.part_errors.empty());
    REQUIRE(d.ways.size() == 1);
    REQUIRE(d.ways.front());
    CHECK(d.ways.front()->way == way);
    CHECK_FALSE(d.ways.front()->facts.empty());
    // None of the skin's own pieces are cut, all that way's are.
    for (const Piece& p : *d.pieces) CHECK_FALSE(p.panel.valid());
    if (way != Way::cast) CHECK(d.pieces->size() >= d.ways.front()->pieces.size());
    if (way == Way::cast) {
      const auto& facts = d.ways.front()->facts;
      CHECK(facts.front().find(" l of expanding foam") != std::string::npos);
      CHECK(d.ways.front()->steps.front().title == "Cast the headform in a wrap");
      CHECK(d.ways.front()->steps.front().caution.find("airways free") != std::string::npos);
      // About five litres: a head and its neck.
      const double litres = *number_in(facts.front().substr(14, 4));
      CHECK(litres > 3.0);
      CHECK(litres < 9.0);
    }
  }
}
