#include <catch2/catch.hpp>

#include <Eigen/Dense>

#include "core/seam/cutter.hpp"
#include "core/seam/panels.hpp"
#include "core/seam/rigid_map.hpp"
#include "core/seam/start_maps.hpp"
#include "support/bench_data.hpp"
#include "support/solids.hpp"

using namespace awl;

namespace {

std::vector<TriangleFrame> frames_of(const Mesh& m) {
  std::vector<TriangleFrame> frames;
  for (const Tri& t : m.triangles)
    frames.push_back(frame_of_triangle(m.vertices[t[0]], m.vertices[t[1]], m.vertices[t[2]]));
  return frames;
}

Mesh sheet(int n = 8) {
  return test::patch(n, [](double u, double v) { return Vec3(100.0 * u, 60.0 * v, 0.0); });
}

Draft draft_of_mesh(const Mesh& mesh) {
  Draft d;
  d.mesh = mesh, d.mirrored = false;
  return d;
}

/// A corner on the border edge from a to b, `mm` from a along x; its one triangle becomes two.
int split_border(Draft& draft, int a, int b, double mm) {
  const int m = static_cast<int>(draft.mesh.vertices.size());
  draft.mesh.vertices.push_back(draft.mesh.vertices[a] + Vec3(mm, 0.0, 0.0));
  const auto face = std::find_if(draft.mesh.triangles.begin(), draft.mesh.triangles.end(),
      [&](const Tri& t) { return std::count(t.begin(), t.end(), a) != 0 && std::count(t.begin(), t.end(), b) != 0; });
  REQUIRE(face != draft.mesh.triangles.end());
  Tri other = *face;
  std::replace(face->begin(), face->end(), b, m);
  std::replace(other.begin(), other.end(), a, m);
  draft.mesh.triangles.push_back(other);
  return m;
}

double seam_length(const Draft& d) {
  double sum = 0.0;
  for (const auto& [edge, label] : d.seams) sum += (d.mesh.vertices[edge.first] - d.mesh.vertices[edge.second]).norm();
  return sum;
}

}  // namespace

TEST_CASE("the strain of a known stretch is what it takes to undo it", "[seam][strain][property]") {
  Random random(2);
  const Mesh m = sheet();
  for (int i = 0; i < 50; ++i) {
    const double sx = random.uniform(0.8, 1.25), sy = random.uniform(0.8, 1.25), turn = random.uniform(0.0, kTwoPi);
    std::vector<Vec2> uv;
    for (const Vec3& p : m.vertices) uv.push_back(Eigen::Rotation2Dd(turn) * Vec2(sx * p.x(), sy * p.y()));
    const double e1 = 1.0 / sx - 1.0, e2 = 1.0 / sy - 1.0, worst = std::abs(e1) > std::abs(e2) ? e1 : e2;
    for (const double e : triangle_strains(m, uv)) REQUIRE(e == Approx(worst).margin(1e-9));
    const Strain s = summarise(m, uv);
    REQUIRE(s.max == Approx(std::abs(worst)).margin(1e-9));
    REQUIRE(s.stretch == Approx(std::max({e1, e2, 0.0})).margin(1e-9));
    REQUIRE(s.squeeze == Approx(std::max({-e1, -e2, 0.0})).margin(1e-9));
    REQUIRE(count_flips(m, uv) == 0);
    for (Vec2& p : uv) p.x() = -p.x();
    REQUIRE(count_flips(m, uv) == static_cast<int>(m.triangles.size()));
  }
}

TEST_CASE("a signed singular value decomposition puts its matrix together again", "[seam][strain][property]") {
  Random random(9);
  for (int i = 0; i < 500; ++i) {
    Eigen::Matrix2d j;
    for (int k = 0; k < 4; ++k) j(k / 2, k % 2) = random.normal();
    const Polar2 p = signed_svd(j);
    const Eigen::Matrix2d back = p.u * Eigen::Vector2d(p.s1, p.s2).asDiagonal() * p.v.transpose();
    REQUIRE((back - j).norm() < 1e-9);
    REQUIRE(p.s1 >= std::abs(p.s2));
    REQUIRE(p.s1 * p.s2 == Approx(j.determinant()).margin(1e-9));
    REQUIRE(p.u.determinant() == Approx(1.0));
    REQUIRE(p.v.determinant() == Approx(1.0));
  }
}

