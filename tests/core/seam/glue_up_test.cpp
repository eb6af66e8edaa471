#include "core/seam/glue_up.hpp"

#include <catch2/catch.hpp>
#include <cmath>
#include <random>

#include "core/base/parallel.hpp"
#include "core/seam/shell_energy.hpp"
#include "support/turned.hpp"

using namespace awl;
using awl::test::turned;

namespace {

GluedUp glued(const SeamMesh& form, double thickness_mm, const GlueUpOptions& options = {}) {
  PanelOptions flat;
  flat.thickness_mm = thickness_mm, flat.least_mm2 = 0.0;
  const auto set = make_panels(form, flat);
  REQUIRE(set);
  const auto made = glue_up(*set, options);
  REQUIRE(made);
  CHECK(made->at_rest);
  return *made;
}

SeamMesh hemisphere(int gores) {
  const auto r = [](double s) { return 100.0 * std::cos(s * kTwoPi / 4.0); };
  const auto y = [](double s) { return 100.0 * std::sin(s * kTwoPi / 4.0); };
  return turned(r, y, 16, gores * (gores > 6 ? 6 : 8), gores);
}

}  // namespace

TEST_CASE("the energy's gradient is how its value changes", "[seam][glue]") {
  std::mt19937 random(11);
  std::uniform_real_distribution<double> off(-1.0, 1.0);
  // Two triangles with a hinge, and a second hinge to the first one's mirror image.
  const std::vector<Vec3> flat{{0, 0, 0}, {0, 10, 0}, {8, 5, 0}, {-7, 4, 0}};
  const auto rest = [&](int a, int b, int c) { return frame_of_triangle(flat[a], flat[b], flat[c]); };
  std::vector<ShellEnergy::Face> faces{{{0, 2, 1}, rest(0, 2, 1), 4.0}, {{0, 1, 3}, rest(0, 1, 3), 6.0}};
  std::vector<ShellEnergy::Hinge> hinges{
      {{{{1, false}, {0, false}, {2, false}, {3, false}}}, {0.7, 0.5, -0.6, -0.6}, 1.3, 2.0},
      {{{{0, false}, {1, false}, {2, false}, {2, true}}}, {0.4, 0.6, -0.5, -0.5}, 0.8, -1.0}};
  ShellEnergy energy(4, faces, hinges, 0.6);
  for (int round = 0; round < 20; ++round) {
    std::vector<Vec3> places = flat;
    for (Vec3& p : places) p += Vec3(off(random), off(random), 3.0 + off(random));
    const Eigen::VectorXd gradient = energy.gradient_at(places);
    for (int i = 0; i < 12; ++i) {
      constexpr double kStep = 1e-6;
      std::vector<Vec3> more = places, less = places;
      more[i / 3][i % 3] += kStep, less[i / 3][i % 3] -= kStep;
      CHECK(gradient[i] == Approx((energy.value(more) - energy.value(less)) / (2 * kStep)).epsilon(1e-5).margin(1e-5));
    }
  }
}

