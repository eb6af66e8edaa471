#include "core/form/wrap_edges.hpp"

#include <catch2/catch.hpp>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/io/build_file.hpp"
#include "support/bench_data.hpp"
#include "support/numbers.hpp"
#include "support/self_intersection.hpp"
#include "core/chain/questions.hpp"

using namespace awl;

namespace {

Build wearing(const char* preset) {
  Build b = test::demo();
  b.parts.clear();
  (void)add_part(b, *part_from_preset(preset));
  b.tape = sheet_of(test::kUsual, "adult");
  return b;
}

/// Lowest border place within 8 degrees of an angle round the head on one side.
double edge_height(const Mesh& mesh, double around_deg, double side) {
  double lowest = 1e9;
  for (const auto& loop : border_loops(mesh))
    for (const int v : loop) {
      const Vec3& p = mesh.vertices[v];
      if (side * p.x() >= -1.0 && std::abs(degrees(std::atan2(side * p.x(), p.z() + 5.0)) - around_deg) < 8.0)
        lowest = std::min(lowest, p.y());
    }
  return lowest;
}

Mesh made(const Build& b) {
  const Derived d = test::formed(b);
  REQUIRE(d.form);
  return d.form->surface.mesh;
}

}  // namespace

TEST_CASE("a curve through values at equal angles passes through them and is smooth and periodic",
    "[form][edges][property]") {
  Random random(5);
  std::vector<double> values(8);
  for (double& v : values) v = random.uniform(-10, 10);
  for (int i = 0; i < 8; ++i) CHECK(round_value(values, kTwoPi * i / 8) == Approx(values[i]).margin(1e-9));
  for (int i = 0; i < 200; ++i) {
    const double a = random.uniform(-9, 9), h = 1e-5;
    CHECK(round_value(values, a) == Approx(round_value(values, a + kTwoPi)).margin(1e-6));
    CHECK(std::abs(round_value(values, a + h) - round_value(values, a)) < 40.0 * h * 8);
  }
}

TEST_CASE(
    "a point of the edge that is raised moves the edge there, on both sides, and not elsewhere", "[form][edges]") {
  const Build plain = wearing("hood");
  Build drawn = plain;
  std::get<WrapSpec>(drawn.parts[0].shape).edge_mm[4] = 30.0;  // 120 degrees round
  const Mesh was = made(plain), is = made(drawn);
  for (const double side : {1.0, -1.0}) {
    CHECK(edge_height(is, 120, side) - edge_height(was, 120, side) == Approx(30.0).margin(7.0));
    CHECK(edge_height(is, 176, side) == Approx(edge_height(was, 176, side)).margin(3.0));
  }
}

TEST_CASE("a left side drawn by itself leaves the right one as it was, and both meet in the middle", "[form][edges]") {
  const Build plain = wearing("full-mask");
  Build drawn = plain;
  auto& spec = std::get<WrapSpec>(drawn.parts[0].shape);
  spec.one_sided = true, spec.left_mm[1] = spec.left_mm[2] = 25.0;
  const Derived was = test::chain()->derive(plain), is = test::chain()->derive(drawn);
  REQUIRE(was.complete());
  REQUIRE(is.complete());
  const auto area = [](const Mesh& mesh, double side) {
    double sum = 0.0;
    for (const Tri& t : mesh.triangles)
      if (side * (mesh.vertices[t[0]].x() + mesh.vertices[t[1]].x() + mesh.vertices[t[2]].x()) > 0.0)
        sum += area_vector(mesh, t).norm();
    return sum;
  };
  CHECK(area(is.form->surface.mesh, -1) == Approx(area(was.form->surface.mesh, -1)).epsilon(0.02));
  CHECK(area(is.form->surface.mesh, 1) < 0.97 * area(was.form->surface.mesh, 1));
  for (const Piece& p : *is.pieces) CHECK(p.copies == 1);
  for (const Seam& s : is.panels->seams) CHECK(std::abs(s.side_mm[0] - s.side_mm[1]) <= 0.05);
  bool left_grip = false, right_grip = false;
  for (const Handle& h : is.form->parts[0]->handles) {
    left_grip = left_grip || (h.dial == "left3" && h.at.x() > 0.0);
    right_grip = right_grip || (h.dial == "edge3" && h.at.x() < 0.0);
  }
  CHECK(left_grip);
  CHECK(right_grip);
}