TEST_CASE("first maps of what can be unrolled are the unrolled shape itself", "[seam][maps]") {
  const auto [bottom, top] = GENERATE(table<double, double>({{60.0, 60.0}, {80.0, 30.0}}));
  const Mesh m = test::frustum(bottom, top, 70.0, 24);
  const auto frames = frames_of(m);
  const auto border = border_loops(m).front();
  const auto conformal = start_maps::conformal(m, frames, border);
  CHECK(summarise(m, conformal).max < 0.002);
  CHECK(count_flips(m, conformal) == 0);
  RigidMap rigid(m, frames);
  const auto unrolled = rigid.unrolled();
  CHECK(summarise(m, unrolled).max < 1e-6);
}

TEST_CASE("a map onto a circle turns nothing over, whatever the panel", "[seam][maps]") {
  const Mesh dome = test::gore(test::ball(80.0, 9.0), 2), saddle = test::patch(12, [](double u, double v) {
    return Vec3(100.0 * u, 90.0 * (u - 0.5) * (v - 0.5), 100.0 * v);
  });
  for (const Mesh* m : {&dome, &saddle}) {
    const auto border = border_loops(*m).front();
    const auto uv = start_maps::circle(*m, border);
    const int flips = count_flips(*m, uv);
    CHECK((flips == 0 || flips == static_cast<int>(m->triangles.size())));
    Vec2 middle = Vec2::Zero();
    for (const int v : border) middle += uv[v] / static_cast<double>(border.size());
    double least = 1e9, most = 0.0;
    for (const int v : border)
      least = std::min(least, (uv[v] - middle).norm()), most = std::max(most, (uv[v] - middle).norm());
    CHECK(most < 1.35 * least);
  }
}

TEST_CASE("rounds of the rigid map go down and end where turning it changes nothing", "[seam][maps]") {
  const Mesh m = test::gore(test::ball(80.0, 8.0), 4);
  const auto frames = frames_of(m);
  RigidMap rigid(m, frames);
  auto uv = rigid.unrolled();
  const double start = summarise(m, uv).mean;
  rigid.improve(uv, 40);
  const double end = summarise(m, uv).mean;
  CHECK(end < start);
  auto again = uv;
  rigid.improve(again, 40);
  CHECK(summarise(m, again).mean == Approx(end).epsilon(0.02));
}

TEST_CASE("a straight line drawn across a sheet is cut straight, from edge to edge", "[seam][cutter]") {
  Cutter cutter(draft_of_mesh(sheet()));
  const Vec3 from(0.0, 17.0, 0.0), to(100.0, 41.0, 0.0);
  REQUIRE(cutter.draw({from, to}, "across", {2.0, false}));
  const Draft cut = std::move(cutter).take();
  CHECK(cut.seam_names == std::vector<std::string>{"across"});
  CHECK(seam_length(cut) == Approx((to - from).norm()).epsilon(2e-3));
  for (const auto& [edge, label] : cut.seams)
    for (const int v : {edge.first, edge.second}) {
      const Vec3& p = cut.mesh.vertices[v];
      REQUIRE(std::abs(p.y() - (17.0 + 0.24 * p.x())) < 0.6);
    }
  CHECK(area_mm2(cut.mesh) == Approx(6000.0).epsilon(1e-9));
  CHECK(euler_characteristic(cut.mesh) == 1);
  const auto parts = connected_parts(cut.mesh, [&](int a, int b) { return cut.seams.count(edge_of(a, b)) == 0; });
  CHECK(*std::max_element(parts.begin(), parts.end()) == 1);
}

TEST_CASE("two lines that cross share a corner; an end near a seam lands on it", "[seam][cutter]") {
  Cutter cutter(draft_of_mesh(sheet(10)));
  const Cutter::Ends ends{3.0, false};
  REQUIRE(cutter.draw({{0, 30, 0}, {100, 30, 0}}, "level", ends));
  REQUIRE(cutter.draw({{37, 0, 0}, {52, 60, 0}}, "upright", ends));
  REQUIRE(cutter.draw({{80, 0, 0}, {80, 28.5, 0}}, "short of it", ends));
  const Draft cut = std::move(cutter).take();
  std::map<int, std::set<int>> labels;
  for (const auto& [edge, label] : cut.seams) labels[edge.first].insert(label), labels[edge.second].insert(label);
  int crossed = 0, landed = 0;
  for (const auto& [v, at] : labels) {
    crossed += at.count(0) != 0 && at.count(1) != 0;
    landed += at.count(0) != 0 && at.count(2) != 0;
  }
  CHECK(crossed == 1);
  CHECK(landed == 1);
  const auto parts = connected_parts(cut.mesh, [&](int a, int b) { return cut.seams.count(edge_of(a, b)) == 0; });
  CHECK(*std::max_element(parts.begin(), parts.end()) == 4);  // five panels
}

