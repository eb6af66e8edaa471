#include <catch2/catch.hpp>

#include "core/steps/assembly.hpp"
#include "core/chain/memo.hpp"
#include "core/derived/part_ground.hpp"
#include "core/chain/to_cut.hpp"
#include "core/derived/whereabouts.hpp"
#include "support/bench_data.hpp"

using namespace awl;

namespace {

Build showpiece() { return *demo_by_name("heron-warden", Day{20731}); }

/// What an act makes of the showpiece. It must be allowed.
Build after(const std::string& act) {
  const auto done = apply_act(showpiece(), act);
  INFO(act);
  REQUIRE(done);
  return *done;
}

}  // namespace

TEST_CASE("every act a remark can offer changes what it says and nothing else", "[builds][acts]") {
  const Build was = showpiece();
  Build next = after("set-gores 6");
  CHECK(first_wrap(next).seams.gores_per_side == 6);
  first_wrap(next).seams.gores_per_side = first_wrap(was).seams.gores_per_side;
  CHECK(next == was);
  next = after("set-gores 2 2");
  CHECK(find_part(next, 2)->seams.gores_per_side == 2);
  CHECK(*find_part(next, 1) == *find_part(was, 1));
  CHECK(first_wrap(after("set-belt on")).seams.belt);
  CHECK(wrap_of(after("set-edge open-face")).edge == WrapEdge::open_face);
  CHECK(after("set-thickness 3").foam.thickness_mm == 3.0);
  CHECK(find_part(after("set-stagger 2"), 2)->seams.stagger);
  CHECK(after("set-head-plan 2").foam_head.plan == 2);
  CHECK(after("fit-to built").fit_to_built);
  CHECK_FALSE(after("fit-to wearer").fit_to_built);
  CHECK(after("compared left").compared == std::set<LookFrom>{LookFrom::left});
  CHECK_FALSE(after("set-heated off").foam.heated);
  CHECK(after("set-heated on").foam.heated);
  CHECK(after("set-sheet 1200 800").foam.sheet == SheetSize{1200.0, 800.0});
  CHECK(after("set-seal latex").coat.seal == "latex");
  CHECK(after("set-paint spray").coat.paint == "spray");
  CHECK(after("set-glue hot-glue").coat.glue == "hot-glue");
  CHECK(after("set-heat-seal on").coat.heat_seal);
  CHECK(after("set-hours 2.5").coat.hours_a_day == 2.5);
  CHECK(find_part(after("set-way 3 carve"), 3)->way.way == Way::carve);
  CHECK(find_part(after("set-pull 2 up"), 2)->way.pull == Axis::up);
  CHECK(*dial_value(*find_part(after("turn 3 length 55"), 3), "length") == 55.0);
  Build held = was;
  held.foam.held = {{"crown", 0, 0, Vec2(10, 10), 0.0}};
  CHECK(apply_act(held, "drop-held")->foam.held.empty());
}

TEST_CASE("a part is cut from another stuff in its usual thickness or in one that is said", "[builds][acts]") {
  const auto thickness = [](const std::string& act) { return find_part(after(act), 3)->thickness_mm; };
  CHECK(find_part(after("set-stuff 3 eva-firm"), 3)->stuff == "eva-firm");
  CHECK(thickness("set-stuff 3 eva-firm") == 0.0);
  CHECK(thickness("set-stuff 3 eva-firm 6.5") == 6.5);
  const auto refused = apply_act(showpiece(), "set-stuff 3 eva-firm thick");
  REQUIRE_FALSE(refused);
  CHECK(refused.error().text.find("The thickness: ") == 0);
  CHECK(refused.error().text.find("thick") != std::string::npos);
}

