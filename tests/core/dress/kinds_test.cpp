#include <Eigen/Geometry>
#include <catch2/catch.hpp>
#include <cmath>

#include "core/dress/shapes.hpp"
#include "core/geom/polygon.hpp"
#include "core/geom/solid.hpp"
#include "core/seam/flatten.hpp"
#include "support/dressed_case.hpp"

using namespace awl;
using test::as_form;
using test::dress_rules;
using test::dressed_case;
using test::on_cone;
using test::on_tube;
using test::remark_in;
using test::told_by;
using test::turned_cone;
using test::turned_sphere;
using test::turned_tube;

namespace {

const Want* want_of(const Dressed& d, const std::string& begins) {
  for (const Want& w : d.yield.wants)
    if (w.id.starts_with("dress/" + begins)) return &w;
  return nullptr;
}

std::size_t marks_of(const Dressed& d, PieceMark::Kind kind) {
  std::size_t n = 0;
  for (const PieceMark& m : d.yield.marks) n += m.kind == kind ? 1 : 0;
  return n;
}

/// A tube with a round hole in its front, seen from outside: measured over the surface.
Mesh holed_tube(double hole_mm) {
  Draft draft;
  draft.mirrored = false, draft.mesh = turned_tube();
  trim(draft, [hole_mm](const Vec3& p) { return std::hypot(80.0 * std::atan2(p.x(), p.z()), p.y()) - 0.5 * hole_mm; });
  return draft.mesh;
}

FormLine::At flat_place() { return {Vec3::Zero(), Vec3::UnitX(), Vec3::UnitY(), Vec3::UnitZ(), 0.0}; }

}  // namespace

TEST_CASE("solids of details are closed and seen from outside", "[dress][shapes]") {
  const DressSite site = DressSite::of_mesh(as_form(turned_tube()));
  const FormLine round = line_through(site, site.rims[0].at, true);
  const auto above = beside(site, round, 60.0);
  REQUIRE(above);
  const FormLine part = stretch_of(site, *above, 0.1, 0.4);
  std::vector<Vec3> ring;
  for (int i = 0; i < 12; ++i)
    ring.push_back({10.0 * std::cos(kTwoPi * i / 12), 10.0 * std::sin(kTwoPi * i / 12), 0.0});
  const std::pair<const char*, Mesh> all[] = {{"dome", dome_on(flat_place(), 9, 3)},
      {"small dome", dome_on(flat_place(), 4, 1)}, {"ring", ring_on(flat_place(), 5, 2, 1)},
      {"block", block_on(flat_place(), 10, 20, 4)},
      {"cone", cone_on(Vec3::Zero(), Vec3::UnitX(), Vec3::UnitZ(), 8, 6, 20, 0.2)},
      {"bar", bar_along({{0, 0, 0}, {10, 0, 0}, {20, 8, 0}}, 2)}, {"ring bar", bar_along(ring, 2, true)},
      {"cap", cap_over(ring, Vec3::UnitZ(), 0, 4, 1)}, {"band", band_along(site, part, 8, 8, 0, 2)},
      {"ring band", band_along(site, *above, 8, 8, 0, 2)}, {"inside band", band_along(site, part, 8, 8, 0, 2, true)},
      {"leaf", leaf_on(site, part.at.front(), part.along(0), 30, 12, {1, 1, 0.9, 0.4}, 0, 3, 2)}};
  for (const auto& [name, mesh] : all) {
    CAPTURE(name);
    REQUIRE(!mesh.triangles.empty());
    for (const auto& e : topology_of(mesh).edges) CHECK(e.right >= 0);
    CHECK(volume_mm3(mesh) > 0.0);
    for (const Tri& t : mesh.triangles)
      for (const int v : t) REQUIRE(v < static_cast<int>(mesh.vertices.size()));
  }
  CHECK(volume_mm3(block_on(flat_place(), 10, 20, 4)) == Approx(10.0 * 20.0 * 4.2));
}