TEST_CASE("a ring closes on itself and cuts out a disc", "[seam][cutter]") {
  const Mesh ball = test::ball(50.0, 6.0);
  Cutter cutter(draft_of_mesh(ball));
  CutLine ring;
  for (int i = 0; i <= 24; ++i)
    ring.push_back(50.0 * Vec3(0.6 * std::cos(kTwoPi * i / 24), 0.8, 0.6 * std::sin(kTwoPi * i / 24)));
  ring.back() = ring.front();
  REQUIRE(cutter.draw(ring, "cap", {}));
  const Draft cut = std::move(cutter).take();
  CHECK(seam_length(cut) == Approx(kTwoPi * 30.0).epsilon(0.01));
  const auto parts = connected_parts(cut.mesh, [&](int a, int b) { return cut.seams.count(edge_of(a, b)) == 0; });
  std::map<int, double> area;
  for (std::size_t f = 0; f < parts.size(); ++f)
    area[parts[f]] += 0.5 * area_vector(cut.mesh, cut.mesh.triangles[f]).norm();
  REQUIRE(area.size() == 2);
  const double cap = kTwoPi * 50.0 * 50.0 * (1.0 - 0.8);
  CHECK(std::min(area[0], area[1]) == Approx(cap).epsilon(0.02));
}

TEST_CASE("what is no line, or lies on parts that do not touch, is refused", "[seam][cutter]") {
  Draft two = draft_of_mesh(sheet());
  Mesh far = sheet();
  for (Vec3& p : far.vertices) p.z() += 300.0;
  const int n = static_cast<int>(two.mesh.vertices.size());
  two.mesh.vertices.insert(two.mesh.vertices.end(), far.vertices.begin(), far.vertices.end());
  for (const Tri& t : far.triangles) two.mesh.triangles.push_back({t[0] + n, t[1] + n, t[2] + n});
  Cutter cutter(two);
  CHECK(cutter.draw({{10, 10, 0}}, "a dot", {}).error().code == Errc::degenerate_shape);
  CHECK(cutter.draw({{10, 10, 0}, {10, 10, 300}}, "a leap", {}).error().code == Errc::not_a_disk);
}

TEST_CASE("corners closer than a hair become one, and all that hangs on them goes along", "[form][draft]") {
  // A sheet with a row of corners a hundredth of a millimetre beside its own: what a second trim along one line leaves.
  Draft draft = draft_of_mesh(sheet(6));
  const int across = 7;
  for (int i = 0; i < 6; ++i) split_border(draft, i, i + 1, 0.01);
  draft.home = draft.mesh.vertices;
  draft.seam_names = {"upright"};
  for (int j = 0; j < 6; ++j) draft.seams[edge_of(j * across + 3, (j + 1) * across + 3)] = 0;
  draft.opening = {49, 50};
  const double area = area_mm2(draft.mesh);
  REQUIRE(euler_characteristic(draft.mesh) == 1);
  const std::size_t before = draft.mesh.vertices.size();
  join_close_corners(draft, 0.3);
  CHECK(draft.mesh.vertices.size() == before - 6);
  CHECK(euler_characteristic(draft.mesh) == 1);
  CHECK(area_mm2(draft.mesh) == Approx(area).margin(1.0));
  CHECK(draft.home.size() == draft.mesh.vertices.size());
  CHECK(seam_length(draft) == Approx(60.0).margin(0.05));
  CHECK(draft.opening.size() == 2);
  double least = 1e9;
  for (const auto& e : topology_of(draft.mesh).edges)
    least = std::min(least, (draft.mesh.vertices[e.a] - draft.mesh.vertices[e.b]).norm());
  CHECK(least > 5.0);
  const Mesh once = draft.mesh;
  join_close_corners(draft, 0.3);
  CHECK(draft.mesh == once);
}

TEST_CASE("corners are not joined where a face would turn over or the surface would pinch", "[form][draft]") {
  Draft strip;
  strip.mirrored = false;
  strip.mesh.vertices = {{0, 0, 0}, {0.1, 0, 0}, {0.05, 30, 0}};  // one thin triangle: nothing may be joined of it
  strip.mesh.triangles = {{0, 1, 2}};
  const Mesh before = strip.mesh;
  join_close_corners(strip, 0.05);
  CHECK(strip.mesh == before);
}

