#include "core/chain/forms/wrap_form.hpp"

#include <algorithm>

#include "core/chain/forms/forms.hpp"
#include "core/chain/shop.hpp"

namespace awl {
namespace {

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

/// A skin over another lies outside its foam and over the shapes under it.
WrapSpec over_what_is_below(const std::vector<Part>& stack, double foam_mm) {
  WrapSpec spec = std::get<WrapSpec>(stack.back().shape);
  for (std::size_t i = 0; i + 1 < stack.size(); ++i) {
    const WrapSpec* below = std::get_if<WrapSpec>(&stack[i].shape);
    if (below == nullptr) continue;
    spec.hair_mm += below->ease_mm() + own_foam_mm(stack[i], foam_mm);
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

/// Corners on the rims of openings; seams that run into an opening add some.
void mark_openings(SeamMesh& cut, const HalfBlank& trimmed) {
  for (std::size_t v = 0; v < trimmed.half.vertices.size(); ++v)
    if (trimmed.opening.count(static_cast<int>(v)) != 0)
      for (int w : {static_cast<int>(v), cut.twin_of[v]}) cut.opening.insert(w);
  for (const auto& loop : border_loops(cut.mesh)) {
    const auto known = std::count_if(loop.begin(), loop.end(), [&](int v) { return cut.opening.count(v) != 0; });
    if (2 * known > static_cast<long>(loop.size())) cut.opening.insert(loop.begin(), loop.end());
  }
}

/// A cut blank with all that rides along with it.
Result<WrapBlankStep::Made> riding(
    const WrapMaker& wraps, const WrapBlankStep::Inputs& in, const HalfBlank& trimmed, SeamMesh cut) {
  constexpr int kTellingSamples = 300;
  WrapBlankStep::Made made;
  mark_openings(cut, trimmed);
  if (in.spec.is_one_sided()) trim_sides(cut, in.spec);
  cut.home = cut.mesh.vertices;
  if (auto good = draw_one_sided(cut, in.drawn); !good) return fail(good);
  Draft described;
  wraps.describe(in.spec, trimmed, described);
  made.features = described.features, made.handles = described.handles;
  made.riders = wraps.riders(cut.mesh.vertices, cut.twin_of);
  const int step = std::max<int>(1, static_cast<int>(made.riders.size()) / kTellingSamples);
  for (int i = 0; i < static_cast<int>(made.riders.size()); i += step) made.samples.push_back(made.riders.modes(i));
  made.seams = std::move(cut);
  return made;
}

WrapShellStep::Inputs shell_of(WrapSpec spec) {
  spec.eye_wide_mm = spec.eye_tall_mm = spec.eye_aside_mm = spec.eye_higher_mm = spec.eye_tilt_deg =
      spec.mouth_wide_mm = spec.mouth_tall_mm = spec.ear_hole_mm = 0.0;
  spec.eye_mm = spec.ear_mm = {}, spec.mouth_mm = {};
  return {std::move(spec)};
}

/// A blank on a head, its features and handles with it.
Result<PartForm> carried(
    const WrapBlankStep::Made& blank, const WornHead& worn, double ease_mm, const Progress& progress) {
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
  const Riders riders(places, std::vector<double>(places.size(), 0.0));
  const auto moved = riders.carried(worn.head->coefficients);
  const Nearest near_form(form.surface.mesh);
  std::size_t i = 0;
  form.features = blank.features, form.handles = blank.handles;
  for (FeatureLine& line : form.features)
    for (Vec3& p : line.line) p = near_form.to(moved[i++]).point;
  for (Handle& h : form.handles) h.at = near_form.to(moved[i++]).point;
  return form;
}

}  // namespace

Result<WrapShellStep::Made> WrapShellStep::run(Shop& shop, const Inputs& in, const Progress& progress) {
  return shop.wraps().shell(in.spec, progress);
}

WrapBlankStep::Inputs WrapBlankStep::of(const Part& wrap, WrapSpec spec) {
  spec.hair_mm = 0.0, spec.padding_mm = WrapMaker::kShellEaseMm;
  return {std::move(spec), wrap.seams, inked_of(wrap.drawn)};
}

Result<WrapBlankStep::Made> WrapBlankStep::run(Shop& shop, const Inputs& in, const Progress& progress) {
  const auto shell = shop.make<WrapShellStep>(shell_of(in.spec), progress);
  if (!shell) return fail(shell);
  // Asked between its steps of 5 to 20 ms: a hand that drags waits for none of it.
  const auto stopped = [&](double done) { return !progress.keep_going(done); };
  const auto cancelled = [] { return fail(Errc::cancelled, "Stopped."); };
  if (stopped(0.2)) return cancelled();
  const auto trimmed = shop.wraps().blank(in.spec, **shell);
  if (!trimmed) return fail(trimmed);
  if (stopped(0.5)) return cancelled();
  auto cut = half_by_preset(trimmed->half, trimmed->midline, in.seams);
  if (!cut) return fail(cut);
  if (auto drawn = draw_on(*cut, in.drawn); !drawn) return fail(drawn);
  if (stopped(0.7)) return cancelled();
  return riding(shop.wraps(), in, *trimmed, seams_of(*cut));
}

Result<PartForm> wrap_form(
    Shop& shop, const std::vector<Part>& stack, const WornHead& worn, double foam_mm, const Progress& progress) {
  const WrapSpec spec = over_what_is_below(stack, foam_mm);
  const auto blank = shop.make<WrapBlankStep>(WrapBlankStep::of(stack.back(), spec), progress.span(0.0, 0.6));
  if (!blank) return fail(blank);
  auto form = carried(**blank, worn, spec.ease_mm(), progress.span(0.6, 1.0));
  if (!form) return form;
  if (goes_over_head(spec.edge)) form->lower_girth_mm = lowest_border_girth(form->surface.mesh);
  return form;
}

Result<void> try_wrap(Shop& shop, const Part& wrap, const Progress& progress) {
  auto spec = std::get<WrapSpec>(wrap.shape);
  spec.cards.clear(), spec.tight_mm = WrapSpec{}.tight_mm;
  const auto blank = shop.make<WrapBlankStep>(WrapBlankStep::of(wrap, std::move(spec)), progress);
  if (!blank) return fail(at_part(blank.error(), wrap.id));
  return {};
}

}  // namespace awl
