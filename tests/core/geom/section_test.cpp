#include "core/geom/section.hpp"

#include <catch2/catch.hpp>

#include "core/base/random.hpp"
#include "support/solids.hpp"

using namespace awl;

TEST_CASE("the hull of a square with points inside is the square", "[geom][section]") {
  std::vector<Vec2> points{{0, 0}, {10, 0}, {10, 10}, {0, 10}, {5, 5}, {3, 7}, {5, 0}};
  const auto hull = convex_hull(points);
  CHECK(hull.size() == 4);
  CHECK(tape_round_mm(points) == Approx(40.0));
}

TEST_CASE("no point lies outside its hull, and more points never make it shorter", "[geom][section][property]") {
  Random random(GENERATE(range(1, 12)));
  std::vector<Vec2> points;
  double last = 0.0;
  for (int i = 0; i < 60; ++i) {
    points.push_back({random.normal(), random.normal()});
    const auto hull = convex_hull(points);
    for (std::size_t k = 0; k < hull.size() && hull.size() > 2; ++k) {
      const Vec2 a = points[hull[k]], d = points[hull[(k + 1) % hull.size()]] - a;
      for (const Vec2& p : points) REQUIRE(d.x() * (p - a).y() - d.y() * (p - a).x() >= -1e-12);
    }
    const double length = closed_length(points, hull);
    REQUIRE(length >= last - 1e-12);
    last = length;
  }
}

TEST_CASE("a ball's section is a circle of the right length", "[geom][section]") {
  const Mesh ball = test::ball(50.0, 4.0);
  const auto lines = section_lines(ball, Plane{Vec3(0, 30, 0), Vec3::UnitY()});
  REQUIRE(lines.size() == 1);
  CHECK((lines[0].front() - lines[0].back()).norm() < 1e-9);
  double length = 0.0;
  for (std::size_t i = 0; i + 1 < lines[0].size(); ++i) length += (lines[0][i + 1] - lines[0][i]).norm();
  CHECK(length == Approx(kTwoPi * 40.0).epsilon(0.005));
}

TEST_CASE("crossings lie on the plane", "[geom][section]") {
  const Mesh ball = test::ball(50.0, 6.0);
  std::vector<std::array<int, 2>> edges;
  for (const auto& e : topology_of(ball).edges) edges.push_back({e.a, e.b});
  const Plane plane{Vec3(3, 4, 5), Vec3(1, 2, -1).normalized()};
  const auto points = crossings(edges, ball.vertices, plane);
  REQUIRE(points.size() > 30);
  for (const EdgePoint& p : points) CHECK(plane.height(p.on(ball.vertices)) == Approx(0.0).margin(1e-9));
}
