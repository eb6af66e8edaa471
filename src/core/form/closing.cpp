#include "core/form/closing.hpp"

#include <cmath>

#include "core/base/numbers.hpp"
#include "core/geom/iso_surface.hpp"
#include "core/geom/nearest.hpp"
#include "core/geom/remesh.hpp"

namespace awl {
namespace {

Vec3 in_plane(Vec3 p, bool on_border) {
  if (on_border) p.x() = 0.0;
  return p;
}

/// Closest points of the far surface carried back by `back_mm` along their own direction.
Vec3 stand_off(const Nearest& from, Vec3 p, double back_mm, bool on_border) {
  for (int i = 0; i < (on_border ? 3 : 1); ++i) {
    const NearestHit hit = from.to(p);
    const Vec3 away = p - hit.point;
    if (away.norm() > 1e-9) p = hit.point + back_mm * away.normalized();
    p = in_plane(p, on_border);
  }
  return p;
}

/// Uniform umbrella vectors: mean of the neighbours minus the place itself.
std::vector<Vec3> umbrellas(const Topology& topo, const std::vector<Vec3>& of) {
  std::vector<Vec3> sum(of.size(), Vec3::Zero());
  std::vector<int> count(of.size(), 0);
  for (const auto& e : topo.edges) sum[e.a] += of[e.b], sum[e.b] += of[e.a], ++count[e.a], ++count[e.b];
  for (std::size_t v = 0; v < of.size(); ++v) sum[v] = sum[v] / std::max(count[v], 1) - of[v];
  return sum;
}

/// Bends the shell as little as it can while it stays `ease_mm` off the head. Works on the whole, returns the half.
Mesh faired_half(const Mesh& half, const Nearest& near_head, double ease_mm, int rounds) {
  Mirrored whole = mirror_half(half);
  auto& places = whole.mesh.vertices;
  const Topology topo = topology_of(whole.mesh);
  for (int round = 0; round < rounds; ++round) {
    const auto second = umbrellas(topo, umbrellas(topo, places));
    for (std::size_t v = 0; v < half.vertices.size(); ++v) {
      Vec3 p = places[v] - 0.4 * second[v];
      const NearestHit hit = near_head.to(p);
      if (hit.signed_mm < ease_mm && hit.signed_mm > 0.0) p += (ease_mm - hit.signed_mm) * (p - hit.point).normalized();
      if (half.vertices[v].x() == 0.0) p.x() = 0.0;
      places[v] = p;
      places[whole.twin_of[v]] = Vec3(whole.twin_of[v] == static_cast<int>(v) ? p.x() : -p.x(), p.y(), p.z());
    }
  }
  return {{places.begin(), places.begin() + static_cast<long>(half.vertices.size())}, half.triangles};
}

}  // namespace

Result<Mesh> closing_shell_half(const Mesh& head, const ClosingOptions& options, const Progress& progress) {
  const double r = options.tightness_mm, c = options.ease_mm;
  if (c < 0.0 || c >= r)
    return fail(Errc::out_of_range, "The ease of " + fixed(c, 1) + " mm must be 0 or more and below the tape tightness of " + fixed(r, 0) + " mm.");
  Box box = box_of(head.vertices);
  const Vec3 margin = Vec3::Constant(r + 3.0 * options.cell_mm);
  const auto grid = grid_over({0.0, box.low.y() - margin.y(), box.low.z() - margin.z()}, box.high + margin, options.cell_mm);

  const Nearest near_head(head);
  const auto wide_half = iso_surface(grid, [&](const Vec3& p) { return near_head.to(p).signed_mm - r; }, progress.span(0.0, 0.45));
  if (!wide_half) return wide_half;
  const Nearest near_wide(mirror_half(*wide_half).mesh);
  auto shell = iso_surface(grid, [&](const Vec3& p) { return near_wide.to(p).signed_mm + (r - c); }, progress.span(0.45, 0.9));
  if (!shell) return shell;

  RemeshGoal goal;
  goal.edge_mm = [&](const Vec3&) { return options.edge_mm; };
  goal.project = [&](const Vec3& p, bool on_border) { return stand_off(near_wide, p, r - c, on_border); };
  return faired_half(remesh(std::move(*shell), goal), near_head, c, options.fairing_rounds);
}

}  // namespace awl
