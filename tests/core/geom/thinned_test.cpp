#include "core/geom/mending/thinned.hpp"

#include <catch2/catch.hpp>
#include <set>

#include "core/geom/mending/even.hpp"
#include "core/geom/mending/mend.hpp"
#include "core/geom/nearest.hpp"
#include "support/plain_shapes.hpp"

using namespace awl;

namespace {

/// A globe with hills, of several blocks.
Mesh hilly() {
  Mesh globe = test::icosphere(90.0, 7);
  for (Vec3& p : globe.vertices)
    p *= 1.0 + 0.05 * std::sin(0.08 * p.x()) * std::cos(0.07 * p.y()) + 0.02 * std::sin(0.2 * p.z());
  return globe;
}

/// The same in rings and meridians: needles at its poles, as turned and lathed shapes have them.
Mesh turned_globe(int n) {
  Mesh globe;
  const auto at = [&](int i, int j) {
    const double u = 2.0 * EIGEN_PI * i / n, v = EIGEN_PI * j / n;
    const double r = 100.0 + 6.0 * std::sin(5.0 * u) * std::sin(4.0 * v) + 2.0 * std::cos(11.0 * v);
    return Vec3(r * std::sin(v) * std::cos(u), r * std::cos(v), r * std::sin(v) * std::sin(u));
  };
  globe.vertices.push_back(at(0, 0));
  for (int j = 1; j < n; ++j)
    for (int i = 0; i < n; ++i) globe.vertices.push_back(at(i, j));
  globe.vertices.push_back(at(0, n));
  const auto number = [&](int i, int j) {
    return j == 0 ? 0 : j == n ? static_cast<int>(globe.vertices.size()) - 1 : 1 + (j - 1) * n + i % n;
  };
  for (int j = 0; j < n; ++j)
    for (int i = 0; i < n; ++i) {
      if (j + 1 < n) globe.triangles.push_back({number(i, j), number(i + 1, j + 1), number(i, j + 1)});
      if (j > 0) globe.triangles.push_back({number(i, j), number(i + 1, j), number(i + 1, j + 1)});
    }
  return globe;
}

int crowded_edges(const Mesh& mesh) {
  const Topology topo = topology_of(mesh);
  return static_cast<int>(
      std::count_if(topo.edges.begin(), topo.edges.end(), [](const auto& e) { return e.more > 0; }));
}

}  // namespace

TEST_CASE("a tenth of the triangles show the same hills and join edge to edge", "[geom][thinned]") {
  const Mesh fine = GENERATE(hilly(), turned_globe(400));
  const int wanted = static_cast<int>(fine.triangles.size()) / 10;
  const auto thin = thinned(fine, wanted);
  REQUIRE(thin);
  CHECK(static_cast<int>(thin->triangles.size()) <= wanted + wanted / 50);
  CHECK(static_cast<int>(thin->triangles.size()) >= wanted - 50);
  CHECK(crowded_edges(*thin) == 0);
  CHECK(border_loops(*thin).empty());
  CHECK(euler_characteristic(*thin) == 2);
  CHECK(volume_mm3(*thin) == Approx(volume_mm3(fine)).epsilon(0.002));
  const Nearest near(*thin);
  double off = 0.0;
  for (std::size_t v = 0; v < fine.vertices.size(); v += 7)
    off = std::max(off, std::abs(near.to(fine.vertices[v]).signed_mm));
  CHECK(off < 0.4);
  CHECK(*thinned(fine, wanted) == *thin);
}

TEST_CASE("openings, tunnels and loose shells stay as they are", "[geom][thinned]") {
  Mesh bowl = hilly();
  std::erase_if(bowl.triangles, [&](const Tri& t) { return bowl.vertices[t[0]].y() > 40.0; });
  const std::size_t first = bowl.vertices.size(), whole = bowl.triangles.size();
  for (std::size_t v = 0; v < first; ++v) bowl.vertices.push_back(bowl.vertices[v] + Vec3(5.0, 0.0, 0.0));
  for (std::size_t f = 0; f < whole; ++f) {
    Tri t = bowl.triangles[f];
    for (int& v : t) v += static_cast<int>(first);
    bowl.triangles.push_back(t);
  }
  const auto thin = thinned(bowl, static_cast<int>(bowl.triangles.size()) / 8);
  REQUIRE(thin);
  CHECK(thin->triangles.size() < bowl.triangles.size() / 7);
  CHECK(crowded_edges(*thin) == 0);
  const auto before = border_loops(bowl), after = border_loops(*thin);
  REQUIRE(after.size() == before.size());
  CHECK(after[0].size() + after[1].size() == before[0].size() + before[1].size());
  const auto part = connected_parts(*thin, [](int, int) { return true; });
  CHECK(std::set<int>(part.begin(), part.end()).size() == 2);
}

TEST_CASE("bringing down in a hurry can be stopped", "[geom][thinned]") {
  int asked = 0;
  const auto thin = thinned(hilly(), 20'000, Progress([&](double) { return ++asked < 2; }));
  REQUIRE_FALSE(thin);
  CHECK(thin.error().code == Errc::cancelled);
}

TEST_CASE("far too many triangles are brought down, and even out without dust", "[geom][thinned][mend]") {
  const Mesh fine = turned_globe(400);
  std::set<double> told;
  const auto down = simplified(fine, 20'000, Progress([&](double share) { return told.insert(share), true; }));
  REQUIRE(down);
  CHECK(down->triangles.size() < 20'100);
  CHECK(euler_characteristic(*down) == 2);
  CHECK(*told.begin() >= 0.0);
  CHECK(*told.rbegin() <= 1.0);
  const auto even = evened_to(*down, 4000);
  REQUIRE(even);
  const double mm = even_edge_mm(*down, 4000);
  for (const Tri& t : even->triangles) CHECK(area_vector(*even, t).norm() > 1e-4 * mm * mm);
}
