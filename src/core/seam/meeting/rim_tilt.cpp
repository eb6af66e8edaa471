#include "core/seam/meeting/rim_tilt.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/geom/offset.hpp"

namespace awl {

Rim tilt_rims(SeamMesh& form, const Mesh& middle, const std::function<bool(const Vec3&)>& on,
    const std::function<Vec3(const Vec3&, const Vec3&)>& wall) {
  Rim rim;
  const auto normals = vertex_normals(middle);
  for (const auto& loop : border_loops(middle)) {
    std::size_t count = 0;
    for (std::size_t i = 0; i < loop.size(); ++i) {
      const int a = loop[i], b = loop[(i + 1) % loop.size()];
      const Vec3 &p = middle.vertices[a], &q = middle.vertices[b];
      if (!on(p) || !on(q)) continue;
      ++count;
      const double length = (q - p).norm();
      if (length < 1e-9) continue;
      const Vec3 along = (q - p) / length, mean = normals[a] + normals[b];
      const Vec3 sheet = (mean - mean.dot(along) * along).normalized(), out = along.cross(sheet);
      Vec3 cut = wall(0.5 * (p + q), sheet);
      cut -= cut.dot(along) * along;
      rim.mm += length;
      if (cut.norm() < 1e-3) continue;
      if (cut.dot(sheet) < 0.0) cut = -cut;
      const double tilt = std::atan2(cut.dot(out), cut.dot(sheet));
      form.rim_tilt[edge_of(a, b)] = tilt;
      rim.tilts.push_back({degrees(tilt), length});
    }
    if (count == loop.size()) ++rim.closed;
  }
  return rim;
}

double steepest_deg(const Rim& rim) {
  auto tilts = rim.tilts;
  double all = 0.0, sum = 0.0;
  for (auto& [deg, mm] : tilts) deg = std::abs(deg), all += mm;
  std::sort(tilts.begin(), tilts.end());
  for (const auto& [deg, mm] : tilts)
    if ((sum += mm) >= 0.95 * all) return deg;
  return 0.0;
}

Mesh middle_of(const MeetSide& side) {
  const SeamMesh& form = *side.form;
  if (!form.middle.empty()) return {form.middle, form.mesh.triangles};
  if (!form.flat.empty() || !form.sheets.empty()) return form.mesh;
  const double by = (side.outside ? -0.5 : 0.5) * side.thickness_mm;
  return sheet_offset(form.mesh, std::vector<double>(form.mesh.vertices.size(), by));
}

}  // namespace awl
