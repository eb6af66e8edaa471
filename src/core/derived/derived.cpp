#include "core/derived/derived.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/parallel.hpp"
#include "core/geom/solid.hpp"

#include "core/dress/dressed.hpp"

namespace awl {

namespace {

/// The ring the head goes through: a named line of the form under a brim, else the rim of that girth.
std::vector<Vec3> head_ring(const PartForm& form) {
  constexpr double kSameGirth = 0.02;
  for (const FeatureLine& line : form.features)
    if (line.name == "lower edge") return line.line;
  const auto& at = form.surface.mesh.vertices;
  for (const auto& loop : border_loops(form.surface.mesh)) {
    double girth = 0.0;
    std::vector<Vec3> ring;
    for (std::size_t i = 0; i < loop.size(); ++i)
      girth += (at[loop[(i + 1) % loop.size()]] - at[loop[i]]).norm(), ring.push_back(at[loop[i]]);
    if (std::abs(girth - form.lower_girth_mm) < kSameGirth * girth) return ring;
  }
  return {};
}

}  // namespace

std::optional<DraftingCard> drafting_card(const PartForm& form) {
  constexpr double kLevelMm = 12.0;  // a rim that leaves its plane by more is no ring to draft
  if (form.lower_girth_mm <= 0.0) return std::nullopt;
  const auto ring = head_ring(form);
  if (ring.size() < 8) return std::nullopt;
  const auto [back, front] =
      std::minmax_element(ring.begin(), ring.end(), [](const Vec3& a, const Vec3& b) { return a.z() < b.z(); });
  // It may be told of the wearer's left alone.
  double half_wide = 0.0;
  for (const Vec3& p : ring) half_wide = std::max(half_wide, std::abs(p.x()));
  const Vec3 along = *front - *back, middle = 0.5 * (*front + *back);
  const Vec3 up = along.cross(Vec3::UnitX()).normalized();
  if (std::any_of(ring.begin(), ring.end(), [&](const Vec3& p) { return std::abs(up.dot(p - middle)) > kLevelMm; }))
    return std::nullopt;
  const double radius = form.lower_girth_mm / kTwoPi;
  return DraftingCard{radius, radius - half_wide, 0.5 * along.norm() - radius};
}

Draft undrawn(const PartForm& form, bool keep_seams) {
  Draft draft = draft_of(form.surface);
  draft.outside = form.outside, draft.mirrored = is_mirrored(form.surface);
  if (!keep_seams) draft.seams.clear(), draft.seam_names.clear();
  if (!draft.mirrored) return draft;
  draft.mesh.triangles.resize(draft.mesh.triangles.size() / 2);
  drop_unused(draft);
  return draft;
}

SheetFaces faces_of(const SeamMesh& form, const std::vector<FormSpan>& spans) {
  return {sheet_face(form.mesh, spans, true), sheet_face(form.mesh, spans, false)};
}

SheetFaces faces_of(const std::vector<std::shared_ptr<const PartForm>>& parts, const std::vector<FormSpan>& spans) {
  std::vector<SheetFaces> own(parts.size());
  parallel_for(static_cast<int>(parts.size()), [&](int i) {
    own[i] = {sheet_face(parts[i]->surface, spans[i], true), sheet_face(parts[i]->surface, spans[i], false)};
  });
  SheetFaces faces;
  for (const SheetFaces& one : own) add_mesh(faces.outer, one.outer), add_mesh(faces.inner, one.inner);
  return faces;
}

const PartForm* Form::of(int part) const {
  for (const auto& p : parts)
    if (p->part == part) return p.get();
  return nullptr;
}

const PartForm* Form::shape_of(int part) const {
  for (const auto& p : parts) {
    if (p->part == part) return p.get();
    for (const auto& joined : p->joined)
      if (joined->part == part) return joined.get();
  }
  return nullptr;
}

const PartForm* Form::holding(int part) const {
  for (const auto& p : parts)
    if (p->part == part ||
        std::any_of(p->joined.begin(), p->joined.end(), [&](const auto& one) { return one->part == part; }))
      return p.get();
  return nullptr;
}

std::vector<const Yield*> yields_of(const Derived& d) {
  std::vector<const Yield*> all;
  for (const auto& way : d.ways)
    if (way) all.push_back(way.get());
  if (d.fittings)
    for (const Yield& y : *d.fittings) all.push_back(&y);
  if (d.dressed)
    for (const auto& one : *d.dressed) all.push_back(&one->yield);
  return all;
}

std::function<std::string(const Piece&)> part_names(const Build& build, const Derived& d) {
  return [&build, panels = d.panels](const Piece& piece) {
    if (const Part* part = piece.part != 0 ? find_part(build, piece.part) : nullptr) return part->name;
    if (piece.panel.valid() && panels) return panels->spans[panels->panels[piece.panel.value].part].name;
    return std::string("plates");
  };
}

}  // namespace awl
