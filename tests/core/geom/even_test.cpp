#include "core/geom/mending/even.hpp"

#include <Eigen/Geometry>
#include <catch2/catch.hpp>

#include "core/base/random.hpp"
#include "core/form/foam_shape.hpp"
#include "core/geom/low_pass.hpp"
#include "core/geom/mirror_plane.hpp"
#include "core/geom/nearest.hpp"
#include "support/plain_shapes.hpp"

using namespace awl;

namespace {

double mean_radius(const Mesh& tube, double from, double to) {
  double sum = 0.0;
  int count = 0;
  for (const Vec3& p : tube.vertices)
    if (p.y() > from && p.y() < to) sum += std::hypot(p.x(), p.z()), ++count;
  return sum / count;
}

/// A ball with a thin horn on it, drawn out of its own surface.
Mesh horned(double thick_mm) {
  Mesh mesh = test::icosphere(90.0, 6);
  for (Vec3& p : mesh.vertices) {
    const double aside = std::hypot(p.x(), p.z());
    if (p.y() > 0.0 && aside < 0.5 * thick_mm) p.y() += 60.0 * (1.0 - aside / (0.5 * thick_mm));
  }
  return mesh;
}

/// A bar of twelve triangles.
void put_bar(Mesh& mesh, const Vec3& low, const Vec3& size) {
  const int first = static_cast<int>(mesh.vertices.size());
  for (int i = 0; i < 8; ++i) mesh.vertices.push_back(low + Vec3(i & 1, i >> 1 & 1, i >> 2 & 1).cwiseProduct(size));
  const int faces[6][4] = {{0, 4, 6, 2}, {1, 3, 7, 5}, {0, 1, 5, 4}, {2, 6, 7, 3}, {0, 2, 3, 1}, {4, 5, 7, 6}};
  for (const auto& f : faces) {
    mesh.triangles.push_back({first + f[0], first + f[1], first + f[2]});
    mesh.triangles.push_back({first + f[0], first + f[2], first + f[3]});
  }
}

}  // namespace

TEST_CASE("triangles become of one size and the surface stays", "[geom][even]") {
  const Mesh box = test::box(120.0);
  EvenGoal goal;
  goal.edge_mm = 9.0;
  const auto even = evened(box, goal);
  REQUIRE(even);
  double least = 1e9, most = 0.0;
  const Topology topo = topology_of(*even);
  for (const auto& e : topo.edges) {
    const double mm = (even->vertices[e.a] - even->vertices[e.b]).norm();
    least = std::min(least, mm);
    most = std::max(most, mm);
  }
  CHECK(least > 2.0);
  CHECK(most < 20.0);
  // Its edges are kept sharp: no corner of the box is cut off.
  CHECK(area_mm2(*even) == Approx(area_mm2(box)).epsilon(0.002));
  const Box size = box_of(even->vertices);
  CHECK(size.size().x() == Approx(120.0).margin(0.01));
}

