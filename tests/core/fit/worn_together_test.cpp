#include <catch2/catch.hpp>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/chain/questions.hpp"
#include "core/chain/shop.hpp"
#include "core/chain/stages/fitting.hpp"
#include "core/fit/jaw.hpp"
#include "core/steps/assembly.hpp"
#include "core/steps/shopping.hpp"
#include "core/stuff/bears.hpp"
#include "support/effort.hpp"
#include "support/plain_shapes.hpp"
#include "support/worn.hpp"

using namespace awl;
using test::demo_of;
using test::tried;

namespace {

/// A build of a hood with a jaw before it that the chin works.
Build jawed(const char* preset = "jaw") {
  Build b = test::demo();
  Part jaw = *part_from_preset(preset);
  const auto id = add_part(b, std::move(jaw));
  REQUIRE(id);
  b.fit.holds = {{.id = 1, .part = *id, .by = HoldBy::jaw}};
  return b;
}

const Yield* yield_of(const Derived& d, const std::string& ending) {
  if (d.fittings)
    for (const Yield& y : *d.fittings)
      if (y.name.ends_with(ending)) return &y;
  return nullptr;
}

FitHead plain_head() {
  const auto head = test::fitter().fit(test::kUsual);
  REQUIRE(head);
  FitHead::Places places;
  for (int i = 0; i < kLandmarkCount; ++i) places[i] = head->landmarks[i];
  return FitHead(head->mesh, head->mesh, places);
}

FitPart stiff_part(Mesh mesh) {
  FitPart part;
  part.part = 1, part.name = "cup", part.stiff = true;
  part.solid = part.inner = std::move(mesh);
  part.near = std::make_shared<const Nearest>(part.solid);
  return part;
}

}  // namespace

TEST_CASE("the chin drops 15, 28 and 46 mm talking, aloud and wide open", "[fit][jaw]") {
  const FitHead head = plain_head();
  const Vec3 chin = *head.at(Landmark::menton), ears = head.between_ears();
  for (const auto& [deg, mm] : {std::pair{8.0, 15.0}, {15.0, 28.0}, {25.0, 46.0}})
    CHECK((with_jaw_open(ears, chin, deg) - chin).norm() == Approx(mm).margin(2.5));
  CHECK((with_jaw_open(ears, chin, 0.0) - chin).norm() < 1e-9);
  CHECK(with_jaw_open(ears, chin, 15.0).y() < chin.y());
}

TEST_CASE("a part that the chin works gets its hinge through itself and what it hangs on", "[fit][jaw]") {
  const Build b = jawed();
  const Derived d = tried(b);
  const Yield* y = yield_of(d, ", jaw");
  REQUIRE(y != nullptr);
  CHECK(y->remarks.empty());
  int own = 0, below = 0;
  for (const PieceMark& m : y->marks) {
    CHECK(m.name == "hinge");
    CHECK(m.radius_mm == Approx(2.0));
    const Vec3 hinge = jaw_hinge(Vec3::Zero());
    CHECK(std::abs(m.line.front().y() - hinge.y()) < 8.0);  // the axis is level, before the ear flaps
    (m.part == b.fit.holds[0].part ? own : below) += 1;
  }
  CHECK(own == 2);
  CHECK(below == 2);
  // They are in the pieces, the shopping and the steps.
  std::size_t holes = 0, plain = 0;
  for (const Piece& p : *d.pieces) holes += p.holes.size();
  Build without = b;
  without.fit.holds.clear();
  for (const Piece& p : *tried(without).pieces) plain += p.holes.size();
  CHECK(holes > plain);
  const auto list = shopping(b, d, test::materials());
  REQUIRE(list);
  CHECK(std::any_of(list->lines.begin(), list->lines.end(),
      [](const Purchase& p) { return p.id == "hinge-screw" && p.need == 2.0; }));
  const auto sheet = assemble(b, d, test::materials());
  REQUIRE(sheet);
  CHECK(std::any_of(sheet->steps.begin(), sheet->steps.end(), [](const BuildStep& s) {
    return s.title == "Hang the jaw on its hinge" && s.caution.find("It pinches") != std::string::npos;
  }));
  REQUIRE(d.worn->holds.size() == 1);
  CHECK_FALSE(d.worn->holds[0].force_n);
}

