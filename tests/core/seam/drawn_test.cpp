#include "core/seam/drawn.hpp"

#include <catch2/catch.hpp>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/io/build_file.hpp"
#include "core/seam/darts.hpp"
#include "core/seam/suggest.hpp"
#include "support/bench_data.hpp"
#include "support/effort.hpp"
#include "support/solids.hpp"
#include "core/chain/questions.hpp"

using namespace awl;

namespace {

Build bare(const char* preset, const MeasureSet& tapes = test::kUsual, const char* people = "adult") {
  Build b = test::demo();
  b.parts.clear();
  (void)add_part(b, *part_from_preset(preset));
  b.parts[0].seams.preset = SeamPreset::none;
  b.tape = sheet_of(tapes, people);
  return b;
}

DrawnSeam inked(std::vector<Vec3> points, int id = 1) {
  DrawnSeam s;
  s.id = id, s.name = "seam " + std::to_string(id), s.points = std::move(points), s.inked = true;
  return s;
}

/// The top of a ball, its border level at y = 45.
Mesh dome() {
  Mesh cap = test::ball(100.0, 14.0);
  EdgeLabels held;
  const auto above = [](const Vec3& p) { return p.y() - 45.0; };
  split_along(cap, above, held);
  return keep_where(cap, above, held);
}

/// A seam from ear to ear over the crown, on the template: ends well below the hood's edge, so that it reaches the
/// border.
DrawnSeam over_the_crown(double z = -10.0) {
  return inked({{0, 128, z}, {60, 100, z}, {88, 30, z}, {90, -40, z}, {80, -90, z}});
}

Derived derived(const Build& b) {
  Derived d = test::chain()->derive(b);
  if (d.error) UNSCOPED_INFO(d.error->text);
  for (const Error& e : d.part_errors) UNSCOPED_INFO(e.text);
  REQUIRE(d.complete());
  return d;
}

/// Sharpest kink along the edge of a piece, away from its corners.
double sharpest_kink_deg(const PieceEdge& edge) {
  // Steps of a few millimetres: what a knife feels, not the triangles.
  std::vector<Vec2> line{edge.line.front()};
  for (const Vec2& p : edge.line)
    if ((p - line.back()).norm() > 6.0) line.push_back(p);
  std::vector<double> turn;
  for (std::size_t i = 1; i + 1 < line.size(); ++i) {
    const Vec2 a = line[i] - line[i - 1], b = line[i + 1] - line[i];
    turn.push_back(degrees(std::atan2(a.x() * b.y() - a.y() * b.x(), a.dot(b))));
  }
  // A kink turns otherwise than the curve round it.
  double worst = 0.0;
  for (std::size_t i = 1; i + 1 < turn.size(); ++i)
    worst = std::max(worst, std::abs(turn[i] - 0.5 * (turn[i - 1] + turn[i + 1])));
  return worst;
}

}  // namespace

TEST_CASE("a smooth line passes through its markers and makes no loops", "[seam][drawn][property]") {
  Random random(3);
  for (int round = 0; round < 50; ++round) {
    std::vector<Vec3> markers{Vec3::Zero()};
    for (int i = 0; i < 6; ++i)
      markers.push_back(markers.back() + Vec3(random.uniform(5, 60), random.uniform(-20, 20), random.uniform(-5, 5)));
    const auto line = smooth_through(markers, false, 4.0);
    for (const Vec3& m : markers) {
      double least = 1e9;
      for (const Vec3& p : line) least = std::min(least, (p - m).norm());
      CHECK(least < 1e-9);
    }
    for (std::size_t i = 1; i < line.size(); ++i) CHECK((line[i] - line[i - 1]).norm() < 8.0);
  }
  const auto ring = smooth_through({{0, 0, 0}, {40, 0, 0}, {40, 40, 0}, {0, 40, 0}}, true, 4.0);
  CHECK((ring.front() - ring.back()).norm() < 1e-9);
}

