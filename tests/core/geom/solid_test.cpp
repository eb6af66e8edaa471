#include <Eigen/Geometry>
#include <catch2/catch.hpp>

#include "core/base/random.hpp"
#include "core/geom/solid.hpp"
#include "support/solids.hpp"

using namespace awl;

TEST_CASE("a cap closes what was open, outwards", "[geom][solid]") {
  const Mesh open = test::upright_cone(60.0, 90.0), solid = capped(open);
  CHECK(border_loops(open).size() == 1);
  CHECK(border_loops(solid).empty());
  CHECK(volume_mm3(solid) == Approx(kPi * 60.0 * 60.0 * 90.0 / 3.0).epsilon(0.01));
}

TEST_CASE("a section keeps its holes", "[geom][solid]") {
  const Mesh outer = test::ball(50.0, 5.0);
  Mesh both = outer;
  const int n = static_cast<int>(both.vertices.size());
  for (const Vec3& p : outer.vertices) both.vertices.push_back(0.5 * p);
  for (const Tri& t : outer.triangles) both.triangles.push_back({t[0] + n, t[2] + n, t[1] + n});
  const Rings ring = section_region(both, {Vec3(0, 0.1, 0), Vec3::UnitY()});
  REQUIRE(ring.size() == 2);
  CHECK(region_area_mm2(ring) == Approx(kPi * (2500.0 - 625.0)).epsilon(0.01));
}

TEST_CASE("the shadow of a ball is a disc from every side", "[geom][solid][property]") {
  static const Mesh ball = test::ball(40.0, 5.0);
  Random r(GENERATE(range(1, 9)));
  Plane plane;
  plane.normal = Vec3(r.normal(), r.normal(), r.normal()).normalized();
  const Rings shadow = silhouette(ball, frame_of(plane));
  REQUIRE(shadow.size() == 1);
  CHECK(region_area_mm2(shadow) == Approx(kPi * 1600.0).epsilon(0.01));
}

TEST_CASE("a ring's shadow has its hole", "[geom][solid]") {
  const Mesh ring = *iso_surface(grid_over(Vec3::Constant(-60.0), Vec3::Constant(60.0), 3.0),
      [](const Vec3& p) { return std::hypot(std::hypot(p.x(), p.z()) - 40.0, p.y()) - 10.0; });
  Plane plane;
  plane.normal = Vec3::UnitY();
  const Rings shadow = silhouette(ring, frame_of(plane));
  REQUIRE(shadow.size() == 2);
  CHECK(region_area_mm2(shadow) == Approx(kPi * (2500.0 - 900.0)).epsilon(0.01));
}

TEST_CASE("a form's own directions follow it wherever it is turned", "[geom][solid][property]") {
  Random r(GENERATE(range(1, 20)));
  Mesh box = test::cube(1.0);
  for (Vec3& p : box.vertices) p = Vec3(30.0 * p.x(), 200.0 * p.y(), 80.0 * p.z());
  const Vec3 axis = Vec3(r.normal(), r.normal(), r.normal()).normalized();
  const Eigen::AngleAxisd turn(r.uniform(0.0, kTwoPi), axis);
  for (Vec3& p : box.vertices) p = turn * p;
  const OwnAxes axes = own_axes(box);
  CHECK(std::abs(axes.along.dot(turn * Vec3::UnitY())) == Approx(1.0).epsilon(1e-6));
  CHECK(axes.along.y() >= -1e-9);
  CHECK(axes.along.dot(axes.across) == Approx(0.0).margin(1e-9));
  CHECK(axes.along.dot(axes.deep) == Approx(0.0).margin(1e-9));
  CHECK((axes.along.cross(axes.deep) - axes.across).norm() == Approx(0.0).margin(1e-9));
}