TEST_CASE(
    "a corner flung far off is refused with its place, thin long triangles by the hundred are not", "[geom][even]") {
  EvenGoal goal;
  goal.edge_mm = 9.0;
  Mesh flung = test::box(120.0);
  flung.vertices[0] = Vec3(65536.0, 45.0, 34.0);
  const auto refused = evened(flung, goal);
  REQUIRE_FALSE(refused);
  CHECK(refused.error().code == Errc::too_large);
  CHECK(refused.error().text.find("ends at 65536, 45, 34 mm") != std::string::npos);
  // A grille: each bar has four faces of two triangles, as thin as they are long.
  Mesh grille;
  for (int bar = 0; bar < 20; ++bar) put_bar(grille, Vec3(0.0, 0.0, 12.0 * bar), Vec3(500.0, 5.0, 5.0));
  const auto even = evened(grille, goal);
  REQUIRE(even);
  CHECK(even->triangles.size() < 100'000);
  CHECK(area_mm2(*even) == Approx(area_mm2(grille)).epsilon(0.01));
  for (const auto& e : topology_of(*even).edges) CHECK((even->vertices[e.a] - even->vertices[e.b]).norm() < 30.0);
}

TEST_CASE("only small holes are closed", "[geom][even]") {
  Mesh ball = test::icosphere(80.0, 4);
  ball.triangles.erase(ball.triangles.begin(), ball.triangles.begin() + 1);
  const auto small = with_holes_filled(ball, 70.0);
  CHECK(small.holes == 1);
  CHECK(border_loops(small.mesh).empty());
  CHECK(with_holes_filled(ball, 5.0).holes == 0);
  const Mesh dome = test::upper_half(test::icosphere(80.0, 4));
  CHECK(with_holes_filled(dome, 70.0).holes == 0);
}

TEST_CASE("waves of two pi times the radius lose half their height, and tubes hardly shrink", "[geom][low-pass]") {
  constexpr double kRadius = 5.0, kPi = 3.14159265358979323846;
  const double wave = 2.0 * kPi * kRadius;
  Mesh sheet = test::structured(160, 40, false, false,
      [&](double u, double v) { return Vec3(10.0 * wave * u, 80.0 * v, std::sin(2.0 * kPi * 10.0 * u)); });
  const Mesh low = low_passed(sheet, kRadius);
  double high = 0.0;
  for (const Vec3& p : low.vertices)
    if (p.x() > 2.0 * wave && p.x() < 8.0 * wave && p.y() > 25.0 && p.y() < 55.0)
      high = std::max(high, std::abs(p.z()));
  CHECK(high == Approx(0.5).margin(0.05));
  EvenGoal goal;
  goal.edge_mm = 2.5;
  const Mesh tube = *evened(test::cylinder(10.0, 120.0), goal);
  const Box box = box_of(tube.vertices);
  const double y0 = box.low.y() + 40.0, y1 = box.high.y() - 40.0;
  const double was = mean_radius(tube, y0, y1), now = mean_radius(low_passed(tube, kRadius), y0, y1);
  CHECK(now / was > 0.9);
  CHECK(now < was);
  CHECK(low_passed(tube, 0.0) == tube);
}

TEST_CASE("a mirror plane is found wherever it lies, and none where there is none", "[geom][mirror]") {
  Random random(11);
  for (int i = 0; i < 6; ++i) {
    Mesh mesh = test::icosphere(80.0, 4);
    for (Vec3& p : mesh.vertices) {
      p.y() *= 1.5;
      if (p.z() > 0.0) p.z() *= 1.0 + 0.8 * p.z() / 80.0;
      if (p.y() > 0.0) p.x() *= 1.0 + 0.004 * p.y();
    }
    const Vec3 axis = Vec3(random.normal(), random.normal(), random.normal()).normalized();
    const Eigen::Matrix3d turn = Eigen::AngleAxisd(random.uniform(0.0, 3.0), axis).toRotationMatrix();
    const Vec3 shift(random.uniform(-100, 100), random.uniform(-100, 100), random.uniform(-100, 100));
    for (Vec3& p : mesh.vertices) p = turn * p + shift;
    const auto plane = mirror_plane_of(mesh, 1.0);
    REQUIRE(plane);
    CHECK(std::abs(plane->normal.dot(turn * Vec3::UnitX())) > 0.9995);
    CHECK(plane->normal.dot(shift) == Approx(plane->d).margin(0.5));
    const Mesh upright = with_plane_upright(mesh, *plane);
    const Nearest surface(upright);
    for (std::size_t v = 0; v < upright.vertices.size(); v += 37) {
      const Vec3& p = upright.vertices[v];
      CHECK(std::abs(surface.to(Vec3(-p.x(), p.y(), p.z())).signed_mm) < 1.0);
    }
    // A lump on one side, aside of all three axes.
    for (Vec3& p : mesh.vertices) {
      const Vec3 q = (turn.transpose() * (p - shift)).normalized();
      p += turn * q * 45.0 * std::exp(-6.0 * (q - Vec3(0.6, 0.5, 0.62)).squaredNorm());
    }
    CHECK_FALSE(mirror_plane_of(mesh, 1.0));
  }
}

TEST_CASE("what foam cannot show is taken off and told with its place", "[form][foam-shape]") {
  const auto thin = foam_shape(horned(6.0), {5.0, 4000});
  REQUIRE(thin);
  REQUIRE_FALSE(thin->told.empty());
  const TooFine& first = thin->told.front();
  CHECK(first.at.y() > 85.0);
  CHECK(std::abs(first.at.x()) < 10.0);
  CHECK(box_of(thin->mesh.vertices).high.y() < 120.0);
  CHECK(thin->words().size() >= 1);
  const auto stout = foam_shape(horned(70.0), {5.0, 4000});
  REQUIRE(stout);
  // A stout one only loses its tip.
  for (const TooFine& t : stout->told) {
    CHECK(t.at.y() > 120.0);
    CHECK(t.length_mm < 35.0);
  }
  CHECK(box_of(stout->mesh.vertices).high.y() > 125.0);
  CHECK(stout->mesh.triangles.size() > 2500);
  CHECK(stout->mesh.triangles.size() < 7000);
  // A smooth ball is left as it is.
  const auto ball = foam_shape(test::icosphere(90.0, 4), {5.0, 4000});
  REQUIRE(ball);
  CHECK(ball->told.empty());
  CHECK(ball->words().empty());
  CHECK(area_mm2(ball->mesh) == Approx(4.0 * 3.14159265 * 90.0 * 90.0).epsilon(0.01));
  CHECK(foam_shape(test::icosphere(90.0, 4), {5.0, 4000}, Progress([](double) { return false; })).error().code ==
      Errc::cancelled);
}

TEST_CASE("crumbs go, and what is thin all over stays and is said so", "[form][foam-shape]") {
  Mesh two = test::icosphere(90.0, 4);
  const int n = static_cast<int>(two.vertices.size());
  const Mesh crumb = test::icosphere(6.0, 2);
  for (const Vec3& p : crumb.vertices) two.vertices.push_back(p + Vec3(200, 0, 0));
  for (const Tri& t : crumb.triangles) two.triangles.push_back({t[0] + n, t[1] + n, t[2] + n});
  const auto one = foam_shape(two, {5.0, 4000});
  REQUIRE(one);
  CHECK(one->shells_dropped == 1);
  CHECK(box_of(one->mesh.vertices).high.x() < 100.0);
  const auto wire = foam_shape(test::torus(120.0, 3.0), {5.0, 4000});
  REQUIRE(wire);
  CHECK(wire->thin_all_over);
  CHECK(wire->words().front().find("thin all over") != std::string::npos);
}