TEST_CASE("acts on tapes use, trade and scale what was measured", "[builds][acts][tape]") {
  const Build was = showpiece();
  const auto tape = [](const Build& b, MeasureId id) { return b.tape.head.at(id).first_mm; };
  CHECK(tape(after("use-expected HL 199.0"), MeasureId::HL) == 199.0);
  const Build traded = after("swap-measures HL HB");
  CHECK(tape(traded, MeasureId::HL) == tape(was, MeasureId::HB));
  CHECK(tape(traded, MeasureId::HB) == tape(was, MeasureId::HL));
  const Build scaled = after("scale-tapes 0.5");
  CHECK(tape(scaled, MeasureId::HC) == Approx(0.5 * tape(was, MeasureId::HC)));
  CHECK(apply_act(was, "use-expected BIG 3").error().text.find("BIG") != std::string::npos);
  CHECK(apply_act(was, "use-expected PD 60").error().text.find("has not been measured") != std::string::npos);
  CHECK(apply_act(was, "swap-measures HL").error().code == Errc::unknown_name);
}

TEST_CASE("what is no act, or of no part, is refused by name and changes nothing", "[builds][acts]") {
  const Build was = showpiece();
  for (const char* act :
      {"polish it", "", "set-gores 4 77", "set-way 88 carve", "set-way 1 knitted", "set-pull 1 inwards",
          "set-edge frilled", "turn 1 wings 3", "turn 99 ease 3", "compared underneath", "take-in 9 3 3 3 belt"}) {
    INFO(act);
    const auto refused = apply_act(was, act);
    REQUIRE_FALSE(refused);
    CHECK_FALSE(refused.error().text.empty());
  }
  CHECK(was == showpiece());
  CHECK(turn_dial(was, 3, "length", 1e6).error().code == Errc::out_of_range);
}

TEST_CASE("taking in by an act goes on the list, and off it again", "[builds][acts]") {
  const Build taken = after("take-in 1 4 2 0 belt");
  REQUIRE(taken.alterations.size() == 1);
  CHECK(taken.alterations[0].part == 1);
  CHECK(taken.alterations[0].first_mm == 4.0);
  CHECK(taken.alterations[0].middle_mm == 2.0);
  CHECK(taken.alterations[0].seam == "belt");
  CHECK(apply_act(taken, "drop-alteration " + std::to_string(taken.alterations[0].id))->alterations.empty());
}

TEST_CASE("a part taken away takes its alterations with it, and what sat on it comes down", "[builds][parts]") {
  Build b = showpiece();
  Part badge = *part_from_preset("emblem");
  const int crest = 3, on_crest = *add_part(b, badge, crest);
  REQUIRE(find_part(b, on_crest)->on == crest);
  Alteration cut;
  cut.part = crest, cut.seam = "edge", cut.first_mm = 2.0;
  b.alterations.push_back(cut);
  const int below = find_part(b, crest)->on;
  REQUIRE(remove_part(b, crest));
  CHECK(find_part(b, crest) == nullptr);
  CHECK(find_part(b, on_crest)->on == below);
  CHECK(b.alterations.empty());
  CHECK(remove_part(b, crest).error().text.find(std::to_string(crest)) != std::string::npos);
}

TEST_CASE("parts get numbers and names of their own, up to 24", "[builds][parts]") {
  Build b = showpiece();
  std::set<int> ids;
  std::set<std::string> names;
  const Part horn = *part_from_preset("ram-horn");
  while (b.parts.size() < 24) REQUIRE(add_part(b, horn));
  for (const Part& p : b.parts) ids.insert(p.id), names.insert(p.name);
  CHECK(ids.size() == 24);
  CHECK(names.size() == 24);
  CHECK(ids.count(0) == 0);
  CHECK(add_part(b, horn).error().text.find("24") != std::string::npos);
  CHECK(find_part(b, *add_part(b = showpiece(), horn, 99))->on == 0);  // on nothing there is: on the head
}

