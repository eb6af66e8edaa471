#include "core/form/closing.hpp"

#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/parallel.hpp"
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
Mesh faired_half(const Mesh& half, const Nearest& near_head, const CardField& cards, const ClosingOptions& options) {
  Mirrored whole = mirror_half(half);
  auto& places = whole.mesh.vertices;
  const Topology topo = topology_of(whole.mesh);
  std::vector<double> give(half.vertices.size(), 0.4);
  if (!cards.empty())
    for (std::size_t v = 0; v < give.size(); ++v) give[v] *= smoothstep(12.0, 45.0, cards(half.vertices[v]));
  for (int round = 0; round < options.fairing_rounds; ++round) {
    const auto second = umbrellas(topo, umbrellas(topo, places));
    const auto move = [&](std::size_t v) {
      if (give[v] == 0.0) return;
      Vec3 p = places[v] - give[v] * second[v];
      const auto hit = near_head.within(p, options.ease_mm);
      if (hit && hit->signed_mm < options.ease_mm && hit->signed_mm > 0.0)
        p += (options.ease_mm - hit->signed_mm) * (p - hit->point).normalized();
      if (half.vertices[v].x() == 0.0) p.x() = 0.0;
      places[v] = p;
      places[whole.twin_of[v]] = Vec3(whole.twin_of[v] == static_cast<int>(v) ? p.x() : -p.x(), p.y(), p.z());
    };
    parallel_each(half.vertices.size(), move);
  }
  return {{places.begin(), places.begin() + static_cast<long>(half.vertices.size())}, half.triangles};
}

}  // namespace

Result<Mesh> closing_shell_half(
    const Mesh& head, const CardField& cards, const ClosingOptions& options, const Progress& progress) {
  const double r = options.tightness_mm, c = options.ease_mm;
  if (c < 0.0 || c >= r)
    return fail(Errc::out_of_range,
        "The ease of " + fixed(c, 1) + " mm must be 0 or more and below the tape tightness of " + fixed(r, 0) + " mm.");
  Box box = box_of(head.vertices);
  if (!cards.empty()) box.include(cards.box().low), box.include(cards.box().high);
  const Vec3 margin = Vec3::Constant(r + 3.0 * options.cell_mm);
  const auto grid_of = [&](double cell_mm) {
    return grid_over({0.0, box.low.y() - margin.y(), box.low.z() - margin.z()}, box.high + margin, cell_mm);
  };

  const Nearest near_head(head);
  const auto padded = [&](const Vec3& p) {
    const double d = near_head.to(p).signed_mm;
    return cards.empty() ? d : std::min(d, cards(p) + c);
  };
  const auto wide_half = distance_surface(
      grid_of(options.far_cell_mm > 0.0 ? options.far_cell_mm : options.cell_mm),
      [&](const Vec3& p) { return padded(p) - r; }, progress.span(0.0, 0.4));
  if (!wide_half) return wide_half;
  const Nearest near_wide(mirror_half(*wide_half).mesh);
  DistanceBand band;
  auto shell = distance_surface(
      grid_of(options.cell_mm), [&](const Vec3& p) { return near_wide.to(p).signed_mm + (r - c); },
      progress.span(0.4, 0.6), options.wanted, &band);
  if (!shell) return shell;
  if (!progress.keep_going(0.6)) return fail(Errc::cancelled, "Stopped.");

  RemeshGoal goal;
  goal.passes = options.passes;
  goal.edge_mm = [&](const Vec3&) { return options.edge_mm; };
  const auto ragged = [](const Vec3& p, bool on_border) { return on_border && p.x() > 1e-6; };
  const auto exactly = [&](const Vec3& p, bool on_border) {
    return ragged(p, on_border) ? p : stand_off(near_wide, p, r - c, on_border);
  };
  goal.border_kind = [](const Vec3& p) { return p.x() > 1e-6 ? 1 : 0; };
  // On the way the band of the grid is near enough; in the end every place is brought exactly onto the tape.
  goal.project = [&](const Vec3& p, bool on_border) {
    if (ragged(p, on_border)) return p;
    const auto there = band.onto(p, on_border);
    return there ? in_plane(*there, on_border) : exactly(p, on_border);
  };
  Mesh even = remesh(std::move(*shell), goal);
  const std::size_t n = even.vertices.size();
  std::vector<char> border(n, 0);
  for (const auto& loop : border_loops(even))
    for (const int v : loop) border[v] = 1;
  parallel_each(n, [&](std::size_t v) { even.vertices[v] = exactly(even.vertices[v], border[v] != 0); });
  return faired_half(even, near_head, cards, options);
}

Result<Mesh> closing_shell_half(const Mesh& head, const ClosingOptions& options, const Progress& progress) {
  return closing_shell_half(head, CardField({}), options, progress);
}

}  // namespace awl
