#include "core/head/template.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/data_files.hpp"
#include "core/base/parallel.hpp"
#include "core/geom/mesh_file.hpp"

namespace awl {

namespace {

constexpr double kEarMm = 0.8;       // further off the bare head is ear
constexpr double kEarSkinMm = 0.05;  // the same where breadth is measured

void find_edges(HeadTemplate& head) {
  const auto on_skin = [&](int face) {
    const Tri& t = head.mesh.triangles[face];
    return std::all_of(t.begin(), t.end(), [&](int v) { return head.off_skin_mm[v] <= kEarMm; });
  };
  for (const auto& e : topology_of(head.mesh).edges) {
    head.edges.push_back({e.a, e.b});
    if (on_skin(e.left) || on_skin(e.right)) head.skin_edges.push_back({e.a, e.b});
  }
}

void find_regions(HeadTemplate& head) {
  auto& r = head.regions;
  for (int v = 0; v < static_cast<int>(head.mesh.vertices.size()); ++v) {
    const Vec3& p = head.mesh.vertices[v];
    const double off = head.off_skin_mm[v];
    if (std::abs(p.x()) > 55 && (p.y() > 40 || (p.y() > 5 && p.z() < 40 && off < kEarSkinMm))) r.cranium.push_back(v);
    if (std::abs(p.x()) > 50 && p.y() > -35 && p.y() < 14 && p.z() > 20 && p.z() < 65 && off < kEarMm)
      r.cheeks.push_back(v);
    if (p.y() > 110) r.crown.push_back(v);
    if (p.z() > 62 && std::abs(p.x()) < 30 && p.y() < -85) r.under_chin.push_back(v);
    if (p.y() > -20 && p.z() < -75) r.back.push_back(v);
    if (p.x() == 0.0 && p.z() < 0.0 && p.y() > -5 && p.y() < 100) r.midline_back.push_back(v);
  }
}

}  // namespace

Result<std::shared_ptr<const HeadTemplate>> load_head_template(const std::filesystem::path& folder) {
  const auto recipe = read_file(folder / "template.field");
  if (!recipe) return fail(recipe);
  const auto field = Field::parse(*recipe);
  if (!field) return fail(field);
  auto half = read_mesh(folder / "head.ply");
  if (!half) return fail(half);
  auto head = std::make_shared<HeadTemplate>();
  head->bare = field->without("ear");
  Mirrored whole = mirror_half(*half);
  head->twin_of = std::move(whole.twin_of);
  head->mesh = std::move(whole.mesh);
  head->off_skin_mm.assign(head->mesh.vertices.size(), 0.0);
  parallel_each(half->vertices.size(), [&](std::size_t v) {
    head->off_skin_mm[v] = head->off_skin_mm[head->twin_of[v]] = head->bare(head->mesh.vertices[v]);
  });
  find_edges(*head);
  find_regions(*head);
  head->riders = Riders(head->mesh.vertices, head->off_skin_mm, head->twin_of);
  const auto& marks = template_landmarks();
  std::vector<double> off;
  for (const Vec3& p : marks) off.push_back(head->bare(p));
  head->landmarks = Riders({marks.begin(), marks.end()}, off);
  return head;
}

}  // namespace awl
