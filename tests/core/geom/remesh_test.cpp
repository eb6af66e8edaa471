#include "core/geom/remesh.hpp"

#include <catch2/catch.hpp>

#include "support/solids.hpp"

using namespace awl;

TEST_CASE("marching gives a closed ball of the right volume", "[geom][iso]") {
  const auto ball = iso_surface(
      grid_over(Vec3::Constant(-60), Vec3::Constant(60), 4.0), [](const Vec3& p) { return p.norm() - 50.0; });
  REQUIRE(ball);
  CHECK(euler_characteristic(*ball) == 2);
  CHECK(border_loops(*ball).empty());
  CHECK(volume_mm3(*ball) == Approx(4.0 / 3.0 * kPi * 125000.0).epsilon(0.01));
}

TEST_CASE("marching stops when asked to", "[geom][iso]") {
  const auto ball = iso_surface(
      grid_over(Vec3::Constant(-60), Vec3::Constant(60), 4.0), [](const Vec3& p) { return p.norm() - 50.0; },
      Progress([](double f) { return f < 0.3; }));
  REQUIRE_FALSE(ball);
  CHECK(ball.error().code == Errc::cancelled);
}

TEST_CASE("remeshing reaches the wanted size with good triangles on the surface", "[geom][remesh]") {
  const double edge = GENERATE(5.0, 9.0, 14.0);
  const Mesh ball = test::ball(50.0, edge);
  CHECK(euler_characteristic(ball) == 2);
  CHECK(smallest_angle_deg(ball) > 22.0);
  double mean = 0.0;
  const Topology topo = topology_of(ball);
  for (const auto& e : topo.edges)
    mean += (ball.vertices[e.a] - ball.vertices[e.b]).norm() / static_cast<double>(topo.edges.size());
  CHECK(mean == Approx(edge).epsilon(0.15));
  for (const Vec3& p : ball.vertices) CHECK(p.norm() == Approx(50.0).margin(1e-9));
}

TEST_CASE("borders stay where they are while a half is remeshed", "[geom][remesh]") {
  const auto half =
      iso_surface(grid_over({0, -60, -60}, {60, 60, 60}, 4.0), [](const Vec3& p) { return p.norm() - 50.0; });
  RemeshGoal goal;
  goal.edge_mm = [](const Vec3&) { return 7.0; };
  goal.project = [](const Vec3& p, bool border) {
    return border ? Vec3(50.0 * Vec3(0, p.y(), p.z()).normalized()) : Vec3(50.0 * p.normalized());
  };
  const Mesh m = remesh(*half, goal);
  const auto loops = border_loops(m);
  REQUIRE(loops.size() == 1);
  for (const int v : loops[0]) CHECK(m.vertices[v].x() == 0.0);
  CHECK(area_mm2(m) == Approx(2 * kPi * 2500.0).epsilon(0.01));
}
