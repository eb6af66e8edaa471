#include "core/chain/questions.hpp"
#include "core/chain/shop.hpp"

#include <algorithm>
#include <atomic>
#include <catch2/catch.hpp>
#include <sstream>
#include <thread>

#include "core/chain/stages/panels.hpp"
#include "core/io/build_file.hpp"
#include "support/bench_data.hpp"
#include "support/effort.hpp"

using namespace awl;

TEST_CASE("the demo runs through the whole chain and lies within what its foam bears", "[builds][chain]") {
  const Derived d = test::chain()->derive(test::demo());
  REQUIRE(d.complete());
  CHECK(d.remarks.empty());
  for (const Panel& p : d.panels->panels) CHECK(p.strain.p99 <= 0.04);
  for (const Seam& s : d.panels->seams) CHECK(std::abs(s.side_mm[0] - s.side_mm[1]) <= 0.05);
  CHECK(d.form->clearance.least_mm >= 0.95 * 12.0);
  CHECK(d.layout->overlap_mm2 == 0.0);
  CHECK(d.plan->spare_min > 0.0);
}

TEST_CASE("one changed tape measure is followed by everything behind it", "[builds][chain]") {
  Build build = test::demo();
  const Derived before = test::chain()->derive(build);
  build.tape.set(MeasureId::HC, 604.0);
  build.tape.set(MeasureId::HL, 209.0);
  const Derived after = test::chain()->derive(build);
  REQUIRE(after.complete());
  CHECK(after.head->reading(MeasureId::HC).reads_mm == Approx(604.0).margin(2.0));
  CHECK(after.form->area_mm2 > before.form->area_mm2);
  double a = 0.0, b = 0.0;
  for (const Piece& p : *before.pieces) a += p.area_mm2;
  for (const Piece& p : *after.pieces) b += p.area_mm2;
  CHECK(b > 1.02 * a);
  CHECK(after.pieces->size() == before.pieces->size());
  for (std::size_t i = 0; i < before.pieces->size(); ++i) CHECK((*after.pieces)[i].name == (*before.pieces)[i].name);
}

TEST_CASE("a change renews only what hangs on it", "[builds][chain]") {
  Build build = test::demo();
  const Derived before = test::chain()->derive(build);
  build.coat.seal = "primer";
  const Derived coats = test::chain()->derive(build);
  CHECK(coats.panels == before.panels);
  CHECK(coats.layout == before.layout);
  CHECK(coats.plan != before.plan);
  build.foam.sheet.width_mm = 900.0;
  const Derived sheets = test::chain()->derive(build);
  CHECK(sheets.pieces == before.pieces);
  CHECK(sheets.layout != before.layout);
  wrap_of(build).padding_mm = 11.0;
  const Derived padded = test::chain()->derive(build);
  CHECK(padded.head == before.head);
  CHECK(padded.form != before.form);
}

TEST_CASE("what sits on a part stays when only that part's rims are cut another way, and its panels lie as they did",
    "[builds][chain][meeting]") {
  constexpr int kCowl = 1, kBeak = 2, kCrest = 3;
  Build build = *demo_by_name("heron-warden", Day{20731});
  const Derived before = test::chain()->derive(build);
  REQUIRE(before.complete());
  const double reach = *dial_value(*find_part(build, kBeak), "card1.reach");
  build = *turn_dial(build, kBeak, "card1.reach", reach + 2.0);
  const Derived after = test::chain()->derive(build);
  REQUIRE(after.complete());
  const auto place_of = [](const Derived& d, int part) {
    const auto& parts = d.form->parts;
    const auto at = std::find_if(parts.begin(), parts.end(), [&](const auto& p) { return p->part == part; });
    REQUIRE(at != parts.end());
    return static_cast<std::size_t>(at - parts.begin());
  };
  const std::size_t cowl = place_of(before, kCowl), crest = place_of(before, kCrest), beak = place_of(before, kBeak);
  CHECK(after.form->parts[crest] == before.form->parts[crest]);
  CHECK(after.part_panels[crest] == before.part_panels[crest]);
  CHECK(after.form->parts[beak] != before.form->parts[beak]);
  // The cowl's rim is mitred to another beak: its own blade tilts, and nothing else of it changes.
  const PartForm &was = *before.form->parts[cowl], &is = *after.form->parts[cowl];
  CHECK(is.same_sheet == was.same_sheet);
  CHECK(is.surface.mesh == was.surface.mesh);
  CHECK(is.surface.rim_tilt != was.surface.rim_tilt);
  CHECK(is.met.size() == was.met.size());
  const PanelSet &had = *before.part_panels[cowl], &has = *after.part_panels[cowl];
  // Laid flat from nothing it is what the chain says.
  const auto fresh = make_panels(is.surface, panel_options(is));
  REQUIRE(fresh);
  REQUIRE(fresh->panels.size() == has.panels.size());
  int turned = 0;
  for (std::size_t p = 0; p < has.panels.size(); ++p) {
    CHECK(has.panels[p].flat == had.panels[p].flat);
    CHECK(has.panels[p].flat == fresh->panels[p].flat);
    REQUIRE(has.panels[p].border.size() == fresh->panels[p].border.size());
    for (std::size_t e = 0; e < has.panels[p].border.size(); ++e) {
      CHECK(has.panels[p].border[e].turn_rad == fresh->panels[p].border[e].turn_rad);
      turned += has.panels[p].border[e].turn_rad != had.panels[p].border[e].turn_rad ? 1 : 0;
    }
  }
  CHECK(turned > 20);
  CHECK(has.form.rim_tilt == is.surface.rim_tilt);
}

