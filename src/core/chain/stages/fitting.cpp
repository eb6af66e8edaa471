#include "core/chain/stages/fitting.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/chain/shop.hpp"
#include "core/derived/stuffs.hpp"
#include "core/dress/dressed.hpp"
#include "core/fit/fittings.hpp"
#include "core/geom/offset.hpp"
#include "core/geom/solid.hpp"
#include "core/stuff/bears.hpp"

namespace awl {
namespace {

constexpr double kPulledWidthMm = 60.0;

FormSpan span_of(const PartForm& form) { return span_of(form.surface, form.name, form.outside, form.thickness_mm); }

/// How much longer a rim of this may be pulled while it goes on.
double gives_of(const Foam& stuff, double thick_mm, bool heated, const FitRules::GoingOn& rules) {
  const double modulus = stuff.kind == SheetKind::block ? rules.modulus_block_mpa
      : stuff.flex >= 3                                 ? rules.modulus_soft_mpa
                                                        : rules.modulus_firm_mpa;
  const double bears = heated ? stuff.strain_heated : stuff.strain_cold;
  return std::min({bears, rules.seam_strain, rules.pull_n / (modulus * kPulledWidthMm * std::max(thick_mm, 0.5))});
}

ThroughLook look_of(const Foam& stuff, double thick_mm) {
  if (stuff.light <= 0.0) return {};
  ThroughLook look;
  look.share = stuff.light, look.thick_mm = thick_mm;
  look.kind = stuff.kind == SheetKind::mesh ? ThroughLook::Kind::woven
      : stuff.kind == SheetKind::fabric     ? ThroughLook::Kind::cloth
                                            : ThroughLook::Kind::sheet;
  return look;
}

bool is_stiff(const Foam& stuff) {
  return stuff.kind == SheetKind::rigid || stuff.kind == SheetKind::clear || stuff.kind == SheetKind::thermoplastic ||
      stuff.kind == SheetKind::board;
}

/// How a part hangs on what it sits on: the rim of its base, and where its mass is from there. Of a mirrored pair the
/// wearer's left one.
void add_base(FitPart& part, const PartForm& form, const Mesh& outer) {
  const auto bodies = bodies_of(outer, is_mirrored(form.surface), form.name);
  if (bodies.empty()) return;
  part.bodies = bodies.front().paired ? 2 : 1;
  part.own_mass_g = part.mass_g / part.bodies;
  const Mesh& open = bodies.front().open;
  double nearest = 1e300;
  for (const auto& loop : border_loops(open)) {
    Vec3 middle = Vec3::Zero();
    for (const int v : loop) middle += open.vertices[v] / static_cast<double>(loop.size());
    if (middle.norm() >= nearest) continue;
    nearest = middle.norm();
    part.base.clear();
    for (const int v : loop) part.base.push_back(open.vertices[v]);
  }
  if (part.base.empty()) return;
  Vec3 middle = Vec3::Zero(), mass = Vec3::Zero(), area = Vec3::Zero();
  for (const Vec3& p : part.base) middle += p / static_cast<double>(part.base.size());
  for (const Vec3& p : open.vertices) mass += p / static_cast<double>(open.vertices.size());
  for (std::size_t i = 0; i < part.base.size(); ++i)
    area += 0.5 * (part.base[i] - middle).cross(part.base[(i + 1) % part.base.size()] - middle);
  part.arm_mm = (mass - middle).norm();
  part.half_base_mm = std::sqrt(area.norm() / kPi);
}

Result<std::vector<FitPartStep::Inputs>> parts_asked(const Shop& shop, const Build& build, const Derived& d) {
  std::vector<FitPartStep::Inputs> asked;
  if (build.making != Making::parts || !d.form) return asked;
  const Materials& materials = shop.materials();
  const double coat = dry_coats_g_m2(build.coat, materials);
  for (std::size_t i = 0; i < d.form->parts.size(); ++i) {
    const Part* part = find_part(build, d.form->parts[i]->part);
    // An arm guard is not worn on a head, a paper net not at all.
    if (part == nullptr || std::holds_alternative<LimbSpec>(part->shape) || part->way.way == Way::net) continue;
    const auto stuff = stuff_of(build, d, *part, materials);
    if (!stuff) return fail(stuff);
    const Held<PartForm>& form = d.form->parts[i];  // how the blade tilts along its rims is nothing to the fit
    FitPartStep::Inputs in{form->same_sheet ? form->same_sheet : form, {}, *stuff, part->stuff, coat, build.fit.wig_mm};
    if (i < d.ways.size() && d.ways[i]) in.way = {d.ways[i]};
    in.on = part->on;
    in.heated = build.foam.heated;
    asked.push_back(std::move(in));
  }
  return asked;
}

/// What is asked of the sight: from the height of the wearer's eyes, told live and so not refined.
SightOptions sight_asked(const WornStep::Inputs& in, const FitRules& rules) {
  SightOptions options;
  options.refine = false;
  options.nod_deg = rules.sight.nod_at_stairs_deg;
  options.eye_height_mm = in.spec.eye_height_mm > 0.0 ? in.spec.eye_height_mm
      : in.child                                      ? rules.sight.child_eye_height_mm
                                                      : rules.sight.adult_eye_height_mm;
  return options;
}

/// Details as the fit sees them: what stands before the eyes as parts that ride along, the rest by its weight.
void add_details(std::vector<FitPart>& parts, std::vector<Load>* loads, const std::vector<Held<Dressed>>& details) {
  const std::size_t own = parts.size();  // those that follow are details themselves
  for (const auto& detail : details)
    for (const YieldSolid& solid : detail->yield.solids) {
      for (std::size_t i = 0; i < own; ++i)
        if (FitPart& host = parts[i]; host.part == detail->yield.part)
          host.own_mass_g = (host.own_mass_g > 0.0 ? host.own_mass_g : host.mass_g) + solid.mass_g / host.bodies;
      Vec3 middle = Vec3::Zero();
      for (const Vec3& p : solid.mesh.vertices) middle += p / static_cast<double>(solid.mesh.vertices.size());
      if (!solid.hides) {
        if (loads != nullptr && solid.mass_g > 0.0) loads->push_back({detail->name, solid.mass_g, middle});
        continue;
      }
      FitPart part;
      part.part = detail->yield.part, part.name = detail->name, part.on_head = false;
      part.solid = solid.mesh, part.closed = true, part.mass_g = solid.mass_g, part.centre = middle;
      part.thick_mm = solid.thick_mm;
      part.near = std::make_shared<const Nearest>(part.solid);
      part.rims = rims_of(part.solid);
      if (solid.light > 0.0)
        part.look = {solid.matter == Matter::cloth ? ThroughLook::Kind::cloth : ThroughLook::Kind::sheet, solid.light,
            2.0, solid.thick_mm};
      parts.push_back(std::move(part));
    }
}

Result<std::vector<FitPart>> parts_in(
    Shop& shop, const std::vector<FitPartStep::Inputs>& asked, const Progress& progress) {
  std::vector<FitPart> parts;
  for (const auto& part : shop.make_all<FitPartStep>(asked, progress)) {
    if (!part) return fail(part);
    parts.push_back(**part);
  }
  return parts;
}

}  // namespace

Result<FitHead> FitHeadStep::run(Shop& shop, const Inputs& in, const Progress&) {
  FitHead::Places places;
  for (int i = 0; i < kLandmarkCount; ++i) places[i] = in.head->landmarks[i];
  return FitHead(in.head->mesh,
      folded_ears(shop.fitter().head(), in.head->mesh, shop.fit_rules().clearance.ear_folded_mm), places);
}

Result<FitPart> FitPartStep::run(Shop& shop, const Inputs& in, const Progress&) {
  const FitRules& rules = shop.fit_rules();
  const PartForm& form = *in.form;
  const std::vector<FormSpan> spans{span_of(form)};
  const Mesh outer = sheet_face(form.surface.mesh, spans, true);
  FitPart part;
  part.part = form.part, part.name = form.name, part.on_head = in.on == 0, part.sits_on = in.on;
  part.takes_heat = heat_on(in.stuff).allowed;
  part.thick_mm = form.thickness_mm, part.stuff = in.cut_from;
  part.inner = sheet_face(form.surface.mesh, spans, false);
  const Way way = in.way.empty() ? Way::skin : in.way.front()->way;
  const bool solid = way == Way::slabs || way == Way::carve;
  if (solid)
    for (const Body& body : bodies_of(outer, is_mirrored(form.surface), form.name)) {
      add_mesh(part.solid, body.solid);
      if (!body.paired) continue;
      Mesh image = body.solid;
      for (Vec3& p : image.vertices) p.x() = -p.x();
      for (Tri& t : image.triangles) std::swap(t[1], t[2]);
      add_mesh(part.solid, image);
    }
  else
    part.solid = solid_between(outer, part.inner);
  part.closed = true;
  part.near = std::make_shared<const Nearest>(part.solid);
  part.rims = rims_of(part.solid);
  const SolidMass mass = mass_of(part.solid, in.stuff.density_kg_m3);
  double seam_mm = 0.0;
  for (const auto& [edge, seam] : form.surface.seam_of)
    seam_mm += (form.surface.mesh.vertices[edge.first] - form.surface.mesh.vertices[edge.second]).norm();
  const double coats_g = area_mm2(outer) * 1e-6 * in.coat_g_m2,
               glue_g = way == Way::skin ? seam_mm * 1e-3 * rules.balance.glue_g_m : 0.0;
  part.mass_g = mass.mass_g + coats_g + glue_g, part.centre = mass.centre, part.inertia_g_mm2 = mass.inertia_g_mm2;
  part.stiff = is_stiff(in.stuff) || (solid && in.on == 0);
  part.gives = gives_of(in.stuff, form.thickness_mm, in.heated, rules.going_on);
  part.look = way == Way::drawn || way == Way::skin ? look_of(in.stuff, form.thickness_mm) : ThroughLook{};
  part.layers_mm = form.ease_mm + in.wig_mm;
  add_base(part, form, outer);
  if (const auto entry = entry_of(part.inner, Vec3(0.0, -75.0, -25.0)))
    part.is_mask = in.on == 0 && std::abs(entry->into.z()) > 0.8;
  return part;
}

Result<std::optional<FittingStage::Inputs>> FittingStage::inputs(
    const Shop& shop, const Build& build, const Derived& derived) {
  if (build.fit.slits.empty() && build.fit.holds.empty() && build.fit.cutouts.empty()) return std::optional<Inputs>{};
  auto parts = parts_asked(shop, build, derived);
  if (!parts) return fail(parts);
  if (parts->empty()) return std::optional<Inputs>{};
  return Inputs{derived.head, std::move(*parts), build.fit};
}

Result<std::vector<Yield>> FittingStage::run(Shop& shop, const Inputs& in, const Progress& progress) {
  const auto head = shop.make<FitHeadStep>({in.head, in.spec.wig_mm}, progress);
  if (!head) return fail(head);
  const auto parts = parts_in(shop, in.parts, progress);
  if (!parts) return fail(parts);
  return fittings_of(**head, *parts, in.spec, shop.fit_rules());
}

void FittingStage::keep(Derived& derived, const Held<Made>& made) { derived.fittings = made; }

Result<std::optional<WornStep::Inputs>> worn_question(const Shop& shop, const Build& build, const Derived& derived) {
  if (!derived.head || !derived.form) return std::optional<WornStep::Inputs>{};
  auto parts = parts_asked(shop, build, derived);
  if (!parts) return fail(parts);
  if (parts->empty()) return std::optional<WornStep::Inputs>{};
  WornStep::Inputs in{derived.head, std::move(*parts), build.fit, derived.dressed};
  in.child = derived.head->people.starts_with("child");
  const auto shoulders = build.tape.body.find(BodyMeasure::shoulders);
  in.shoulders_mm = shoulders == build.tape.body.end() ? 0.0 : shoulders->second;
  return in;
}

Result<std::shared_ptr<const Worn>> look_through(
    Shop& shop, const WornStep::Inputs& in, const Worn& before, double step_deg, const Progress& progress) {
  const auto head = shop.make<FitHeadStep>({in.head, in.spec.wig_mm}, progress);
  if (!head) return fail(head);
  auto parts = parts_in(shop, in.parts, progress);
  if (!parts) return fail(parts);
  if (in.dressed) add_details(*parts, nullptr, *in.dressed);
  if (!progress.keep_going(0.5)) return fail(Errc::cancelled, "Stopped.", "fit");
  SightOptions options = sight_asked(in, shop.fit_rules());
  options.step_deg = step_deg;
  Worn now = before;
  now.sight = sight_of(**head, *parts, shop.fit_rules(), options);
  return std::make_shared<const Worn>(std::move(now));
}

Result<std::optional<OpeningView>> opening_view(
    Shop& shop, const WornStep::Inputs& in, const Held<PartForm>& filled, double step_deg, const Progress& progress) {
  const auto head = shop.make<FitHeadStep>({in.head, in.spec.wig_mm}, progress);
  if (!head) return fail(head);
  std::vector<FitPartStep::Inputs> others = in.parts;
  const auto own = std::find_if(
      others.begin(), others.end(), [&](const FitPartStep::Inputs& one) { return one.form->part == filled->part; });
  const SeamMesh& surface = filled->surface;
  if (own == others.end() || surface.home.size() != surface.mesh.vertices.size()) return std::optional<OpeningView>{};
  own->form = filled;
  const auto part = shop.make<FitPartStep>(*own, progress);
  if (!part) return fail(part);
  others.erase(own);
  auto parts = parts_in(shop, others, progress);
  if (!parts) return fail(parts);
  if (in.dressed) add_details(*parts, nullptr, *in.dressed);
  if (!progress.keep_going(0.5)) return fail(Errc::cancelled, "Stopped.", "fit");
  SightOptions options = sight_asked(in, shop.fit_rules());
  options.step_deg = step_deg;
  return std::optional<OpeningView>(std::in_place, **head, *parts, **part, surface.home, shop.fit_rules(), options);
}

Result<Worn> WornStep::run(Shop& shop, const Inputs& in, const Progress& progress) {
  const FitRules& rules = shop.fit_rules();
  const auto head = shop.make<FitHeadStep>({in.head, in.spec.wig_mm}, progress);
  if (!head) return fail(head);
  auto parts = parts_in(shop, in.parts, progress);
  if (!parts) return fail(parts);
  for (FitPart& p : *parts) p.opened_mm = slit_opening(in.spec, p.part);
  WornQuestion question;
  question.squeeze = true, question.child = in.child;
  question.going_on.press_mm = rules.going_on.press_hair_mm;
  question.sight = sight_asked(in, rules);
  question.body = shoulders_of(in.head->at(Landmark::larynx).y(), in.head->reading(MeasureId::NC).reads_mm,
      in.head->reading(MeasureId::HL).reads_mm, in.shoulders_mm);
  for (const Room& r : in.spec.rooms)
    if (r.kind != RoomKind::glasses) question.loads.push_back({name_of(r.kind), r.mass_g, r.at_mm});
  question.rooms = in.spec.rooms;
  if (in.dressed) add_details(*parts, &question.loads, *in.dressed);
  auto worn = worn_on(**head, *parts, question, rules, progress);
  if (worn)
    for (const Cutout& c : in.spec.cutouts) {
      if (c.kind == CutoutKind::ears) continue;
      const double open = c.count * kPi * 0.25 * c.wide_mm * c.wide_mm;
      worn->air.openings.push_back(
          {c.kind == CutoutKind::vents_top ? "through vents above" : "through vents behind", open});
      worn->air.open_mm2 += open;
    }
  // What behind the head would bring it down to what is trimmed.
  if (worn && worn->balance.share > rules.balance.trim_share) {
    FitHead::Places places;
    for (int i = 0; i < kLandmarkCount; ++i) places[i] = in.head->landmarks[i];
    worn->balance.counterweight_g = counterweight_g(**head, worn->balance.forward_nm,
        worn->balance.forward_nm * rules.balance.trim_share / worn->balance.share,
        usual_room(RoomKind::counterweight, places).at_mm.z());
  }
  if (worn) worn->holds = check_holds(**head, *parts, in.spec, rules);
  return worn;
}

}  // namespace awl
