#include "core/geom/split.hpp"

#include <catch2/catch.hpp>

#include "support/solids.hpp"

using namespace awl;

TEST_CASE("splitting keeps the surface whole and puts the curve on edges", "[geom][split][property]") {
  const double tilt = GENERATE(take(12, random(-1.0, 1.0)));
  const double shift = GENERATE_COPY(take(2, random(-30.0, 30.0)));
  CAPTURE(tilt, shift);
  Mesh ball = test::ball(50.0, 8.0);
  const auto f = [&](const Vec3& p) { return p.y() + tilt * p.x() - shift; };
  EdgeLabels held;
  const Split split = split_along(ball, f, held);
  CHECK(euler_characteristic(ball) == 2);
  CHECK(border_loops(ball).empty());
  CHECK(smallest_angle_deg(ball) > 3.0);
  for (const Tri& t : ball.triangles) {
    double low = 0.0, high = 0.0;
    for (const int v : t) low = std::min(low, f(ball.vertices[v])), high = std::max(high, f(ball.vertices[v]));
    REQUIRE((low > -1e-6 || high < 1e-6));
  }
  std::map<int, int> ends;
  for (const auto& [a, b] : split.curve) ++ends[a], ++ends[b];
  for (const auto& [v, degree] : ends) CHECK(degree == 2);
}

TEST_CASE("a held curve that is cut passes its label to both halves", "[geom][split]") {
  Mesh m = test::patch(6, [](double u, double v) { return Vec3(60 * u, 60 * v, 0); });
  EdgeLabels held;
  const auto middle = split_along(
      m, [](const Vec3& p) { return p.x() - 33.0; }, held);
  for (const auto& e : middle.curve) held[e] = 7;
  split_along(
      m, [](const Vec3& p) { return p.y() - 0.3 * p.x() - 11.0; }, held);
  double length = 0.0;
  for (const auto& [edge, label] : held) {
    CHECK(label == 7);
    CHECK(m.vertices[edge.first].x() == Approx(33.0));
    length += (m.vertices[edge.first] - m.vertices[edge.second]).norm();
  }
  CHECK(length == Approx(60.0));
}

TEST_CASE("keeping one side leaves its area", "[geom][split]") {
  Mesh m = test::patch(8, [](double u, double v) { return Vec3(80 * u, 80 * v, 0); });
  EdgeLabels held = mirror_line(m);
  CHECK(held.size() == 8);
  const auto f = [](const Vec3& p) { return 50.0 - p.y(); };
  split_along(m, f, held);
  const Mesh kept = keep_where(m, f, held);
  CHECK(area_mm2(kept) == Approx(80.0 * 50.0));
  for (const auto& [edge, label] : held) CHECK(kept.vertices[edge.first].x() == 0.0);
}
