#include "core/geom/offset.hpp"

#include <Eigen/Geometry>
#include <catch2/catch.hpp>

#include "core/geom/crossing.hpp"
#include "core/geom/solid.hpp"
#include "support/bench_data.hpp"
#include "support/solids.hpp"

using namespace awl;

namespace {

/// A wedge roof: two flat slopes that meet at a ridge along z, each falling by `slope` radians.
Mesh roof(double slope, int n = 10) {
  return test::patch(n, [=](double u, double v) {
    const double x = 80.0 * (u - 0.5);
    return Vec3(x, -std::abs(x) * std::tan(slope), -60.0 * v);
  });
}

double flattest_turn(const Mesh& before, const Mesh& after) {
  double least = 1.0;
  for (std::size_t f = 0; f < before.triangles.size(); ++f)
    least = std::min(least,
        area_vector(before, before.triangles[f]).normalized().dot(area_vector(after, after.triangles[f]).normalized()));
  return least;
}

}  // namespace

TEST_CASE("a cube moved out by its planes is the larger cube", "[geom][offset]") {
  const double side = 40.0, h = GENERATE(3.0, -3.0, 0.5);
  const Mesh cube = test::cube(side), moved = offset_by_planes(cube, h);
  for (std::size_t v = 0; v < cube.vertices.size(); ++v)
    for (int k = 0; k < 3; ++k)
      CHECK(moved.vertices[v][k] ==
          Approx(cube.vertices[v][k] + (cube.vertices[v][k] > 0.0 ? h : -h)).margin(0.01 * std::abs(h)));
  CHECK(volume_mm3(moved) == Approx(std::pow(side + 2.0 * h, 3)).epsilon(0.002));
}

TEST_CASE("a ball moved out is the larger ball", "[geom][offset]") {
  const Mesh ball = test::ball(60.0, 6.0);
  const double h = GENERATE(5.0, -5.0);
  for (const Vec3& p : offset_by_planes(ball, h).vertices) REQUIRE(p.norm() == Approx(60.0 + h).margin(0.12));
}

TEST_CASE("at a fold the mitre is h over the cosine of half the turn", "[geom][offset][property]") {
  const double slope = GENERATE(0.1, 0.4, 0.7, 1.0), h = 4.0;
  const Mesh mesh = roof(slope);
  const auto moves = plane_offset(mesh, h);
  int ridge = 0;
  for (std::size_t v = 0; v < mesh.vertices.size(); ++v) {
    if (std::abs(mesh.vertices[v].x()) < 1e-9) {
      CHECK(moves[v].y() == Approx(h / std::cos(slope)).epsilon(0.01));
      CHECK(std::abs(moves[v].x()) < 0.02);
      ++ridge;
    } else {
      CHECK(moves[v].norm() == Approx(h).epsilon(0.01));
    }
  }
  CHECK(ridge == 11);
}

TEST_CASE("no distance moves nothing", "[geom][offset]") {
  for (const Vec3& move : plane_offset(roof(0.5), 0.0)) CHECK(move.norm() == 0.0);
  CHECK(sheet_offset(roof(0.5), std::vector<double>(121, 0.0)) == roof(0.5));
}

TEST_CASE("a sheet has its own thickness at every place and never turns over", "[geom][offset][property]") {
  // A cone with a needle's tip: twelve millimetres inwards would turn its tip inside out.
  Mesh cone;
  const int n = 24;
  cone.vertices.push_back({0, 90, 0});
  for (int row = 1; row <= 9; ++row)
    for (int i = 0; i < n; ++i)
      cone.vertices.push_back(
          {2.0 * row * std::cos(kTwoPi * i / n), 90.0 - 10.0 * row, -2.0 * row * std::sin(kTwoPi * i / n)});
  for (int i = 0; i < n; ++i) {
    cone.triangles.push_back({0, 1 + i, 1 + (i + 1) % n});
    for (int row = 0; row < 8; ++row) {
      const int a = 1 + row * n + i, b = 1 + row * n + (i + 1) % n;
      cone.triangles.push_back({a, a + n, b}), cone.triangles.push_back({b, a + n, b + n});
    }
  }
  REQUIRE(area_vector(cone, cone.triangles[1]).y() > 0.0);  // its outside is up and out
  const Mesh inner = sheet_offset(cone, std::vector<double>(cone.vertices.size(), -12.0));
  CHECK(flattest_turn(cone, inner) > 0.0);
  // And where there is room every place goes as far as it was told to.
  const Mesh flat = test::patch(8, [](double u, double v) { return Vec3(100.0 * u, 0.0, -100.0 * v); });
  std::vector<double> by(flat.vertices.size());
  for (std::size_t v = 0; v < by.size(); ++v) by[v] = 2.0 + 0.05 * flat.vertices[v].x();
  const Mesh face = sheet_offset(flat, by);
  for (std::size_t v = 0; v < by.size(); ++v) CHECK(face.vertices[v].y() == Approx(by[v]).epsilon(1e-6));
}

