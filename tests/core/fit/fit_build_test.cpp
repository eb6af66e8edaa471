#include <catch2/catch.hpp>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/data_files.hpp"
#include "core/chain/questions.hpp"
#include "core/fit/worn.hpp"
#include "core/io/build_file.hpp"
#include "core/steps/assembly.hpp"
#include "core/steps/shopping.hpp"
#include "support/effort.hpp"
#include "support/worn.hpp"

using namespace awl;
using test::demo_of;
using test::tried;

namespace {

const Remark* remark_of(const Derived& d, const std::string& id) {
  for (const Remark& r : d.remarks)
    if (r.id == id) return &r;
  return nullptr;
}

const GoingOn& going_on_of(const Derived& d, int part) {
  for (const GoingOn& g : d.worn->going_on)
    if (g.part == part) return g;
  FAIL("no part " << part);
  return d.worn->going_on.front();
}

}  // namespace

TEST_CASE("the bare head sees the textbook field, nose and brow from its own mesh", "[fit][sight][heads]") {
  for (const MeasureSet& measures : {test::kUsual, test::kHuge, MeasureSet{{MeasureId::HC, 541.0}}}) {
    const auto head = test::fitter().fit(measures);
    REQUIRE(head);
    FitHead::Places places;
    for (int i = 0; i < kLandmarkCount; ++i) places[i] = head->landmarks[i];
    const FitHead fit(head->mesh, head->mesh, places);
    const auto rules = load_fit_rules(data_folder() / "rules");
    REQUIRE(rules);
    const auto sight = sight_of(fit, {}, *rules);
    REQUIRE(sight);
    // Of the left eye: outwards 99, inwards 58 to 61, up 58 to 61, down 80.
    const auto reach = [&](double x, double y) {
      double most = 0.0;
      for (double off = 0.5; off < 120.0; off += 0.5) {
        const double t = radians(off);
        if (sight->eyes[0].ahead.open[sight->grid.cell({std::sin(t) * x, std::sin(t) * y, std::cos(t)})]) most = off;
      }
      return most;
    };
    CHECK(reach(1, 0) == Approx(99.0).margin(2.5));
    CHECK(reach(-1, 0) == Approx(59.5).margin(4.0));
    CHECK(reach(0, 1) == Approx(60.0).margin(6.0));
    CHECK(reach(0, -1) == Approx(79.0).margin(3.0));
    CHECK(sight->kept == Approx(1.0));
    CHECK(sight->kept_both == Approx(1.0));
  }
}

