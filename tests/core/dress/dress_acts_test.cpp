#include <catch2/catch.hpp>

#include "core/chain/chain.hpp"
#include "core/dress/dressed.hpp"
#include "core/geom/solid.hpp"
#include "core/io/build_file.hpp"
#include "core/io/drawing_file.hpp"
#include "core/steps/assembly.hpp"
#include "core/steps/shopping.hpp"
#include "support/bench_data.hpp"

using namespace awl;

namespace {

Build bare_helm() {
  Build b = *demo_by_name("ferry-keeper", Day{20731});
  b.dress = {};
  return b;
}

Build after(Build b, const std::vector<std::string>& acts) {
  for (const std::string& act : acts) {
    auto next = apply_act(b, act);
    INFO(act << ": " << (next ? std::string() : next.error().text));
    REQUIRE(next);
    b = *next;
  }
  REQUIRE(check_inputs(b));
  return b;
}

std::string refusal(const Build& b, const std::string& act) {
  const auto next = apply_act(b, act);
  CAPTURE(act);
  REQUIRE_FALSE(next);
  CHECK(next.error().text.size() < 400);
  return next.error().text;
}

}  // namespace

TEST_CASE("acts put details on, set, name, move and take them off, and nothing else changes", "[dress][acts]") {
  const Build helm = bare_helm();
  const Build b = after(helm,
      {"add-detail strip 1 rim 1 12", "add-detail studs 1 beside 1 10", "set-detail 1 wide 26",
          "name-detail 1 lower band", "set-detail 2 pitch 40", "side-of-detail 2 one", "stuff-of-detail 1 eva-soft",
          "line-of-detail 1 rim 1 20"});
  REQUIRE(b.dress.details.size() == 2);
  const Detail &strip = b.dress.details[0], &studs = b.dress.details[1];
  CHECK(strip.name == "lower band");
  CHECK(std::get<Strip>(strip.shape).wide_mm == 26.0);
  CHECK(strip.stuff == "eva-soft");
  CHECK(strip.track.off_mm == 20.0);
  CHECK(std::get<Studs>(studs.shape).spacing.pitch_mm == 40.0);
  CHECK_FALSE(studs.mirrored);
  Build without = b;
  without.dress = helm.dress;
  CHECK(without == helm);
  CHECK(after(b, {"drop-detail 2", "drop-detail 1"}) == helm);
  // Names stay apart, numbers are never used twice while there are others.
  const Build twice = after(b, {"add-detail strip 1 rim 1", "add-detail strip 1 rim 1"});
  CHECK(twice.dress.details[2].name == "strip");
  CHECK(twice.dress.details[3].name == "strip 2");
  CHECK(twice.dress.details[3].id == 4);
}