TEST_CASE("a stretch of a line is as long as its share, and a line beside is as far as it was asked", "[dress][line]") {
  const DressSite site = DressSite::of_mesh(as_form(turned_tube()));
  REQUIRE(site.rims.size() == 2);
  const FormLine rim = line_through(site, site.rims[0].at, true);
  CHECK(rim.closed);
  CHECK(rim.length_mm == Approx(kTwoPi * 80.0).epsilon(1e-3));
  CHECK((rim.at.front() - Vec3(0.0, -120.0, 80.0)).norm() < 0.5);
  const FormLine third = stretch_of(site, rim, 0.25, 0.5);
  CHECK_FALSE(third.closed);
  CHECK(third.length_mm == Approx(0.25 * rim.length_mm).epsilon(2e-3));
  for (const double off : {5.0, 20.0, 90.0}) {
    const auto in = beside(site, rim, off);
    REQUIRE(in);
    for (const Vec3& p : in->at) CHECK(p.y() == Approx(-120.0 + off).margin(0.1));
    CHECK(std::abs(in->turn_rad) < 0.02);
  }
  const auto past = beside(site, rim, 400.0);
  REQUIRE_FALSE(past);
  CHECK(past.error().text.find("240 mm can be") != std::string::npos);
  CHECK_FALSE(beside(site, rim, -30.0));
  const FormLine::At place = third.at_mm(0.5 * third.length_mm);
  CHECK(std::abs(place.normal.dot(place.along)) < 1e-9);
  CHECK(place.normal.cross(place.along).dot(place.left) == Approx(1.0));
  CHECK_FALSE(crosses_itself(rim, 0.7));
  const FormLine eight =
      line_through(site, {{0, 0, 80}, {40, 30, 70}, {40, -30, 70}, {0, 0, 80}, {-40, 30, 70}}, false);
  CHECK(crosses_itself(eight, 0.7));
}

TEST_CASE("level lines of a distance are as far as they say", "[dress][distance]") {
  const Mesh mesh = turned_tube();
  const DressSite site = DressSite::of_mesh(as_form(mesh));
  const auto far = distance_over(mesh, site.rims[0].at, true, 150.0);
  for (const double level : {12.0, 77.0, 140.0}) {
    const auto lines = level_lines(mesh, far, level);
    REQUIRE(lines.size() == 1);
    CHECK(lines[0].closed);
    for (const Vec3& p : lines[0].at) CHECK(p.y() == Approx(-120.0 + level).margin(0.2));
    const Vec3 grows = growth_at(mesh, far, site.hit(lines[0].at.front()));
    CHECK(grows.y() > 0.99);
  }
  // Beyond what was asked nothing is known, and so no line runs there.
  CHECK(level_lines(mesh, far, 200.0).empty());
  CHECK(far[mesh.vertices.size() - 1] > 1e299);
}

TEST_CASE("rows keep their pitch or their count, and keep out of what they must", "[dress][spaced]") {
  SpacingRule rule;
  rule.pitch_mm = 25.0, rule.ends_mm = 10.0;
  const auto open = spaced(220.0, false, rule);
  REQUIRE(open);
  CHECK(open->along_mm.size() == 9);
  CHECK(open->along_mm.front() == Approx(10.0));
  CHECK(open->along_mm.back() == Approx(210.0));
  const auto closed = spaced(220.0, true, rule);
  CHECK(closed->along_mm.size() == 9);
  CHECK(closed->along_mm.front() == 0.0);
  rule.half_on = true;
  CHECK(spaced(220.0, false, rule)->along_mm.size() == 8);
  CHECK(spaced(220.0, true, rule)->along_mm.front() == Approx(0.5 * 220.0 / 9.0));
  rule.half_on = false, rule.keeps = Keeps::count, rule.count = 5;
  CHECK(spaced(220.0, false, rule)->pitch_mm == Approx(50.0));
  CHECK(spaced(420.0, false, rule)->along_mm.size() == 5);
  rule.count = 1;
  CHECK(spaced(220.0, false, rule)->along_mm == std::vector<double>{110.0});
  rule.keeps = Keeps::pitch, rule.near_seam = NearSeam::skip;
  const auto skipped = spaced(220.0, false, rule, {{50.0, 70.0}});
  CHECK(skipped->dropped == 1);
  CHECK(skipped->along_mm.size() == 8);
  rule.near_seam = NearSeam::share;
  const auto shared = spaced(220.0, false, rule, {{50.0, 70.0}});
  CHECK(shared->along_mm.front() == Approx(10.0));
  for (const double mm : shared->along_mm) CHECK((mm <= 50.0 || mm >= 70.0));
  // The middle of a stretch too short for two.
  const auto tight = spaced(220.0, false, rule, {{16.0, 200.0}});
  CHECK(tight->along_mm.front() == Approx(13.0));
  rule.pitch_mm = 900.0;
  const auto none = spaced(220.0, false, rule);
  REQUIRE_FALSE(none);
  CHECK(none.error().text.find("100 mm or less") != std::string::npos);
}

