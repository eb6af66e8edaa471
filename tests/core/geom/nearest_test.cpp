#include "core/geom/nearest.hpp"

#include <catch2/catch.hpp>

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

TEST_CASE("rays meet the near wall first and stop where nothing is", "[geom][nearest]") {
  const Nearest near(test::cube(10.0));
  const auto hit = near.first_hit({5, 5, 30}, {0, 0, -1});
  REQUIRE(hit);
  CHECK(hit->along_mm == Approx(20.0));
  CHECK_FALSE(near.first_hit({5, 5, 30}, {0, 0, 1}));
  CHECK(near.blocked({5, 5, 30}, {0, 0, -1}, 25.0));
  CHECK_FALSE(near.blocked({5, 5, 30}, {0, 0, -1}, 15.0));
}