TEST_CASE("the same build gives the same pieces in another shop", "[builds][chain]") {
  const auto other = Chain::load(data_folder());
  REQUIRE(other);
  const Derived a = test::chain()->derive(test::demo()), b = (*other)->derive(test::demo());
  REQUIRE(b.complete());
  for (std::size_t i = 0; i < a.pieces->size(); ++i) CHECK((*a.pieces)[i].outline == (*b.pieces)[i].outline);
  for (std::size_t i = 0; i < a.layout->placements.size(); ++i)
    CHECK(a.layout->placements[i].pose.at == b.layout->placements[i].pose.at);
}

TEST_CASE("stages are told one by one, and the chain stops when asked", "[builds][chain]") {
  Build build = test::demo();
  build.tape.set(MeasureId::HB, 161.5);
  int stages = 0;
  const Derived all = test::chain()->derive(build, {}, [&](const Derived& d) {
    ++stages;
    CHECK(d.head != nullptr);
  });
  CHECK(stages == 5);  // the order on sheets and the plan come together
  CHECK(all.complete());
  build.tape.set(MeasureId::HB, 162.5);
  const Derived stopped = test::chain()->derive(build, Progress([](double f) { return f < 0.4; }));
  REQUIRE(stopped.error);
  CHECK(stopped.error->code == Errc::cancelled);
  CHECK(stopped.head != nullptr);
  CHECK(stopped.pieces == nullptr);
  CHECK(std::none_of(
      stopped.remarks.begin(), stopped.remarks.end(), [](const Remark& r) { return r.id == "chain.stopped"; }));
}

TEST_CASE("cold foam over few gores is remarked with where and what to do, and the remedy helps", "[builds][remarks]") {
  Build build = test::demo();
  first_wrap(build).seams.gores_per_side = 2;
  build.foam.heated = false;
  Derived d = test::chain()->derive(build);
  const auto strain = [&]() -> const Remark* {
    for (const Remark& r : d.remarks)
      if (r.id == "seam.strain") return &r;
    return nullptr;
  };
  REQUIRE(strain() != nullptr);
  CHECK(strain()->where.rfind("panels/", 0) == 0);
  CHECK(*strain()->measured > *strain()->limit);
  for (int presses = 0; strain() != nullptr && !strain()->remedies.empty() && presses < 10; ++presses) {
    const auto mended = apply_act(build, strain()->remedies[0].act);
    REQUIRE(mended);
    REQUIRE_FALSE(*mended == build);
    build = *mended;
    d = test::chain()->derive(build);
  }
  CHECK(strain() == nullptr);
}

