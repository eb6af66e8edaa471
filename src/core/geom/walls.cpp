#include "core/geom/walls.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/parallel.hpp"
#include "core/geom/nearest.hpp"

namespace awl {
namespace {

constexpr int kRays = 64;
constexpr double kShutInShare = 0.05;    // of the rays; fewer leave from inside a closed wall
constexpr double kThickestShare = 0.15;  // of the whole size: what is further behind is another wall
constexpr double kCrumbShare = 0.05;     // of the kept area

/// Evenly spread directions over the sphere (golden spiral).
std::vector<Vec3> directions() {
  std::vector<Vec3> all;
  const double golden = kPi * (3.0 - std::sqrt(5.0));
  for (int i = 0; i < 2 * kRays; ++i) {
    const double y = 1.0 - (2.0 * i + 1.0) / (2.0 * kRays), r = std::sqrt(1.0 - y * y);
    all.push_back({r * std::cos(golden * i), y, r * std::sin(golden * i)});
  }
  return all;
}

/// Share of the rays over the front of each triangle that meet nothing.
std::vector<double> seen_shares(const Mesh& mesh) {
  const Nearest tree(mesh);
  const auto rays = directions();
  const double size = box_of(mesh.vertices).size().norm();
  std::vector<double> seen(mesh.triangles.size(), 0.0);
  parallel_for(static_cast<int>(seen.size()), [&](int f) {
    const Tri& t = mesh.triangles[f];
    const Vec3 n = area_vector(mesh, t).normalized(),
               from = (mesh.vertices[t[0]] + mesh.vertices[t[1]] + mesh.vertices[t[2]]) / 3.0 + 1e-4 * size * n;
    int over = 0, free = 0;
    for (const Vec3& d : rays) {
      if (d.dot(n) < 0.05) continue;
      ++over;
      if (!tree.blocked(from, d, 4.0 * size)) ++free;
    }
    seen[f] = over > 0 ? static_cast<double>(free) / over : 0.0;
  });
  return seen;
}

/// Which triangles belong to the outer wall: those that see more of the sky than the wall close behind them, and those
/// that have none behind them and are not shut in.
std::vector<double> outer_marks(const Mesh& mesh, const std::vector<double>& seen) {
  const Nearest tree(mesh);
  const double size = box_of(mesh.vertices).size().norm();
  std::vector<double> outer(seen.size(), 0.0);
  parallel_for(static_cast<int>(seen.size()), [&](int f) {
    const Tri& t = mesh.triangles[f];
    const Vec3 n = area_vector(mesh, t).normalized(),
               at = (mesh.vertices[t[0]] + mesh.vertices[t[1]] + mesh.vertices[t[2]]) / 3.0;
    const auto behind = tree.first_hit(at - 1e-5 * size * n, -n);
    const bool wall = behind && behind->along_mm < kThickestShare * size &&
        area_vector(mesh, mesh.triangles[behind->triangle]).normalized().dot(n) < -0.3;
    outer[f] = wall ? (seen[f] > seen[behind->triangle] ? 1.0 : 0.0) : seen[f] > kShutInShare ? 1.0 : 0.0;
  });
  return outer;
}

/// Averages over neighbours, so that a dent in the outer wall does not make a hole.
void smooth(std::vector<double>& value, const Mesh& mesh, int rounds) {
  const Topology topo = topology_of(mesh);
  for (int i = 0; i < rounds; ++i) {
    std::vector<double> sum = value;
    std::vector<int> count(value.size(), 1);
    for (const auto& e : topo.edges)
      if (e.right >= 0) sum[e.left] += value[e.right], sum[e.right] += value[e.left], ++count[e.left], ++count[e.right];
    for (std::size_t f = 0; f < value.size(); ++f) value[f] = sum[f] / count[f];
  }
}

}  // namespace

Result<OuterWall> outer_wall(const Mesh& mesh) {
  std::vector<double> outer_mark = outer_marks(mesh, seen_shares(mesh));
  smooth(outer_mark, mesh, 4);
  const auto part = connected_parts(mesh, [](int, int) { return true; });
  std::vector<int> kept, old;
  for (std::size_t f = 0; f < outer_mark.size(); ++f)
    if (outer_mark[f] >= 0.5) kept.push_back(static_cast<int>(f));
  Mesh outer = part_of(mesh, kept, old);
  if (outer.triangles.empty()) return fail(Errc::degenerate_shape, "Nothing of this mesh is seen from outside.");
  const auto pieces = connected_parts(outer, [](int, int) { return true; });
  std::vector<double> area(static_cast<std::size_t>(*std::max_element(pieces.begin(), pieces.end())) + 1, 0.0);
  for (std::size_t f = 0; f < pieces.size(); ++f)
    area[pieces[f]] += 0.5 * area_vector(outer, outer.triangles[f]).norm();
  const double all = area_mm2(outer);
  kept.clear();
  for (std::size_t f = 0; f < pieces.size(); ++f)
    if (area[pieces[f]] > kCrumbShare * all) kept.push_back(static_cast<int>(f));
  OuterWall wall{part_of(outer, kept, old), 1.0};
  wall.kept_share = area_mm2(wall.mesh) / area_mm2(mesh);
  return wall;
}

}  // namespace awl