TEST_CASE("names of choices go there and back, and others are refused with what there is", "[builds]") {
  for (const Making m : {Making::parts, Making::headform}) CHECK(making_from(name_of(m)).value() == m);
  for (int i = 0; i < kLooks; ++i)
    CHECK(look_from(name_of(static_cast<LookFrom>(i))).value() == static_cast<LookFrom>(i));
  CHECK(making_from("soup").error().text.find("soup") != std::string::npos);
  CHECK(look_from("below").error().text.find("below") != std::string::npos);
  std::set<std::string> ids;
  for (const PartPreset& p : part_presets()) {
    CHECK(ids.insert(p.id).second);
    CHECK_FALSE(p.label.empty());
    CHECK_FALSE(p.tip.empty());
    CHECK(std::count(things().begin(), things().end(), p.thing) == 1);
    CHECK(check_part(p.make()));
  }
  CHECK(part_from_preset("crown-of-thorns").error().code == Errc::unknown_name);
}

TEST_CASE("every dial of every ready start is named once, within its limits, and reads what it was turned to",
    "[builds][dials][property]") {
  Random random(6);
  for (const PartPreset& preset : part_presets()) {
    INFO(preset.id);
    Part part = preset.make();
    std::set<std::string> ids;
    for (const Dial& d : dials_of(part)) {
      INFO(d.facts.id);
      REQUIRE(ids.insert(d.facts.id).second);
      REQUIRE_FALSE(d.facts.label.empty());
      REQUIRE(d.facts.least < d.facts.most);
      REQUIRE(d.value() >= d.facts.least);
      REQUIRE(d.value() <= d.facts.most);
      const double to = d.facts.kind == DialKind::choice || d.facts.kind == DialKind::count
          ? d.facts.least
          : random.uniform(d.facts.least, d.facts.most);
      const auto turned = with_dial(part, d.facts.id, to);
      REQUIRE(turned);
      REQUIRE(*dial_value(*turned, d.facts.id) == Approx(to).margin(1e-9));
      REQUIRE_FALSE(dial_text(d.facts, to).empty());
      const auto beyond = with_dial(part, d.facts.id, d.facts.most + 1.0);
      if (d.facts.kind != DialKind::choice) {
        REQUIRE_FALSE(beyond);
        REQUIRE(beyond.error().code == Errc::out_of_range);
      }
    }
    CHECK(dial_value(part, "wings").error().code == Errc::unknown_name);
  }
}

TEST_CASE("a copy laid down by hand replaces where it lay before, and is let go alone", "[builds][held]") {
  Build b = with_held(showpiece(), {"crown", 0, 0, Vec2(100, 100), 0.0});
  b = with_held(b, {"crown", 1, 0, Vec2(300, 100), 0.0});
  b = with_held(b, {"crown", 0, 1, Vec2(50, 60), 1.0});
  REQUIRE(b.foam.held.size() == 2);
  const auto first =
      std::find_if(b.foam.held.begin(), b.foam.held.end(), [](const HeldCopy& h) { return h.copy == 0; });
  REQUIRE(first != b.foam.held.end());
  CHECK(first->at == Vec2(50, 60));
  b = without_held(b, "crown", 0);
  REQUIRE(b.foam.held.size() == 1);
  CHECK(b.foam.held[0].copy == 1);
  CHECK(without_held(b, "brim", 0) == b);
}

TEST_CASE("pieces are sorted by the part they are cut for", "[builds][output]") {
  const Build b = showpiece();
  const Derived d = test::chain()->derive(b);
  REQUIRE(d.complete());
  const auto name = part_names(b, d);
  std::map<std::string, int> count;
  for (const Piece& p : *d.pieces) ++count[name(p)];
  CHECK(count.size() == b.parts.size());
  for (const Part& p : b.parts) CHECK(count[p.name] > 0);
}

TEST_CASE("places are named as a maker points: side, and the nearest landmark", "[builds][whereabouts]") {
  const Headform& head = *test::derived().head;
  const std::string left = whereabouts(head, head.at(Landmark::tragion_l) + Vec3(4, 12, 0)),
                    right = whereabouts(head, head.at(Landmark::tragion_r) + Vec3(-4, 12, 0));
  CHECK(left.find("left") != std::string::npos);
  CHECK(right.find("right") != std::string::npos);
  CHECK(left.find("ear") != std::string::npos);
  const std::string top = whereabouts(head, head.at(Landmark::vertex));
  CHECK(top.find("left") == std::string::npos);
  CHECK(top != whereabouts(head, head.at(Landmark::menton)));
  Box form;
  form.include({-100, -80, -100}), form.include({100, 120, 100});
  CHECK(edge_words(form, {0, -80, 0}).find("lower") != std::string::npos);
  CHECK(edge_words(form, {0, 0, 100}).find("front") != std::string::npos);
}