TEST_CASE("ink cuts, pencil does not", "[seam][drawn]") {
  Build b = bare("hood");
  CHECK(derived(b).panels->panels.size() == 1);
  b.parts[0].drawn = {over_the_crown()};
  b.parts[0].drawn[0].inked = false;
  const Derived pencil = derived(b);
  CHECK(pencil.panels->panels.size() == 1);
  REQUIRE(pencil.form->parts[0]->drawn.size() == 1);
  const Nearest surface(pencil.form->surface.mesh);
  for (const Vec3& p : pencil.form->parts[0]->drawn[0].line) CHECK(std::abs(surface.to(p).signed_mm) < 1e-3);
  b.parts[0].drawn[0].inked = true;
  const Derived ink = derived(b);
  CHECK(ink.panels->panels.size() == 2);
  REQUIRE(ink.panels->seams.size() >= 1);
  for (const Seam& s : ink.panels->seams) CHECK(std::abs(s.side_mm[0] - s.side_mm[1]) <= 0.05);
}

TEST_CASE("the edge a drawn seam leaves on a piece has no kinks", "[seam][drawn]") {
  Build b = bare("hood");
  b.parts[0].seams.preset = SeamPreset::gores, b.parts[0].seams.belt = false;
  b.parts[0].drawn = {inked({{0, 66, 108}, {48, 64, 84}, {80, 52, 30}, {88, 40, -30}, {60, 46, -90}, {0, 50, -112}})};
  const Derived d = derived(b);
  int smooth = 0;
  for (const Piece& p : *d.pieces) {
    if (d.panels->panels[p.panel.value].strain.p99 > 0.06) continue;  // what is forced flat buckles by itself
    for (const PieceEdge& e : p.edges)
      if (e.seam.valid() && e.length_mm > 40.0 && d.panels->seams[e.seam.value].name.rfind("seam 1", 0) == 0) {
        CHECK(sharpest_kink_deg(e) < 8.0);
        ++smooth;
      }
  }
  CHECK(smooth >= 2);
}

TEST_CASE("a seam that ends near another is joined to it, and both stay mirrored", "[seam][drawn]") {
  Build b = bare("hood");
  DrawnSeam back = inked({{84, 40, -14}, {60, 50, -80}, {0, 60, -106}}, 2);  // begins 4 mm off the first
  b.parts[0].drawn = {over_the_crown(), back};
  const Derived d = derived(b);
  CHECK(d.panels->panels.size() == 3);
  int pairs = 0;
  for (const Piece& p : *d.pieces) pairs += p.copies == 2 ? 1 : 0;
  CHECK(pairs == 0);  // all three lie across the middle
  b.parts[0].drawn.push_back(inked({{0, 128, -10}, {0, 110, -70}, {0, 60, -106}}, 3));
  const Derived split = derived(b);
  CHECK(split.panels->panels.size() == 4);
  CHECK(std::count_if(split.pieces->begin(), split.pieces->end(), [](const Piece& p) { return p.copies == 2; }) == 1);
}

TEST_CASE("a seam drawn on one side leaves the other side whole", "[seam][drawn]") {
  Build b = bare("hood");
  b.parts[0].drawn = {over_the_crown(), inked({{86, 20, 0}, {60, 20, 70}, {20, 20, 110}}, 2)};
  b.parts[0].drawn[1].mirrored = false;
  const Derived d = derived(b);
  for (const Piece& p : *d.pieces) CHECK(p.copies == 1);
  CHECK(d.panels->panels.size() >= 2);
}

TEST_CASE("drawn seams ride along to a child and to a very large head", "[seam][drawn][regrade]") {
  Build b = bare("hood");
  b.parts[0].drawn = {over_the_crown(), inked({{88, 40, -10}, {60, 50, -80}, {0, 60, -106}}, 2)};
  const Derived usual = derived(b);
  for (const auto& [tapes, people] : {std::pair{&test::kChild, "child-5"}, {&test::kHuge, "adult"}}) {
    Build other = b;
    other.tape = sheet_of(*tapes, people);
    const Derived d = derived(other);
    CHECK(d.panels->panels.size() == usual.panels->panels.size());
    CHECK(d.pieces->size() == usual.pieces->size());
    // The marker over the ear stays over the ear.
    const auto over_ear = [](const Derived& of) {
      return of.form->parts[0]->drawn[0].markers[2].y() - of.head->at(Landmark::ear_top_l).y();
    };
    CHECK(over_ear(d) == Approx(over_ear(usual)).margin(12.0));
  }
}