TEST_CASE("the Heron Warden does not pass over the head, and the slit that is offered mends it", "[fit][on]") {
  Build b = demo_of("heron-warden");
  b.fit = {};
  const Derived d = tried(b);
  const GoingOn& cowl = going_on_of(d, 1);
  CHECK_FALSE(cowl.passes);
  CHECK(cowl.short_mm > 60.0);
  CHECK(cowl.slit_mm > 60.0);
  CHECK(cowl.straight >= cowl.stretch - 1e-9);
  const Remark* said = remark_of(d, "fit.passes");
  REQUIRE(said != nullptr);
  REQUIRE_FALSE(said->remedies.empty());
  const auto mended = apply_act(b, said->remedies.front().act);
  REQUIRE(mended);
  REQUIRE(mended->fit.slits.size() == 1);
  CHECK(mended->fit.slits.front().long_mm >= cowl.slit_mm);
  const Derived after = tried(*mended);
  CHECK(remark_of(after, "fit.passes") == nullptr);
  // It is in the pieces, the shopping and the steps.
  REQUIRE(after.fittings);
  REQUIRE(after.pieces->size() == d.pieces->size() + 1);
  // Its strip is cut from the same sheet as the part, not from one of its own.
  CHECK(after.layout->sheets == d.layout->sheets);
  std::size_t holes = 0, before = 0;
  for (const Piece& p : *after.pieces) holes += p.holes.size();
  for (const Piece& p : *d.pieces) before += p.holes.size();
  CHECK(holes > before + 3);
  // The seam at the back is the middle line: six eyelets in the left piece, none beside it for the flipped copy.
  std::size_t crosses = 0;
  for (const Piece& p : *after.pieces)
    for (const PieceCross& c : p.crosses) crosses += c.name == "eyelet" ? 1 : 0;
  CHECK(crosses == 0);
  const auto list = shopping(*mended, after, test::materials());
  REQUIRE(list);
  const auto wants = [&](const char* id) {
    return std::any_of(
        list->lines.begin(), list->lines.end(), [&](const Purchase& p) { return p.id == id && p.need > 0.0; });
  };
  CHECK(wants("eyelet"));
  CHECK(wants("cord"));
  const auto sheet = assemble(*mended, after, test::materials());
  REQUIRE(sheet);
  CHECK(std::any_of(sheet->steps.begin(), sheet->steps.end(),
      [](const BuildStep& s) { return s.title.find("slit") != std::string::npos && !s.caution.empty(); }));
  // What stays open is said before the first seam of its part is glued, its strip once it is whole.
  const auto place = [&](const std::string& words) {
    return std::find_if(sheet->steps.begin(), sheet->steps.end(), [&](const BuildStep& s) {
      return s.title.rfind(words, 0) == 0;
    }) - sheet->steps.begin();
  };
  CHECK(place("Leave the slit") < place("Glue on"));
  CHECK(place("Glue on") < place("Back the slit"));
  CHECK(place("Back the slit") < static_cast<long>(sheet->steps.size()));
  // And it survives saving.
  const test::TempFolder folder;
  REQUIRE(save_build(folder / "laced.noggin", *mended));
  const auto back = open_build(folder / "laced.noggin");
  REQUIRE(back);
  CHECK(back->fit == mended->fit);
}

TEST_CASE("parted in two halves it goes on, and magnets, strip and caution are in the build", "[fit][on]") {
  Build b = demo_of("heron-warden");
  b.fit = {};
  const auto parted = apply_act(b, "add-slit 1 halves 100 40 magnets");
  REQUIRE(parted);
  const Derived d = tried(*parted);
  CHECK(remark_of(d, "fit.passes") == nullptr);
  REQUIRE(d.fittings);
  REQUIRE(d.fittings->size() == 1);
  const Yield& y = d.fittings->front();
  REQUIRE(y.wants.size() == 1);
  CHECK(y.wants.front().need >= 8.0);
  // As many of one facing as of the other, on both sides of the cut.
  int north = 0, south = 0;
  for (const PieceMark& m : y.marks) north += m.name == "N in", south += m.name == "S in";
  CHECK(north == south);
  CHECK(north + south == static_cast<int>(y.wants.front().need));
  const auto sheet = assemble(*parted, d, test::materials());
  REQUIRE(sheet);
  CHECK(std::any_of(sheet->steps.begin(), sheet->steps.end(), [](const BuildStep& s) {
    return s.title.find("two halves") != std::string::npos && s.caution.find("implants") != std::string::npos;
  }));
  // A hat has nothing to be parted from ear to ear.
  const Build mask = *apply_act(demo_of("reed-mask"), "add-slit 1 halves 100 40 magnets");
  CHECK(remark_of(tried(mask), "fit.slit") != nullptr);
}

TEST_CASE("helms and hats of the demos pass, a head too large for a band does not", "[fit][on]") {
  for (const char* id : {"ferry-keeper", "almanac-seller", "toll-clerk", "lamp-post"}) {
    const Derived d = tried(demo_of(id));
    INFO(id);
    CHECK(going_on_of(d, 1).passes);
  }
}

TEST_CASE("more under it never helps it on, and never lets more magnets hold", "[fit][property]") {
  Build b = demo_of("ferry-keeper");
  double spare = 1e9;
  for (const double wig : {0.0, 6.0, 15.0, 30.0}) {
    b.fit.wig_mm = wig;
    const Derived d = tried(b);
    CHECK(-going_on_of(d, 1).short_mm <= spare + 1e-6);
    spare = -going_on_of(d, 1).short_mm;
  }
  double pull = 1e9;
  for (const double gap : {0.5, 1.0, 2.0, 4.0, 8.0, 16.0}) {
    const double n = magnet_pull_n({}, {}, gap);
    CHECK(n < pull);
    CHECK(n > 0.0);
    pull = n;
  }
}

