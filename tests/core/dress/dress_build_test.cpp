#include <catch2/catch.hpp>
#include <cmath>

#include "core/chain/chain.hpp"
#include "core/chain/to_cut.hpp"
#include "core/derived/part_lines.hpp"
#include "core/dress/dress.hpp"
#include "core/geom/polygon.hpp"
#include "core/piece/piece_mark.hpp"
#include "support/bench_data.hpp"
#include "support/effort.hpp"

using namespace awl;

namespace {

const Day kWalk{20731};

Build undressed(const char* id) {
  Build b = *demo_by_name(id, kWalk);
  b.dress = {};
  return b;
}

Derived whole(const Build& b) {
  Derived d = test::chain()->derive(b);
  INFO((d.error ? d.error->text : std::string()));
  REQUIRE_FALSE(d.error);
  return d;
}

const Dressed* detail_of(const Derived& d, int detail) {
  if (d.dressed)
    for (const auto& one : *d.dressed)
      if (one->detail == detail) return one.get();
  return nullptr;
}

Build with_act(const Build& b, const std::string& act) {
  const auto next = apply_act(b, act);
  INFO(act << ": " << (next ? std::string() : next.error().text));
  REQUIRE(next);
  return *next;
}

/// The same build on somebody else.
Build worn_by(Build b, const char* people, double hc, double hl, double hb) {
  b.tape = {};
  b.tape.people = people, b.tape.day = kWalk;
  b.tape.set(MeasureId::HC, hc), b.tape.set(MeasureId::HL, hl), b.tape.set(MeasureId::HB, hb);
  return b;
}

/// A detail as somebody might put it on: any kind, any line there is, dials anywhere within their limits.
Detail any_detail(Random& dice, const DressSite& site, int id) {
  const auto share = [&] { return dice.uniform(); };
  const auto one_of = [&](std::size_t n) { return static_cast<std::size_t>(share() * static_cast<double>(n)) % n; };
  Detail d;
  d.id = id, d.part = site.part, d.name = "detail " + std::to_string(id);
  d.shape = detail_kinds()[one_of(detail_kinds().size())];
  for (const Dial& dial : std::visit([](auto& s) { return dials_of(s); }, d.shape)) {
    if (share() < 0.5) continue;
    // Mostly near what is usual.
    const double usual = dial.value(),
                 far = dial.facts.kind == DialKind::choice ? static_cast<double>(one_of(dial.facts.options.size()))
                                                           : usual * (0.4 + 1.6 * share());
    const double within =
        dial.facts.kind == DialKind::choice ? far : std::clamp(far, dial.facts.least, dial.facts.most);
    dial.turn(within);
  }
  const auto place = [&] { return site.at_home(site.outer.vertices[one_of(site.outer.vertices.size())]); };
  switch (one_of(4)) {
    case 0:
      if (!site.rims.empty()) {
        d.track.from = TrackFrom::rim, d.track.number = 1 + static_cast<int>(one_of(site.rims.size()));
        d.track.off_mm = 30.0 * share();
        break;
      }
      [[fallthrough]];
    case 1:
      if (!site.seams.empty()) {
        d.track.from = TrackFrom::seam, d.track.name = site.seams[one_of(site.seams.size())].name;
        break;
      }
      [[fallthrough]];
    case 2:
      d.track.from = TrackFrom::round, d.track.points = {place()};
      break;
    default: {
      // A hand draws near to where it was.
      const Vec3 first = site.outer.vertices[one_of(site.outer.vertices.size())];
      for (int i = 0; i < 3; ++i)
        d.track.points.push_back(
            site.at_home(site.onto(first + 25.0 * i * Vec3(share() - 0.5, share() - 0.5, share() - 0.5))));
    }
  }
  d.mirrored = share() < 0.7;
  return d;
}

/// What no detail may do, whatever it is and whoever wears it.
void is_sound_detail(const Derived& d, const Detail& detail, const Dressed& made) {
  CAPTURE(detail.id, made.kind, name_of(detail.track.from), detail.track.name, detail.track.number);
  for (const Piece& p : made.yield.pieces) {
    CAPTURE(p.name);
    REQUIRE(p.outline.size() > 2);
    for (const Vec2& q : p.outline) REQUIRE(q.allFinite());
    CHECK_FALSE(crosses_itself(p.outline));
  }
  for (const YieldSolid& s : made.yield.solids)
    for (const Vec3& p : s.mesh.vertices) REQUIRE(p.allFinite());
  auto pieces = make_pieces(*d.panels);
  std::vector<int> part_of;
  for (const auto& part : d.form->parts) part_of.push_back(part->part);
  put_marks(pieces, *d.panels, part_of, made.yield.marks);
  for (const Piece& p : pieces)
    for (const PieceTrace& t : p.traces)
      for (const Vec2& q : t.line) {
        const bool on_it = inside(p.outline, q) || distance_to_outline(p.outline, q) < 3.0;
        CHECK(on_it);
        if (!on_it) return;
      }
  for (const Remark& r : made.yield.remarks) {
    CHECK(r.sentence.size() < 400);
    CHECK(r.where == "dress/" + std::to_string(detail.id));
  }
}

/// Counts or pitches are kept as asked.
void keeps_its_word(const Studs& s, const Dressed& here, const Dressed& there) {
  if (!here.yield.remarks.empty() || !there.yield.remarks.empty() || s.spacing.near_seam != NearSeam::even) return;
  if (s.spacing.keeps == Keeps::count) CHECK(here.count == there.count);
  if (s.spacing.keeps == Keeps::pitch && s.rows == 1) {
    const double n = std::max(1.0, there.rows.front().count - (there.lines.front().closed ? 0.0 : 1.0));
    CHECK(std::abs(there.pitch_mm - s.spacing.pitch_mm) <=
        s.spacing.pitch_mm / (2.0 * n) + s.spacing.pitch_mm * 0.5 / n + 1e-6);
  }
}

}  // namespace

