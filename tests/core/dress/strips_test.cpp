#include <catch2/catch.hpp>
#include <cmath>
#include <set>

#include "core/derived/left_rings.hpp"
#include "core/dress/grain_field.hpp"
#include "core/geom/solid.hpp"
#include "support/dressed_case.hpp"
#include "support/worn.hpp"

using namespace awl;
using test::as_form;
using test::dressed_case;
using test::on_cone;
using test::on_tube;
using test::remark_in;
using test::told_by;
using test::turned_cone;
using test::turned_tube;

namespace {

/// A column of so many flat sides about the upright axis, its crisp edges on rows of vertices.
Mesh sided_column(int sides, double radius_mm, double high_mm, int cells) {
  Mesh m;
  const auto corner = [&](int s) {
    const double a = kTwoPi * (s % sides + 0.5) / sides;
    return Vec2(radius_mm * std::cos(a), radius_mm * std::sin(a));
  };
  const int rows = static_cast<int>(std::lround(high_mm / ((corner(1) - corner(0)).norm() / cells)));
  for (int r = 0; r <= rows; ++r)
    for (int s = 0; s < sides; ++s)
      for (int c = 0; c < cells; ++c) {
        const Vec2 p = corner(s) + (corner(s + 1) - corner(s)) * (static_cast<double>(c) / cells);
        m.vertices.push_back({p.x(), high_mm * r / rows, p.y()});
      }
  const int n = sides * cells;
  for (int r = 0; r < rows; ++r)
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
  const Mesh column = sided_column(4, 60.0 * std::sqrt(2.0), 100.0, 24);
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

TEST_CASE("a strip that climbs over crisp edges has no notch at any", "[dress][strip]") {
  const Mesh column = sided_column(14, 60.0, 110.0, 5);
  const Dressed d = dressed_case(
      as_form(column), R"({"kind":"strip","wide":10,"lap":0,"thick_mm":6,"line":{"way":[[59,20,-10],[-50,90,30]]}})");
  INFO(told_by(d));
  REQUIRE(d.strips.size() == 1);
  // It turns gently, and no step turns aside and the next back.
  const std::vector<Vec2>& middle = d.strips[0].second.middle;
  double last = 0.0, unsteady = 0.0;
  for (std::size_t i = 1; i + 1 < middle.size(); ++i) {
    const Vec2 before = middle[i] - middle[i - 1], after = middle[i + 1] - middle[i];
    const double turn = std::atan2(before.x() * after.y() - before.y() * after.x(), before.dot(after));
    if (i > 1) unsteady = std::max(unsteady, std::abs(turn - last));
    last = turn;
  }
  CHECK(degrees(unsteady) < 3.0);
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
  const LeftDisc small{"the disc cut out of piece 3", {}, 2.0, 70.0}, large{"the offcut B", {}, 2.0, 120.0};
  CHECK_FALSE(ring_for(flat, 20.0, 0.10, {small}));  // once round it is 377 mm long
  const auto best = ring_for(flat, 20.0, 0.10, {small, large});
  REQUIRE(best);
  CHECK(best->from.from == "the offcut B");
  CHECK(best->outer_mm == Approx(120.0));
  CHECK(best->inner_mm == Approx(100.0));
  CHECK(best->strain == Approx((1.0 / 110.0 - 1.0 / 255.98) * 10.0).margin(2e-4));
  CHECK_FALSE(ring_for(flat, 20.0, 0.04, {small, large}));  // 5.2 % is more than that
  const auto exact = ring_for(flat, 20.0, 0.04, {{"the offcut C", {}, 2.0, 400.0}});
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

TEST_CASE("a wedge of one side has its mirror image on the other", "[dress][wedge][mirror]") {
  Build build = test::demo_of("ferry-keeper");
  Detail brow;
  brow.id = 1, brow.name = "brow", brow.shape = Wedge{.wide_mm = 30.0, .high_mm = 20.0};
  brow.track.points = {{30, 60, 95}, {55, 75, 80}, {75, 70, 60}};
  build.dress.details = {brow};
  const Derived d = test::chain()->derive(build);
  REQUIRE(d.dressed);
  const Dressed* made = nullptr;
  for (const auto& one : *d.dressed)
    if (one->detail == 1) made = one.get();
  REQUIRE(made != nullptr);
  REQUIRE(made->yield.solids.size() == 2);
  const Box own = box_of(made->yield.solids[0].mesh.vertices), other = box_of(made->yield.solids[1].mesh.vertices);
  CHECK(own.low.y() == Approx(other.low.y()).margin(1.0));
  CHECK(own.high.y() == Approx(other.high.y()).margin(1.0));
  CHECK(own.low.x() == Approx(-other.high.x()).margin(1.0));
  CHECK(own.high.x() == Approx(-other.low.x()).margin(1.0));
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