TEST_CASE("a strip over an edge is as wide as both faces, the sheet and its own bend", "[dress][strip]") {
  const Dressed d =
      on_tube(R"({"kind":"strip","lies":"over the edge","wide":12,"thick_mm":2,"lap":15,"line":{"rim":1}})");
  REQUIRE(d.yield.pieces.size() == 1);  // shorter than a sheet, and cut straight
  const double wide = 2.0 * 12.0 + 0.0 + 0.5 * kPi * 2.0;
  REQUIRE(!d.strips.empty());
  double across = 1e300;
  for (const Vec2& p : d.strips[0].second.left)
    for (const Vec2& q : d.strips[0].second.right) across = std::min(across, (p - q).norm());
  CHECK(across == Approx(wide).margin(0.2));
  CHECK(d.strips[0].second.length_mm == Approx(kTwoPi * 81.0 + 15.0).epsilon(2e-3));
  const Dressed folded =
      on_tube(R"({"kind":"strip","wide_mm":20,"thick_mm":2,"fold_mm":10,"line":{"drawn":[[0,-60,80],[0,60,80]]}})");
  // Both ends: what is tucked round, and the bend.
  CHECK(folded.strips[0].second.length_mm == Approx(120.0 + 2.0 * (dress_rules().tuck_mm + kPi)).margin(0.3));
  CHECK(told_by(folded).empty());
}

TEST_CASE("a straight strip on a curve puckers, and the act that is offered cuts it curved", "[dress][strip]") {
  const Dressed d = on_cone(R"({"kind":"strip","wide":90,"straight":"yes","thick_mm":2,"line":{"round_mm":60}})");
  const Remark* said = remark_in(d, "dress.pucker");
  REQUIRE(said != nullptr);
  REQUIRE(said->measured);
  CHECK(*said->measured == Approx(0.5 * 90.0 / 255.98).epsilon(0.05));
  CHECK(said->remedies.front().act == "set-detail 1 straight 0.00");
  const Dressed curved = on_cone(R"({"kind":"strip","wide":90,"thick_mm":2,"line":{"round_mm":60}})");
  CHECK(remark_in(curved, "dress.pucker") == nullptr);
  const Dressed domed = dressed_case(as_form(turned_sphere()), R"({"kind":"strip","wide":90,"line":{"round_mm":20}})");
  const Remark* dome = remark_in(domed, "dress.dome");
  REQUIRE(dome != nullptr);
  CHECK(*dome->measured == Approx(90.0 * 90.0 / 8.0 / 10000.0).epsilon(0.1));
}

TEST_CASE("rivets in rows are staggered, shopped with spare, and bored before they are set", "[dress][studs]") {
  const Dressed d =
      on_tube(R"({"kind":"studs","what":"rivet","across":8,"bore":3,"rows":3,"apart":14,"line":{"round_mm":-40},)"
              R"("pitch_mm":20})");
  const int round = static_cast<int>(std::round(kTwoPi * 80.0 / 20.0));
  REQUIRE(d.rows.size() == 3);
  for (const DressRow& r : d.rows) CHECK(r.count == round);
  CHECK(d.count == 3 * round);
  CHECK(d.places[0].along_mm == Approx(0.0));
  CHECK(d.places[round].along_mm == Approx(0.5 * kTwoPi * 80.0 / round).epsilon(0.01));
  CHECK(marks_of(d, PieceMark::Kind::trace) == static_cast<std::size_t>(3 * round));
  const Want* rivets = want_of(d, "rivet/8");
  REQUIRE(rivets != nullptr);
  CHECK(rivets->need == 3 * round + std::ceil(0.05 * 3 * round));
  REQUIRE(d.yield.steps.size() == 2);
  CHECK_FALSE(d.yield.steps[0].at_end);
  CHECK(d.yield.steps[1].at_end);
  const Dressed stitched =
      on_tube(R"({"kind":"studs","what":"stitch","across":12,"bore":2,"line":{"round_mm":0},"pitch_mm":30})");
  CHECK(marks_of(stitched, PieceMark::Kind::trace) == 4 * static_cast<std::size_t>(stitched.count));
  CHECK(want_of(stitched, "thread") != nullptr);
  const Dressed holes = on_tube(R"({"kind":"studs","what":"hole","across":6,"line":{"round_mm":0},"pitch_mm":30})");
  CHECK(marks_of(holes, PieceMark::Kind::hole) == static_cast<std::size_t>(holes.count));
  CHECK(want_of(holes, "hole") == nullptr);
  const Dressed near_rim = on_tube(R"({"kind":"studs","bore":4,"line":{"rim":1,"off_mm":3},"pitch_mm":30})");
  const Remark* tears = remark_in(near_rim, "dress.tears-out");
  REQUIRE(tears != nullptr);
  CHECK(tears->remedies.front().act == "set-detail 1 off 11.00");
}