TEST_CASE("random details on forms and heads have sound pieces, marks on their pieces, counts as asked",
    "[dress][property]") {
  Random dice(20261);
  const int rounds = test::tries(25, 400);
  int made_count = 0, with_pieces = 0, refused = 0;
  for (const char* id : {"ferry-keeper", "heron-warden", "thicket-ram", "lamp-post"}) {
    const Build b = undressed(id);
    const Build heads[] = {b, worn_by(b, "child-5", 505.0, 175.0, 139.0), worn_by(b, "adult", 632.0, 216.0, 171.0)};
    const Derived ds[] = {whole(heads[0]), whole(heads[1]), whole(heads[2])};
    const DressRules rules;
    for (int k = 0; k < rounds; ++k) {
      const int part = b.parts[static_cast<std::size_t>(k) % b.parts.size()].id;
      Detail detail;
      const Dressed* before = nullptr;
      Dressed first;
      for (int h = 0; h < 3; ++h) {
        const auto site = site_to_dress(heads[h], ds[h], part);
        if (!site) continue;
        if (h == 0) detail = any_detail(dice, **site, k + 1);
        REQUIRE(check_dress({{detail}}));
        const Foam foam = *test::chain()->materials().foam("eva-firm");
        const Dressed made = dressed(detail, **site, {foam, foam, {}}, rules, nullptr);
        CAPTURE(id, h);
        is_sound_detail(ds[h], detail, made);
        ++made_count, with_pieces += made.yield.pieces.empty() ? 0 : 1, refused += made.yield.remarks.empty() ? 0 : 1;
        if (const auto* studs = std::get_if<Studs>(&detail.shape); studs != nullptr && before != nullptr)
          keeps_its_word(*studs, *before, made);
        if (h == 0) first = made, before = &first;
      }
    }
  }
  CHECK(made_count >= 12 * rounds);
  CHECK(with_pieces > 60 * rounds / 25);
  INFO(refused << " of " << made_count << " said something");
  CHECK(refused < made_count);
}

TEST_CASE("feet of parts on parts are drawn on the pieces below, named, on a layer of their own", "[dress][marks]") {
  const Derived d = whole(undressed("thicket-ram"));
  int feet = 0;
  for (const Piece& p : *d.pieces)
    for (const PieceTrace& t : p.traces)
      if (t.kind == TraceKind::foot) {
        ++feet;
        const Drawing drawing = draw_piece(p);
        CHECK(std::any_of(
            drawing.marks.begin(), drawing.marks.end(), [](const Mark& m) { return m.layer == Layer::draw; }));
      }
  CHECK(feet > 0);
  Build none = undressed("thicket-ram");
  none.dress.footprints = false;
  for (const Piece& p : *whole(none).pieces) CHECK(p.traces.empty());
}

TEST_CASE("a one-sided detail is carried by one copy of a pair alone", "[dress][marks]") {
  Build b = with_act(undressed("heron-warden"), "add-detail scored 1 drawn");
  b.dress.footprints = false;
  const Derived before = whole(b);
  const auto site = site_to_dress(b, before, 1);
  REQUIRE(site);
  const Box box = box_of((*site)->outer.vertices);
  const Vec3 middle = 0.5 * (box.low + box.high);
  for (const double y : {70.0, 85.0, 100.0}) {
    const Vec3 at = (*site)->at_home((*site)->onto(middle + Vec3(120.0, y, 10.0)));
    b.dress.details[0].track.points.push_back(at);
  }
  const auto sides = [&](const Build& build) {
    std::set<TraceSide> all;
    for (const Piece& p : *whole(build).pieces)
      for (const PieceTrace& t : p.traces)
        if (p.twin) all.insert(t.side);
    return all;
  };
  CHECK(sides(b) == std::set<TraceSide>{TraceSide::both});
  CHECK(sides(with_act(b, "side-of-detail 1 one")) == std::set<TraceSide>{TraceSide::left});
  const Build across = with_act(b, "copy-across 1");
  CHECK(sides(across) == std::set<TraceSide>{TraceSide::left, TraceSide::right});
}