TEST_CASE("teeth are clipped off a border, corners and what a seam ends at are not", "[form][draft]") {
  Draft draft = draft_of_mesh(sheet(6));
  const double area = area_mm2(draft.mesh);
  // A low tooth, a tall one and one a seam ends at, each on a lower border edge (16.7 mm long).
  const auto tooth = [&](int at, double base, double tall) {
    // The edge gets a corner `base` from its left end, the tooth stands on that stretch.
    const int n = split_border(draft, at, at + 1, base);
    draft.mesh.vertices.push_back(draft.mesh.vertices[at] + Vec3(0.5 * base, -tall, 0));
    draft.mesh.triangles.push_back({at, n + 1, n});
    return n + 1;
  };
  tooth(0, 1.0, 1.2);
  tooth(2, 4.0, 6.0);
  const int held = tooth(4, 1.0, 1.2);
  draft.seam_names = {"to the tip"};
  draft.seams[edge_of(held, held - 1)] = 0;
  draft.home = draft.mesh.vertices;
  REQUIRE(euler_characteristic(draft.mesh) == 1);
  clip_teeth(draft, 1.5, 105.0);
  CHECK(euler_characteristic(draft.mesh) == 1);
  CHECK(area_mm2(draft.mesh) == Approx(area + 0.5 * 4.0 * 6.0 + 0.5 * 1.0 * 1.2).epsilon(1e-9));  // the first is gone
  CHECK(draft.home.size() == draft.mesh.vertices.size());
  CHECK(draft.seams.size() == 1);
  // The sheet's own square corners are as they were.
  for (const Vec3& corner : {Vec3(0, 0, 0), Vec3(100, 0, 0), Vec3(0, 60, 0), Vec3(100, 60, 0)})
    CHECK(std::count(draft.mesh.vertices.begin(), draft.mesh.vertices.end(), corner) == 1);
}

TEST_CASE("planes cut a ball in as many panels as they should", "[seam][planes]") {
  const Mesh ball = test::ball(60.0, 7.0);
  const auto panels = [&](const PlaneSeams& spec) {
    Draft draft = draft_of_mesh(ball);
    cut_by_planes(draft, spec);
    const SeamMesh form = seams_of(draft);
    const auto parts = connected_parts(form.mesh, [&](int a, int b) { return !form.seam_at(a, b).valid(); });
    return 1 + *std::max_element(parts.begin(), parts.end());
  };
  CHECK(panels({0, true, false}) == 2);
  CHECK(panels({0, true, true}) == 4);
  CHECK(panels({1, true, true}) == 8);
  CHECK(panels({2, true, false}) == 6);
  CHECK(panels({0, false, false}) == 1);
}

TEST_CASE("a form goes to a draft and back with its seams", "[seam][draft]") {
  const SeamMesh& form = test::derived().panels->form;
  const SeamMesh back = seams_of(draft_of(form));
  CHECK(back.mesh == form.mesh);
  CHECK(back.seam_of.size() == form.seam_of.size());
  for (const auto& [edge, id] : form.seam_of)
    REQUIRE(back.seam_names[back.seam_at(edge.first, edge.second).value] == form.seam_names[id.value]);
  CHECK(back.twin_of.empty());
}

TEST_CASE("riders with a twin move as its mirror image in symmetric modes", "[head][modes]") {
  const std::vector<Vec3> places{{40, 30, 80}, {-40, 30, 80}, {0, 90, 0}};
  const Riders pairs(places, {0.0, 0.0, 0.0}, {1, 0, 2}), alone(places, {0.0, 0.0, 0.0});
  REQUIRE(pairs.size() == 3);
  Coefficients c = Coefficients::Zero();
  for (int k = 0; k < kModeCount; ++k) c[k] = 0.7 * mode_sd()[k] * (k % 3 == 0 ? -1.0 : 1.0);
  for (int i = 0; i < 3; ++i) CHECK((pairs.at(i, c) - alone.at(i, c)).norm() < 1e-3);
  for (int k = kSymmetricModes; k < kModeCount; ++k) c[k] = 0.0;
  const Vec3 left = pairs.at(0, c), right = pairs.at(1, c);
  CHECK((left - Vec3(-right.x(), right.y(), right.z())).norm() < 1e-4);
  CHECK(std::abs(pairs.at(2, c).x()) < 1e-4);
  CHECK((pairs.carried(c)[0] - left).norm() < 1e-4);
}