TEST_CASE("on a horn a drawn seam keeps its place along it while the horn is bent and lengthened", "[seam][drawn]") {
  Build b = bare("horn");
  const Derived plain = derived(b);
  // In the horn's own frame: half way up, right round.
  std::vector<Vec3> round;
  for (int i = 0; i < 8; ++i)
    round.push_back({1000.0 + 100.0 * std::sin(kTwoPi * i / 8), 300.0, 100.0 * std::cos(kTwoPi * i / 8)});
  b.parts[0].drawn = {inked(round)};
  b.parts[0].drawn[0].closed = true;
  const Derived cut = derived(b);
  CHECK(cut.panels->panels.size() == 2 * plain.panels->panels.size());
  const auto bent = turn(*test::chain(), b, 1, "curl", -120.0);
  REQUIRE(bent);
  const auto longer = turn(*test::chain(), *bent, 1, "length", 250.0);
  REQUIRE(longer);
  CHECK(derived(*longer).panels->panels.size() == cut.panels->panels.size());
}

TEST_CASE("seams of a preset can be taken up as marker lines and cut the same panels", "[seam][drawn]") {
  Build b = bare("hood");
  b.parts[0].seams.preset = SeamPreset::side_middle_side, b.parts[0].seams.belt = false;
  const Derived preset = derived(b);
  Build own = b;
  own.parts[0].drawn = drawn_from(preset.form->parts[0]->surface);
  own.parts[0].seams.preset = SeamPreset::none;
  REQUIRE_FALSE(own.parts[0].drawn.empty());
  const Derived drawn = derived(own);
  REQUIRE(drawn.panels->panels.size() == preset.panels->panels.size());
  std::vector<double> was, is;
  for (const Piece& p : *preset.pieces) was.push_back(p.area_mm2);
  for (const Piece& p : *drawn.pieces) is.push_back(p.area_mm2);
  std::sort(was.begin(), was.end()), std::sort(is.begin(), is.end());
  for (std::size_t i = 0; i < was.size(); ++i) CHECK(is[i] == Approx(was[i]).epsilon(0.02));
}

TEST_CASE("drawn seams are kept in the file", "[seam][drawn][io]") {
  Build b = bare("hood");
  b.parts[0].drawn = {over_the_crown(), over_the_crown(20.0)};
  b.parts[0].drawn[1].id = 2, b.parts[0].drawn[1].inked = false,
  b.parts[0].drawn[1].locked = b.parts[0].drawn[1].hidden = true, b.parts[0].drawn[1].mirrored = false;
  const auto bytes = build_bytes(b);
  REQUIRE(bytes);
  const auto back = build_from_bytes(*bytes);
  REQUIRE(back);
  CHECK(*back == b);
}

TEST_CASE("a line that cannot be is refused with its name and what it lacks", "[seam][drawn]") {
  Build b = bare("hood");
  b.parts[0].drawn = {inked({{0, 128, -10}})};
  const auto refused = check_part(b.parts[0]);
  REQUIRE_FALSE(refused);
  CHECK(refused.error().text.find("1 markers; it needs 2") != std::string::npos);
  CHECK(refused.error().where == "parts/1/seams/1");
}