TEST_CASE("a sheet made solid holds its area times its thickness and is closed", "[geom][offset]") {
  const double mm = GENERATE(5.0, -5.0);
  const Mesh flat = test::patch(6, [](double u, double v) { return Vec3(120.0 * u, 0.0, -80.0 * v); });
  const Mesh solid = thickened(flat, mm);
  CHECK(border_loops(solid).empty());
  CHECK(euler_characteristic(solid) == 2);
  CHECK(volume_mm3(solid) == Approx(120.0 * 80.0 * 5.0).epsilon(0.01));
  const Mesh tube = thickened(test::frustum(50, 50, 60, 40), 5.0);
  CHECK(volume_mm3(tube) == Approx(0.5 * kPi * (55.0 * 55.0 - 50.0 * 50.0) * 60.0).epsilon(0.02));
}

TEST_CASE("crossing surfaces are seen, touching and clear ones are not", "[geom][crossing]") {
  const auto sheet = [](double tilt, double lift) {
    return test::patch(
        5, [=](double u, double v) { return Vec3(60.0 * u - 30.0, lift + tilt * (u - 0.5), 50.0 * v - 25.0); });
  };
  const auto both = [](Mesh a, const Mesh& b) {
    add_mesh(a, b);
    return a;
  };
  CHECK_FALSE(cuts_itself(sheet(0.0, 0.0)));
  CHECK_FALSE(cuts_itself(test::ball(30.0, 5.0)));
  CHECK_FALSE(cuts_itself(both(sheet(0.0, 0.0), sheet(0.0, 8.0))));
  CHECK(cuts_itself(both(sheet(0.0, 0.0), sheet(9.0, 0.3))));
  Mesh inside_out = test::ball(30.0, 5.0);
  for (Vec3& p : inside_out.vertices)
    if (p.y() > 25.0) p.y() -= 70.0;  // its top pushed out through its bottom
  CHECK(cuts_itself(inside_out));
}

TEST_CASE("meshes put side by side keep their own triangles", "[geom][solid]") {
  Mesh two = test::cube(10.0);
  Mesh far = test::cube(20.0);
  for (Vec3& p : far.vertices) p.x() += 100.0;
  add_mesh(two, far);
  CHECK(two.vertices.size() == 16);
  CHECK(two.triangles.size() == 24);
  CHECK(volume_mm3(two) == Approx(1000.0 + 8000.0));
  CHECK(euler_characteristic(two) == 4);
  CHECK(border_loops(two).empty());
}

TEST_CASE("own directions of a slab are its length, its breadth and its thickness", "[geom][solid]") {
  Mesh slab = test::cube(1.0);
  for (Vec3& p : slab.vertices) p = Vec3(20.0 * p.x(), 5.0 * p.y(), 80.0 * p.z());
  const OwnAxes axes = own_axes(slab);
  CHECK(axes.along.z() == Approx(1.0).margin(1e-6));
  CHECK(axes.across.x() == Approx(1.0).margin(1e-6));
  CHECK(std::abs(axes.deep.y()) == Approx(1.0).margin(1e-6));  // it has no front to turn to
}

TEST_CASE("the nearest place of a stretch is on it, at its share", "[geom][nearest][property]") {
  Random random(11);
  for (int i = 0; i < 300; ++i) {
    const auto place = [&] { return Vec3(random.uniform(-9, 9), random.uniform(-9, 9), random.uniform(-9, 9)); };
    const Vec3 p = place(), a = place(), b = place();
    double share = -1.0;
    const Vec3 q = closest_on_stretch(p, a, b, &share);
    REQUIRE(share >= 0.0);
    REQUIRE(share <= 1.0);
    REQUIRE((q - (a + share * (b - a))).norm() < 1e-9);
    for (int k = 0; k <= 20; ++k) REQUIRE((q - p).norm() <= (a + 0.05 * k * (b - a) - p).norm() + 1e-9);
  }
  CHECK(closest_on_stretch({1, 2, 3}, {5, 5, 5}, {5, 5, 5}) == Vec3(5, 5, 5));
}

TEST_CASE("a plane through three places holds them and faces by the right hand", "[geom][section]") {
  const Vec3 a(10, 2, -4), b(-3, 8, 5), c(0, -6, 9);
  const Plane plane = plane_through(a, b, c);
  for (const Vec3& p : {a, b, c}) CHECK(plane.height(p) == Approx(0.0).margin(1e-9));
  CHECK(plane.normal.norm() == Approx(1.0));
  CHECK(plane.normal.dot((b - a).cross(c - a)) > 0.0);
  const PlaneFrame frame = frame_of(plane);
  CHECK(frame.u.cross(frame.v).dot(plane.normal) == Approx(1.0));
  CHECK((frame(b) - frame(a)).norm() == Approx((b - a).norm()));
}
