#include "core/form/oval.hpp"

#include <Eigen/Geometry>
#include <catch2/catch.hpp>

#include "core/base/numbers.hpp"
#include "core/base/random.hpp"
#include "core/form/ring_mesh.hpp"

using namespace awl;

namespace {

double chord_girth(const Oval& o) {
  double sum = 0.0;
  constexpr int kSteps = 4000;
  for (int i = 0; i < kSteps; ++i) sum += (o.point(kTwoPi * (i + 1) / kSteps) - o.point(kTwoPi * i / kSteps)).norm();
  return sum;
}

}  // namespace

TEST_CASE("a circle's support is its radius and its girth two pi of it", "[form][oval]") {
  const Oval circle = Oval::ellipse(80.0, 80.0);
  for (const double a : {0.0, 0.7, 2.0, 3.1}) {
    CHECK(circle.support(a) == Approx(80.0));
    CHECK(circle.radius(a) == Approx(80.0));
  }
  CHECK(circle.girth_mm() == Approx(kTwoPi * 80.0));
  CHECK(circle.circle_error_mm() < 1e-9);
}

TEST_CASE("the girth of any oval is that of its outline, and ease adds two pi of itself", "[form][oval][property]") {
  Random random(11);
  for (int i = 0; i < 40; ++i) {
    const Oval o = Oval::ellipse(random.uniform(50, 110), random.uniform(60, 120)).shifted(random.uniform(-20, 20));
    CHECK(chord_girth(o) == Approx(o.girth_mm()).epsilon(1e-4));
    CHECK(o.grown(7.5).girth_mm() == Approx(o.girth_mm() + kTwoPi * 7.5));
    const double b = random.uniform(100, 220), l = random.uniform(120, 240);
    const Oval scaled = o.scaled(b, l);
    CHECK(scaled.breadth_mm() == Approx(b).epsilon(1e-3));
    CHECK(scaled.length_mm() == Approx(l).epsilon(1e-3));
    CHECK(scaled.smallest_radius_mm() > 0.0);
  }
}

TEST_CASE("an oval laid round points leaves none outside and stays round", "[form][oval][property]") {
  Random random(5);
  for (int i = 0; i < 30; ++i) {
    std::vector<Vec2> points;
    for (int k = 0; k < 60; ++k) points.push_back({random.uniform(-75, 75), random.uniform(-95, 100)});
    const Oval o = Oval::round(points);
    CHECK(o.smallest_radius_mm() >= 7.0);
    for (const Vec2& p : points) {
      double outside = -1e9;
      for (int k = 0; k <= 90; ++k) {
        const double a = kPi * k / 90.0;
        outside = std::max(outside, std::abs(p.x()) * std::sin(a) + p.y() * std::cos(a) - o.support(a));
      }
      CHECK(outside < 0.3);
    }
  }
}

TEST_CASE("points of a stack are evenly spread, front and back exactly in the middle", "[form][oval]") {
  const Oval o = Oval::squarish(80, 95, 4.0);
  const auto angles = o.even_angles(48);
  REQUIRE(angles.size() == 49);
  CHECK(o.point(angles.front()).x() == Approx(0.0).margin(1e-9));
  CHECK(o.point(angles.back()).x() == Approx(0.0).margin(1e-9));
  double least = 1e9, most = 0.0;
  for (int i = 0; i < 48; ++i) {
    const double step = (o.point(angles[i + 1]) - o.point(angles[i])).norm();
    least = std::min(least, step), most = std::max(most, step);
  }
  CHECK(most < 1.15 * least);
}

TEST_CASE("rings in leaned planes are joined where both tangents lie in one plane with the ruling",
    "[form][rings][property]") {
  Random random(3);
  for (int i = 0; i < 25; ++i) {
    const RingCurve low{
        Oval::ellipse(random.uniform(60, 100), random.uniform(80, 110)), 0.0, radians(random.uniform(-8, 8)), 0.0, 0.0};
    const RingCurve high{Oval::ellipse(random.uniform(60, 100), random.uniform(80, 110)), 140.0,
        radians(random.uniform(-10, 10)), 0.0, 0.0};
    for (const double a : {0.3, 0.9, 1.6, 2.4, 2.9}) {
      const double b = developable_partner(low, a, high);
      const Vec3 ruling = (high(b) - low(a)).normalized();
      CHECK(std::abs(low.tangent(a).cross(high.tangent(b)).dot(ruling)) < 1e-6);
    }
  }
}
