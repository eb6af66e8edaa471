#include "core/seam/flatten.hpp"

#include <Eigen/Geometry>
#include <catch2/catch.hpp>

#include "core/base/random.hpp"
#include "core/seam/start_maps.hpp"
#include "support/solids.hpp"

using namespace awl;

namespace {

Flattener flat(const Mesh& panel, FlattenOptions options = {}) {
  auto flattener = Flattener::of(panel);
  REQUIRE(flattener);
  REQUIRE(flattener->flatten(options));
  return std::move(*flattener);
}

}  // namespace

TEST_CASE("cylinders and cones lie flat without any strain", "[seam][flatten]") {
  const auto [bottom, top] = GENERATE(table<double, double>({{80.0, 80.0}, {90.0, 50.0}, {60.0, 5.0}}));
  const Mesh m = test::frustum(bottom, top, 70.0, 24);
  const auto f = flat(m);
  const Strain s = summarise(m, f.uv());
  CAPTURE(bottom, top);
  CHECK(s.max < 0.0005);
  CHECK(count_flips(m, f.uv()) == 0);
}

TEST_CASE("gores of a hemisphere reach the known strains", "[seam][flatten]") {
  static const Mesh sphere = test::ball(100.0, 6.0);
  const auto [gores, most] = GENERATE(table<int, double>({{2, 0.087}, {3, 0.060}, {4, 0.044}, {6, 0.027}, {8, 0.020}}));
  const Mesh m = test::gore(sphere, gores);
  const auto f = flat(m);
  const Strain s = summarise(m, f.uv());
  CAPTURE(gores);
  CHECK(s.max < most);
  CHECK(s.stretch > 0.0);
  CHECK(s.squeeze > 0.0);
  CHECK(count_flips(m, f.uv()) == 0);
}

TEST_CASE("the finish lowers the worst place by a third at least", "[seam][flatten]") {
  const Mesh m = test::gore(test::ball(100.0, 9.0), 4);
  const Strain rigid = summarise(m, flat(m, {.minimax = false}).uv());
  const Strain even = summarise(m, flat(m).uv());
  CHECK(even.max < 0.67 * rigid.max);
  CHECK(even.mean < 2.0 * rigid.mean);
}

TEST_CASE("a saddle is flattened without a fold", "[seam][flatten]") {
  const Mesh m = test::patch(20, [](double u, double v) {
    const double x = 100 * (u - 0.5), y = 100 * (v - 0.5);
    return Vec3(x, y, 0.006 * (x * x - y * y));
  });
  const auto f = flat(m);
  CHECK(count_flips(m, f.uv()) == 0);
  CHECK(summarise(m, f.uv()).max < 0.09);
}

TEST_CASE("nearly a whole ball still comes flat, by the slow way if need be", "[seam][flatten]") {
  Mesh m = test::ball(50.0, 6.0);
  EdgeLabels held;
  const auto f = [](const Vec3& p) { return p.y() + 40.0; };
  split_along(m, f, held);
  m = keep_where(m, f, held);
  const auto flattened = flat(m);
  CHECK(count_flips(m, flattened.uv()) == 0);
}

TEST_CASE("turning and moving a panel does not change its strain", "[seam][flatten][property]") {
  const Mesh m = test::gore(test::ball(80.0, 10.0), 4);
  const Strain before = summarise(m, flat(m).uv());
  Random random(GENERATE(1, 2, 3));
  const Eigen::AngleAxisd turn(
      random.uniform(0, 6), Vec3(random.normal(), random.normal(), random.normal()).normalized());
  Mesh moved = m;
  for (Vec3& p : moved.vertices) p = turn * p + Vec3(10, -20, 30);
  const Strain after = summarise(moved, flat(moved).uv());
  CHECK(after.max == Approx(before.max).epsilon(0.02));
  CHECK(after.mean == Approx(before.mean).epsilon(0.02));
}