TEST_CASE("what cannot be made is said with value, limit and a way on", "[dress][hostile]") {
  const auto said = [](const Build& b, const char* id) {
    std::string text;
    const Derived d = whole(b);
    for (const Remark& r : d.remarks)
      if (r.id == id) text = r.sentence;
    return text;
  };
  const Build ferry = undressed("ferry-keeper");
  CHECK(said(with_act(ferry, "add-detail strip 1 rim 9"), "dress.line").find("rims, not 9") != std::string::npos);
  CHECK(said(with_act(ferry, "add-detail strip 1 seam nowhere"), "dress.line").find("it has") != std::string::npos);
  CHECK(said(with_act(ferry, "add-detail studs 1 drawn"), "dress.line").find("no place yet") != std::string::npos);
  Build lens = with_act(ferry, "add-detail lens 1 rim 1");
  CHECK(said(lens, "dress.no-hole").find("no opening") != std::string::npos);
  Build scales = with_act(with_act(ferry, "add-detail scales 1 rim 1"), "set-detail 1 wide 160");
  scales = with_act(with_act(scales, "set-detail 1 long 20"), "set-detail 1 exposed 60");
  CHECK(said(scales, "dress.room").find("show") != std::string::npos);
  const Build ram = undressed("thicket-ram");
  Build wire = with_act(with_act(ram, "add-detail wire 2"), "set-detail 1 long 1400");
  CHECK(said(wire, "dress.too-long").find("longer than") != std::string::npos);
  Build deep = with_act(with_act(ferry, "add-detail scored 1 rim 1 20"), "set-detail 1 depth 9");
  CHECK(said(deep, "dress.depth").find("the most") != std::string::npos);
  // Each act a remark offers mends it.
  for (const Build& b : {deep, wire, scales}) {
    const Derived d = whole(b);
    for (const Remark& r : d.remarks) {
      if (!r.id.starts_with("dress.")) continue;
      for (const Remedy& remedy : r.remedies) {
        CAPTURE(r.sentence, remedy.act);
        CHECK(apply_act(b, remedy.act));
      }
    }
  }
  CHECK_FALSE(apply_act(ferry, "add-detail nothing 1"));
  CHECK_FALSE(apply_act(ferry, "add-detail strip 77"));
  CHECK_FALSE(apply_act(ferry, "set-detail 4 wide 20"));
  CHECK_FALSE(apply_act(with_act(ferry, "add-detail strip 1 rim 1"), "set-detail 1 wide 4000"));
  Build beside = with_act(with_act(ferry, "add-detail strip 1 rim 1 20"), "add-detail studs 1 beside 1 12");
  CHECK(detail_of(whole(beside), 2)->count > 3);
  CHECK_FALSE(apply_act(beside, "drop-detail 1"));
}

TEST_CASE("details are shopped for, told in the build sheet and weigh at Fit", "[dress]") {
  Build b = with_act(with_act(undressed("ferry-keeper"), "add-detail studs 1 rim 1 15"), "set-detail 1 pitch 20");
  const Derived d = whole(b);
  const Dressed* made = detail_of(d, 1);
  REQUIRE(made != nullptr);
  CHECK(made->with_spare > made->count);
  bool wanted = false;
  for (const Yield* y : yields_of(d))
    for (const Want& w : y->wants) wanted = wanted || w.id.starts_with("dress/rivet");
  CHECK(wanted);
  // Bores come before the pieces are joined, setting once the part is whole; both carry their caution.
  REQUIRE(made->yield.steps.size() == 2);
  CHECK_FALSE(made->yield.steps[0].at_end);
  CHECK(made->yield.steps[1].at_end);
  for (const BenchStep& s : made->yield.steps) CHECK_FALSE(s.caution.empty());
  double mass = 0.0;
  for (const YieldSolid& s : made->yield.solids) mass += s.mass_g;
  CHECK(mass > 1.0);
}

TEST_CASE("lines are not worked by heat where the material bears none", "[dress][harm]") {
  int never = 0;
  const Build b = with_act(undressed("ferry-keeper"), "add-detail scored 1 rim 1 30");
  const auto site = site_to_dress(b, whole(b), 1);
  REQUIRE(site);
  for (const Foam& host : test::chain()->materials().foams)
    for (const auto how : {Scored::How::open, Scored::How::burn}) {
      Detail detail = b.dress.details[0];
      std::get<Scored>(detail.shape).how = how;
      const Dressed made = dressed(detail, **site, {host, host, host.id}, DressRules{}, nullptr);
      const bool said = std::any_of(
          made.yield.remarks.begin(), made.yield.remarks.end(), [](const Remark& r) { return r.id == "dress.heat"; });
      CAPTURE(host.id);
      CHECK(said == !heat_on(host).allowed);
      if (heat_on(host).allowed) continue;
      ++never;
      for (const BenchStep& step : made.yield.steps)
        for (const std::string& line : step.lines) {
          CHECK(line.find("hot air") == std::string::npos);
          CHECK(line.find("tip") == std::string::npos);
        }
      for (const PieceMark& mark : made.yield.marks) CHECK(mark.trace == TraceKind::carve);
    }
  CHECK(never > 0);
}
