#include "core/chain/forms/cover.hpp"

#include <algorithm>
#include <cmath>

#include "core/geom/offset.hpp"

namespace awl {
namespace {

/// Some triangles of a form with what is known of them; seams along which it was cut off are edges now.
SeamMesh taken_from(const SeamMesh& form, const std::vector<int>& faces) {
  SeamMesh out;
  std::vector<int> old;
  out.mesh = part_of(form.mesh, faces, old);
  std::vector<int> now(form.mesh.vertices.size(), -1);
  for (std::size_t v = 0; v < old.size(); ++v) now[old[v]] = static_cast<int>(v);
  std::map<std::pair<int, int>, int> sides;
  for (const Tri& t : out.mesh.triangles)
    for (int k = 0; k < 3; ++k) ++sides[edge_of(t[k], t[(k + 1) % 3])];
  out.seam_names = form.seam_names;
  for (const auto& [edge, id] : form.seam_of) {
    const int a = now[edge.first], b = now[edge.second];
    if (a < 0 || b < 0) continue;
    if (const auto it = sides.find(edge_of(a, b)); it != sides.end() && it->second == 2)
      out.seam_of[edge_of(a, b)] = id;
  }
  const bool twins =
      !form.twin_of.empty() && std::all_of(old.begin(), old.end(), [&](int v) { return now[form.twin_of[v]] >= 0; });
  for (const int v : old) {
    if (twins) out.twin_of.push_back(now[form.twin_of[v]]);
    if (!form.home.empty()) out.home.push_back(form.home[v]);
    if (!form.sheet_of.empty()) out.sheet_of.push_back(form.sheet_of[v]);
    if (form.opening.count(v) != 0) out.opening.insert(now[v]);
  }
  out.sheets = form.sheets;
  return out;
}

/// Triangles of the brim: the side of the seam "brim" that lies further out.
std::vector<int> brim_of(const SeamMesh& form) {
  const auto part = connected_parts(form.mesh, [&](int a, int b) { return !form.seam_at(a, b).valid(); });
  Vec3 middle = Vec3::Zero();
  std::set<int> on_seam;
  for (const auto& [edge, id] : form.seam_of)
    if (form.seam_names[id.value].rfind("brim", 0) == 0) on_seam.insert(edge.first), on_seam.insert(edge.second);
  if (on_seam.empty()) return {};
  for (const int v : on_seam) middle += form.mesh.vertices[v] / static_cast<double>(on_seam.size());
  const auto out = [&](const Vec3& p) { return std::hypot(p.x() - middle.x(), p.z() - middle.z()); };
  std::map<int, int> count;
  std::map<int, bool> touches;
  double rim = 0.0;
  for (const int v : on_seam) rim += out(form.mesh.vertices[v]) / static_cast<double>(on_seam.size());
  std::map<int, double> sum;
  for (std::size_t f = 0; f < part.size(); ++f)
    for (const int v : form.mesh.triangles[f]) {
      sum[part[f]] += out(form.mesh.vertices[v]), ++count[part[f]];
      if (on_seam.count(v) != 0) touches[part[f]] = true;
    }
  std::vector<int> faces;
  for (std::size_t f = 0; f < part.size(); ++f)
    if (touches[part[f]] && sum[part[f]] / count[part[f]] > 1.05 * rim) faces.push_back(static_cast<int>(f));
  return faces;
}

}  // namespace

Result<PartForm> cover_of(const PartForm& below, const CoverSpec& spec) {
  PartForm cover;
  cover.surface = below.surface;
  cover.surface.flat.clear();
  // From the surface to the face it lies on: a skin's own surface is one of its two faces.
  const bool outer = spec.face == CoverFace::outside;
  const double to_face = outer ? (below.outside ? 0.0 : 1.0) : (below.outside ? -1.0 : 0.0);
  std::vector<double> by(cover.surface.mesh.vertices.size());
  for (std::size_t v = 0; v < by.size(); ++v)
    by[v] = to_face * cover.surface.thickness_at(static_cast<int>(v), below.thickness_mm) +
        (outer ? spec.gap_mm : -spec.gap_mm);
  if (std::any_of(by.begin(), by.end(), [](double mm) { return mm != 0.0; }))
    cover.surface.mesh = sheet_offset(cover.surface.mesh, by);
  if (spec.over == CoverOver::brim) {
    const auto faces = brim_of(cover.surface);
    if (faces.empty())
      return fail(Errc::no_solution,
          "The " + below.name + " has no brim to double: cover all of it, or give it a brim.", "over");
    cover.surface = taken_from(cover.surface, faces);
  }
  cover.surface.sheets.clear(), cover.surface.sheet_of.clear();
  cover.outside = !outer;  // the cover's own sheet lies on the far side
  return cover;
}

double wrap_margin_mm(const CoverSpec& spec, double below_mm) {
  return spec.wrap_mm > 0.0 ? spec.wrap_mm + below_mm : 0.0;
}

}  // namespace awl
