#include "core/chain/form_shop.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/chain/cover.hpp"
#include "core/derived/seating.hpp"
#include "core/geom/crossing.hpp"
#include "core/geom/offset.hpp"
#include "core/seam/flatten.hpp"

namespace awl {
namespace {

using L = Landmark;

constexpr int kTellingSamples = 300;

double loop_length(const Mesh& mesh, const std::vector<int>& loop) {
  double sum = 0.0;
  for (std::size_t i = 0; i < loop.size(); ++i)
    sum += (mesh.vertices[loop[(i + 1) % loop.size()]] - mesh.vertices[loop[i]]).norm();
  return sum;
}

double lowest_border_girth(const Mesh& mesh) {
  double girth = 0.0, lowest = 1e300;
  for (const auto& loop : border_loops(mesh)) {
    double y = 0.0;
    for (const int v : loop) y += mesh.vertices[v].y() / static_cast<double>(loop.size());
    if (y < lowest) lowest = y, girth = loop_length(mesh, loop);
  }
  return girth;
}

bool goes_over_head(WrapEdge edge) {
  return edge == WrapEdge::skull_cap || edge == WrapEdge::open_face || edge == WrapEdge::full_cowl ||
      edge == WrapEdge::neck_piece;
}

double foam_of(const Part& part, double foam_mm) { return part.thickness_mm > 0.0 ? part.thickness_mm : foam_mm; }

/// A skin over another lies outside its foam and over the shapes under it.
WrapSpec over_what_is_below(const std::vector<Part>& stack, double foam_mm) {
  WrapSpec spec = std::get<WrapSpec>(stack.back().shape);
  for (std::size_t i = 0; i + 1 < stack.size(); ++i) {
    const WrapSpec* below = std::get_if<WrapSpec>(&stack[i].shape);
    if (below == nullptr) continue;
    spec.hair_mm += below->ease_mm() + foam_of(stack[i], foam_mm);
    spec.cards.insert(spec.cards.begin(), below->cards.begin(), below->cards.end());
  }
  return spec;
}

/// Trims each side of a whole wrap by its own edge; what is left is no mirror image any more. Where that edge runs
/// close to the one it was trimmed to before, the two cuts leave hairs and teeth.
void trim_sides(SeamMesh& surface, const WrapSpec& spec) {
  constexpr double kHairMm = 0.3, kToothMm = 1.5, kToothDeg = 105.0;
  Draft draft = draft_of(std::move(surface));
  trim(draft, [&](const Vec3& p) { return covered(spec, p, p.x() > 0.0); });
  join_close_corners(draft, kHairMm);
  clip_teeth(draft, kToothMm, kToothDeg);
  surface = seams_of(draft);
}

/// What hangs together with the first triangle: the stack with its cap and brim, without what hangs on it.
Mesh main_body(const Mesh& mesh) {
  const auto part = connected_parts(mesh, [](int, int) { return true; });
  std::vector<int> faces, old;
  for (int f = 0; f < static_cast<int>(part.size()); ++f)
    if (part[f] == part[0]) faces.push_back(f);
  return part_of(mesh, faces, old);
}

/// An error of a form, as one of the part it is the form of.
Error at_part(Error error, int id) {
  const auto slash = error.where.find('/');
  error.where = "parts/" + std::to_string(id) + (slash == std::string::npos ? "" : error.where.substr(slash));
  return error;
}

/// What cuts; pencil lines change nothing but what is shown.
std::vector<DrawnSeam> inked_of(std::vector<DrawnSeam> seams) {
  std::erase_if(seams, [](const DrawnSeam& s) { return !s.cuts(); });
  for (DrawnSeam& s : seams) s.hidden = s.locked = false;
  return seams;
}

/// Turns the flat patch so that the middle line runs up, with the place below the brows in the origin; of a patch that
/// does not reach there the place nearest to it.
void set_upright(FaceSheet& sheet, const Vec3& middle) {
  const auto nearest = [&](const Vec3& place) {
    int best = 0;
    for (int v = 1; v < static_cast<int>(sheet.flat.size()); ++v)
      if ((sheet.mesh.vertices[v] - place).squaredNorm() < (sheet.mesh.vertices[best] - place).squaredNorm()) best = v;
    return best;
  };
  const int at = nearest(middle);
  int low = at, top = nearest(middle + Vec3(0, 45, 0));
  if (top == at) {  // all of it lies above that place, or below: the other end of its middle line tells
    const auto far = [&](int v) { return (sheet.mesh.vertices[v] - sheet.mesh.vertices[at]).norm(); };
    for (int v = 0; v < static_cast<int>(sheet.flat.size()); ++v)
      if (std::abs(sheet.mesh.vertices[v].x()) < 1.0 && far(v) > far(top)) top = v;
    if (sheet.mesh.vertices[at].y() < middle.y()) std::swap(low, top);
  }
  const Vec2 origin = sheet.flat[at], up = (sheet.flat[top] - sheet.flat[low]).normalized();
  for (Vec2& p : sheet.flat)
    p = Vec2(up.y() * (p.x() - origin.x()) - up.x() * (p.y() - origin.y()), up.dot(p - origin));
}

}  // namespace

FormShop::FormShop(std::shared_ptr<const HeadFitter> fitter, std::shared_ptr<const WrapMaker> wraps)
    : fitter_(std::move(fitter)), wraps_(std::move(wraps)) {}

Result<FormShop::SeamedBlank> FormShop::seamed(
    const WrapSpec& spec, const std::vector<DrawnSeam>& drawn, const HalfBlank& trimmed, SeamMesh cut) const {
  SeamedBlank made;
  for (std::size_t v = 0; v < trimmed.half.vertices.size(); ++v)
    if (trimmed.opening.count(static_cast<int>(v)) != 0)
      for (int w : {static_cast<int>(v), cut.twin_of[v]}) cut.opening.insert(w);
  // Seams that run into an opening add corners to its rim.
  for (const auto& loop : border_loops(cut.mesh)) {
    const bool rim = std::any_of(loop.begin(), loop.end(), [&](int v) { return cut.opening.count(v) != 0; });
    const auto known = std::count_if(loop.begin(), loop.end(), [&](int v) { return cut.opening.count(v) != 0; });
    if (rim && 2 * known > static_cast<long>(loop.size())) cut.opening.insert(loop.begin(), loop.end());
  }
  if (spec.is_one_sided()) trim_sides(cut, spec);
  cut.home = cut.mesh.vertices;
  if (auto good = draw_one_sided(cut, drawn); !good) return fail(good);
  Draft described;
  wraps_->describe(spec, trimmed, described);
  made.features = described.features, made.handles = described.handles;
  made.riders = wraps_->riders(cut.mesh.vertices, cut.twin_of);
  const int step = std::max<int>(1, static_cast<int>(made.riders.size()) / kTellingSamples);
  for (int i = 0; i < static_cast<int>(made.riders.size()); i += step) made.samples.push_back(made.riders.modes(i));
  made.seams = std::move(cut);
  return made;
}

Result<std::shared_ptr<const FormShop::SeamedBlank>> FormShop::blank(
    const WrapSpec& asked, const Part& part, const Progress& progress) {
  WrapSpec spec = asked;
  spec.hair_mm = 0.0, spec.padding_mm = WrapMaker::kShellEaseMm;
  const std::vector<DrawnSeam> inked = inked_of(part.drawn);
  return blanks_.get({spec, part.seams, inked}, [&]() -> Result<SeamedBlank> {
    WrapSpec tape = spec;
    tape.eye_wide_mm = tape.eye_tall_mm = tape.eye_aside_mm = tape.eye_higher_mm = tape.eye_tilt_deg =
        tape.mouth_wide_mm = tape.mouth_tall_mm = tape.ear_hole_mm = 0.0;
    tape.eye_mm = tape.ear_mm = {}, tape.mouth_mm = {};
    const auto shell = shells_.get({tape}, [&] { return wraps_->shell(spec, progress); });
    if (!shell) return fail(shell);
    // Asked between its steps of 5 to 20 ms: a hand that drags waits for none of it.
    const auto stopped = [&](double done) { return !progress.keep_going(done); };
    const auto cancelled = [] { return fail(Errc::cancelled, "Stopped."); };
    if (stopped(0.2)) return cancelled();
    const auto trimmed = wraps_->blank(spec, **shell);
    if (!trimmed) return fail(trimmed);
    if (stopped(0.5)) return cancelled();
    auto cut = half_by_preset(trimmed->half, trimmed->midline, part.seams);
    if (!cut) return fail(cut);
    if (auto drawn = draw_on(*cut, inked); !drawn) return fail(drawn);
    if (stopped(0.7)) return cancelled();
    return seamed(spec, inked, *trimmed, seams_of(*cut));
  });
}

Result<void> FormShop::try_wrap(const Part& part, const Progress& progress) {
  auto spec = std::get<WrapSpec>(part.shape);
  spec.cards.clear(), spec.tight_mm = WrapSpec{}.tight_mm;
  const auto made = blank(spec, part, progress);
  if (!made) return fail(at_part(made.error(), part.id));
  return {};
}

Result<std::shared_ptr<const std::vector<ModeColumns>>> FormShop::samples(const Part& wrap) {
  const auto made = blank(std::get<WrapSpec>(wrap.shape), wrap, {});
  if (!made) return fail(made);
  return std::shared_ptr<const std::vector<ModeColumns>>(*made, &(*made)->samples);
}

Result<PartForm> FormShop::carried(
    const SeamedBlank& blank, const WornHead& worn, double ease_mm, const Progress& progress) const {
  PartForm form;
  form.surface = blank.seams;
  form.surface.mesh.vertices = blank.riders.carried(worn.head->coefficients);
  if (worn.built != nullptr)
    for (Vec3& p : form.surface.mesh.vertices) p = worn.built->shape(p);
  const auto clearance =
      settle_on_head(form.surface.mesh, worn.built != nullptr ? worn.built->mesh : worn.head->mesh, ease_mm, progress);
  if (!clearance) return fail(clearance);
  form.clearance = *clearance, form.ease_mm = ease_mm;
  std::vector<Vec3> places;
  for (const FeatureLine& line : blank.features) places.insert(places.end(), line.line.begin(), line.line.end());
  for (const Handle& h : blank.handles) places.push_back(h.at);
  const Riders riding(places, std::vector<double>(places.size(), 0.0));
  const auto moved = riding.carried(worn.head->coefficients);
  const Nearest near_form(form.surface.mesh);
  std::size_t i = 0;
  form.features = blank.features, form.handles = blank.handles;
  for (FeatureLine& line : form.features)
    for (Vec3& p : line.line) p = near_form.to(moved[i++]).point;
  for (Handle& h : form.handles) h.at = near_form.to(moved[i++]).point;
  return form;
}

Result<PartForm> FormShop::wrap(
    const std::vector<Part>& stack, const WornHead& worn, double foam_mm, const Progress& progress) {
  const WrapSpec spec = over_what_is_below(stack, foam_mm);
  const auto made = blank(spec, stack.back(), progress.span(0.0, 0.6));
  if (!made) return fail(made);
  auto form = carried(**made, worn, spec.ease_mm(), progress.span(0.6, 1.0));
  if (!form) return form;
  if (goes_over_head(spec.edge)) form->lower_girth_mm = lowest_border_girth(form->surface.mesh);
  return form;
}

Result<Site> FormShop::site_of(
    const std::vector<Part>& stack, const WornHead& worn, const LimbMeasures& arm, double foam_mm) {
  if (stack.size() < 2) return Site(*worn.head);
  const auto below = form({stack.begin(), stack.end() - 1}, worn, arm, foam_mm);
  if (!below) return fail(below);
  return Site(*worn.head, outer_face(**below));
}

Result<FaceSheet> FormShop::face_sheet(const WornHead& worn, double ease_mm, const FaceReach& reach) const {
  const auto patch = wraps_->face_patch(reach.middle_y_mm, reach.side_mm, reach.tall_mm);
  if (!patch) return fail(patch);
  const Mirrored both = mirror_half(patch->half);
  FaceSheet sheet;
  sheet.mesh = both.mesh;
  sheet.mesh.vertices = wraps_->riders(both.mesh.vertices, both.twin_of).carried(worn.head->coefficients);
  if (auto settled = settle_on_head(sheet.mesh, worn.head->mesh, ease_mm); !settled) return fail(settled);
  auto flattener = Flattener::of(sheet.mesh);
  if (!flattener) return fail(flattener);
  if (auto flat = flattener->flatten({}); !flat) return fail(flat);
  sheet.flat = flattener->uv();
  set_upright(sheet, worn.head->at(Landmark::sellion));
  return sheet;
}

FaceSheetMaker FormShop::face_maker(const WornHead& worn) {
  return [this, worn](double ease_mm, const FaceReach& reach) -> Result<FaceSheet> {
    const auto sheet = sheets_.get({worn, ease_mm, reach}, [&] { return face_sheet(worn, ease_mm, reach); });
    if (!sheet) return fail(sheet);
    return **sheet;
  };
}

Result<PlateLayout> FormShop::layout_of(const PlateSpec& spec, const Site& site, const WornHead& worn) {
  const auto map = plate_map(spec, site, face_maker(worn));
  if (!map) return fail(map);
  PlateLayout layout;
  layout.scale = map->scale;
  layout.holes = holes_on_sheet(spec, *map, *worn.head);
  if (!spec.follows_face) return layout;
  for (const L l : {L::pupil_l, L::pupil_r, L::pronasale, L::alare_l, L::alare_r, L::cheilion_l, L::cheilion_r,
           L::stomion, L::pogonion, L::menton, L::gonion_l, L::gonion_r, L::zygion_l, L::zygion_r, L::glabella})
    layout.marks.push_back({name_of(l), map->under(worn.head->at(l))});
  return layout;
}

Result<PartForm> FormShop::cover(const std::vector<Part>& stack, const WornHead& worn, const LimbMeasures& arm,
    double foam_mm, const Progress& progress) {
  const Part& part = stack.back();
  if (stack.size() < 2)
    return fail(Errc::no_solution, "The " + part.name + " is a cover: choose the part it sits on.", "on");
  const auto below = form({stack.begin(), stack.end() - 1}, worn, arm, foam_mm, progress);
  if (!below) return fail(below);
  auto made = cover_of(**below, std::get<CoverSpec>(part.shape));
  if (!made || (part.own_seams && part.drawn.empty())) return made;
  const auto inked = inked_of(part.drawn);
  Draft draft = undrawn(*made, part.own_seams);
  if (auto drawn = draw_on(draft, inked); !drawn) return fail(drawn);
  made->surface = seams_of(draft);
  if (auto drawn = draw_one_sided(made->surface, inked); !drawn) return fail(drawn);
  return made;
}

Result<std::shared_ptr<const FoamShape>> FormShop::shaped(const ImportSpec& spec, const Progress& progress) {
  const double to_mm = spec.to_mm * spec.scale;
  return shapes_.get({spec.mesh, to_mm, spec.foam_mm}, [&]() -> Result<FoamShape> {
    Mesh mesh = *spec.mesh;
    for (Vec3& p : mesh.vertices) p *= to_mm;
    FoamShapeOptions options;
    options.thickness_mm = spec.foam_mm;
    auto shape = foam_shape(mesh, options, progress);
    if (shape)
      for (Vec3& p : shape->mesh.vertices) p /= to_mm;
    return shape;
  });
}

namespace {

/// The outer face of a sheet of which the draft is the middle; homes stay those of the middle, a half keeps its plane.
void move_out(Draft& draft, double by_mm) {
  const std::vector<Vec3> before = draft.mesh.vertices;
  draft.mesh = sheet_offset(draft.mesh, std::vector<double>(before.size(), by_mm));
  for (std::size_t v = 0; v < before.size(); ++v)
    if (draft.mirrored && before[v].x() == 0.0) draft.mesh.vertices[v].x() = 0.0;
}

}  // namespace

Result<PartForm> FormShop::make(const std::vector<Part>& stack, const WornHead& worn, const LimbMeasures& arm,
    double foam_mm, const Progress& progress) {
  const Part& part = stack.back();
  if (std::holds_alternative<WrapSpec>(part.shape)) return wrap(stack, worn, foam_mm, progress);
  if (std::holds_alternative<CoverSpec>(part.shape)) return cover(stack, worn, arm, foam_mm, progress);
  const auto site = site_of(stack, worn, arm, foam_mm);
  if (!site) return fail(site);
  PartForm form;
  std::vector<Remark> shown;
  auto draft = [&]() -> Result<Draft> {
    if (const auto* s = std::get_if<SweepSpec>(&part.shape)) return draft_sweep(*s, *site);
    if (const auto* s = std::get_if<TongueSpec>(&part.shape)) return draft_tongue(*s, *site);
    if (const auto* s = std::get_if<PlateSpec>(&part.shape)) return draft_plate(*s, *site, face_maker(worn));
    if (const auto* s = std::get_if<LimbSpec>(&part.shape)) return draft_limb(*s, arm, *worn.head);
    if (const auto* s = std::get_if<BodySpec>(&part.shape)) return draft_body(*s, *site);
    if (const auto* s = std::get_if<ImportSpec>(&part.shape)) {
      if (s->foam_mm <= 0.0 || !s->mesh) return draft_import(*s, *site);
      const auto shape = shaped(*s, progress);
      if (!shape) return fail(shape);
      for (const std::string& words : (*shape)->words())
        shown.push_back({"form.foam-shape", Severity::note, "parts/" + std::to_string(part.id), words, {}, {}, {}});
      if (s->cut && !s->stands_cut())
        shown.push_back({"form.cut-anew", Severity::warning, "parts/" + std::to_string(part.id),
            "The panels suggested for the " + part.name +
                " were for other settings of its rounding, cuts or halves, and are left out; look for panels anew, or "
                "turn those back.",
            {}, {}, {}});
      ImportSpec as_foam = *s;
      as_foam.mesh = std::shared_ptr<const Mesh>(*shape, &(*shape)->mesh);
      return draft_import(as_foam, *site);
    }
    RingsSpec rings = std::get<RingsSpec>(part.shape);
    rings.thickness_mm = foam_of(part, foam_mm);
    form.ease_mm = rings.ease_mm;
    return draft_rings(rings, *site);
  }();
  if (!draft) return fail(draft);
  if (const auto* import = std::get_if<ImportSpec>(&part.shape); import && import->face == ImportFace::middle)
    move_out(*draft, 0.5 * foam_of(part, foam_mm));
  if (const auto* plate = std::get_if<PlateSpec>(&part.shape)) {
    auto layout = layout_of(*plate, *site, worn);
    if (!layout) return fail(layout);
    form.plate = std::move(*layout);
  }
  form.worn_on = std::move(draft->worn_on);
  form.outside = draft->outside, form.features = draft->features, form.handles = draft->handles,
  form.remarks = draft->remarks;
  form.remarks.insert(form.remarks.end(), shown.begin(), shown.end());
  form.lower_girth_mm = draft->lower_girth_mm;
  const auto* import = std::get_if<ImportSpec>(&part.shape);
  Draft cut = *draft;
  if (import != nullptr) cut_by_planes(cut, {import->belts, import->cut_middle, import->cut_across});
  if (!part.own_seams) cut.seams.clear();
  const auto inked = inked_of(part.drawn);
  if (auto drawn = draw_on(cut, inked); !drawn) return fail(drawn);
  form.surface = seams_of(cut);
  if (auto drawn = draw_one_sided(form.surface, inked); !drawn) return fail(drawn);
  if (std::holds_alternative<RingsSpec>(part.shape) && cuts_itself(main_body(form.surface.mesh)))
    return fail(Errc::degenerate_shape,
        "Its surface would run into itself: its rings, cap or brim lie in each other's way. Turn it back a little, or "
        "give the other ring, the cap or the brim more room.",
        "rings");
  if (std::holds_alternative<RingsSpec>(part.shape)) form.clearance = clearance_of(form.surface.mesh, worn.head->mesh);
  return form;
}

Result<FormShop::Held> FormShop::form(const std::vector<Part>& stack, const WornHead& worn, const LimbMeasures& arm,
    double foam_mm, const Progress& progress) {
  return forms_.get({stack, worn, arm, foam_mm}, [&]() -> Result<PartForm> {
    auto made = make(stack, worn, arm, foam_mm, progress);
    const Part& part = stack.back();
    if (!made) return fail(at_part(made.error(), part.id));
    made->part = part.id, made->name = part.name, made->thickness_mm = foam_of(part, foam_mm);
    made->area_mm2 = area_mm2(made->surface.mesh);
    if (!std::isfinite(made->area_mm2))
      return fail(
          at_part({Errc::no_solution,
                      "With these values the " + part.name + " comes to no form. Take back the last change.", {}},
              part.id));
    if (!part.drawn.empty()) made->drawn = lines_on(Places(made->surface.mesh, made->surface.home), part.drawn);
    return made;
  });
}

}  // namespace awl
