// Makes the shipped meshes from the head recipe: data/headform/head.ply, shell.ply and bust.ply (x >= 0 halves).
// Run once when the recipe changes: build/release/make_template data/headform
#include <cstdio>
#include <filesystem>

#include "core/base/data_files.hpp"
#include "core/base/numbers.hpp"
#include "core/form/closing.hpp"
#include "core/geom/iso_surface.hpp"
#include "core/geom/remesh.hpp"
#include "core/head/field.hpp"
#include "core/geom/mesh_file.hpp"

namespace {

using namespace awl;

/// Where the mesh is finer: inside radii the edge is `edge_mm`, outside it fades to the coarse size.
struct Zone {
  Vec3 centre, radii;
  double edge_mm;
};
const Zone kZones[] = {{{0, -20, 105}, {19, 20, 22}, 2.5}, {{0, -54, 95}, {26, 9, 20}, 1.9},
    {{29.8, 12.5, 84}, {15, 7, 14}, 1.5}, {{30, 12, 80}, {24, 16, 18}, 2.6}, {{80, 0, -14}, {14, 34, 24}, 2.2},
    {{0, -30, 90}, {60, 70, 50}, 4.4}, {{0, -165, -20}, {90, 8, 90}, 4.8}};

double wanted_edge(const Vec3& p) {
  double edge = 6.5;
  for (const Zone& zone : kZones) {
    const double u = (p - zone.centre).cwiseQuotient(zone.radii).norm();
    edge = std::min(edge, zone.edge_mm + (6.5 - zone.edge_mm) * smoothstep(0.0, 1.0, (u - 1.0) / 1.2));
  }
  return 1.25 * edge;
}

Mesh head_half(const Field& field) {
  const auto grid = grid_over({0, -190, -125}, {110, 150, 140}, 2.0);
  RemeshGoal goal;
  goal.edge_mm = wanted_edge;
  goal.project = [&](const Vec3& p, bool on_border) {
    Vec3 q = p;
    if (on_border) q.x() = 0.0;
    return field.project(q, on_border);
  };
  return remesh(*iso_surface(grid, [&](const Vec3& p) { return field(p); }), goal);
}

void report(const char* name, const Mesh& half) {
  const Mesh whole = mirror_half(half).mesh;
  std::printf("%s: %zu vertices, %zu triangles, Euler %d, loops %zu, smallest angle %.1f deg, volume %.0f cm3\n", name,
      whole.vertices.size(), whole.triangles.size(), euler_characteristic(whole), border_loops(whole).size(),
      smallest_angle_deg(whole), volume_mm3(whole) / 1000.0);
}

}  // namespace

int main(int argc, char** argv) {
  const std::filesystem::path folder = argc > 1 ? argv[1] : "data/headform";
  const auto recipe = read_file(folder / "template.field");
  const auto field = recipe ? Field::parse(*recipe) : Result<Field>(tl::make_unexpected(recipe.error()));
  if (!field) return std::fprintf(stderr, "%s\n", field.error().text.c_str()), 1;
  const Mesh head = head_half(*field);
  report("head", head);
  const auto shell = closing_shell_half(mirror_half(head).mesh, {});
  if (!shell) return std::fprintf(stderr, "%s\n", shell.error().text.c_str()), 1;
  report("shell", *shell);
  // The bust is what can be built in foam: no ears, and hollows narrower than a fist bridged.
  const auto bare = iso_surface(grid_over({0, -190, -125}, {110, 150, 140}, 3.0),
      [bare = field->without("ear")](const Vec3& p) { return bare(p); });
  ClosingOptions tight;
  tight.tightness_mm = 24.0, tight.ease_mm = 0.0, tight.edge_mm = 6.5, tight.fairing_rounds = 12;
  const auto bust = closing_shell_half(mirror_half(*bare).mesh, tight);
  if (!bust) return std::fprintf(stderr, "%s\n", bust.error().text.c_str()), 1;
  report("bust", *bust);
  const bool wrote = write_mesh(folder / "bust.ply", *bust).has_value() &&
      write_mesh(folder / "head.ply", head).has_value() && write_mesh(folder / "shell.ply", *shell).has_value();
  return wrote ? 0 : 1;
}
