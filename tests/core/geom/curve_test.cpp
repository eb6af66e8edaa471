#include "core/geom/curve.hpp"

#include <Eigen/Geometry>
#include <catch2/catch.hpp>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/random.hpp"
#include "core/geom/curve_fit.hpp"

using namespace awl;

namespace {

Vec2 somewhere(Random& random) { return {random.uniform(-60.0, 60.0), random.uniform(-60.0, 60.0)}; }

/// A curve without loops: control points that go on.
Cubic some_cubic(Random& random) {
  const Vec2 from = somewhere(random), along = Eigen::Rotation2Dd(random.uniform(0.0, 6.0)) * Vec2(30.0, 0.0);
  const auto aside = [&] { return Vec2(random.uniform(-8.0, 8.0), random.uniform(-8.0, 8.0)); };
  return {{from, from + along + aside(), from + 2.0 * along + aside(), from + 3.0 * along + aside()}};
}

double summed_length(const Cubic& c) {
  double sum = 0.0;
  constexpr int kSteps = 20000;
  for (int k = 0; k < kSteps; ++k) sum += (c.at((k + 1.0) / kSteps) - c.at(1.0 * k / kSteps)).norm();
  return sum;
}

std::vector<Vec2> circle(double radius, int points) {
  std::vector<Vec2> ring;
  for (int i = 0; i < points; ++i) {
    const double a = kTwoPi * i / points;
    ring.push_back(radius * Vec2(std::cos(a), std::sin(a)));
  }
  return ring;
}

}  // namespace

TEST_CASE("a cubic's length is what small steps add up to", "[geom][curve]") {
  Random random(11);
  for (int i = 0; i < 20; ++i) {
    const Cubic c = some_cubic(random);
    const double whole = length_mm(c);
    CHECK(whole == Approx(summed_length(c)).epsilon(1e-6));
    CHECK(length_mm(c, 0.0, 0.3) + length_mm(c, 0.3, 1.0) == Approx(whole).epsilon(1e-7));
    CHECK(length_mm(c.part(0.2, 0.7)) == Approx(length_mm(c, 0.2, 0.7)).epsilon(1e-7));
  }
  CHECK(length_mm(straight({0, 0}, {30, 40})) == Approx(50.0));
}

TEST_CASE("a place is found by its length along a curve", "[geom][curve]") {
  Random random(12);
  for (int i = 0; i < 20; ++i) {
    const Cubic c = some_cubic(random), next = straight(c.p[3], c.p[3] + Vec2(20, 5));
    const Curve curve{c, next};
    const double t = random.uniform(0.0, 1.0);
    const OnCurve on = at_length(curve, length_mm(c, 0.0, t));
    CHECK((on.at - c.at(t)).norm() < 1e-5);
    CHECK(on.along.dot(c.along(t)) > 1.0 - 1e-8);
    CHECK((at_length(curve, length_mm(c) + 0.5 * length_mm(next)).at - next.at(0.5)).norm() < 1e-5);
    CHECK((at_length(curve, 1e6).at - next.p[3]).norm() < 1e-9);
    CHECK((at_length(curve, -5.0).at - c.p[0]).norm() < 1e-9);
  }
}

TEST_CASE("points of a curve keep within their bounds and know their lengths", "[geom][curve]") {
  Random random(13);
  for (int i = 0; i < 20; ++i) {
    const Cubic c = some_cubic(random);
    std::vector<double> lengths;
    const auto points = points_of({c}, 0.02, 10.0, &lengths);
    REQUIRE(points.size() == lengths.size());
    CHECK(points.front() == c.p[0]);
    CHECK(points.back() == c.p[3]);
    CHECK(lengths.back() == Approx(length_mm(c)));
    for (int k = 0; k <= 200; ++k) {
      double off = 1e9;
      for (std::size_t j = 0; j + 1 < points.size(); ++j) {
        const Vec2 chord = points[j + 1] - points[j], p = c.at(k / 200.0) - points[j];
        const double t = std::clamp(p.dot(chord) / chord.squaredNorm(), 0.0, 1.0);
        off = std::min(off, (p - t * chord).norm());
      }
      CHECK(off < 0.0201);
    }
    for (std::size_t j = 0; j + 1 < points.size(); ++j) CHECK((points[j + 1] - points[j]).norm() < 12.0);
  }
}

