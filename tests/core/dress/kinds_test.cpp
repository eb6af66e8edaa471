#include <Eigen/Geometry>
#include <catch2/catch.hpp>
#include <cmath>
#include <set>

#include "core/derived/left_rings.hpp"
#include "core/dress/grain_field.hpp"
#include "core/dress/shapes.hpp"
#include "core/geom/polygon.hpp"
#include "core/geom/solid.hpp"
#include "core/seam/flatten.hpp"
#include "support/dressed_case.hpp"
#include "support/worn.hpp"

using namespace awl;
using test::as_form;
using test::dress_rules;
using test::dressed_case;
using test::told_by;
using test::turned_cone;
using test::turned_sphere;
using test::turned_tube;

namespace {

Dressed on_tube(const std::string& details) { return dressed_case(as_form(turned_tube()), details); }
Dressed on_cone(const std::string& details) { return dressed_case(as_form(turned_cone()), details); }

const Want* want_of(const Dressed& d, const std::string& begins) {
  for (const Want& w : d.yield.wants)
    if (w.id.starts_with("dress/" + begins)) return &w;
  return nullptr;
}

const Remark* remark_in(const Dressed& d, const std::string& id) {
  for (const Remark& r : d.yield.remarks)
    if (r.id == id) return &r;
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

namespace {

/// A square column of 120 with its middle upright axis, crisp edges on rows of vertices; or a flat sheet with a hole.
Mesh square_column(double half_mm, double high_mm, int cells) {
  Mesh m;
  const Vec2 corner[] = {{half_mm, half_mm}, {-half_mm, half_mm}, {-half_mm, -half_mm}, {half_mm, -half_mm}};
  for (int r = 0; r <= cells; ++r)
    for (int s = 0; s < 4; ++s)
      for (int c = 0; c < cells; ++c) {
        const Vec2 p = corner[s] + (corner[(s + 1) % 4] - corner[s]) * (static_cast<double>(c) / cells);
        m.vertices.push_back({p.x(), high_mm * r / cells, p.y()});
      }
  const int n = 4 * cells;
  for (int r = 0; r < cells; ++r)
    for (int c = 0; c < n; ++c) {
      const int a = r * n + c, b = r * n + (c + 1) % n, d = a + n, e = b + n;
      m.triangles.push_back({a, d, b});
      m.triangles.push_back({b, d, e});
    }
  return m;
}

Mesh flat_sheet(double wide_mm, double deep_mm, int cells) {
  Mesh m;
  for (int r = 0; r <= cells; ++r)
    for (int c = 0; c <= cells; ++c)
      m.vertices.push_back(
          {wide_mm * (static_cast<double>(c) / cells - 0.5), 0.0, deep_mm * (0.5 - static_cast<double>(r) / cells)});
  for (int r = 0; r < cells; ++r)
    for (int c = 0; c < cells; ++c) {
      const int a = r * (cells + 1) + c, b = a + 1, d = a + cells + 1, e = d + 1;
      m.triangles.push_back({a, b, d});
      m.triangles.push_back({b, e, d});
    }
  return m;
}

}  // namespace

TEST_CASE("round the crisp edges of a column a strip is as long as its faces and its own bends", "[dress][strip]") {
  const Mesh column = square_column(60.0, 100.0, 24);
  REQUIRE((column.vertices[1] - column.vertices[0]).norm() == Approx(5.0));
  for (const double thick : {2.0, 6.0}) {
    const Dressed d = dressed_case(as_form(column),
        R"({"kind":"strip","wide":10,"lap":0,"thick_mm":)" + std::to_string(thick) + R"(,"line":{"round_mm":52}})");
    INFO(told_by(d));
    REQUIRE(d.strips.size() == 1);
    // Four faces of 120, and the middle layer a quarter turn round each edge.
    CHECK(d.strips[0].second.length_mm == Approx(480.0 + kPi * thick).margin(1.0));
    CHECK(std::abs(d.strips[0].second.left_mm - d.strips[0].second.right_mm) < 0.5);
  }
}

TEST_CASE("a strip along the edge of a sheet is mitred at its corners", "[dress][strip]") {
  const Mesh sheet = flat_sheet(200.0, 120.0, 40);
  const Dressed d =
      dressed_case(as_form(sheet), R"({"kind":"strip","wide":20,"lap":12,"thick_mm":2,"line":{"rim":1,"off_mm":10}})");
  INFO(told_by(d));
  CHECK(told_by(d).empty());
  REQUIRE(d.yield.pieces.size() == 4);
  double whole = 0.0, all = 0.0;
  for (const auto& [name, flat] : d.strips) {
    CAPTURE(name, flat.length_mm, flat.left_mm, flat.right_mm);
    // Its middle 10 in from the edge; cut at half a right angle, one side is as much longer as the other is shorter.
    const double middle = flat.length_mm > 140.0 ? 180.0 : 100.0;
    CHECK(flat.length_mm == Approx(middle).margin(1.0));
    CHECK(std::max(flat.left_mm, flat.right_mm) == Approx(middle + 20.0).margin(1.5));
    CHECK(std::min(flat.left_mm, flat.right_mm) == Approx(middle - 20.0).margin(1.5));
    whole += flat.length_mm;
  }
  for (const Piece& p : d.yield.pieces) all += p.area_mm2;
  CHECK(all == Approx(200.0 * 120.0 - 160.0 * 80.0).epsilon(0.015));
  CHECK(d.length_mm == Approx(whole));
  const bool said = std::any_of(d.yield.facts.begin(), d.yield.facts.end(),
      [](const std::string& f) { return f.find("Mitred at 4 corners") != std::string::npos; });
  CHECK(said);
  // What is round stays in one.
  CHECK(on_cone(R"({"kind":"strip","wide":20,"thick_mm":2,"line":{"round_mm":60}})").strips.size() == 1);
}

TEST_CASE("a strip is cut from the disc that is left of another piece where that gives little", "[dress][strip]") {
  const Dressed d = on_cone(R"({"kind":"strip","wide":20,"thick_mm":2,"lap":0,"line":{"round_mm":60}})");
  const FlatStrip& flat = d.strips[0].second;  // 508.6 long, an arc of radius 256
  const LeftRing small{"the disc cut out of piece 3", {}, 2.0, 0.0, 70.0}, large{"the offcut B", {}, 2.0, 0.0, 120.0};
  CHECK_FALSE(ring_for(flat, 20.0, flat.length_mm, 0.10, {small}));  // once round it is 377 mm long
  const auto best = ring_for(flat, 20.0, flat.length_mm, 0.10, {small, large});
  REQUIRE(best);
  CHECK(best->from.from == "the offcut B");
  CHECK(best->outer_mm == Approx(120.0));
  CHECK(best->inner_mm == Approx(100.0));
  CHECK(best->strain == Approx((1.0 / 110.0 - 1.0 / 255.98) * 10.0).margin(2e-4));
  CHECK_FALSE(ring_for(flat, 20.0, flat.length_mm, 0.04, {small, large}));  // 5.2 % is more than that
  const auto exact = ring_for(flat, 20.0, flat.length_mm, 0.04, {{"the offcut C", {}, 2.0, 0.0, 400.0}});
  REQUIRE(exact);
  CHECK(exact->strain < 1e-4);
  CHECK(exact->inner_mm == Approx(flat.length_mm / std::abs(flat.turn_rad) - 10.0).margin(0.2));
}

TEST_CASE("a wedge is cut from a block at the angles of its corner", "[dress][wedge]") {
  const WedgeSection square = section_of({.wide_mm = 20.0, .high_mm = 15.0}, 0.5 * kPi);
  CHECK(square.block_wide_mm == Approx(20.0));
  CHECK(square.block_high_mm == Approx(15.0));
  CHECK(degrees(square.outer_rad) == Approx(36.87).margin(0.01));
  CHECK(square.area_mm2 == Approx(150.0));
  const WedgeSection leaning = section_of({.wide_mm = 20.0, .high_mm = 15.0}, radians(60.0));
  CHECK(leaning.block_high_mm == Approx(12.99).margin(0.01));
  CHECK(degrees(leaning.outer_rad) == Approx(46.10).margin(0.01));
  CHECK(section_of({.wide_mm = 20.0, .high_mm = 15.0}, radians(120.0)).block_wide_mm == Approx(27.5));
  const Dressed d = on_tube(R"({"kind":"wedge","wide":20,"high":15,"line":{"round_mm":0}})");
  INFO(told_by(d));
  CHECK(told_by(d).empty());
  REQUIRE(d.yield.solids.size() == 1);
  // A ring of that section round the tube, its middle of area a third out from the line.
  CHECK(volume_mm3(d.yield.solids[0].mesh) == Approx(150.0 * kTwoPi * 85.0).epsilon(0.01));
  REQUIRE_FALSE(d.yield.pieces.empty());
  CHECK(d.yield.pieces[0].thickness_mm == Approx(10.0));
  CHECK(d.yield.pieces[0].copies == 2);  // 15 high from sheet of 10
  const Dressed flat = on_tube(R"({"kind":"wedge","wide":60,"high":8,"line":{"round_mm":0}})");
  const Remark* thin = remark_in(flat, "dress.thin-edge");
  REQUIRE(thin != nullptr);
  CHECK(*thin->measured == Approx(degrees(std::atan2(8.0, 60.0))).margin(0.1));
  CHECK(thin->remedies.front().act == "set-detail 1 high 24.00");
}

TEST_CASE("grain runs over a whole part as one stroke tells it", "[dress][grain]") {
  const auto worst_deg = [](const Mesh& mesh, const std::vector<std::vector<Vec3>>& strokes, GrainFollows follows,
                             const auto& wanted) {
    const DressSite site = DressSite::of_mesh(as_form(mesh));
    std::vector<FormLine> told;
    for (const auto& one : strokes) told.push_back(line_through(site, one, false));
    const GrainField field(site, told, follows);
    double worst = 0.0;
    for (std::size_t v = 0; v < site.outer.vertices.size(); v += 7) {
      const NearestHit hit = site.hit(site.outer.vertices[v]);
      const Vec3 along = field.along(hit), want = wanted(hit.point);
      worst = std::max(worst, degrees(std::acos(std::min(1.0, std::abs(along.dot(want))))));
    }
    return worst;
  };
  // Round a tube a helix climbs at one angle everywhere.
  std::vector<Vec3> helix;
  const double climb = radians(30.0);
  for (int i = 0; i <= 20; ++i) {
    const double along = 3.0 * i, a = along * std::cos(climb) / 80.0;
    helix.push_back({80.0 * std::sin(a), along * std::sin(climb), 80.0 * std::cos(a)});
  }
  const auto winding = [&](const Vec3& p) {
    const Vec3 round = Vec3(p.z(), 0.0, -p.x()).normalized();
    return Vec3(std::cos(climb) * round + std::sin(climb) * Vec3::UnitY());
  };
  for (const GrainFollows follows : {GrainFollows::slope, GrainFollows::form})
    CHECK(worst_deg(turned_tube(), {helix}, follows, winding) < 1.0);
  // Down a cone the slant stays the slant all round; freely it takes strokes on several sides to say so.
  const auto slant = [](const Vec3& p) {
    const Vec3 out = Vec3(p.x(), 0.0, p.z()).normalized();
    return Vec3((-40.0 * out + 120.0 * Vec3::UnitY()).normalized());
  };
  std::vector<std::vector<Vec3>> round;
  for (int k = 0; k < 24; ++k) {
    const double a = kTwoPi * (k + 0.3) / 24.0;
    round.push_back({{98.0 * std::sin(a), 6.0, 98.0 * std::cos(a)}, {62.0 * std::sin(a), 114.0, 62.0 * std::cos(a)}});
  }
  CHECK(worst_deg(turned_cone(), {round.front()}, GrainFollows::slope, slant) < 1.5);
  CHECK(worst_deg(turned_cone(), round, GrainFollows::form, slant) < 1.5);
  CHECK(worst_deg(turned_cone(), {round.front()}, GrainFollows::form, slant) > 30.0);
  const Dressed d =
      on_tube(R"({"kind":"grain","apart":30,"long":40,"uneven":0,"line":{"way":[[0,-50,80],[0,50,80]]}})");
  CHECK(told_by(d).empty());
  CHECK(d.count > 60);
  CHECK(d.count < 160);
  for (std::size_t i = 0; i < d.places.size(); ++i)
    for (std::size_t j = i + 1; j < d.places.size(); ++j) REQUIRE((d.places[i].at - d.places[j].at).norm() > 12.0);
  for (const PieceMark& m : d.yield.marks) {
    CHECK(m.trace == TraceKind::grain);
    const Vec3 way = (m.line.back() - m.line.front()).normalized();
    CHECK(std::abs(way.y()) > 0.995);
  }
  const Dressed again =
      on_tube(R"({"kind":"grain","apart":30,"long":40,"uneven":0,"line":{"way":[[0,-50,80],[0,50,80]]}})");
  CHECK(again.count == d.count);
}

TEST_CASE("scales on a curl are short inside and long outside, in three sizes a row", "[dress][scales]") {
  const Derived derived = test::chain()->derive(test::demo_of("thicket-ram"));
  REQUIRE(derived.dressed);
  const Dressed* scales = nullptr;
  for (const auto& one : *derived.dressed)
    if (one->kind == "scales") scales = one.get();
  REQUIRE(scales != nullptr);
  double shortest = 1e300, longest = 0.0;
  int copies = 0;
  for (const Piece& p : scales->yield.pieces) {
    double low = 1e300, high = -1e300;
    for (const Vec2& q : p.outline) low = std::min(low, q.y()), high = std::max(high, q.y());
    copies += p.copies;
    if (p.name.ends_with("short")) shortest = std::min(shortest, high - low);
    if (p.name.ends_with("long")) longest = std::max(longest, high - low);
  }
  CHECK(longest > 1.15 * shortest);
  CHECK(copies == 2 * scales->count);
}

TEST_CASE("every kind that has a size to be drawn can be taken hold of on the form", "[dress][grips]") {
  const std::string line = R"("line":{"round_mm":20}})", place = R"("line":{"drawn":[[0,0,80]]}})";
  const auto grips_of = [&](const std::string& kind, const std::string& where) {
    const Dressed d = on_tube(R"({"kind":")" + kind + R"(",)" + where);
    Detail detail;
    detail.shape = detail_shape_from(kind).value();
    std::set<std::string> ids, names;
    for (const Dial& dial : dials_of(detail)) ids.insert(dial.facts.id);
    for (const Handle& h : d.grips) {
      CAPTURE(kind, h.dial);
      CHECK(ids.count(h.dial) == 1);
      CHECK(h.along.norm() == Approx(1.0).margin(1e-6));
      CHECK(h.per_mm > 0.0);
      names.insert(h.dial);
    }
    return names;
  };
  for (const char* kind : {"strip", "studs", "tufts", "teeth", "rib", "lights", "wedge"}) {
    CAPTURE(kind);
    CHECK(grips_of(kind, line).size() > 1);  // its own, and beside its line
  }
  for (const char* kind : {"grid", "lens", "buckle", "foot"}) CHECK_FALSE(grips_of(kind, place).empty());
  // A strip drawn wider by its edge is wider by both.
  const Dressed strip = on_tube(R"({"kind":"strip","wide":20,)" + line);
  const auto wide =
      std::find_if(strip.grips.begin(), strip.grips.end(), [](const Handle& h) { return h.dial == "wide"; });
  REQUIRE(wide != strip.grips.end());
  CHECK(std::abs(wide->at.y() - 20.0) == Approx(10.0).margin(0.2));
  CHECK(wide->per_mm == Approx(2.0));
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