TEST_CASE("a strip bent to a hoop takes the energy of Euler's beam", "[seam][glue]") {
  constexpr double kRadius = 80.0, kThick = 4.0;
  constexpr int kRows = 8;
  double worst = 1.0;
  for (const int segments : {24, 48, 96}) {
    // Near-equilateral triangles: rows across, every other one shifted by half a step.
    const double step = kTwoPi * kRadius / segments;
    const double up = step * std::sqrt(0.75), wide = kRows * up;
    const auto flat = [&](int i, int j) { return Vec3((i + (j % 2 == 0 ? 0.0 : 0.5)) * step, j * up, 0.0); };
    std::vector<ShellEnergy::Hinge> hinges;
    std::vector<Vec3> bent;
    const auto vertex = [&](int i, int j) { return j * segments + (i % segments + segments) % segments; };
    for (int j = 0; j <= kRows; ++j)
      for (int i = 0; i < segments; ++i) {
        const double angle = flat(i, j).x() / kRadius;
        bent.push_back({kRadius * std::cos(angle), flat(i, j).y(), kRadius * std::sin(angle)});
      }
    using At = std::pair<int, int>;
    const auto hinge = [&](At a, At b, At c, At d) {
      const Vec3 pa = flat(a.first, a.second), pb = flat(b.first, b.second), pc = flat(c.first, c.second),
                 pd = flat(d.first, d.second);
      const auto cot = [](const Vec3& u, const Vec3& v) { return u.dot(v) / u.cross(v).norm(); };
      const double c01 = cot(pb - pa, pc - pa), c02 = cot(pb - pa, pd - pa), c03 = cot(pa - pb, pc - pb),
                   c04 = cot(pa - pb, pd - pb);
      const double areas = 0.5 * ((pb - pa).cross(pc - pa).norm() + (pb - pa).cross(pd - pa).norm());
      hinges.push_back({{{{vertex(a.first, a.second), false}, {vertex(b.first, b.second), false},
                            {vertex(c.first, c.second), false}, {vertex(d.first, d.second), false}}},
          {c03 + c04, c01 + c02, -c01 - c03, -c02 - c04}, ShellEnergy::bending_stiffness(kThick, areas), 0.0});
    };
    for (int j = 0; j <= kRows; ++j)
      for (int i = 0; i < segments; ++i) {
        const int odd = j % 2;
        if (j > 0 && j < kRows) hinge({i, j}, {i + 1, j}, {i + odd, j + 1}, {i + odd, j - 1});
        if (j == kRows) continue;
        // Up to the right and up to the left.
        hinge({i, j}, {i + odd, j + 1}, {i + odd - 1, j + 1}, {i + 1, j});
        hinge({i, j}, {i + odd - 1, j + 1}, {i - 1, j}, {i + odd, j + 1});
      }
    const ShellEnergy energy(static_cast<int>(bent.size()), {}, hinges, 1.0);
    const double euler = kPi * kThick * kThick * kThick * wide / (12.0 * kRadius);
    const double ratio = energy.value(bent) / euler;
    CAPTURE(segments, ratio);
    CHECK(ratio == Approx(1.0).margin(0.08));
    CHECK(std::abs(ratio - 1.0) < worst);
    worst = std::abs(ratio - 1.0);
  }
  CHECK(worst < 0.02);
}

TEST_CASE("what unrolls exactly glues up to the form again", "[seam][glue]") {
  const double h = 120.0;
  SECTION("a cylinder") {
    const auto made = glued(turned([](double) { return 80.0; }, [&](double s) { return h * s; }, 10, 48, 3), 5.0);
    CHECK(made.p95_mm < 0.3);  // of a radius of 80
    CHECK(made.most_mm < 0.5);
  }
  SECTION("a cone frustum") {
    const auto made =
        glued(turned([](double s) { return 100.0 - 60.0 * s; }, [&](double s) { return h * s; }, 10, 48, 2), 4.0);
    CHECK(made.p95_mm < 0.3);
    CHECK(made.most_mm < 1.0);
  }
  SECTION("petals bent one way only, creased at their seams") {
    const auto made = glued(turned([](double s) { return 100.0 * std::cos(s * kTwoPi / 4.0); },
                                [](double s) { return 100.0 * std::sin(s * kTwoPi / 4.0); }, 16, 48, 6, true),
        3.0, {.keeps_bend = 1.0});
    CHECK(made.p95_mm < 0.3);
    CHECK(made.pucker_deg < 3.0);
  }
}