TEST_CASE("random lines on random forms: panels that are disks, or a sentence", "[seam][drawn][property]") {
  Random random(11);
  int whole = 0, told = 0;
  const int rounds = test::tries(30, 100);
  const std::vector<const char*> forms{
      "hood", "skull-cap", "full-mask", "horn", "cone-hat", "petal-dome", "tall-hat", "tusk", "half-mask", "bowl-helm"};
  for (const char* preset : forms) {
    Build b = bare(preset);
    b.parts[0].seams.preset = SeamPreset::gores;
    const Derived d = test::formed(b);
    REQUIRE(d.form);
    const Draft plain = undrawn(*d.form->parts[0], true);
    const auto& home = plain.home.empty() ? plain.mesh.vertices : plain.home;
    for (int round = 0; round < rounds; ++round) {
      std::vector<DrawnSeam> seams;
      for (int k = 0; k < 1 + round % 3; ++k) {
        DrawnSeam s = inked({}, k + 1);
        for (int i = 0; i < 2 + static_cast<int>(random.uniform(0, 4)); ++i)
          s.points.push_back(
              home[static_cast<std::size_t>(random.uniform(0, 0.999) * static_cast<double>(home.size()))]);
        s.closed = s.points.size() > 3 && random.uniform(0, 1) > 0.7;
        seams.push_back(std::move(s));
      }
      CAPTURE(preset, round);
      PanelOptions quick;
      quick.flatten.minimax = false, quick.match_seams = false;
      const auto set = panels_with(plain, seams, quick);
      if (!set) {
        ++told;
        CHECK(set.error().text.size() > 25);
        continue;
      }
      ++whole;
      for (const Panel& p : set->panels) CHECK(euler_characteristic(p.solid) == 1 - static_cast<int>(p.holes.size()));
    }
  }
  CAPTURE(whole, told);
  CHECK(whole + told == 10 * rounds);
  CHECK(whole > 2 * rounds);
}

TEST_CASE("panels suggested for a cap lie within the tolerance and are few", "[seam][suggest]") {
  const Derived d = test::formed(bare("skull-cap"));
  REQUIRE(d.form);
  const Draft plain = undrawn(*d.form->parts[0]);
  CHECK(plain.mirrored);
  SuggestOptions options;
  options.tolerance = 0.05;
  const auto found = suggest_panels(plain, options);
  REQUIRE(found);
  CAPTURE(found->panels, found->seam_mm, found->worst);
  CHECK(found->meets);
  CHECK(found->panels <= 6);
  // As it is told, so it comes out.
  Build b = bare("skull-cap");
  b.parts[0].drawn = found->seams;
  b.foam.thickness_mm = 5.0;
  CHECK(static_cast<int>(derived(b).panels->panels.size()) == found->panels);
}

TEST_CASE("suggested seams run where they hide, and a strip tells hidden from shown", "[seam][suggest][strips]") {
  const Derived d = test::formed(bare("skull-cap"));
  REQUIRE(d.form);
  const Draft plain = undrawn(*d.form->parts[0]);
  SuggestOptions options;
  options.tolerance = 0.05;
  const auto free = suggest_panels(plain, options);
  REQUIRE(free);
  CHECK(free->seen_mm == Approx(free->seam_mm).epsilon(0.02));
  // A strip beside the seams that were found free, as a trim on the cap.
  DrawnSeam trim = free->seams.at(0);
  trim.role = LineRole::hides, trim.reach_mm = 14.0;
  for (Vec3& p : trim.points) p.z() += 18.0;
  options.strips = {trim};
  const auto hidden = suggest_panels(plain, options);
  REQUIRE(hidden);
  CAPTURE(free->seam_mm, hidden->seam_mm, hidden->seen_mm, hidden->worst);
  CHECK(hidden->seen_mm < 0.8 * hidden->seam_mm);
  const Places places(plain.mesh, plain.home);
  const Strips strips(places, {trim}, true);
  const Vec3 on = places.on_form(trim.points[trim.points.size() / 2]);
  CHECK(strips.hides(on));
  CHECK_FALSE(strips.shows(on));
  CHECK(strips.weight(on) < 1.0);
  CHECK(strips.hides(Vec3(-on.x(), on.y(), on.z())));  // and on the other side
  CHECK_FALSE(strips.hides(on + Vec3(0, 0, 60)));
  CHECK(Strips(places, free->seams).empty());
  trim.reach_mm = 1.0;
  CHECK_FALSE(check_drawn(trim));
  for (const LineRole role : {LineRole::cut, LineRole::hides, LineRole::shows})
    CHECK(*line_role_from(name_of(role)) == role);
  CHECK_FALSE(line_role_from("paint"));
}