TEST_CASE("a field of holes is as many as fit between its edges", "[dress][grid]") {
  const auto holes = [](double wide, double high, bool staggered) {
    return on_tube(std::string(R"({"kind":"grid","wide":)") + fixed(wide, 0) + R"(,"high":)" + fixed(high, 0) +
        R"(,"across":4,"pitch":10,"pitch-up":10,"edge":8,"staggered":")" + (staggered ? "yes" : "no") +
        R"(","at":[0,0,80]})")
        .count;
  };
  CHECK(holes(66, 46, false) == 6 * 4);
  CHECK(holes(66, 46, true) == 6 * 2 + 5 * 2);
  CHECK(holes(56, 26, false) == 5 * 2);
  const Dressed d = on_tube(R"({"kind":"grid","wide":66,"high":46,"across":4,"pitch":10,"pitch-up":10,"edge":8,)"
                            R"("staggered":"no","at":[0,0,80]})");
  for (std::size_t i = 0; i < d.places.size(); ++i)
    for (std::size_t j = 0; j < i; ++j) CHECK((d.places[i].at - d.places[j].at).norm() > 9.5);
  CHECK(d.open_share == Approx(24.0 * kPi * 4.0 / (66.0 * 46.0)).epsilon(0.01));
  const Dressed close = on_tube(R"({"kind":"grid","across":9,"pitch":9,"at":[0,0,80]})");
  CHECK(remark_in(close, "dress.room") != nullptr);
  CHECK(close.count == 0);
  const Dressed grille =
      on_tube(R"({"kind":"grid","of":"bars","wide":60,"high":40,"across":7,"pitch":10,"edge":0,"at":[0,0,80]})");
  CHECK(grille.count == 7);
  CHECK(marks_of(grille, PieceMark::Kind::hole) == 1);
  REQUIRE(grille.yield.pieces.size() == 1);
  CHECK(grille.yield.pieces[0].copies == 7);
}

TEST_CASE("lines are cut no deeper than half the sheet, beside each other, and told beside a seam", "[dress][scored]") {
  SeamMesh form = as_form(turned_tube());
  const Dressed d =
      dressed_case(form, R"({"kind":"scored","how":"carve","depth":2,"beside":3,"apart":9,"line":{"round_mm":0}})");
  CHECK(d.rows.size() == 3);
  CHECK(d.length_mm == Approx(3.0 * kTwoPi * 80.0).epsilon(2e-3));
  CHECK(marks_of(d, PieceMark::Kind::trace) == 3);
  bool told = false;
  for (const BenchStep& s : d.yield.steps) told = told || s.lines.front().find("2.3 mm wide") != std::string::npos;
  CHECK(told);  // 2 d tan 30
  const Dressed grain = dressed_case(
      form, R"({"kind":"scored","how":"grain","beside":4,"taper":0.1,"line":{"drawn":[[0,-60,80],[0,60,80]]}})");
  REQUIRE(grain.rows.size() == 4);
  for (std::size_t i = 1; i < 4; ++i) CHECK(grain.rows[i].length_mm == Approx(120.0 * std::pow(0.9, i)).margin(1.0));
  for (const BenchStep& s : grain.yield.steps) CHECK(s.at_end);
}

