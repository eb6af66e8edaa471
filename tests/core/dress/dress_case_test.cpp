#include <catch2/catch.hpp>
#include <cmath>

#include "core/base/data_files.hpp"
#include "core/base/numbers.hpp"
#include "core/dress/dress.hpp"
#include "core/geom/polygon.hpp"
#include "core/io/dress_case.hpp"
#include "core/piece/piece_mark.hpp"
#include "core/piece/piece_place.hpp"
#include "core/seam/draw_cut.hpp"
#include "support/dressed_case.hpp"

using namespace awl;
using test::as_form;
using test::dress_rules;
using test::dressed_case;
using test::told_by;
using test::turned_cone;
using test::turned_ring;
using test::turned_sphere;
using test::turned_tube;

namespace {

double open_length(const std::vector<Vec2>& line, bool closed) {
  double sum = 0.0;
  for (std::size_t i = 0; i + (closed ? 0 : 1) < line.size(); ++i)
    sum += (line[(i + 1) % line.size()] - line[i]).norm();
  return sum;
}

}  // namespace

TEST_CASE("the surfaces of these cases are seen from outside", "[dress]") {
  CHECK(volume_mm3(turned_ring()) > 0.0);
  const DressSite site = DressSite::of_mesh(as_form(turned_cone()));
  CHECK(site.normal_at(site.hit({0.0, 60.0, 90.0})).z() > 0.5);
  REQUIRE(site.rims.size() == 2);
  CHECK(length_of(site.rims[0].at, true) == Approx(kTwoPi * 100.0).epsilon(1e-3));
}

TEST_CASE("a strip round a cone is an arc of the cone's own radius", "[dress][strip]") {
  const Dressed d = dressed_case(
      as_form(turned_cone()), R"({"kind":"strip","line":{"round_mm":60},"wide_mm":20,"thick_mm":2,"lap_mm":0})");
  INFO(told_by(d));
  REQUIRE(d.strips.size() == 1);
  const FlatStrip& s = d.strips[0].second;
  CHECK(s.length_mm == Approx(508.62).epsilon(0.001));
  REQUIRE(s.radius_mm);
  CHECK(*s.radius_mm == Approx(255.98).epsilon(0.005));
  CHECK(std::abs(s.turn_rad) == Approx(1.9869).margin(0.005));
  CHECK(std::max(s.left_mm, s.right_mm) == Approx(528.48).epsilon(0.001));
  CHECK(std::min(s.left_mm, s.right_mm) == Approx(488.75).epsilon(0.001));
  CHECK(s.straight_strain == Approx(0.0391).margin(0.0005));
}

TEST_CASE("a strip along a helix of a cylinder is straight", "[dress][strip]") {
  std::string places;
  for (int i = 0; i <= 30; ++i) {
    const double t = i / 30.0, a = 0.75 * kTwoPi * t;
    places += (i > 0 ? ",[" : "[") + fixed(80.0 * std::sin(a), 6) + "," + fixed(-90.0 + 180.0 * t, 6) + "," +
        fixed(80.0 * std::cos(a), 6) + "]";
  }
  const Dressed d = dressed_case(
      as_form(turned_tube()), R"({"kind":"strip","line":{"drawn":[)" + places + R"(]},"wide_mm":20,"thick_mm":2})");
  INFO(told_by(d));
  REQUIRE(d.strips.size() == 1);
  const FlatStrip& s = d.strips[0].second;
  CHECK(s.length_mm == Approx(422.02).epsilon(0.001));
  CHECK(s.left_mm == Approx(s.right_mm).margin(0.1));
  double off = 0.0;
  const Vec2 along = (s.middle.back() - s.middle.front()).normalized();
  for (const Vec2& p : s.middle)
    off = std::max(off, std::abs(along.x() * (p - s.middle.front()).y() - along.y() * (p - s.middle.front()).x()));
  CHECK(off < 0.3);
}

TEST_CASE("a strip on a sphere lies on a dome however it is cut", "[dress][strip]") {
  const Dressed d = dressed_case(
      as_form(turned_sphere()), R"({"kind":"strip","line":{"round_mm":50},"wide_mm":20,"thick_mm":2,"lap_mm":0})");
  INFO(told_by(d));
  REQUIRE(d.strips.size() == 1);
  const FlatStrip& s = d.strips[0].second;
  CHECK(s.length_mm == Approx(549.58).epsilon(0.0015));
  REQUIRE(s.radius_mm);
  CHECK(*s.radius_mm == Approx(174.94).epsilon(0.005));
  CHECK(s.lie_strain == Approx(0.0050).margin(0.0003));
}