TEST_CASE("a pair is copied across with what is on it, and each side is then its own", "[dress][acts][form]") {
  const Build ram = *demo_by_name("thicket-ram", Day{20731});
  const Build both = after(ram, {"copy-part-across 2"});
  REQUIRE(both.parts.size() == ram.parts.size() + 1);
  const Part &left = *find_part(both, 2), &right = both.parts.back();
  CHECK(right.name == left.name + ", right");
  CHECK(right.on == left.on);
  CHECK(both.dress.details.size() == ram.dress.details.size() + 2);  // scales and wire of the horns
  const Derived pair = test::chain()->derive(ram), apart = test::chain()->derive(both);
  REQUIRE_FALSE(apart.error);
  REQUIRE(apart.part_errors.empty());
  // Both together are what the pair was, to the vertex: the right one is its mirror image.
  const Box was = box_of(pair.form->of(2)->surface.mesh.vertices),
            one = box_of(apart.form->of(2)->surface.mesh.vertices),
            other = box_of(apart.form->of(right.id)->surface.mesh.vertices);
  CHECK(one.low.x() > 0.0);
  CHECK(other.high.x() < 0.0);
  CHECK(one.high.x() == Approx(was.high.x()).margin(0.01));
  CHECK(other.low.x() == Approx(was.low.x()).margin(0.01));
  CHECK(one.high.y() == Approx(other.high.y()).margin(0.2));
  CHECK(volume_mm3(apart.form->of(2)->surface.mesh) * volume_mm3(apart.form->of(right.id)->surface.mesh) > 0.0);
  const auto length_of_wire = [](const Derived& d, int part) {
    for (const auto& made : *d.dressed)
      if (made->kind == "wire" && made->yield.part == part) return made->length_mm;
    return 0.0;
  };
  CHECK(length_of_wire(apart, 2) == Approx(length_of_wire(pair, 2)).margin(0.5));
  CHECK(length_of_wire(apart, right.id) == Approx(length_of_wire(pair, 2)).margin(0.5));
  // Unlike: the right one shorter, the left one stays.
  const auto shorter = turn_dial(both, right.id, "length", 300.0);
  REQUIRE(shorter);
  const Derived unlike = test::chain()->derive(*shorter);
  CHECK(unlike.form->of(2) == apart.form->of(2));
  CHECK(length_of_wire(unlike, right.id) < length_of_wire(unlike, 2) - 100.0);
  // Ears, which are plates cut flat, keep their drawing the other way round.
  const Build pup = *demo_by_name("otter-pup", Day{20731});
  const Build ears = after(pup, {"copy-part-across 3"});
  const Derived heard = test::chain()->derive(ears);
  REQUIRE_FALSE(heard.error);
  CHECK(box_of(heard.form->of(ears.parts.back().id)->surface.mesh.vertices).high.x() < 0.0);
  // Its colours go along, and what lies beside a detail lies beside that one's copy.
  Build painted = after(ram, {"add-detail studs 2 beside 1 8"});
  const int beside = painted.dress.details.back().id;
  const std::size_t areas = painted.coat.areas.size();
  const std::size_t of_horns = static_cast<std::size_t>(std::count_if(painted.coat.areas.begin(),
      painted.coat.areas.end(), [](const ColourArea& a) { return a.of == "part 2" || a.of.starts_with("panel 2 "); }));
  const Build copied = after(painted, {"copy-part-across 2"});
  CHECK(copied.coat.areas.size() == areas + of_horns);
  const Detail *source = find_detail(copied.dress, beside), *now = &copied.dress.details.back();
  CHECK(now->track.from == TrackFrom::beside);
  CHECK(now->part == copied.parts.back().id);
  CHECK(now->track.number != source->track.number);
  CHECK(find_detail(copied.dress, now->track.number)->part == now->part);
  CHECK(refusal(ram, "copy-part-across 1").find("no other side") != std::string::npos);
  CHECK(refusal(ram, "copy-part-across 9").find("no part number 9") != std::string::npos);
}

TEST_CASE("acts that cannot be are refused with what can", "[dress][acts][hostile]") {
  const Build b = after(bare_helm(), {"add-detail strip 1 rim 1", "add-detail studs 1 beside 1 10"});
  CHECK(refusal(b, "add-detail hat 1").find("strip, studs") != std::string::npos);
  CHECK(refusal(b, "add-detail strip 9").find("part number 9") != std::string::npos);
  CHECK(refusal(b, "add-detail strip 1 moon").find("drawn, way, round") != std::string::npos);
  CHECK(refusal(b, "set-detail 1 weight 4").find("weight") != std::string::npos);
  CHECK(refusal(b, "set-detail 1 wide 900").find("200") != std::string::npos);
  CHECK(refusal(b, "set-detail 8 wide 20").find("number 8") != std::string::npos);
  CHECK(refusal(b, "drop-detail 1").find("lies beside") != std::string::npos);
  CHECK(refusal(b, "copy-across 1").find("drawn") != std::string::npos);
  CHECK(refusal(b, "mark-detail 1 0 x 4").size() > 5);
  CHECK(refusal(b, "add-counterweight much").size() > 5);
  // What no act would make is no build either.
  Build wrong = b;
  wrong.dress.details[1].track.number = 2;  // beside itself
  CHECK_FALSE(check_inputs(wrong));
  wrong = b, wrong.dress.details[1].id = 1;
  CHECK_FALSE(check_inputs(wrong));
  wrong = b, wrong.dress.details[0].part = 44;
  CHECK_FALSE(check_inputs(wrong));
  wrong = b, wrong.dress.details[0].track.start = 0.8, wrong.dress.details[0].track.end = 0.3;
  CHECK_FALSE(check_inputs(wrong));
  wrong = b, wrong.dress.details[0].track.points.assign(500, Vec3::Zero());
  CHECK_FALSE(check_inputs(wrong));
  wrong = b, wrong.dress.details.assign(200, b.dress.details[0]);
  CHECK_FALSE(check_inputs(wrong));
}