TEST_CASE("what a jaw comes to follows from where it hangs: hand-made figures", "[fit][jaw]") {
  const FitHead head = plain_head();
  const Vec3 hinge = jaw_hinge(head.between_ears()), chin = *head.at(Landmark::menton);
  // A sheet before the chin, and one that also reaches the axis.
  const auto sheet = [&](double back) {
    Mesh m;
    for (const double x : {-90.0, 90.0})
      for (const double y : {hinge.y(), chin.y()}) m.vertices.push_back({x, y, hinge.z()});
    for (Vec3& p : m.vertices) p.z() += p.y() < hinge.y() - 1.0 ? chin.z() - hinge.z() + 5.0 : back;
    m.triangles = {{0, 1, 3}, {0, 3, 2}};
    FitPart part = stiff_part(m);
    part.mass_g = 100.0, part.centre = hinge + Vec3(0, -50, 60);
    return part;
  };
  const auto near_axis = jaw_work(head, sheet(0.0)), off = jaw_work(head, sheet(30.0));
  REQUIRE(near_axis);
  REQUIRE(off);
  CHECK(near_axis->lever_mm == Approx(std::hypot(chin.y() - hinge.y(), chin.z() - hinge.z())));
  CHECK(off->off_mm == Approx(30.0).margin(0.01));
  REQUIRE(near_axis->chin_gap_mm);
  CHECK(*near_axis->chin_gap_mm < 6.0);
  const JawOpening& wide = near_axis->openings[2];
  CHECK(wide.throw_mm == Approx(2.0 * near_axis->tip_mm * std::sin(0.5 * radians(wide.part_deg))));
  CHECK(near_axis->openings[0].throw_mm < near_axis->openings[1].throw_mm);
  CHECK(near_axis->openings[1].throw_mm < wide.throw_mm);
  CHECK(near_axis->carries_n == Approx(0.1 * 9.81 * 60.0 / (chin.z() - hinge.z())).epsilon(1e-6));
}

TEST_CASE("a jaw that does not come to the ears or the chin is told, with what to do", "[fit][jaw][hostile]") {
  const Derived d = tried(jawed("emblem"));
  const Yield* y = yield_of(d, ", jaw");
  REQUIRE(y != nullptr);
  bool off = false, chin = false;
  for (const Remark& r : y->remarks) {
    off = off || r.sentence.find("from where the jaw turns") != std::string::npos;
    chin = chin || r.sentence.find("does not come before the chin") != std::string::npos;
    REQUIRE_FALSE(r.remedies.empty());
    const auto gone = apply_act(jawed("emblem"), r.remedies.front().act);
    REQUIRE(gone);
    CHECK(gone->fit.holds.empty());
  }
  CHECK(off);
  CHECK(chin);
}

TEST_CASE("a zone is formed onto the nose where the foam bears heat, and nowhere else", "[fit][nose]") {
  Build b = demo_of("reed-mask");
  b.fit.cutouts = {{.id = 1, .part = 1, .kind = CutoutKind::nose}};
  const Derived d = tried(b);
  const Yield* y = yield_of(d, ", nose");
  REQUIRE(y != nullptr);
  REQUIRE(y->marks.size() == 1);
  CHECK(y->marks[0].kind == PieceMark::Kind::line);
  for (const Vec3& p : y->marks[0].line) CHECK(std::abs(p.x()) < 40.0);
  REQUIRE(y->steps.size() == 1);
  CHECK(y->steps[0].caution.find("burn") != std::string::npos);
  CHECK(std::none_of(y->pieces.begin(), y->pieces.end(), [](const Piece&) { return true; }));
  // Every foam there is: warmed only where it may be.
  for (const Foam& foam : test::materials().foams) {
    Build of = b;
    of.foam.foam = foam.id;
    const Derived made = with_worn(*test::chain(), of, test::chain()->derive(of));
    const Yield* zone = yield_of(made, ", nose");
    if (zone == nullptr) continue;
    INFO(foam.id);
    CHECK(zone->steps.empty() == !heat_on(foam).allowed);
    CHECK(zone->remarks.empty() == heat_on(foam).allowed);
  }
  Build hat = demo_of("almanac-seller");
  hat.fit.cutouts = {{.id = 1, .part = hat.parts.front().id, .kind = CutoutKind::nose}};
  const Derived worn = tried(hat);
  const Yield* none = yield_of(worn, ", nose");
  REQUIRE(none != nullptr);
  REQUIRE(none->remarks.size() == 1);
  CHECK(none->remarks[0].sentence.find("does not lie before the nose") != std::string::npos);
}