TEST_CASE("a strip on the top of a ring turns right round, and is cut in lengths", "[dress][strip]") {
  std::string places;
  for (int i = 0; i < 48; ++i) {
    const double a = kTwoPi * i / 48;
    places += (i > 0 ? ",[" : "[") + fixed(120.0 * std::sin(a), 6) + ",40," + fixed(120.0 * std::cos(a), 6) + "]";
  }
  const Dressed d = dressed_case(as_form(turned_ring()),
      R"({"kind":"strip","line":{"drawn":[)" + places + R"(],"closed":true},"wide_mm":20,"thick_mm":2,"lap_mm":0})");
  INFO(told_by(d));
  REQUIRE(d.strips.size() == 1);
  const FlatStrip& s = d.strips[0].second;
  CHECK(s.length_mm == Approx(753.98).epsilon(0.001));
  CHECK(std::abs(s.turn_rad) == Approx(6.283).margin(0.01));
  CHECK(std::min(s.left_mm, s.right_mm) == Approx(691.15).epsilon(0.001));
  CHECK(std::max(s.left_mm, s.right_mm) == Approx(816.81).epsilon(0.001));
  CHECK(d.yield.pieces.size() == 2);
}

TEST_CASE("rivets round a cone stand even and begin in front", "[dress][spaced]") {
  const Dressed d =
      dressed_case(as_form(turned_cone()), R"({"kind":"spaced","what":"rivet","line":{"round_mm":60},"pitch_mm":25})");
  INFO(told_by(d));
  CHECK(d.count == 20);
  CHECK(d.pitch_mm == Approx(25.13).margin(0.02));
  REQUIRE(!d.places.empty());
  CHECK((d.places.front().at - Vec3(0.0, 60.0, 80.0)).norm() < 0.1);
}

TEST_CASE("a footprint over a seam is split there and both stretches meet", "[dress][marks]") {
  std::vector<CutLine> cuts;
  for (const double side : {1.0, -1.0})
    cuts.push_back({{0.0, 0.0, side * 100.0}, {0.0, 60.0, side * 80.0}, {0.0, 120.0, side * 60.0}});
  const auto cut = draw_cuts(turned_cone(), cuts);
  REQUIRE(cut);
  const Dressed d = dressed_case(*cut,
      R"({"kind":"foot","radius_mm":15,"at":[)" + fixed(80.0 * std::sin(0.0754), 6) + ",60," +
          fixed(80.0 * std::cos(0.0754), 6) + "]}");
  PanelOptions options;
  options.thickness_mm = 0.0, options.form_is_outside = true;
  const auto panels = make_panels(*cut, options);
  REQUIRE(panels);
  auto pieces = make_pieces(*panels);
  REQUIRE(pieces.size() == 2);
  put_marks(pieces, *panels, {1}, d.yield.marks);
  double girth = 0.0, area = 0.0;
  std::vector<Vec3> ends;
  const PiecePlaces places(pieces, *panels, {1});
  int feet = 0;
  for (std::size_t i = 0; i < pieces.size(); ++i)
    for (const PieceTrace& t : pieces[i].traces) {
      if (t.kind != TraceKind::foot) continue;
      ++feet;
      girth += open_length(t.line, t.closed), area += std::abs(signed_area_mm2(t.line));
      for (const Vec2& end : {t.line.front(), t.line.back()})
        ends.push_back(*places.on_form(static_cast<int>(i), end, false));
    }
  CHECK(feet == 2);
  CHECK(girth == Approx(94.25).margin(0.1));
  CHECK(area == Approx(706.9).margin(1.5));
  for (const Vec3& end : ends) {
    int met = 0;
    for (const Vec3& other : ends) met += (other - end).norm() < 0.2 ? 1 : 0;
    CHECK(met >= 2);
  }
}

TEST_CASE("a place measured on the foam is that place on the form", "[dress][marks][property]") {
  std::vector<CutLine> cuts;
  for (const double side : {1.0, -1.0})
    cuts.push_back({{0.0, 0.0, side * 100.0}, {0.0, 60.0, side * 80.0}, {0.0, 120.0, side * 60.0}});
  const auto cut = draw_cuts(turned_cone(), cuts);
  REQUIRE(cut);
  PanelOptions options;
  options.thickness_mm = 0.0, options.form_is_outside = true;
  const auto panels = make_panels(*cut, options);
  REQUIRE(panels);
  const auto pieces = make_pieces(*panels);
  const std::vector<int> part_of{1};
  const PiecePlaces places(pieces, *panels, part_of);
  const DressSite site = DressSite::of_mesh(*cut);
  for (int i = 0; i < 60; ++i) {
    const double a = 0.05 + 0.104 * i, t = 0.02 + 0.016 * i, r = 100.0 - 40.0 * t;
    const Vec3 on = site.onto({r * std::sin(a), 120.0 * t, r * std::cos(a)});
    const OnPiece at = places.on_piece(on, 1);
    REQUIRE(at.there());
    const auto back = places.on_form(at.piece, at.at, at.flipped);
    REQUIRE(back);
    CHECK((*back - on).norm() < 1e-9);
  }
  const auto beside = places.on_form(0, pieces[0].outline.front() + Vec2(4000.0, 0.0), false);
  REQUIRE_FALSE(beside);
  CHECK(beside.error().text.find("beside the piece") != std::string::npos);
}