TEST_CASE("damage is the same every time, kept off rims and apart, and another lot is another", "[dress][damage]") {
  const auto places = [](int seed, int count) {
    return on_tube(R"({"kind":"damage","seed":)" + std::to_string(seed) + R"(,"count":)" + std::to_string(count) + "}");
  };
  const Dressed one = places(3, 20), again = places(3, 20), other = places(4, 20);
  REQUIRE(one.places.size() == again.places.size());
  for (std::size_t i = 0; i < one.places.size(); ++i) CHECK((one.places[i].at - again.places[i].at).norm() == 0.0);
  CHECK((one.places[0].at - other.places[0].at).norm() > 1.0);
  for (std::size_t i = 0; i < one.places.size(); ++i) {
    const DressPlace& p = one.places[i];
    CHECK(120.0 - std::abs(p.at.y()) > 0.5 * p.size_mm + dress_rules().damage_rim_mm - 0.5);
    for (std::size_t j = 0; j < i; ++j)
      CHECK((p.at - one.places[j].at).norm() > 0.5 * (p.size_mm + one.places[j].size_mm));
  }
  const Dressed crowded = on_tube(R"({"kind":"damage","count":200,"least":30,"most":60})");
  CHECK(crowded.count < 200);
  CHECK(remark_in(crowded, "dress.fewer") != nullptr);
}

TEST_CASE("a lens is larger than its opening by its hold, laid flat on a tube to a hundredth", "[dress][lens]") {
  const SeamMesh form = as_form(holed_tube(60.0));
  const DressSite site = DressSite::of_mesh(form);
  REQUIRE(site.rims.size() == 3);
  int hole = 0;
  while (length_of(site.rims[hole].at, true) > 300.0) ++hole;
  const double girth = length_of(site.rims[hole].at, true);
  const Dressed d =
      dressed_case(form, R"({"kind":"lens","of":"tinted","hold":8,"line":{"rim":)" + std::to_string(hole + 1) + "}}");
  INFO(told_by(d));
  REQUIRE(d.yield.pieces.size() == 1);
  const Piece& lens = d.yield.pieces[0];
  CHECK(lens.stuff == "tinted-sheet");
  Vec2 low = Vec2::Constant(1e300), high = -low;
  for (const Vec2& p : lens.outline) low = low.cwiseMin(p), high = high.cwiseMax(p);
  // The hole is 60 across over the surface.
  CHECK((high - low).x() == Approx(76.0).margin(1.5));
  CHECK((high - low).y() == Approx(76.0).margin(1.5));
  CHECK(std::abs(signed_area_mm2(lens.outline)) > 0.9 * kPi * 36.0 * 36.0);
  REQUIRE(d.yield.solids.size() == 1);
  CHECK(d.yield.solids[0].hides);
  CHECK(d.yield.solids[0].light == Approx(0.33));
  CHECK(girth > 150.0);
  const Dressed domed = dressed_case(
      form, R"({"kind":"lens","of":"mesh","rise":28,"hold":8,"line":{"rim":)" + std::to_string(hole + 1) + "}}");
  CHECK(remark_in(domed, "dress.shrinks") != nullptr);
  const Dressed disc = on_tube(R"({"kind":"lens","of":"foam","across":34,"rise":10,"at":[0,0,80]})");
  REQUIRE(disc.yield.pieces.size() == 1);
  CHECK(disc.yield.pieces[0].area_mm2 == Approx(kPi * 17.0 * 17.0).epsilon(0.01));
  const Dressed no_hole = on_tube(R"({"kind":"lens","line":{"rim":2}})");
  CHECK(remark_in(no_hole, "dress.no-hole") == nullptr);  // 503 mm round: a window may be so large
}

TEST_CASE("lights tell how long they run and how much cable they take", "[dress][lights]") {
  const Dressed d =
      on_tube(R"({"kind":"lights","line":{"round_mm":0},"pitch":50,"each-ma":25,"battery-mah":2000,"lead":400})");
  const int lamps = static_cast<int>(std::round(kTwoPi * 80.0 / 50.0));
  CHECK(d.count == lamps);
  CHECK(d.length_mm == Approx(1.1 * (kTwoPi * 80.0 + 400.0) + 50.0).epsilon(2e-3));
  CHECK(d.yield.facts.front().find(fixed(1600.0 / (25.0 * lamps), 1) + " hours") != std::string::npos);
  CHECK(remark_in(d, "dress.runs-short") == nullptr);
  const Dressed hungry =
      on_tube(R"({"kind":"lights","line":{"round_mm":0},"pitch":10,"each-ma":80,"battery-mah":1000})");
  const Remark* said = remark_in(hungry, "dress.runs-short");
  REQUIRE(said != nullptr);
  CHECK(said->remedies.front().act.starts_with("set-detail 1 battery-mah "));
  for (const BenchStep& s : d.yield.steps) CHECK_FALSE(s.caution.empty());
}

