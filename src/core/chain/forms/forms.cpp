#include "core/chain/forms/forms.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/chain/forms/cover.hpp"
#include "core/chain/forms/face_sheet.hpp"
#include "core/chain/forms/wrap_form.hpp"
#include "core/chain/shop.hpp"
#include "core/derived/seating.hpp"
#include "core/geom/crossing.hpp"
#include "core/geom/offset.hpp"

namespace awl {
namespace {

/// What hangs together with the first triangle: the stack with its cap and brim, without what hangs on it.
Mesh main_body(const Mesh& mesh) {
  const auto part = connected_parts(mesh, [](int, int) { return true; });
  std::vector<int> faces, old;
  for (int f = 0; f < static_cast<int>(part.size()); ++f)
    if (part[f] == part[0]) faces.push_back(f);
  return part_of(mesh, faces, old);
}

/// The outer face of a sheet of which the draft is the middle; homes stay those of the middle, a half keeps its plane.
void move_out(Draft& draft, double by_mm) {
  const std::vector<Vec3> before = draft.mesh.vertices;
  draft.mesh = sheet_offset(draft.mesh, std::vector<double>(before.size(), by_mm));
  for (std::size_t v = 0; v < before.size(); ++v)
    if (draft.mirrored && before[v].x() == 0.0) draft.mesh.vertices[v].x() = 0.0;
}

/// Without its uppermost part.
PartFormStep::Inputs below(const PartFormStep::Inputs& in) {
  PartFormStep::Inputs lower = in;
  lower.stack.pop_back();
  return lower;
}

Result<Site> site_of(Shop& shop, const PartFormStep::Inputs& in) {
  if (in.stack.size() < 2) return Site(*in.worn.head);
  const auto lower = shop.make<PartFormStep>(below(in));
  if (!lower) return fail(lower);
  return Site(*in.worn.head, outer_face(**lower));
}

Result<PartForm> cover_form(Shop& shop, const PartFormStep::Inputs& in, const Progress& progress) {
  const Part& part = in.stack.back();
  if (in.stack.size() < 2)
    return fail(Errc::no_solution, "The " + part.name + " is a cover: choose the part it sits on.", "on");
  const auto lower = shop.make<PartFormStep>(below(in), progress);
  if (!lower) return fail(lower);
  auto made = cover_of(**lower, std::get<CoverSpec>(part.shape));
  if (!made || (part.own_seams && part.drawn.empty())) return made;
  const auto inked = inked_of(part.drawn);
  Draft draft = undrawn(*made, part.own_seams);
  if (auto drawn = draw_on(draft, inked); !drawn) return fail(drawn);
  made->surface = seams_of(draft);
  if (auto drawn = draw_one_sided(made->surface, inked); !drawn) return fail(drawn);
  return made;
}

/// An import's draft; what is to be told of how it came to foam goes to the form.
Result<Draft> import_draft(
    Shop& shop, const Part& part, const ImportSpec& spec, const Site& site, PartForm& form, const Progress& progress) {
  if (spec.foam_mm <= 0.0 || !spec.mesh) return draft_import(spec, site);
  const auto shape = shop.make<FoamShapeStep>({spec.mesh, spec.to_mm * spec.scale, spec.foam_mm}, progress);
  if (!shape) return fail(shape);
  const std::string where = "parts/" + std::to_string(part.id);
  for (const std::string& words : (*shape)->words())
    form.remarks.push_back({"form.foam-shape", Severity::note, where, words, {}, {}, {}});
  if (spec.cut && !spec.stands_cut())
    form.remarks.push_back({"form.cut-anew", Severity::warning, where,
        "The panels suggested for the " + part.name +
            " were for other settings of its rounding, cuts or halves, and are left out; look for panels anew, or "
            "turn those back.",
        {}, {}, {}});
  ImportSpec as_foam = spec;
  as_foam.mesh = std::shared_ptr<const Mesh>(*shape, &(*shape)->mesh);
  return draft_import(as_foam, site);
}

Result<Draft> draft_on(
    Shop& shop, const PartFormStep::Inputs& in, const Site& site, PartForm& form, const Progress& progress) {
  const Part& part = in.stack.back();
  if (const auto* s = std::get_if<SweepSpec>(&part.shape)) return draft_sweep(*s, site);
  if (const auto* s = std::get_if<TongueSpec>(&part.shape)) return draft_tongue(*s, site);
  if (const auto* s = std::get_if<PlateSpec>(&part.shape)) return draft_plate(*s, site, face_maker(shop, in.worn));
  if (const auto* s = std::get_if<LimbSpec>(&part.shape)) return draft_limb(*s, in.arm, *in.worn.head);
  if (const auto* s = std::get_if<BodySpec>(&part.shape)) return draft_body(*s, site);
  if (const auto* s = std::get_if<ImportSpec>(&part.shape)) return import_draft(shop, part, *s, site, form, progress);
  RingsSpec rings = std::get<RingsSpec>(part.shape);
  rings.thickness_mm = own_foam_mm(part, in.foam_mm);
  form.ease_mm = rings.ease_mm;
  return draft_rings(rings, site);
}

/// A draft with all its seams cut.
Result<SeamMesh> with_seams(const Part& part, Draft draft) {
  if (const auto* import = std::get_if<ImportSpec>(&part.shape))
    cut_by_planes(draft, {import->belts, import->cut_middle, import->cut_across});
  if (!part.own_seams) draft.seams.clear();
  const auto inked = inked_of(part.drawn);
  if (auto drawn = draw_on(draft, inked); !drawn) return fail(drawn);
  SeamMesh surface = seams_of(draft);
  if (auto drawn = draw_one_sided(surface, inked); !drawn) return fail(drawn);
  return surface;
}

/// What is no wrap and no cover: drafted on its site, then seamed.
Result<PartForm> drafted_form(Shop& shop, const PartFormStep::Inputs& in, const Progress& progress) {
  const Part& part = in.stack.back();
  const auto site = site_of(shop, in);
  if (!site) return fail(site);
  PartForm form;
  auto draft = draft_on(shop, in, *site, form, progress);
  if (!draft) return fail(draft);
  if (const auto* import = std::get_if<ImportSpec>(&part.shape); import && import->face == ImportFace::middle)
    move_out(*draft, 0.5 * own_foam_mm(part, in.foam_mm));
  if (const auto* plate = std::get_if<PlateSpec>(&part.shape)) {
    auto layout = plate_layout(shop, *plate, *site, in.worn);
    if (!layout) return fail(layout);
    form.plate = std::move(*layout);
  }
  form.remarks.insert(form.remarks.begin(), draft->remarks.begin(), draft->remarks.end());
  form.outside = draft->outside, form.features = draft->features, form.handles = draft->handles;
  form.lower_girth_mm = draft->lower_girth_mm;
  form.worn_on = std::move(draft->worn_on);
  auto surface = with_seams(part, std::move(*draft));
  if (!surface) return fail(surface);
  form.surface = std::move(*surface);
  if (!std::holds_alternative<RingsSpec>(part.shape)) return form;
  if (cuts_itself(main_body(form.surface.mesh)))
    return fail(Errc::degenerate_shape,
        "Its surface would run into itself: its rings, cap or brim lie in each other's way. Turn it back a little, or "
        "give the other ring, the cap or the brim more room.",
        "rings");
  form.clearance = clearance_of(form.surface.mesh, in.worn.head->mesh);
  return form;
}

Result<PartForm> form_of(Shop& shop, const PartFormStep::Inputs& in, const Progress& progress) {
  const Part& part = in.stack.back();
  if (std::holds_alternative<WrapSpec>(part.shape)) return wrap_form(shop, in.stack, in.worn, in.foam_mm, progress);
  if (std::holds_alternative<CoverSpec>(part.shape)) return cover_form(shop, in, progress);
  return drafted_form(shop, in, progress);
}

}  // namespace

double own_foam_mm(const Part& part, double foam_mm) { return part.thickness_mm > 0.0 ? part.thickness_mm : foam_mm; }

std::vector<DrawnSeam> inked_of(std::vector<DrawnSeam> seams) {
  std::erase_if(seams, [](const DrawnSeam& s) { return !s.cuts(); });
  for (DrawnSeam& s : seams) s.hidden = s.locked = false;
  return seams;
}

Error at_part(Error error, int id) {
  const auto slash = error.where.find('/');
  error.where = "parts/" + std::to_string(id) + (slash == std::string::npos ? "" : error.where.substr(slash));
  return error;
}

Result<PartForm> PartFormStep::run(Shop& shop, const Inputs& in, const Progress& progress) {
  expects(!in.stack.empty(), "PartFormStep: no part");
  const Part& part = in.stack.back();
  auto made = form_of(shop, in, progress);
  if (!made) return fail(at_part(made.error(), part.id));
  made->part = part.id, made->name = part.name, made->thickness_mm = own_foam_mm(part, in.foam_mm);
  made->area_mm2 = area_mm2(made->surface.mesh);
  if (!std::isfinite(made->area_mm2))
    return fail(at_part(
        {Errc::no_solution, "With these values the " + part.name + " comes to no form. Take back the last change.", {}},
        part.id));
  if (!part.drawn.empty()) made->drawn = lines_on(Places(made->surface.mesh, made->surface.home), part.drawn);
  return made;
}

Result<FoamShape> FoamShapeStep::run(Shop&, const Inputs& in, const Progress& progress) {
  Mesh mesh = *in.mesh;
  for (Vec3& p : mesh.vertices) p *= in.to_mm;
  FoamShapeOptions options;
  options.thickness_mm = in.foam_mm;
  auto shape = foam_shape(mesh, options, progress);
  if (shape)
    for (Vec3& p : shape->mesh.vertices) p /= in.to_mm;
  return shape;
}

}  // namespace awl