TEST_CASE("a cowl that does not pass over the head says so, and what would help", "[builds][remarks]") {
  Build build = test::demo();
  wrap_of(build).edge = WrapEdge::full_cowl;
  const Derived d = with_worn(*test::chain(), build, test::chain()->derive(build));
  const auto passes =
      std::find_if(d.remarks.begin(), d.remarks.end(), [](const Remark& r) { return r.id == "fit.passes"; });
  REQUIRE(passes != d.remarks.end());
  CHECK(*passes->measured > 0.0);
  REQUIRE(passes->remedies.size() == 4);
  CHECK(apply_act(build, passes->remedies.at(0).act)->fit.slits.size() == 1);
  CHECK(apply_act(build, passes->remedies.at(3).act)->parts.front().shape == Shape([&] {
    WrapSpec w = wrap_of(build);
    w.edge = WrapEdge::open_face;
    return w;
  }()));
}

TEST_CASE("a piece too large for its sheet stops the chain with a sentence and keeps the rest", "[builds][remarks]") {
  Build build = test::demo();
  build.foam.sheet = {120.0, 120.0};
  const Derived d = test::chain()->derive(build);
  REQUIRE(d.error);
  CHECK(d.pieces != nullptr);
  CHECK(d.layout == nullptr);
  REQUIRE_FALSE(d.remarks.empty());
  CHECK(d.remarks[0].severity == Severity::stop);
  CHECK(d.remarks[0].sentence.find("120 x 120") != std::string::npos);
}

TEST_CASE("builds are checked before anything is made", "[builds]") {
  Build build = test::demo();
  build.foam.thickness_mm = 7.3;
  CHECK(check(*test::chain(), build).error().text.find("7.3") != std::string::npos);
  build = test::demo();
  build.tape.head.clear();
  CHECK(check(*test::chain(), build).error().code == Errc::empty_input);
  build = test::demo();
  wrap_of(build).edge = WrapEdge::skull_cap;
  wrap_of(build).edge_up_mm = 110.0;
  CHECK(check(*test::chain(), build).error().where == "parts/1/edge");
  build = test::demo();
  build.foam.sheet.height_mm = 20.0;
  CHECK(check(*test::chain(), build).error().where == "foam/height");
  CHECK_FALSE(apply_act(build, "dance"));
  CHECK_FALSE(demo_by_name("nobody", Day{0}));
}

TEST_CASE("a shop without its data says which file is missing", "[builds]") {
  const test::TempFolder folder;
  const auto none = Chain::load(folder.path());
  REQUIRE_FALSE(none);
  CHECK(none.error().code == Errc::cannot_read);
  CHECK(none.error().text.find(folder.path().string()) != std::string::npos);
}

TEST_CASE("a build follows a scan, joins its tapes, and survives saving", "[builds][scan]") {
  Build build = test::demo();
  const Headform truth = test::fitter().shape(test::fitter().adults().mean);
  ScannerHabits habits;
  habits.points = 5000, habits.missing_share = 0.1, habits.hair_mm = 0.0, habits.seed = 4;
  build.tape = sheet_of({{MeasureId::HC, truth.reading(MeasureId::HC).reads_mm}}, "adult");
  build.scan = {std::make_shared<const Scan>(simulate_scan(truth, habits).scan), true};
  REQUIRE(build.scan.ready());
  const Derived d = test::chain()->derive(build);
  REQUIRE(d.complete());
  REQUIRE(d.scan);
  CHECK(d.head->reading(MeasureId::HC).given);
  CHECK(d.head->reading(MeasureId::HL).reads_mm == Approx(truth.reading(MeasureId::HL).reads_mm).margin(1.5));
  const auto back = build_from_bytes(*build_bytes(build));
  REQUIRE(back);
  CHECK(*back == build);
  build.tape.head.clear();
  CHECK(check(*test::chain(), build));
  build.scan.used = false;
  CHECK_FALSE(check(*test::chain(), build));
}