TEST_CASE("a part that is taken away takes its details with it", "[dress][acts]") {
  Build b = *demo_by_name("thicket-ram", Day{20731});
  const auto on_horns = [&] {
    return std::count_if(b.dress.details.begin(), b.dress.details.end(), [](const Detail& d) { return d.part == 2; });
  };
  REQUIRE(on_horns() > 0);
  REQUIRE(remove_part(b, 2));
  CHECK(on_horns() == 0);
  CHECK(!b.dress.details.empty());
}

TEST_CASE("details go through to pieces, sheets, files, shopping and the build sheet", "[dress][chain]") {
  const Build b = after(bare_helm(),
      {"add-detail strip 1 rim 1 30", "set-detail 1 wide 24", "add-detail studs 1 rim 1 30", "set-detail 2 pitch 40",
          "add-detail scored 1 rim 1 60"});
  const Derived d = test::chain()->derive(b);
  REQUIRE(d.complete());
  const auto strip =
      std::find_if(d.pieces->begin(), d.pieces->end(), [](const Piece& p) { return p.name.starts_with("strip"); });
  REQUIRE(strip != d.pieces->end());
  CHECK(strip->thickness_mm == 2.0);
  int laid = 0;
  for (const Placement& p : d.layout->placements) laid += p.piece == strip->id ? 1 : 0;
  CHECK(laid == 1);
  int drilled = 0, drawn = 0;
  for (const Piece& p : *d.pieces)
    for (const PieceTrace& t : p.traces) (t.kind == TraceKind::drill ? drilled : drawn) += 1;
  CHECK(drilled >= 15);
  CHECK(drawn >= 2);
  // On a layer of their own in every drawing, never on that of the knife.
  for (const Piece& p : *d.pieces) {
    const Drawing drawing = draw_piece(p);
    std::size_t cuts = 0, others = 0;
    for (const Mark& m : drawing.marks) {
      cuts += m.layer == Layer::cut ? 1 : 0;
      others += m.layer == Layer::draw || m.layer == Layer::drill ? 1 : 0;
    }
    CHECK(cuts == 1 + p.holes.size());
    CHECK(others >= p.traces.size());
  }
  const auto shopped = shopping(b, d, test::chain()->materials(), {});
  REQUIRE(shopped);
  CHECK(std::any_of(
      shopped->lines.begin(), shopped->lines.end(), [](const Purchase& p) { return p.id.starts_with("dress/rivet"); }));
  const auto sheet = assemble(b, d, test::chain()->materials());
  REQUIRE(sheet);
  int bores = -1, sets = -1, strips = -1, at = 0;
  for (const BuildStep& s : sheet->steps) {
    if (s.title == "Bore for studs") {
      bores = at;
      CHECK_FALSE(s.caution.empty());
    }
    if (s.title == "Set studs") sets = at;
    if (s.title == "Put on strip") strips = at;
    ++at;
  }
  CHECK(bores >= 0);
  CHECK(bores < sets);
  CHECK(bores < strips);
}

TEST_CASE("a dressed build saved and opened again is the same, and one of before has none", "[dress][io]") {
  const test::TempFolder folder;
  for (const DemoEntry& demo : demo_gallery()) {
    const Build b = demo.make(Day{20731});
    CHECK(!b.dress.details.empty());
    REQUIRE(save_build(folder / "b.noggin", b));
    const auto back = open_build(folder / "b.noggin");
    INFO(demo.id << " " << (back ? std::string() : back.error().text));
    REQUIRE(back);
    CHECK(*back == b);
  }
}

TEST_CASE("lights without a battery ask for its room, a heavy front for a weight behind", "[dress][fit][judge]") {
  Build b = *demo_by_name("lamp-post", Day{20731});
  const auto asks = [](const Build& build) {
    const Derived d = test::chain()->derive(build);
    for (const Remark& r : d.remarks)
      if (r.id == "dress.battery") return r.remedies.front().act;
    return std::string();
  };
  CHECK(asks(b).empty());
  b.fit.rooms.clear();
  CHECK(asks(b) == "add-room battery");
  CHECK(asks(after(b, {"add-room battery"})).empty());
  const Build weighed = after(b, {"add-counterweight 120"});
  REQUIRE(weighed.fit.rooms.size() == 1);
  const Room& room = weighed.fit.rooms.front();
  CHECK(room.kind == RoomKind::counterweight);
  CHECK(room.mass_g == 120.0);
  CHECK(0.00785 * room.size_mm.prod() == Approx(120.0).epsilon(0.03));
  CHECK(room.at_mm.z() < -60.0);
}
