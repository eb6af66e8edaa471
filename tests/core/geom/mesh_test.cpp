#include "core/geom/mesh.hpp"

#include <catch2/catch.hpp>

#include "core/base/random.hpp"
#include "core/geom/offset.hpp"
#include "support/solids.hpp"

using namespace awl;

TEST_CASE("a cube has the area, volume and Euler characteristic of a cube", "[geom][mesh]") {
  const Mesh m = test::cube(10.0);
  CHECK(area_mm2(m) == Approx(600.0));
  CHECK(volume_mm3(m) == Approx(1000.0));
  CHECK(euler_characteristic(m) == 2);
  CHECK(border_loops(m).empty());
  CHECK(smallest_angle_deg(m) == Approx(45.0));
}

TEST_CASE("an open patch has one border with the surface on its left", "[geom][mesh]") {
  const Mesh m = test::patch(4, [](double u, double v) { return Vec3(10 * u, 10 * v, 0); });
  const auto loops = border_loops(m);
  REQUIRE(loops.size() == 1);
  CHECK(loops[0].size() == 16);
  CHECK(euler_characteristic(m) == 1);
  double twice_area = 0.0;
  for (std::size_t i = 0; i < loops[0].size(); ++i) {
    const Vec3 &a = m.vertices[loops[0][i]], &b = m.vertices[loops[0][(i + 1) % loops[0].size()]];
    twice_area += a.x() * b.y() - a.y() * b.x();
  }
  CHECK(twice_area == Approx(200.0));
}

TEST_CASE("borders are the sides that one triangle alone has, in heaps of any kind too", "[geom][mesh][property]") {
  Random random(23);
  for (int round = 0; round < 60; ++round) {
    Mesh heap;
    for (int v = 0; v < 9; ++v)
      heap.vertices.push_back({random.uniform(0, 9), random.uniform(0, 9), random.uniform(0, 9)});
    for (int f = random.below(20); f >= 0; --f)
      heap.triangles.push_back({random.below(9), random.below(9), random.below(9)});
    const Topology topo = topology_of(heap);
    std::size_t alone = 0, on_loops = 0;
    for (const auto& e : topo.edges) alone += e.right < 0 ? 1 : 0;
    for (const auto& loop : border_loops(heap)) on_loops += loop.size();
    CHECK(on_loops == alone);
    for (int v = 0; v < 9; ++v) {
      std::vector<int> round_it;
      for (int f = 0; f < static_cast<int>(heap.triangles.size()); ++f)
        for (const int corner : heap.triangles[f])
          if (corner == v) round_it.push_back(f);
      const auto told = topo.faces_round[v];
      CHECK(std::vector<int>(told.begin(), told.end()) == round_it);
    }
  }
}

TEST_CASE("a mirrored half is closed and knows its twins", "[geom][mesh]") {
  Mesh half = test::patch(6, [](double u, double v) { return Vec3(10 * u, 20 * v, u * u); });
  const Mirrored whole = mirror_half(half);
  CHECK(area_mm2(whole.mesh) == Approx(2 * area_mm2(half)));
  CHECK(whole.mesh.vertices.size() == 2 * half.vertices.size() - 7);
  for (std::size_t v = 0; v < whole.twin_of.size(); ++v) {
    const Vec3 &p = whole.mesh.vertices[v], &q = whole.mesh.vertices[whole.twin_of[v]];
    REQUIRE(p.x() == -q.x());
    REQUIRE(p.y() == q.y());
    REQUIRE(whole.twin_of[whole.twin_of[v]] == static_cast<int>(v));
  }
}

TEST_CASE("parts are found across joined edges only", "[geom][mesh]") {
  const Mesh m = test::patch(4, [](double u, double v) { return Vec3(u, v, 0); });
  const auto all = connected_parts(m, [](int, int) { return true; });
  CHECK(*std::max_element(all.begin(), all.end()) == 0);
  const auto cut =
      connected_parts(m, [&](int a, int b) { return m.vertices[a].x() != 0.5 || m.vertices[b].x() != 0.5; });
  CHECK(*std::max_element(cut.begin(), cut.end()) == 1);
}

TEST_CASE("offsetting by planes keeps the mitre at a fold", "[geom][offset]") {
  // Two faces at right angles: the edge must move by h * sqrt(2), not by h.
  const Mesh roof = test::patch(
      8, [](double u, double v) { return Vec3(50 * v, u < 0.5 ? 100 * u : 50, u < 0.5 ? 0.0 : -100 * (u - 0.5)); });
  const Mesh out = offset_by_planes(roof, 4.0);
  for (std::size_t v = 0; v < roof.vertices.size(); ++v) {
    const Vec3& p = roof.vertices[v];
    if (p.y() == 50.0 && p.z() == 0.0)
      CHECK((out.vertices[v] - p).norm() == Approx(4.0 * std::sqrt(2.0)).epsilon(0.003));
    else
      CHECK((out.vertices[v] - p).norm() == Approx(4.0).epsilon(0.003));
  }
}