TEST_CASE("what is told of a suggestion is what comes out", "[seam][suggest]") {
  Build b = bare("skull-cap");
  b.foam.thickness_mm = 5.0;
  const auto ways = suggest(*test::chain(), b, 1);
  REQUIRE(ways);
  for (const Suggestion& way : *ways) {
    Build cut = b;
    cut.parts[0].drawn = way.seams;
    double worst = 0.0;
    for (const Panel& p : derived(cut).panels->panels) worst = std::max(worst, p.strain.p99);
    CHECK(worst == Approx(way.worst).margin(0.004));
  }
}

TEST_CASE("a rough reckoning tells what the full one does, a little high", "[seam][chain]") {
  Build b = bare("hood");
  b.parts[0].seams.preset = SeamPreset::gores;
  const auto rough = sketch(*test::chain(), b, 1);
  REQUIRE(rough);
  const Derived full = derived(b);
  REQUIRE((*rough)->panels.size() == full.panels->panels.size());
  for (std::size_t i = 0; i < full.panels->panels.size(); ++i)
    CHECK((*rough)->panels[i].strain.p99 < 2.5 * full.panels->panels[i].strain.p99 + 0.02);
  CHECK_FALSE(sketch(*test::chain(), b, 9));
}

TEST_CASE("the bench suggests several ways side by side, each with its trade", "[seam][suggest]") {
  const auto ways = suggest(*test::chain(), bare("hood"), 1);
  REQUIRE(ways);
  REQUIRE(ways->size() == 3);
  for (const Suggestion& way : *ways) {
    CAPTURE(way.panels, way.seam_mm, way.worst);
    CHECK(way.panels >= 2);
    CHECK(way.seam_mm > 100.0);
    CHECK(way.worst < 0.12);
    for (const DrawnSeam& s : way.seams) CHECK(check_drawn(s));
  }
  const Progress never([](double) { return false; });
  const auto stopped = suggest(*test::chain(), bare("hood"), 1, {}, never);
  REQUIRE_FALSE(stopped);
  CHECK(stopped.error().code == Errc::cancelled);
}

TEST_CASE("darts bring a dome within the tolerance, and a saddle is told that they cannot", "[seam][darts]") {
  const Mesh cap = dome();
  CHECK(gathered_curvature(cap) > 1.0);
  CHECK(cap.vertices[dart_tip(cap)].y() > 90.0);
  DartOptions options;
  options.tolerance = 0.05;
  const auto darts = propose_darts(cap, options);
  REQUIRE(darts);
  CAPTURE(darts->before, darts->after, darts->lines.size(), darts->length_mm);
  CHECK(darts->before > 0.05);
  CHECK(darts->meets);
  CHECK(darts->lines.size() <= 6);
  for (const CutLine& line : darts->lines) CHECK(std::abs(line.front().y() - 45.0) < 1.0);  // from the border inwards
  options.most = 2, options.longest_mm = 60.0;
  const auto few = propose_darts(cap, options);
  REQUIRE(few);
  CHECK(few->lines.size() <= 2);
  for (const CutLine& line : few->lines) CHECK((line.back() - line.front()).norm() <= 60.5);
  const Mesh saddle = test::patch(14, [](double u, double v) {
    return Vec3(160 * (u - 0.5), 160 * (v - 0.5), 0.006 * 160 * 160 * ((u - 0.5) * (u - 0.5) - (v - 0.5) * (v - 0.5)));
  });
  DartOptions tight;
  tight.tolerance = 0.001;
  const auto none = propose_darts(saddle, tight);
  REQUIRE(none);
  CHECK(none->saddle);
  CHECK(none->lines.empty());
}

TEST_CASE("darts keep off what is to be spared", "[seam][darts]") {
  const Mesh cap = dome();
  DartOptions options;
  options.tolerance = 0.05, options.spare = [](const Vec3& p) { return p.z() > 5.0; };
  const auto darts = propose_darts(cap, options);
  REQUIRE(darts);
  for (const CutLine& line : darts->lines)
    for (const Vec3& p : line) CHECK(p.z() <= 5.0);
}
