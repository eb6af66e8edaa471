#include "core/geom/nearest.hpp"

#include <algorithm>
#include <catch2/catch.hpp>
#include <cmath>
#include <limits>

#include "core/base/random.hpp"
#include "support/solids.hpp"

using namespace awl;

TEST_CASE("distances from a cube are right in sign and size at faces, edges and corners", "[geom][nearest]") {
  const Nearest near(test::cube(10.0));
  CHECK(near.to({5, 5, 14}).signed_mm == Approx(4.0));
  CHECK(near.to({5, 5, 9}).signed_mm == Approx(-1.0));
  CHECK(near.to({13, 14, 5}).signed_mm == Approx(5.0));
  CHECK(near.to({12, 12, 11}).signed_mm == Approx(3.0));
  CHECK(near.to({5, 5, 5}).signed_mm == Approx(-5.0));
}

TEST_CASE("the tree agrees with looking at every triangle", "[geom][nearest][property]") {
  const Mesh ball = test::ball(40.0, 9.0);
  const Nearest near(ball);
  Random random(5);
  for (int i = 0; i < 200; ++i) {
    const Vec3 p(random.uniform(-70, 70), random.uniform(-70, 70), random.uniform(-70, 70));
    double best = 1e300;
    for (const Tri& t : ball.triangles) {
      const Vec3 &a = ball.vertices[t[0]], &b = ball.vertices[t[1]], &c = ball.vertices[t[2]];
      const Vec3 w = closest_weights(p, a, b, c);
      best = std::min(best, (w[0] * a + w[1] * b + w[2] * c - p).norm());
    }
    REQUIRE(std::abs(near.to(p).signed_mm) == Approx(best).margin(1e-4));
    REQUIRE((near.to(p).signed_mm < 0) ==
        (p.norm() < 39.0          ? true
                : p.norm() > 40.0 ? false
                                  : near.to(p).signed_mm < 0));
  }
}

namespace {

/// The closest place by looking at every triangle.
double looked_for_mm(const Mesh& mesh, const Vec3& p) {
  double best = 1e300;
  for (const Tri& t : mesh.triangles) {
    const Vec3 &a = mesh.vertices[t[0]], &b = mesh.vertices[t[1]], &c = mesh.vertices[t[2]];
    const Vec3 w = closest_weights(p, a, b, c);
    if (const double mm = (w[0] * a + w[1] * b + w[2] * c - p).norm(); mm < best) best = mm;
  }
  return best;
}

}  // namespace

TEST_CASE(
    "a heap of triangles of every size, near and far off: the closest one, exactly", "[geom][nearest][property]") {
  Random random(71);
  for (const double size : {1e-3, 1.0, 300.0, 2e5}) {
    for (const int count : {1, 3, 4, 5, 17, 300}) {
      Mesh heap;
      for (int f = 0; f < count; ++f) {
        const Vec3 at = size * Vec3(random.normal(), random.normal(), random.normal());
        const double wide = size * std::pow(10.0, random.uniform(-4.0, 0.0));
        for (int k = 0; k < 3; ++k)
          heap.vertices.push_back(at + wide * Vec3(random.normal(), random.normal(), random.normal()));
        heap.triangles.push_back({3 * f, 3 * f + 1, 3 * f + 2});
      }
      heap.triangles.push_back(heap.triangles[0]);  // twice the same, and one without area
      heap.triangles.push_back({0, 0, 1});
      const Nearest near(heap);
      CAPTURE(size, count);
      for (int i = 0; i < 40; ++i) {
        const Vec3 p =
            size * std::pow(10.0, random.uniform(-2.0, 1.5)) * Vec3(random.normal(), random.normal(), random.normal());
        const double mm = looked_for_mm(heap, p);
        const NearestHit hit = near.to(p);
        REQUIRE(std::abs(hit.signed_mm) == Approx(mm).epsilon(1e-9).margin(1e-12 * size));
        const Tri& t = heap.triangles[static_cast<std::size_t>(hit.triangle)];
        const Vec3 there = hit.weights[0] * heap.vertices[t[0]] + hit.weights[1] * heap.vertices[t[1]] +
            hit.weights[2] * heap.vertices[t[2]];
        REQUIRE((there - hit.point).norm() <= 1e-9 * (size + hit.point.norm()));
        // Looking within a distance finds the same or, where that is less, nothing.
        const auto within = near.within(p, 1.001 * mm + 1e-12 * size);
        REQUIRE(within);
        REQUIRE(within->signed_mm == Approx(hit.signed_mm).epsilon(1e-9).margin(1e-12 * size));
        if (mm > 1e-6 * size) REQUIRE_FALSE(near.within(p, 0.999 * mm));
      }
    }
  }
}