TEST_CASE("openings are closed curves that can be drawn point by point and stay round the pupils", "[form][edges]") {
  Build b = wearing("full-mask");
  auto& spec = std::get<WrapSpec>(b.parts[0].shape);
  spec.eye_wide_mm = 44, spec.eye_tall_mm = 24;
  const auto reach = [&](const Derived& made) {
    const Vec3 pupil = made.head->at(Landmark::pupil_l);
    double outer = -1e9, inner = 1e9;
    for (const int v : made.form->surface.opening) {
      const Vec3& p = made.form->surface.mesh.vertices[v];
      if (p.x() > 5.0 && std::abs(p.y() - pupil.y()) < 40.0)
        outer = std::max(outer, p.x()), inner = std::min(inner, p.x());
    }
    return std::pair(outer - pupil.x(), pupil.x() - inner);
  };
  const auto plain = reach(test::formed(b));
  CHECK(plain.first == Approx(22.0).margin(4.5));
  CHECK(plain.second == Approx(22.0).margin(3.0));
  spec.eye_tilt_deg = 12, spec.eye_mm[0] = 12.0;
  const Derived d = test::formed(b);
  REQUIRE(d.form);
  CHECK(reach(d).first > plain.first + 7.0);
  CHECK(reach(d).second == Approx(plain.second).margin(3.0));
  int grips = 0;
  for (const Handle& h : d.form->parts[0]->handles) grips += h.dial.rfind("eye", 0) == 0 && h.dial.size() == 4 ? 1 : 0;
  CHECK(grips == kRimPoints);
}

TEST_CASE("points of edges and rims are kept in the file, also those a choice brings", "[form][edges][io]") {
  Build b = wearing("full-mask");
  auto& spec = std::get<WrapSpec>(b.parts[0].shape);
  spec.one_sided = true, spec.left_mm[3] = 11.5, spec.edge_mm[2] = -7, spec.eye_wide_mm = 40, spec.eye_tall_mm = 20,
  spec.eye_mm[5] = 3, spec.eye_aside_mm = 2;
  const auto bytes = build_bytes(b);
  REQUIRE(bytes);
  const auto back = build_from_bytes(*bytes);
  REQUIRE(back);
  CHECK(*back == b);
}

TEST_CASE("wraps of every coverage with random edges are sound or refused with a sentence", "[form][edges][property]") {
  Random random(77);
  int good = 0, told = 0;
  for (int edge = 0; edge < 6; ++edge)
    for (int round = 0; round < 4; ++round) {
      Build b = wearing("hood");
      auto& spec = std::get<WrapSpec>(b.parts[0].shape);
      spec.edge = static_cast<WrapEdge>(edge);
      for (double& mm : spec.edge_mm) mm = random.uniform(-18, 18);
      for (double& mm : spec.face_mm) mm = random.uniform(-10, 10);
      spec.one_sided = round == 3;
      if (spec.one_sided)
        for (int i = 1; i + 1 < kEdgePoints; ++i) spec.left_mm[i] = random.uniform(-12, 12);
      if (edge == 3 || edge == 4)
        spec.eye_wide_mm = random.uniform(24, 44), spec.eye_tall_mm = random.uniform(14, 26),
        spec.eye_tilt_deg = random.uniform(-20, 20);
      CAPTURE(edge, round);
      if (auto can = try_part(*test::chain(), b, 1); !can) {
        ++told;
        CHECK(can.error().text.size() > 30);
        continue;
      }
      ++good;
      const Mesh mesh = made(b);
      CHECK_FALSE(test::crosses_itself(mesh));
      for (const auto& e : topology_of(mesh).edges) CHECK(e.more == 0);
    }
  CAPTURE(good, told);
  CHECK(good >= 4 * told);
}

TEST_CASE(
    "a dial that cannot be turned so far names the nearest value that works, and that one works", "[form][dials]") {
  const Build b = wearing("horn");
  const auto refused = turn(*test::chain(), b, 1, "length", 60.0).and_then([](const Build& shorter) {
    return turn(*test::chain(), shorter, 1, "curl", -420.0);
  });
  REQUIRE_FALSE(refused);
  INFO(refused.error().text);
  const auto at = refused.error().text.find("nearest that works is ");
  REQUIRE(at != std::string::npos);
  const double nearest = test::numbers_in(refused.error().text, at).at(0);
  const auto shorter = turn(*test::chain(), b, 1, "length", 60.0);
  REQUIRE(shorter);
  CHECK(nearest > -420.0);
  CHECK(turn(*test::chain(), *shorter, 1, "curl", nearest));
  CHECK_FALSE(turn(*test::chain(), *shorter, 1, "curl", nearest - 3.0));
}

TEST_CASE("a cowl whose shapes take long to lay is still told at once when its edges leave nothing", "[form][dials]") {
  Build b = wearing("hood");
  std::get<WrapSpec>(b.parts[0].shape).cards = {Card{}};
  const auto refused = turn(*test::chain(), b, 1, "edge", 0.0).and_then([](const Build& next) {
    return turn(*test::chain(), next, 1, "up", 120.0);
  });
  REQUIRE_FALSE(refused);
  CHECK(refused.error().text.find("nearest that works") != std::string::npos);
}