TEST_CASE("wire is bent to loops and held down; an antenna ends in a bead; a filling is weighed", "[dress][inside]") {
  const Dressed wire = on_tube(R"({"kind":"wire","use":"along","thick":3,"line":{"drawn":[[0,-90,80],[0,90,80]]}})");
  CHECK(wire.length_mm == Approx(180.0 + 2.0 * 1.5 * kPi * 3.0).margin(0.3));
  CHECK(wire.count == 4);  // every 60, and one
  const Dressed spine = on_tube(R"({"kind":"wire","use":"spine"})");
  const Remark* none = remark_in(spine, "dress.no-spine");
  REQUIRE(none != nullptr);
  CHECK(none->remedies.front().act == "set-detail 1 use 1.00");
  const Dressed antenna = on_tube(R"({"kind":"wire","use":"antenna","long":120,"bead":10,"at":[0,60,80]})");
  CHECK(antenna.yield.solids.size() >= 2);
  double reach = 0.0;
  for (const YieldSolid& s : antenna.yield.solids)
    for (const Vec3& p : s.mesh.vertices) reach = std::max(reach, (p - Vec3(0, 60, 80)).norm());
  CHECK(reach > 100.0);
  CHECK(reach < 140.0);
  const Dressed filled = on_tube(R"({"kind":"filling","share":0.5,"density":20})");
  const Want* fluff = want_of(filled, "filling");
  REQUIRE(fluff != nullptr);
  CHECK(fluff->need == Approx(kPi * 80.0 * 80.0 * 240.0 * 0.5 * 20.0 * 1e-6).margin(10.0));
}

TEST_CASE("a rib is cut to the inner face, a ring of it has its hole, and one that waves is refused", "[dress][rib]") {
  const Dressed ring = on_tube(R"({"kind":"rib","deep":18,"thick_mm":5,"line":{"round_mm":0}})");
  REQUIRE(ring.yield.pieces.size() == 1);
  const Piece& piece = ring.yield.pieces[0];
  REQUIRE(piece.holes.size() == 1);
  CHECK(piece.area_mm2 == Approx(kPi * (80.0 * 80.0 - 62.0 * 62.0)).epsilon(0.01));
  const Dressed bow =
      on_tube(R"({"kind":"rib","deep":20,"end":5,"line":{"drawn":[[-60,0,52.9],[0,0,80],[60,0,52.9]]}})");
  INFO(told_by(bow));
  REQUIRE(bow.yield.pieces.size() == 1);
  CHECK(bow.yield.pieces[0].holes.empty());
  CHECK_FALSE(crosses_itself(bow.yield.pieces[0].outline));
  std::string helix;
  for (int i = 0; i <= 12; ++i) {
    const double a = kTwoPi * i / 14.0;
    helix += (i > 0 ? ",[" : "[") + fixed(80.0 * std::sin(a), 3) + "," + fixed(-60.0 + 10.0 * i, 3) + "," +
        fixed(80.0 * std::cos(a), 3) + "]";
  }
  const Dressed waves = on_tube(R"({"kind":"rib","line":{"drawn":[)" + helix + "]}}");
  CHECK(remark_in(waves, "dress.waves") != nullptr);
  CHECK(waves.yield.pieces.empty());
}

TEST_CASE("a buckle follows its strap, and its slots the strap's thickness", "[dress][buckle]") {
  const Dressed d =
      on_tube(R"({"kind":"buckle","strap":28,"strap-thick":2,"bar":8,"open":22,"slots":"yes","at":[0,0,80]})");
  REQUIRE(d.yield.pieces.size() == 2);
  const Piece& frame = d.yield.pieces[0];
  REQUIRE(frame.holes.size() == 1);
  CHECK(frame.area_mm2 == Approx(38.0 * 46.0 - 22.0 * 30.0));
  CHECK(marks_of(d, PieceMark::Kind::hole) == 2);
  for (const PieceMark& m : d.yield.marks) {
    if (m.kind != PieceMark::Kind::hole) continue;
    REQUIRE(m.line.size() == 4);
    std::vector<double> sides;
    for (int k = 0; k < 4; ++k) sides.push_back((m.line[(k + 1) % 4] - m.line[k]).norm());
    CHECK(*std::max_element(sides.begin(), sides.end()) == Approx(30.0).margin(0.5));
    CHECK(*std::min_element(sides.begin(), sides.end()) == Approx(5.0).margin(0.3));
  }
}

