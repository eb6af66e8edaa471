#include "core/seam/glue_up.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/geom/nearest.hpp"
#include "core/seam/joined_sheets.hpp"

namespace awl {
namespace {

constexpr double kPointReachMm = 24.0, kPointLeastMm = 7.0;  // the ring a meeting point is held against
constexpr double kEdgeReachMm = 14.0;                        // free edges curl; puckers are looked for inside of them

void measure_off(GluedUp& glued, const Mesh& form, const std::vector<double>& area) {
  const Nearest surface(form);
  std::vector<std::pair<double, double>> by_size;
  double all = 0.0;
  for (std::size_t v = 0; v < glued.places.size(); ++v) {
    if (area[v] <= 0.0) {
      glued.off_mm.push_back(0.0);
      continue;
    }
    const NearestHit hit = surface.to(glued.places[v]);
    const Vec3 away = glued.places[v] - hit.point;
    const double off = std::copysign(away.norm(), away.dot(area_vector(form, form.triangles[hit.triangle])));
    glued.off_mm.push_back(off);
    by_size.push_back({std::abs(off), area[v]}), all += area[v];
    glued.mean_mm += area[v] * std::abs(off);
    if (glued.worst < 0 || std::abs(off) > glued.most_mm)
      glued.most_mm = std::abs(off), glued.worst = static_cast<int>(v);
  }
  glued.mean_mm /= std::max(all, 1e-9);
  std::sort(by_size.begin(), by_size.end());
  double sum = 0.0;
  for (const auto& [off, a] : by_size)
    if ((sum += a) <= 0.95 * all) glued.p95_mm = off;
}

/// How far a vertex stands out over the ring round it.
double stands_out_mm(const std::vector<Vec3>& places, const std::vector<int>& ring, int v, const Vec3& normal) {
  Vec3 mean = Vec3::Zero();
  for (const int r : ring) mean += places[r] / static_cast<double>(ring.size());
  return (places[v] - mean).dot(normal);
}

void find_points(GluedUp& glued, const PanelSet& set, const Mesh& form, const Topology& topo) {
  std::map<int, int> seams_at;
  for (const auto& [edge, id] : set.form.seam_of) ++seams_at[edge.first], ++seams_at[edge.second];
  std::set<int> rim;
  for (std::size_t e = 0; e < topo.edges.size(); ++e)
    if (topo.is_border(static_cast<int>(e))) rim.insert(topo.edges[e].a), rim.insert(topo.edges[e].b);
  const auto before = vertex_normals(form), after = vertex_normals({glued.places, form.triangles});
  for (const auto& [v, count] : seams_at) {
    if (count == 2 || rim.count(v) != 0) continue;
    std::vector<int> ring;
    for (int w = 0; w < static_cast<int>(glued.meant.size()); ++w) {
      const double mm = (glued.meant[w] - glued.meant[v]).norm();
      if (mm > kPointLeastMm && mm < kPointReachMm && before[w].dot(before[v]) > 0.3) ring.push_back(w);
    }
    if (ring.size() < 6) continue;
    glued.points.push_back({glued.meant[v],
        stands_out_mm(glued.places, ring, v, after[v]) - stands_out_mm(glued.meant, ring, v, before[v]), count == 1});
  }
  std::stable_sort(glued.points.begin(), glued.points.end(),
      [](const auto& a, const auto& b) { return std::abs(a.out_mm) > std::abs(b.out_mm); });
}

void measure_rims(GluedUp& glued, const Mesh& form) {
  for (const auto& loop : border_loops(form)) {
    GluedRim rim;
    Box meant, made;
    for (std::size_t i = 0; i < loop.size(); ++i) {
      const int a = loop[i], b = loop[(i + 1) % loop.size()];
      rim.girth_mm += (glued.meant[a] - glued.meant[b]).norm(),
          rim.glued_girth_mm += (glued.places[a] - glued.places[b]).norm();
      rim.at += glued.meant[a] / static_cast<double>(loop.size());
      meant.include(glued.meant[a]), made.include(glued.places[a]);
    }
    rim.breadth_mm = meant.size().x(), rim.glued_breadth_mm = made.size().x();
    glued.rims.push_back(rim);
  }
}

void find_pucker(GluedUp& glued, const Mesh& form, const Topology& topo) {
  std::vector<Vec3> rim;
  for (const auto& e : topo.edges)
    if (e.right < 0) rim.push_back(0.5 * (glued.meant[e.a] + glued.meant[e.b]));
  const Mesh made{glued.places, form.triangles};
  for (const Tri& t : form.triangles) {
    const Vec3 meant = area_vector(form, t), is = area_vector(made, t);
    if (meant.norm() < 2.0) continue;  // slivers lean as they like
    const double deg = 57.29578 * std::acos(std::clamp(meant.normalized().dot(is.normalized()), -1.0, 1.0));
    if (deg <= glued.pucker_deg) continue;
    const Vec3 at = (form.vertices[t[0]] + form.vertices[t[1]] + form.vertices[t[2]]) / 3.0;
    if (std::any_of(rim.begin(), rim.end(), [&](const Vec3& r) { return (r - at).norm() < kEdgeReachMm; })) continue;
    glued.pucker_deg = deg, glued.pucker_at = at;
  }
}

}  // namespace

Result<GluedUp> glue_up(const PanelSet& set, const GlueUpOptions& options, const Progress& progress) {
  return glue_up_from({}, set, options, progress);
}

Result<GluedUp> glue_up_from(
    std::vector<Vec3> start, const PanelSet& set, const GlueUpOptions& options, const Progress& progress) {
  if (set.panels.empty()) return fail(Errc::empty_input, "There is no piece to glue.", "panels");
  JoinedSheets sheets = joined_sheets(set, options.keeps_bend);
  GluedUp glued;
  std::vector<Vec3> places = sheets.start();
  for (std::size_t i = 0; i < places.size() && !start.empty(); ++i) places[i] = start[sheets.vertex_of[i]];
  if (sheets.half)
    for (const int v : sheets.middle) places[v].x() = 0.0;
  ShellEnergy energy(
      static_cast<int>(places.size()), std::move(sheets.faces), std::move(sheets.hinges), options.squeeze);
  energy.hold_in_middle(sheets.middle);
  const auto outcome = energy.minimise(places, options.most_steps, options.still_mm, progress.span(0.0, 0.95));
  if (outcome.cancelled) return fail(Errc::cancelled, "Stopped.");
  glued.steps = outcome.steps, glued.at_rest = outcome.last_step_mm < options.still_mm;
  glued.places = sheets.whole(places, set.form.twin_of);
  glued.meant = std::move(sheets.meant);
  const Mesh form{glued.meant, set.form.mesh.triangles};
  const std::vector<double> area = vertex_areas(form);
  lay_over(glued.places, glued.meant, area);
  measure_off(glued, form, area);
  const Topology topo = topology_of(form);
  find_points(glued, set, form, topo);
  measure_rims(glued, form);
  find_pucker(glued, form, topo);
  return glued;
}

}  // namespace awl