TEST_CASE("tufts from a rim inwards are counted row by row, with enough to spare", "[dress][tufts]") {
  const Dressed d = dressed_case(
      as_form(turned_cone()), R"({"kind":"tufts","line":{"rim":1},"rows":6,"pitch_mm":12,"wide_mm":20,"overlap":0.4})");
  INFO(told_by(d));
  std::vector<int> counts;
  for (const DressRow& r : d.rows) counts.push_back(r.count);
  CHECK(counts == std::vector<int>{53, 51, 49, 47, 45, 43});
  CHECK(d.count == 288);
  CHECK(d.with_spare == 332);
}

TEST_CASE("scales laid from the far end are as many a row as the girth over them asks", "[dress][scales]") {
  const Dressed d = dressed_case(as_form(turned_cone()),
      R"({"kind":"scales","line":{"rim":1},"long_mm":30,"exposed_mm":18,"wide_mm":25,"thick_mm":2})");
  INFO(told_by(d));
  std::vector<int> counts;
  for (const DressRow& r : d.rows) counts.push_back(r.count);
  CHECK(counts == std::vector<int>{18, 19, 21, 22, 23, 25, 25});
  CHECK(d.count == 153);
  CHECK(d.yield.pieces.size() == 7);
}

TEST_CASE("teeth are graded from the middle to both ends and say what stays open", "[dress][teeth]") {
  const Teeth teeth{.count = 12, .gap_mm = 2.0, .margin_mm = 5.0, .least = 0.5, .high_mm = 30.0};
  const ToothRow row = teeth_along(teeth, 240.0);
  CHECK(row.wide_mm.front() == Approx(11.92).margin(0.01));
  CHECK(*std::max_element(row.wide_mm.begin(), row.wide_mm.end()) == Approx(22.75).margin(0.01));
  CHECK(row.at_mm.front() == Approx(10.96).margin(0.01));
  CHECK(row.at_mm.back() == Approx(229.04).margin(0.01));
  double heights = 0.0;
  for (const double h : row.high_mm) heights += h;
  CHECK(heights == Approx(261.8).margin(0.1));
  CHECK(row.open_share == Approx(0.6705).margin(0.0005));
}

TEST_CASE("cord is reckoned by its path, and one wrap more than there are cords", "[dress][lacing]") {
  CHECK(lace_mm(LacedPlates::Path::ladder, 14, 12, 16, 5, 150) == Approx(924.0));
  CHECK(lace_mm(LacedPlates::Path::crossed, 14, 12, 16, 5, 150) == Approx(976.0));
  CHECK(lace_mm(LacedPlates::Path::straight, 14, 12, 16, 5, 150) == Approx(820.0));
  const Dressed d = dressed_case(as_form(turned_cone()),
      R"({"kind":"lacing","columns":14,"pitch_mm":12,"apart_mm":16,"thick_mm":5,)"
      R"("tail_mm":150,"path":"crossed","cords":10})");
  CHECK(d.length_mm == Approx(976.0));
  const auto wraps =
      std::find_if(d.yield.wants.begin(), d.yield.wants.end(), [](const Want& w) { return w.id == "dress/tip-wrap"; });
  REQUIRE(wraps != d.yield.wants.end());
  CHECK(wraps->need == 11.0);
}

TEST_CASE("distances over a surface are those of its own geodesics", "[dress][distance]") {
  const Mesh mesh = turned_cone();
  const DressSite site = DressSite::of_mesh(as_form(mesh));
  const auto far = distance_over(mesh, site.rims[0].at, true);
  const double slant = std::hypot(40.0, 120.0);
  double worst = 0.0;
  for (std::size_t v = 0; v < mesh.vertices.size(); ++v)
    worst = std::max(worst, std::abs(far[v] - slant * mesh.vertices[v].y() / 120.0));
  CHECK(worst < 0.3);
  const auto way = shortest_way(site, {0.0, 10.0, 96.7}, {0.0, 110.0, -63.3});
  REQUIRE(way);
  // Laid flat the cone is a sector: the chord between both places.
  const double sine = 40.0 / slant, near = 96.667 / sine, top = 63.333 / sine, angle = kPi * sine;
  const double chord = std::sqrt(near * near + top * top - 2.0 * near * top * std::cos(angle));
  CHECK(length_of(*way, false) == Approx(chord).epsilon(0.002));
}

TEST_CASE("the rules of details in the program are those of its data", "[dress][rules]") {
  CHECK(dress_rules() == DressRules{});
}