TEST_CASE("places and triangles that are no numbers are borne", "[geom][nearest][hostile]") {
  constexpr double kNone = std::numeric_limits<double>::quiet_NaN();
  Mesh cube = test::cube(10.0);
  const Nearest sound(cube);
  CHECK(sound.to(Vec3::Constant(kNone)).triangle >= 0);
  CHECK_FALSE(sound.within(Vec3::Constant(kNone), 5.0));
  CHECK(std::abs(sound.to({1e30, 0, 0}).signed_mm) == Approx(1e30));
  CHECK(std::isinf(std::abs(sound.to({1e200, 1e200, 0}).signed_mm)));
  // One corner that is none takes its triangles with it, not the others.
  const int lost = static_cast<int>(cube.vertices.size());
  cube.vertices.push_back(Vec3::Constant(kNone));
  cube.triangles.push_back({0, 1, lost});
  CHECK(Nearest(cube).to({5, 5, 14}).signed_mm == Approx(4.0));
  Mesh all_lost;
  all_lost.vertices.assign(3, Vec3::Constant(kNone));
  all_lost.triangles = {{0, 1, 2}};
  CHECK(Nearest(all_lost).to({0, 0, 0}).triangle == 0);
  CHECK(Nearest(Mesh{}).to({0, 0, 0}).triangle == -1);
}

TEST_CASE(
    "who asks again about a mesh shares the tree that is there; a mesh that differs has its own", "[geom][nearest]") {
  Mesh ball = test::ball(31.25, 6.0);
  const Mesh whole = ball;
  const int before = Nearest::trees_built();
  const Nearest first(ball);
  CHECK(Nearest::trees_built() == before + 1);
  { const Nearest second(ball); }
  CHECK(Nearest::trees_built() == before + 1);
  ball.vertices[7] *= 1.5;
  const Nearest moved(ball);
  CHECK(Nearest::trees_built() == before + 2);
  CHECK(moved.to(ball.vertices[7]).signed_mm == Approx(0.0).margin(1e-9));
  CHECK(first.to(ball.vertices[7]).signed_mm > 5.0);
  std::reverse(ball.triangles.begin(), ball.triangles.end());
  CHECK(Nearest(ball).to(ball.vertices[7]).triangle != moved.to(ball.vertices[7]).triangle);
  // What is not asked for is let go once there is enough else.
  for (int i = 0; i < 60; ++i) {
    ball.vertices[0].x() += 1.0;
    const Nearest other(ball);
  }
  const int filled = Nearest::trees_built();
  { const Nearest again(ball); }
  CHECK(Nearest::trees_built() == filled);
  { const Nearest again(whole); }
  CHECK(Nearest::trees_built() == filled + 1);
}

TEST_CASE("rays meet the near wall first and stop where nothing is", "[geom][nearest]") {
  const Nearest near(test::cube(10.0));
  const auto hit = near.first_hit({5, 5, 30}, {0, 0, -1});
  REQUIRE(hit);
  CHECK(hit->along_mm == Approx(20.0));
  CHECK_FALSE(near.first_hit({5, 5, 30}, {0, 0, 1}));
  CHECK(near.blocked({5, 5, 30}, {0, 0, -1}, 25.0));
  CHECK_FALSE(near.blocked({5, 5, 30}, {0, 0, -1}, 15.0));
}