TEST_CASE("the worst spot of a panel is on it, as strained as the panel says", "[builds][whereabouts]") {
  const Derived& d = test::derived();
  for (const Panel& p : d.panels->panels) {
    const WorstSpot spot = worst_spot(p, *d.panels, *d.head);
    INFO(p.name);
    CHECK(std::abs(spot.strain) <= p.strain.max + 1e-9);
    CHECK(std::abs(spot.strain) >= p.strain.p95);
    CHECK(spot.along.norm() == Approx(1.0));
    CHECK(spot.words.find(spot.strain > 0.0 ? "stretch" : "squeeze") != std::string::npos);
    double near = 1e9;
    for (const Vec3& q : p.solid.vertices) near = std::min(near, (q - spot.at).norm());
    CHECK(near < 15.0);
  }
}

TEST_CASE("a place near the middle line, a seam or a landmark is drawn to it, others stay", "[builds][snap]") {
  const Derived& d = test::derived();
  const PartForm& form = *d.form->parts.front();
  const PartGround skin(d.form->parts.front(), d.head);
  const int trees = Nearest::trees_built();
  const Snap middle = skin.snapped(skin.onto({2.5, 110, 40}));
  CHECK(middle.to == "the middle line");
  CHECK(std::abs(middle.place.x()) < 1e-6);
  const auto seam = form.surface.seam_of.begin()->first;
  int drawn = 0;
  for (const auto& [edge, id] : form.surface.seam_of) {
    const Vec3 at = 0.5 * (form.surface.mesh.vertices[edge.first] + form.surface.mesh.vertices[edge.second]);
    const Snap snap = skin.snapped(skin.onto(at + Vec3(1.0, 0.5, 0.0)));
    CHECK_FALSE(snap.to.empty());
    CHECK((snap.place - at).norm() < 8.0);
    if (++drawn == 20) break;
  }
  CHECK(seam.first >= 0);
  const Vec3 far = skin.onto({60, 90, 60});
  CHECK((skin.snapped(far, 0.01).place - far).norm() < 0.02);
  CHECK(Nearest::trees_built() == trees);
}

TEST_CASE("what sits on a part is put on after it: a rule of every build", "[builds][order]") {
  const Build b = showpiece();
  const auto rules = given_rules(b);
  for (const Part& p : b.parts) {
    const Part* below = find_part(b, p.on);
    const bool there = std::any_of(rules.begin(), rules.end(),
        [&](const OrderRule& r) { return below != nullptr && r.first == below->name && r.then == p.name; });
    CHECK(there == (below != nullptr));
  }
}

TEST_CASE("a memory gives back what it made, forgets the oldest, and keeps no failure", "[builds][memo]") {
  Memo<int, int> memo(2);
  int made = 0;
  const auto square = [&](int n) { return memo.get(n, [&]() -> Result<int> { return ++made, n * n; }); };
  CHECK(**square(3) == 9);
  const auto held = *square(3);
  CHECK(made == 1);
  CHECK(**square(4) == 16);
  CHECK(**square(3) == 9);
  CHECK(made == 2);
  CHECK(**square(5) == 25);  // 4 was asked for longest ago
  CHECK(**square(3) == 9);
  CHECK(made == 3);
  CHECK(**square(4) == 16);
  CHECK(made == 4);
  CHECK(*held == 9);
  int tries = 0;
  const auto refuse = [&] {
    return memo.get(7, [&]() -> Result<int> { return ++tries, fail(Errc::no_solution, "no", "seven"); });
  };
  CHECK_FALSE(refuse());
  CHECK(refuse().error().where == "seven");
  CHECK(tries == 2);
}