TEST_CASE("arcs follow a curve and meet without a kink", "[geom][curve]") {
  Random random(14);
  for (int i = 0; i < 30; ++i) {
    const Cubic c = some_cubic(random);
    const auto steps = arcs_of({c}, 0.05);
    REQUIRE_FALSE(steps.empty());
    CHECK((steps.back().to - c.p[3]).norm() < 1e-9);
    Vec2 from = c.p[0], along = c.along(0.0);
    for (const ArcStep& s : steps) {
      const Vec2 chord = s.to - from;
      const double half = 2.0 * std::atan(s.bulge);
      // An arc begins half its angle before its chord and ends as much after it.
      const Vec2 begins = Eigen::Rotation2Dd(-half) * Vec2(chord.normalized());
      CHECK(begins.dot(along) > std::cos(radians(0.01)));
      along = Eigen::Rotation2Dd(half) * Vec2(chord.normalized());
      from = s.to;
    }
    CHECK(along.dot(c.along(1.0)) > std::cos(radians(0.01)));
  }
}

TEST_CASE("a fit through a circle's points is the circle", "[geom][curve]") {
  const auto ring = circle(40.0, 60);
  const Curve curve = fit_outline(ring, 25.0, {});
  REQUIRE_FALSE(curve.empty());
  CHECK(curve.size() <= 8);
  CHECK(length_mm(curve) == Approx(kTwoPi * 40.0).epsilon(1e-3));
  for (const Cubic& c : curve)
    for (int k = 0; k <= 10; ++k) CHECK(c.at(k / 10.0).norm() == Approx(40.0).margin(0.2));
  // It closes without a corner.
  CHECK((curve.front().p[0] - curve.back().p[3]).norm() < 1e-9);
  CHECK(curve.front().along(0.0).dot(curve.back().along(1.0)) > 1.0 - 1e-9);
}

TEST_CASE("corners of an outline stay where they are, and noise between them goes", "[geom][curve]") {
  Random random(15);
  std::vector<Vec2> outline;
  const std::vector<Vec2> corners{{0, 0}, {120, 0}, {120, 80}, {0, 80}};
  for (std::size_t side = 0; side < 4; ++side)
    for (int k = 0; k < 20; ++k) {
      const Vec2 from = corners[side], along = corners[(side + 1) % 4] - from;
      const Vec2 across = Vec2(-along.y(), along.x()).normalized();
      outline.push_back(from + k / 20.0 * along + (k == 0 ? 0.0 : random.uniform(-0.15, 0.15)) * across);
    }
  const Curve curve = fit_outline(outline, 25.0, {});
  for (const Vec2& corner : corners) {
    double nearest = 1e9;
    for (const Cubic& c : curve) nearest = std::min(nearest, (c.p[0] - corner).norm());
    CHECK(nearest < 1e-9);
  }
  CHECK(curve.size() <= 6);
  double sum = 0.0;
  for (const Cubic& c : curve) sum += length_mm(c);
  CHECK(sum == Approx(400.0).epsilon(2e-4));
}

TEST_CASE("two rows are fitted over one parameter with the same breaks", "[geom][curve]") {
  std::vector<std::vector<Vec2>> rows(2);
  for (int k = 0; k <= 30; ++k) {
    const double x = 5.0 * k;
    rows[0].push_back({x, 12.0 * std::sin(x / 25.0)});
    rows[1].push_back({300.0 - x, 40.0 + 9.0 * std::cos(x / 30.0)});
  }
  const FittedRows fit = fit_rows(rows, false, {0.05, 12.0, 3});
  CHECK(fit.worst_mm <= 0.05);
  REQUIRE(fit.knots.size() == 2);
  CHECK(fit.knots[0].size() == fit.breaks.size());
  CHECK(fit.knots[1].size() == fit.breaks.size());
  for (std::size_t r = 0; r < 2; ++r) {
    const Curve c = fit.curve(r);
    CHECK(c.front().p[0] == rows[r].front());
    CHECK(c.back().p[3] == rows[r].back());
    for (std::size_t s = 0; s + 1 < c.size(); ++s) CHECK(c[s].along(1.0).dot(c[s + 1].along(0.0)) > 1.0 - 1e-9);
  }
}