TEST_CASE("a dome of more gores comes out nearer to the ball, and nearest when they were bent first", "[seam][glue]") {
  double before = 1e300;
  for (const int gores : {4, 6, 8, 12}) {
    const auto set = make_panels(hemisphere(gores), {.thickness_mm = 3.0, .least_mm2 = 0.0});
    REQUIRE(set);
    double strain = 0.0;
    for (const Panel& p : set->panels) strain = std::max(strain, p.strain.max);
    const auto made = glue_up(*set, {.keeps_bend = 1.0});
    REQUIRE(made);
    CAPTURE(gores, strain, made->mean_mm, made->most_mm, made->steps);
    CHECK(made->mean_mm < before);
    CHECK(made->mean_mm < strain * 100.0);  // no farther off than the sheet would have to give over the whole radius
    before = made->mean_mm;
  }
  const auto cold = glued(hemisphere(6), 3.0, {.keeps_bend = 0.0}),
             bent = glued(hemisphere(6), 3.0, {.keeps_bend = 1.0});
  CHECK(bent.mean_mm < cold.mean_mm);
  REQUIRE_FALSE(cold.rims.empty());
  CHECK(cold.rims.front().glued_girth_mm == Approx(cold.rims.front().girth_mm).epsilon(0.03));
}

TEST_CASE("half of a mirrored form stands for the whole", "[seam][glue]") {
  // The same dome, once as two mirrored halves and once as one whole that does not know of its mirror.
  Draft half;
  SeamMesh dome = hemisphere(8);
  for (const Tri& t : dome.mesh.triangles) {
    const double x = dome.mesh.vertices[t[0]].x() + dome.mesh.vertices[t[1]].x() + dome.mesh.vertices[t[2]].x();
    if (x > 0.0) half.mesh.triangles.push_back(t);
  }
  half.mesh.vertices = dome.mesh.vertices;
  for (Vec3& v : half.mesh.vertices)
    if (std::abs(v.x()) < 1e-9) v.x() = 0.0;
  for (const auto& [edge, id] : dome.seam_of)
    if (half.mesh.vertices[edge.first].x() >= 0.0 && half.mesh.vertices[edge.second].x() >= 0.0)
      half.seams[edge] = id.value;
  half.seam_names = dome.seam_names;
  drop_unused(half);
  const SeamMesh mirrored = seams_of(half);
  REQUIRE(is_mirrored(mirrored));
  SeamMesh whole = mirrored;
  whole.twin_of.clear();
  const auto quick = glued(mirrored, 3.0), slow = glued(whole, 3.0);
  CHECK(quick.mean_mm == Approx(slow.mean_mm).margin(0.15));
  for (std::size_t v = 0; v < quick.places.size(); ++v) {
    const Vec3& twin = quick.places[mirrored.twin_of[v]];
    REQUIRE((quick.places[v] - Vec3(-twin.x(), twin.y(), twin.z())).norm() < 0.05);
  }
}

TEST_CASE("parts glued side by side come out as each alone", "[seam][glue]") {
  const auto set = make_panels(hemisphere(4), {.thickness_mm = 3.0, .least_mm2 = 0.0});
  REQUIRE(set);
  const auto alone = glue_up(*set);
  REQUIRE(alone);
  std::vector<Result<GluedUp>> beside(6);
  parallel_for(6, [&](int i) { beside[i] = glue_up(*set); });
  for (const auto& one : beside) {
    REQUIRE(one);
    CHECK(one->steps == alone->steps);
    double apart = 0.0;
    for (std::size_t v = 0; v < one->places.size(); ++v)
      apart = std::max(apart, (one->places[v] - alone->places[v]).norm());
    CHECK(apart < 1e-6);
  }
}

TEST_CASE("gluing up can be stopped, and needs something to glue", "[seam][glue]") {
  const auto set = make_panels(hemisphere(4), {.thickness_mm = 3.0, .least_mm2 = 0.0});
  REQUIRE(set);
  const auto stopped = glue_up(*set, {}, Progress([](double) { return false; }));
  REQUIRE_FALSE(stopped);
  CHECK(stopped.error().code == Errc::cancelled);
  const auto nothing = glue_up(PanelSet{});
  REQUIRE_FALSE(nothing);
  CHECK(nothing.error().code == Errc::empty_input);
}