TEST_CASE("a stiff cup comes from the side it is open to, found by itself", "[fit][on]") {
  const auto rules = load_fit_rules(data_folder() / "rules");
  REQUIRE(rules);
  const Mesh ball = test::icosphere(80.0, 4);
  const FitHead head(ball, ball, {});
  // Half of a ball of 85, open to one side.
  const auto cup = [&](const Vec3& open) {
    Mesh m = test::icosphere(85.0, 4);
    std::erase_if(m.triangles,
        [&](const Tri& t) { return (m.vertices[t[0]] + m.vertices[t[1]] + m.vertices[t[2]]).dot(open) > 0.0; });
    return stiff_part(m);
  };
  const auto tried_on = [&](const Vec3& open, std::optional<WayOn> from = {}) {
    return going_on(head, cup(open), *rules, {0.0, 0.0, from});
  };
  const GoingOn below = tried_on({0, 1, 0}), front = tried_on({0, 0, -1}), above = tried_on({0, -1, 0});
  CHECK(below.from == WayOn::from_below);
  CHECK(front.from == WayOn::from_the_front);
  CHECK(above.from == WayOn::from_above);
  for (const GoingOn& on : {below, front, above}) CHECK(on.passes);
  const GoingOn forced = tried_on({0, 1, 0}, WayOn::from_above);
  CHECK_FALSE(forced.passes);
  CHECK(forced.stops_short_mm > 50.0);
  // Open aslant, its way is still found.
  CHECK(tried_on({0, 0.6, -0.8}).passes);
}

TEST_CASE("a band must hold what sits on it too", "[fit][hold]") {
  FitPart band, horns, far;
  band.part = 1, band.mass_g = 40.0, band.own_mass_g = 40.0;
  horns.part = 2, horns.on_head = false, horns.sits_on = 1, horns.mass_g = 90.0, horns.bodies = 2,
  horns.own_mass_g = 45.0;
  far.part = 3, far.on_head = false, far.sits_on = 2, far.mass_g = 7.0;
  CHECK(carried_g({far, band, horns}, band) == Approx(137.0));
  CHECK(carried_g({band}, band) == Approx(40.0));
  CHECK(carried_g({far, band, horns}, horns) == Approx(45.0));
  const Derived d = tried(demo_of("thicket-ram"));
  const auto& holds = demo_of("thicket-ram").fit.holds;
  const Hold* by_band = nullptr;
  for (const Hold& h : holds)
    if (h.by == HoldBy::band) by_band = &h;
  REQUIRE(by_band != nullptr);
  double own = 0.0;
  for (const GoingOn& g : d.worn->going_on)
    if (g.part == by_band->part) own = 1.0;
  CHECK(own == 1.0);
  for (const HoldCheck& h : d.worn->holds)
    if (h.hold == by_band->id) CHECK(h.needed_n > 1.0);  // the horns alone ask for more than that
}