TEST_CASE("border edges are pulled to the lengths that are asked", "[seam][flatten]") {
  const Mesh m = test::gore(test::ball(80.0, 8.0), 4);
  auto f = flat(m);
  std::vector<EdgeTarget> targets;
  const auto loop = border_loops(m)[0];
  for (std::size_t i = 0; i < loop.size(); ++i) {
    const int a = loop[i], b = loop[(i + 1) % loop.size()];
    targets.push_back({a, b, (f.uv()[a] - f.uv()[b]).norm() * (i % 2 == 0 ? 1.01 : 0.99)});
  }
  REQUIRE(f.match_edges(targets, {}));
  for (const EdgeTarget& t : targets) CHECK((f.uv()[t.a] - f.uv()[t.b]).norm() == Approx(t.length_mm).margin(0.002));
  CHECK(count_flips(m, f.uv()) == 0);
}

TEST_CASE("what is no disk is refused and told what to do", "[seam][flatten]") {
  const auto closed = Flattener::of(test::cube(10.0));
  REQUIRE_FALSE(closed);
  CHECK(closed.error().code == Errc::not_a_disk);
  CHECK(closed.error().text.find("closed") != std::string::npos);
  Mesh ring = test::frustum(50, 50, 40, 12);
  const Mesh other = ring;
  const int n = static_cast<int>(ring.vertices.size());
  for (const Vec3& p : other.vertices) ring.vertices.push_back(p + Vec3(0, 0, 300));
  for (Tri t : other.triangles) ring.triangles.push_back({t[0] + n, t[1] + n, t[2] + n});
  CHECK(Flattener::of(ring).error().text.find("2 borders") != std::string::npos);
  CHECK_FALSE(Flattener::of({}));
  Mesh thin{{{0, 0, 0}, {1, 0, 0}, {2, 0, 0}}, {{0, 1, 2}}};
  CHECK(Flattener::of(thin).error().code == Errc::degenerate_shape);
}

TEST_CASE("flattening stops when asked", "[seam][flatten]") {
  auto f = Flattener::of(test::gore(test::ball(80.0, 8.0), 4));
  const auto stopped = f->flatten({}, Progress([](double fraction) { return fraction < 0.5; }));
  REQUIRE_FALSE(stopped);
  CHECK(stopped.error().code == Errc::cancelled);
}

TEST_CASE("the signed singular values rebuild their matrix", "[seam][strain][property]") {
  Random random(17);
  for (int i = 0; i < 200; ++i) {
    Eigen::Matrix2d j;
    j << random.normal(), random.normal(), random.normal(), random.normal();
    const Polar2 p = signed_svd(j);
    CHECK((p.u * Eigen::Vector2d(p.s1, p.s2).asDiagonal() * p.v.transpose() - j).norm() < 1e-12);
    CHECK(p.u.determinant() == Approx(1.0));
    CHECK(p.v.determinant() == Approx(1.0));
    CHECK(p.s1 >= std::abs(p.s2));
    CHECK(p.s1 * p.s2 == Approx(j.determinant()).margin(1e-12));
  }
}

TEST_CASE("strain is what a stretched square shows", "[seam][strain]") {
  const Mesh m = test::patch(1, [](double u, double v) { return Vec3(10 * u, 10 * v, 0); });
  std::vector<Vec2> uv;
  for (const Vec3& p : m.vertices) uv.push_back({p.x() / 1.05, p.y() / 0.98});
  const Strain s = summarise(m, uv);
  CHECK(s.max == Approx(0.05));
  CHECK(s.stretch == Approx(0.05));
  CHECK(s.squeeze == Approx(0.02));
  CHECK(s.p99 == Approx(0.05));
}

TEST_CASE("a circle start never turns a triangle over", "[seam][flatten]") {
  const Mesh m = test::gore(test::ball(80.0, 8.0), 2);
  CHECK(count_flips(m, start_maps::circle(m, border_loops(m)[0])) == 0);
}

TEST_CASE("outlines that cross themselves are seen", "[seam][flatten]") {
  CHECK_FALSE(crosses_itself({{0, 0}, {10, 0}, {10, 10}, {0, 10}}));
  CHECK(crosses_itself({{0, 0}, {10, 10}, {10, 0}, {0, 10}}));
}
