#include "core/derived/derived.hpp"

#include "core/dress/dressed.hpp"

namespace awl {

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

const PartForm* Form::of(int part) const {
  for (const auto& p : parts)
    if (p->part == part) return p.get();
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
