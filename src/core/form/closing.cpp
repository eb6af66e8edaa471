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
  return remesh(std::move(*shell), goal);
}

}  // namespace awl
