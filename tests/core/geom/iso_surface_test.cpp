#include "core/geom/iso_surface.hpp"

#include <catch2/catch.hpp>
#include <atomic>

#include "core/base/numbers.hpp"
#include "core/base/random.hpp"

using namespace awl;

namespace {

/// How far a chord through a cell, corner to corner, lies within the ball.
constexpr double kFlat = 3.0 * 4.0 * 4.0 / (8.0 * 50.0);

double ball(const Vec3& p) { return p.norm() - 50.0; }
const Grid kGrid = grid_over(Vec3::Constant(-60.0), Vec3::Constant(60.0), 4.0);

}  // namespace

TEST_CASE("a grid covers its box from its low corner", "[geom][iso]") {
  const Grid grid = grid_over({-10, 0, 5}, {11, 7, 5.5}, 2.0);
  CHECK(grid.low == Vec3(-10, 0, 5));
  const int least[] = {11, 4, 1};
  for (int k = 0; k < 3; ++k) CHECK(grid.cells[k] >= least[k]);
  for (int k = 0; k < 3; ++k) CHECK(grid.cells[k] <= least[k] + 1);
}

TEST_CASE("a ball's surface is closed, faces outwards and lies where its field is nothing", "[geom][iso]") {
  const auto mesh = iso_surface(kGrid, ball);
  REQUIRE(mesh);
  CHECK(border_loops(*mesh).empty());
  CHECK(euler_characteristic(*mesh) == 2);
  CHECK(volume_mm3(*mesh) == Approx(4.0 / 3.0 * kPi * 50.0 * 50.0 * 50.0).epsilon(0.01));
  for (const Vec3& p : mesh->vertices) REQUIRE(std::abs(ball(p)) < kFlat);
}

TEST_CASE("where the surface leaves the grid its border lies on the grid's side", "[geom][iso]") {
  const auto half = iso_surface(grid_over({0, -60, -60}, {60, 60, 60}, 4.0), ball);
  REQUIRE(half);
  const auto loops = border_loops(*half);
  REQUIRE(loops.size() == 1);
  for (const int v : loops[0]) REQUIRE(half->vertices[v].x() == 0.0);
  double length = 0.0;
  for (std::size_t i = 0; i < loops[0].size(); ++i)
    length += (half->vertices[loops[0][(i + 1) % loops[0].size()]] - half->vertices[loops[0][i]]).norm();
  CHECK(length == Approx(100.0 * kPi).epsilon(0.01));
}

TEST_CASE("a distance is looked at only near its surface, and the surface is the same", "[geom][iso]") {
  std::atomic<long> asked{0};
  const auto counted = [&](const Vec3& p) {
    ++asked;
    return ball(p);
  };
  const Grid fine = grid_over(Vec3::Constant(-60.0), Vec3::Constant(60.0), 1.5);
  const auto near = distance_surface(fine, counted);
  REQUIRE(near);
  const long corners = static_cast<long>(fine.cells[0] + 1) * (fine.cells[1] + 1) * (fine.cells[2] + 1);
  CHECK(asked < corners / 6);
  const auto all = iso_surface(fine, ball);
  REQUIRE(all);
  CHECK(near->vertices.size() == all->vertices.size());
  CHECK(near->triangles.size() == all->triangles.size());
  CHECK(volume_mm3(*near) == Approx(volume_mm3(*all)).epsilon(1e-9));
}

TEST_CASE("nothing of many small bodies is overlooked, however they lie in the blocks", "[geom][iso][property]") {
  Random random(17);
  for (int round = 0; round < 12; ++round) {
    std::vector<Vec3> middles;
    for (int i = 0; i < 25; ++i)
      middles.push_back({random.uniform(-50, 50), random.uniform(-50, 50), random.uniform(-50, 50)});
    const double radius = random.uniform(2.0, 9.0);
    const auto bodies = [&](const Vec3& p) {
      double least = 1e300;
      for (const Vec3& m : middles) least = std::min(least, (p - m).norm() - radius);
      return least;
    };
    const Grid grid = grid_over(Vec3::Constant(-61.0), Vec3(random.uniform(40, 62), 61.0, 58.0), 1.7);
    DistanceBand band;
    const auto near = distance_surface(grid, bodies), with_band = distance_surface(grid, bodies, {}, {}, &band),
               all = iso_surface(grid, bodies);
    REQUIRE((near && with_band && all));
    CHECK(near->triangles.size() == all->triangles.size());
    CHECK(area_mm2(*near) == Approx(area_mm2(*all)).epsilon(1e-9));
    CHECK(near->vertices == with_band->vertices);
    // Within three quarters of a cell of the surface the band knows.
    for (const Vec3& p : near->vertices)
      for (int k = 0; k < 3; ++k) {
        const Vec3 beside = p + random.uniform(-0.7, 0.7) * grid.cell_mm * Vec3::Unit(k);
        const Vec3 in = (beside - grid.low) / grid.cell_mm;
        const bool inside =
            (in.array() >= 0.0).all() && in.x() <= grid.cells[0] && in.y() <= grid.cells[1] && in.z() <= grid.cells[2];
        if (inside) REQUIRE(band.at(beside).has_value());
      }
  }
}

TEST_CASE("nothing is made where nothing is wanted", "[geom][iso]") {
  const auto upper = distance_surface(kGrid, ball, {}, [](const Vec3& p) { return p.y(); });
  REQUIRE(upper);
  CHECK_FALSE(border_loops(*upper).empty());
  double low = 0.0;
  for (const Vec3& p : upper->vertices) low = std::min(low, p.y());
  CHECK(low > -50.0 + 4.0);
  for (const Vec3& p : upper->vertices) REQUIRE(p.norm() == Approx(50.0).margin(kFlat));
}

TEST_CASE("the band near a surface knows the distance and the way onto it", "[geom][iso][property]") {
  DistanceBand band;
  REQUIRE(distance_surface(kGrid, ball, {}, {}, &band));
  Random random(4);
  for (int i = 0; i < 300; ++i) {
    const Vec3 way = Vec3(random.normal(), random.normal(), random.normal()).normalized(),
               p = random.uniform(47.0, 53.0) * way;
    const auto d = band.at(p);
    REQUIRE(d);
    REQUIRE(*d == Approx(ball(p)).margin(kFlat));
    const auto on = band.onto(p, false);
    REQUIRE(on);
    REQUIRE(on->norm() == Approx(50.0).margin(kFlat));
    REQUIRE((*on - 50.0 * way).norm() < 0.5);
  }
  // Sliding onto it in the mirror plane stays in the mirror plane.
  const auto kept = band.onto({0, 35.0, 37.0}, true);
  REQUIRE(kept);
  CHECK(kept->x() == 0.0);
  CHECK(kept->norm() == Approx(50.0).margin(kFlat));
  CHECK_FALSE(band.at({0, 0, 0}));
}

TEST_CASE("making a surface stops when asked", "[geom][iso]") {
  const Progress stop([](double f) { return f < 0.3; });
  const auto one = iso_surface(kGrid, ball, stop), other = distance_surface(kGrid, ball, stop);
  REQUIRE_FALSE(one);
  CHECK(one.error().code == Errc::cancelled);
  REQUIRE_FALSE(other);
  CHECK(other.error().code == Errc::cancelled);
}