namespace {

/// Says again what it was given.
struct EchoStep {
  using Inputs = Held<int>;
  using Made = int;
  static constexpr std::size_t kKept = 4;
  static Result<int> run(Shop&, const Inputs& in, const Progress&) { return *in; }
};
static_assert(Step<EchoStep>);

/// All that a maker gets of a derivation, as text.
std::string told(const Derived& d) {
  std::ostringstream out;
  out.precision(9);
  if (d.error) out << "stopped: " << d.error->text << "\n";
  for (const Piece& p : d.pieces ? *d.pieces : std::vector<Piece>{}) {
    out << p.number << " " << p.name << " " << p.copies << " " << p.area_mm2;
    for (const Vec2& q : p.knife_line()) out << " " << q.x() << "," << q.y();
    out << "\n";
  }
  for (const Placement& p : d.layout ? d.layout->placements : std::vector<Placement>{})
    out << p.piece.value << " on " << p.sheet << " at " << p.pose.at.x() << "," << p.pose.at.y() << "\n";
  for (const PlannedStep& t : d.plan ? d.plan->steps : std::vector<PlannedStep>{})
    out << t.name << " " << t.start << " " << t.hands_min << "\n";
  for (const Remark& r : d.remarks) out << r.id << " " << r.where << " " << r.sentence << "\n";
  return out.str();
}

/// One more change to a build, of the kinds makers make; may be refused.
Result<Build> edited(const Build& b, Random& random) {
  const auto pick = [&](auto... acts) {
    const std::vector<std::string> all{acts...};
    return all[random.next() % all.size()];
  };
  const std::string mm = std::to_string(1 + random.next() % 9);
  return apply_act(b,
      pick("turn 1 ease " + mm, "turn 1 pieces " + std::to_string(1 + random.next() % 6), "turn 1 ring2.grow " + mm,
          "use-expected HC 57" + mm, "set-thickness 5", "set-thickness 3", "set-heated on", "set-heated off",
          "set-hours 2.5", "set-way 1 slabs", "set-way 1 skin", "set-sheet 1000 600", "set-sheet 800 700"));
}

}  // namespace

TEST_CASE("what a step is remembered by stays alive as long as it is remembered", "[chain]") {
  const auto shop = Shop::load(data_folder());
  REQUIRE(shop);
  for (int i = 0; i < 300; ++i) {
    const auto made = (*shop)->make<EchoStep>(std::make_shared<const int>(i));  // memory is used again and again
    REQUIRE(made);
    CHECK(**made == i);
  }
}

TEST_CASE("random edits: the chain that remembers says what a fresh one says", "[chain][property]") {
  Random random(20731);
  Build build = *demo_by_name("almanac-seller", Day{20731});
  int compared = 0, taken = 0;
  const int edits = test::tries(200, 2000);
  for (int i = 0; i < edits; ++i) {
    const auto next = edited(build, random);
    if (!next || !check(*test::chain(), *next)) continue;
    build = *next;
    ++taken;
    const Derived d = test::chain()->derive(build);
    if (i % 25 != 24) continue;
    const auto fresh = Chain::load(data_folder());
    REQUIRE(fresh);
    CAPTURE(i);
    CHECK(told(d) == told((*fresh)->derive(build)));
    ++compared;
  }
  CHECK(compared >= edits / 40);
  CHECK(taken >= edits / 2);
}

TEST_CASE("a question that cannot wait is not kept waiting by whoever is inside", "[chain]") {
  using std::chrono::milliseconds;
  const Chain& chain = *test::chain();
  Build odd = test::demo();
  wrap_of(odd).edge_up_mm = 119.0;
  {
    const Chain::Visit inside(chain);
    REQUIRE(inside);
    CHECK(try_part(chain, odd, 1, milliseconds(5)).error().code == Errc::cancelled);
    CHECK(check(chain, odd, milliseconds(5)));
    const auto turned = turn(chain, test::demo(), 1, "padding", 9.0, milliseconds(5));
    REQUIRE(turned);
    CHECK(wrap_of(*turned).padding_mm == 9.0);
    CHECK_FALSE(Chain::Visit(chain, milliseconds(5)));
  }
  CHECK(Chain::Visit(chain, milliseconds(5)));
  CHECK(try_part(chain, test::demo(), 1));
}

TEST_CASE("a derivation lets questions pass and comes to the same end", "[chain]") {
  const auto fresh = Chain::load(data_folder());
  REQUIRE(fresh);
  std::atomic<bool> done{false};
  Derived derived;
  std::thread worker([&] {
    derived = (*fresh)->derive(test::demo());
    done = true;
  });
  int asked = 0;
  // Each time it stops what it was at and begins that step again: somebody who asked without end would hold it up.
  for (; asked < 4 && !done; ++asked) {
    (void)try_part(**fresh, test::demo(), 1);
    std::this_thread::sleep_for(std::chrono::milliseconds(100));
  }
  worker.join();
  CHECK(asked > 0);
  REQUIRE(derived.complete());
  CHECK(told(derived) == told(test::derived()));
}