TEST_CASE("thicker foam never widens a view, a wider hole never narrows it", "[fit][sight][property]") {
  Build b = demo_of("reed-mask");
  double kept = 1.0;
  for (const double mm : {2.0, 5.0, 10.0}) {
    b.foam.thickness_mm = mm;
    const Derived d = tried(b);
    REQUIRE(d.worn->sight);
    CHECK(d.worn->sight->kept <= kept + 0.004);
    kept = d.worn->sight->kept;
  }
  double seen = 0.0;
  for (const double wide : {36.0, 44.0, 54.0}) {
    const auto turned = turn_dial(demo_of("reed-mask"), 1, "eye-wide", wide);
    REQUIRE(turned);
    const Derived d = tried(*turned);
    CHECK(d.worn->sight->kept > seen);
    seen = d.worn->sight->kept;
  }
}

TEST_CASE("what is said of the sight comes with an act that opens it", "[fit][sight]") {
  for (const char* id : {"ferry-keeper", "reed-mask"}) {
    const Build b = demo_of(id);
    const Derived d = tried(b);
    const Remark* stairs = remark_of(d, "fit.stairs");
    CAPTURE(id);
    REQUIRE(stairs != nullptr);
    REQUIRE_FALSE(stairs->remedies.empty());
    const auto opened = apply_act(b, stairs->remedies.front().act);
    REQUIRE(opened);
    CHECK(tried(*opened).worn->sight->kept > d.worn->sight->kept);
  }
}

TEST_CASE("an even build is even to both sides", "[fit][property]") {
  const Derived d = tried(demo_of("reed-mask"));
  const Sight& s = *d.worn->sight;
  CHECK(s.eyes[0].ahead.kept_sr == Approx(s.eyes[1].ahead.kept_sr).epsilon(0.01));
  CHECK(s.meridians[0].kept_deg == Approx(s.meridians[4].kept_deg).margin(1.5));
  CHECK(std::abs(d.worn->balance.side_nm) < 1e-3);
  CHECK(d.worn->turning->turn_deg[0] == Approx(d.worn->turning->turn_deg[1]).margin(2.0));
}

TEST_CASE("on random heads an even build stays even, and every answer is a number that can be", "[fit][property]") {
  test::Subjects subjects(4711);
  for (int n = 0; n < test::tries(4, 60); ++n) {
    const MeasureVector head = subjects.next();
    for (const char* id : {"reed-mask", "ferry-keeper"}) {
      Build b = demo_of(id);
      b.tape.head.clear();
      for (const auto& [measure, mm] : test::pick(head, {MeasureId::HC, MeasureId::HL, MeasureId::HB, MeasureId::FH}))
        b.tape.set(measure, std::round(mm));
      CAPTURE(n, id);
      const Derived d = tried(b);
      REQUIRE(d.worn);
      const Worn& w = *d.worn;
      REQUIRE(w.sight);
      CHECK(w.sight->kept > 0.05);
      CHECK(w.sight->kept < 0.6);
      CHECK(w.sight->eyes[0].ahead.kept_sr == Approx(w.sight->eyes[1].ahead.kept_sr).epsilon(0.02));
      CHECK(w.balance.mass_g > 10.0);
      CHECK(w.balance.mass_g < 400.0);
      CHECK(std::abs(w.balance.side_nm) < 1e-3);
      CHECK(w.turning->nod_deg >= 0.0);
      CHECK(w.turning->nod_deg <= 50.0);
      for (const GoingOn& g : w.going_on) {
        CHECK(std::isfinite(g.stretch));
        CHECK(std::isfinite(g.short_mm));
        CHECK_FALSE(g.way.empty());
        CHECK(g.way.back().up_mm == Approx(g.stiff ? g.stops_short_mm : 0.0).margin(2.1));
        for (const WayMoment& m : g.way) CHECK(std::abs(m.pitch_deg) <= 40.0);
      }
      for (const PartClearance& c : w.clearance) CHECK(std::isfinite(c.least_mm));
    }
  }
}