TEST_CASE("an eye hole that is dragged is seen as if it were made anew", "[fit][sight][drag]") {
  const Build b = demo_of("reed-mask");
  const Derived d = tried(b);
  const auto look = look_through_opening(*test::chain(), b, d, 1);
  REQUIRE(look);
  REQUIRE(*look);
  double seen = 0.0;
  for (const double wide : {28.0, 36.0, 44.0, 52.0}) {
    const auto turned = turn_dial(b, 1, "eye-wide", wide);
    REQUIRE(turned);
    const auto fast = (*look)->through(turned->parts.front());
    const auto anew = look_out(*test::chain(), *turned, d, 1);
    REQUIRE(anew);
    INFO(wide);
    REQUIRE(fast->sight);
    CHECK(fast->sight->kept == Approx((*anew)->sight->kept).margin(0.012));
    CHECK(fast->sight->looked == Approx((*anew)->sight->looked).margin(0.02));
    CHECK(fast->sight->eyes[1].ahead.unaided_sr == Approx((*anew)->sight->eyes[1].ahead.unaided_sr));
    CHECK(fast->sight->kept > seen);
    seen = fast->sight->kept;
  }
  // Closed altogether nothing comes in there.
  const auto shut = turn_dial(b, 1, "eye-tall", 0.0);
  REQUIRE(shut);
  CHECK((*look)->through(shut->parts.front())->sight->kept < 0.02);
  // What is no wrap has no such quick look.
  const Build helm = demo_of("ferry-keeper");
  const auto none = look_through_opening(*test::chain(), helm, tried(helm), 1);
  REQUIRE(none);
  CHECK_FALSE(*none);
}

TEST_CASE("on random builds every number of the fit moves the right way", "[fit][property]") {
  Random random(1812);
  test::Subjects subjects(9120);
  const std::vector<std::string> bases{"hood", "cowl", "full-mask", "half-mask", "cone-hat", "tall-hat", "great-helm",
      "bowl-helm", "petal-dome", "lantern-helm"},
      tops{"horn", "swept-crest", "cat-ears", "antler", "emblem", "sandwich-crest"};
  for (int n = 0; n < test::tries(6, 100); ++n) {
    Build b = test::demo();
    b.parts.clear();
    const std::string base = bases[random.below(static_cast<int>(bases.size()))];
    const auto id = add_part(b, *part_from_preset(base));
    REQUIRE(id);
    const std::string top = tops[random.below(static_cast<int>(tops.size()))];
    if (random.below(2) == 0) (void)add_part(b, *part_from_preset(top), *id);
    b.tape.head.clear();
    for (const auto& [measure, mm] :
        test::pick(subjects.next(), {MeasureId::HC, MeasureId::HL, MeasureId::HB, MeasureId::FH}))
      b.tape.set(measure, std::round(mm));
    b.foam.thickness_mm = 4.0;
    CAPTURE(n, base, top);
    const Derived plain = with_worn(*test::chain(), b, test::chain()->derive(b));
    if (!plain.worn) continue;  // a top that does not sit on this base is said by the chain
    const Worn& w = *plain.worn;
    CHECK(w.balance.mass_g > 0.0);
    // Thicker foam never widens a view and weighs more; its form stands where it did.
    Build thick = b;
    thick.foam.thickness_mm = 8.0;
    if (const Derived d = with_worn(*test::chain(), thick, test::chain()->derive(thick)); d.worn) {
      if (w.sight && d.worn->sight) CHECK(d.worn->sight->kept <= w.sight->kept + 0.005);
      CHECK(d.worn->balance.mass_g > w.balance.mass_g);
    }
    // More worn under it never helps it on.
    Build wig = b;
    wig.fit.wig_mm = 12.0;
    if (const Derived d = with_worn(*test::chain(), wig, test::chain()->derive(wig)); d.worn)
      for (std::size_t i = 0; i < w.going_on.size(); ++i) {
        const GoingOn &bare = w.going_on[i], &under = d.worn->going_on[i];
        CHECK((bare.passes || !under.passes));
        if (!bare.stiff && bare.has_rings) CHECK(under.short_mm >= bare.short_mm - 1e-6);
        if (bare.stiff) CHECK(under.stops_short_mm >= bare.stops_short_mm - 2.5);
      }
    // A battery behind pulls back, and never weighs nothing.
    const auto laden = apply_act(b, "add-room battery");
    REQUIRE(laden);
    if (const Derived d = with_worn(*test::chain(), *laden, test::chain()->derive(*laden)); d.worn) {
      CHECK(d.worn->balance.forward_nm < w.balance.forward_nm);
      CHECK(d.worn->balance.mass_g > w.balance.mass_g + 100.0);
    }
    CHECK(std::abs(w.balance.side_nm) < 1e-2);
  }
}