TEST_CASE("plates hang in rows, each longer than the one above, with as many holes as the row", "[dress][lacing]") {
  const SeamMesh form = as_form(turned_tube());
  const Dressed d = dressed_case(form, R"({"kind":"lacing","rows":3,"line":{"rim":1}})");
  // The case's lacing is cord alone; plates come with the dial.
  CHECK(d.yield.pieces.size() <= 1);
  Detail detail;
  detail.id = 1, detail.name = "plates", detail.track.from = TrackFrom::rim, detail.track.start = 0.25,
  detail.track.end = 0.75;
  detail.shape = LacedPlates{.rows = 3, .high_mm = 50, .flare = 0.1, .pitch_mm = 20};
  const DressSite site = DressSite::of_mesh(form);
  const Foam foam = load_materials(data_folder() / "materials")->foam("eva-firm").value();
  const Dressed hung = dressed(detail, site, {foam, foam, {}}, dress_rules(), nullptr);
  INFO(told_by(hung));
  int plates = 0;
  double before = 0.0;
  for (const Piece& p : hung.yield.pieces) {
    if (p.name.find("plate ") == std::string::npos) continue;
    ++plates;
    CHECK_FALSE(crosses_itself(p.outline));
    CHECK(p.area_mm2 > before);
    before = p.area_mm2;
    CHECK(p.traces.size() >= static_cast<std::size_t>(hung.count));
    for (const PieceTrace& t : p.traces) CHECK(inside(p.outline, t.line.front()));
  }
  CHECK(plates == 3);
  CHECK(hung.count == static_cast<int>(std::round(0.5 * kTwoPi * 80.0 / 20.0)));
  detail.shape = LacedPlates{.high_mm = 20, .overlap_mm = 12};
  CHECK(remark_in(dressed(detail, site, {foam, foam, {}}, dress_rules(), nullptr), "dress.room") != nullptr);
}

TEST_CASE("feet of a guest are found where it stands on its host and nowhere else", "[dress][marks]") {
  const DressSite host = DressSite::of_mesh(as_form(turned_tube()));
  // A small tube standing out of the front: its near rim on the host, its far one in the air.
  Mesh small;
  constexpr int kRound = 40;
  for (int r = 0; r < 2; ++r)
    for (int c = 0; c < kRound; ++c) {
      const double a = kTwoPi * c / kRound, x = 20.0 * std::cos(a), y = 20.0 * std::sin(a);
      small.vertices.push_back({x, y, r == 0 ? std::sqrt(6400.0 - x * x) + 0.3 : 150.0});
    }
  for (int c = 0; c < kRound; ++c) {
    const int a = c, b = (c + 1) % kRound;
    small.triangles.push_back({a, b, a + kRound});
    small.triangles.push_back({b, b + kRound, a + kRound});
  }
  const DressSite guest = DressSite::of_mesh(as_form(small));
  const auto feet = foot_of(host, guest);
  REQUIRE(feet.size() == 1);
  CHECK(feet[0].closed);
  CHECK(length_of(feet[0].at, true) > kTwoPi * 20.0 * 0.99);
  DressSite dressed_host = host;
  dressed_host.feet.push_back({2, "stub", 4.0, false, feet});
  const Dressed d = footprints(dressed_host);
  std::map<TraceKind, int> kinds;
  for (const PieceMark& m : d.yield.marks) ++kinds[m.trace];
  CHECK(kinds[TraceKind::foot] == 1);
  CHECK(kinds[TraceKind::glue] == 1);
  CHECK(kinds[TraceKind::centre] == 1);
  CHECK(kinds[TraceKind::level] == 2);  // at 0 and one more within 20 up and down
  REQUIRE(d.yield.steps.size() == 1);
  CHECK(d.yield.steps[0].lines.front().find("stub") != std::string::npos);
}