TEST_CASE("what is held by magnets is checked at a shake, and one more is offered", "[fit][hold]") {
  Build b = demo_of("thicket-ram");
  b.fit = {};
  b.fit.holds.push_back({1, 2, HoldBy::magnets, 2, "8 x 3 N42", false, 20.0});
  const Derived weak = tried(b);
  const Remark* said = remark_of(weak, "fit.hold");
  REQUIRE(said != nullptr);
  CHECK(apply_act(b, said->remedies.front().act)->fit.holds.front().count == 3);
  b.fit.holds.front().magnet = "15 x 5 N42", b.fit.holds.front().between_mm = 1.0;
  const Derived strong = tried(b);
  CHECK(remark_of(strong, "fit.hold") == nullptr);
  REQUIRE(strong.worn->holds.size() == 1);
  REQUIRE(strong.worn->holds.front().force_n);
  CHECK(*strong.worn->holds.front().force_n > strong.worn->holds.front().needed_n);
  // What is not reckoned is not said to hold.
  Build strapped = b;
  strapped.fit.holds.front().by = HoldBy::clips;
  const Derived d = tried(strapped);
  REQUIRE(d.worn->holds.size() == 1);
  CHECK_FALSE(d.worn->holds.front().force_n);
  CHECK(d.worn->holds.front().words.find("Not reckoned") != std::string::npos);
  // Their places stand on pieces, facing told; cautions stand at the step.
  const auto sheet = assemble(b, strong, test::materials());
  REQUIRE(sheet);
  CHECK(std::any_of(sheet->steps.begin(), sheet->steps.end(), [](const BuildStep& s) {
    return s.title.find("magnets") != std::string::npos && s.caution.find("pacemaker") != std::string::npos;
  }));
}

TEST_CASE("an arm guard alone and a headform have nothing to try on", "[fit]") {
  Build b = demo_of("marsh-guard");
  std::erase_if(b.parts, [](const Part& p) { return !std::holds_alternative<LimbSpec>(p.shape); });
  REQUIRE(b.parts.size() == 1);
  const Derived d = with_worn(*test::chain(), b, test::chain()->derive(b));
  CHECK(d.worn == nullptr);
  Build head = demo_of("heron-warden");
  head.making = Making::headform;
  CHECK(with_worn(*test::chain(), head, test::chain()->derive(head)).worn == nullptr);
}

TEST_CASE("what is no slit, hold or room is refused with its value and limit", "[fit][hostile]") {
  const Build b = demo_of("ferry-keeper");
  for (const char* act :
      {"add-slit 9 back 100 40 lacing", "add-slit 1 under 100 40 lacing", "add-slit 1 back long 40 lacing",
          "add-hold 1 glue", "more-hold 7", "drop-room 3", "add-room piano", "set-magnet 1 10 x 3 N42"})
    CHECK_FALSE(apply_act(b, act));
  Build wrong = b;
  wrong.fit.slits.push_back({1, 1, SlitAt::back, ClosedBy::lacing, 9000.0});
  REQUIRE_FALSE(check_inputs(wrong));
  CHECK(check_inputs(wrong).error().text.find("9000") != std::string::npos);
  wrong = b;
  wrong.fit.holds.push_back({1, 42});
  CHECK_FALSE(check_inputs(wrong));
  wrong = b;
  wrong.fit.wig_mm = std::nan("");
  CHECK_FALSE(check_inputs(wrong));
  // A part that goes takes its slits and holds with it.
  Build two = demo_of("heron-warden");
  two.fit.holds.push_back({1, 2, HoldBy::elastic});
  REQUIRE(remove_part(two, 2));
  CHECK(std::none_of(two.fit.holds.begin(), two.fit.holds.end(), [](const Hold& h) { return h.part == 2; }));
}
