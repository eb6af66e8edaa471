#include "core/seam/draw_cut.hpp"

#include <catch2/catch.hpp>

#include "core/base/random.hpp"
#include "core/seam/panels.hpp"
#include "support/solids.hpp"

using namespace awl;

namespace {

Mesh hemisphere(double edge) {
  Mesh m = test::ball(100.0, edge);
  EdgeLabels held;
  const auto f = [](const Vec3& p) { return p.y(); };
  split_along(m, f, held);
  return keep_where(m, f, held);
}

CutLine meridian(double angle, int points) {
  CutLine line;
  for (int i = 0; i <= points; ++i) {
    const double t = 0.5 * kPi * i / points;
    line.push_back(100.0 * Vec3(std::sin(t) * std::sin(angle), std::cos(t), std::sin(t) * std::cos(angle)));
  }
  return line;
}

double seam_length(const SeamMesh& m) {
  double sum = 0.0;
  for (const auto& [edge, id] : m.seam_of) sum += (m.mesh.vertices[edge.first] - m.mesh.vertices[edge.second]).norm();
  return sum;
}

}  // namespace

TEST_CASE("four meridians make four gores with equal seams", "[seam][cut]") {
  std::vector<CutLine> cuts;
  for (int k = 0; k < 4; ++k) cuts.push_back(meridian(kTwoPi * k / 4 + 0.1, 8));
  const auto drawn = draw_cuts(hemisphere(8.0), cuts);
  REQUIRE(drawn);
  CHECK(seam_length(*drawn) == Approx(4 * 50.0 * kPi).epsilon(0.01));
  const auto set = make_panels(*drawn, {.thickness_mm = 0.0});
  REQUIRE(set);
  CHECK(set->panels.size() == 4);
  for (const Panel& p : set->panels) CHECK(p.strain.max < 0.05);
  for (const Seam& s : set->seams) CHECK(std::abs(s.side_mm[0] - s.side_mm[1]) <= 0.05);
}

TEST_CASE("random cuts leave a whole surface and meet in shared vertices", "[seam][cut][property]") {
  Random random(GENERATE(range(1, 15)));
  const Mesh base = hemisphere(11.0);
  std::vector<CutLine> cuts;
  for (int k = 0; k < 4; ++k) {
    CutLine line;
    for (int i = 0; i < 3; ++i)
      line.push_back(100.0 * Vec3(random.normal(), std::abs(random.normal()) + 0.05, random.normal()).normalized());
    cuts.push_back(line);
  }
  const auto drawn = draw_cuts(base, cuts);
  REQUIRE(drawn);
  CHECK(euler_characteristic(drawn->mesh) == euler_characteristic(base));
  CHECK(border_loops(drawn->mesh).size() == 1);
  CHECK(area_mm2(drawn->mesh) == Approx(area_mm2(base)).epsilon(0.01));
  for (const auto& e : topology_of(drawn->mesh).edges) REQUIRE(e.more == 0);
  for (const auto& [edge, id] : drawn->seam_of) REQUIRE(id.value < 4);
  // A slit that ends inside a panel is opened like a dart; the panels stay disks or the sentence says what is missing.
  const auto set = make_panels(*drawn, {.thickness_mm = 0.0});
  if (!set)
    CHECK(set.error().code == Errc::not_a_disk);
  else
    for (const Panel& p : set->panels) CHECK(p.flipped == 0);
}

TEST_CASE("a dart from the border opens the panel without parting it", "[seam][cut]") {
  CutLine dart = meridian(0.3, 8);
  dart.erase(dart.begin(), dart.begin() + 2);
  const auto drawn = draw_cuts(hemisphere(8.0), {dart});
  REQUIRE(drawn);
  const auto whole = make_panels({hemisphere(8.0), {}, {}, {}}, {.thickness_mm = 0.0});
  const auto set = make_panels(*drawn, {.thickness_mm = 0.0, .match_seams = false});
  REQUIRE(set);
  CHECK(set->panels.size() == 1);
  CHECK(set->panels[0].strain.p99 < whole->panels[0].strain.p99);
}

TEST_CASE("a closed ball asks for a cut, and a closed cut parts it", "[seam][cut]") {
  const Mesh ball = test::ball(60.0, 8.0);
  const auto uncut = make_panels(*draw_cuts(ball, {}), {.thickness_mm = 0.0});
  REQUIRE_FALSE(uncut);
  CHECK(uncut.error().code == Errc::not_a_disk);
  CHECK(uncut.error().text.find("cut") != std::string::npos);
  CutLine equator;
  for (int i = 0; i <= 12; ++i) equator.push_back(60.0 * Vec3(std::cos(kTwoPi * i / 12), 0, std::sin(kTwoPi * i / 12)));
  const auto cut = draw_cuts(ball, {equator});
  REQUIRE(cut);
  const auto set = make_panels(*cut, {.thickness_mm = 0.0});
  REQUIRE(set);
  CHECK(set->panels.size() == 2);
}

TEST_CASE("cuts that cannot be drawn are refused by their number", "[seam][cut]") {
  CHECK(draw_cuts(hemisphere(14.0), {{Vec3(0, 100, 0)}}).error().code == Errc::degenerate_shape);
  Mesh three = test::patch(1, [](double u, double v) { return Vec3(u, v, 0); });
  three.vertices.push_back({0.5, 0.5, 1});
  three.triangles.push_back({0, 3, 4});
  three.triangles.push_back({3, 0, 4});
  CHECK(draw_cuts(three, {}).error().code == Errc::bad_file);
  Mesh two = test::ball(20.0, 6.0);
  const int n = static_cast<int>(two.vertices.size());
  const Mesh copy = two;
  for (const Vec3& p : copy.vertices) two.vertices.push_back(p + Vec3(100, 0, 0));
  for (const Tri& t : copy.triangles) two.triangles.push_back({t[0] + n, t[1] + n, t[2] + n});
  const auto apart = draw_cuts(two, {{Vec3(0, 20, 0), Vec3(100, 20, 0)}});
  REQUIRE_FALSE(apart);
  CHECK(apart.error().text.find("Cut 1") != std::string::npos);
}
