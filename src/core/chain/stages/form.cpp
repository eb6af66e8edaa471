#include "core/chain/stages/form.hpp"

#include "core/chain/forms/forms.hpp"
#include "core/chain/shop.hpp"
#include "core/chain/stages/head.hpp"
#include "core/chain/stages/panels.hpp"

namespace awl {

std::vector<Part> stack_of(const Build& b, const Part& part) {
  std::vector<Part> stack{part};
  while (stack.front().on != 0) {
    const Part* below = find_part(b, stack.front().on);
    if (below == nullptr) break;
    expects(stack.size() <= b.parts.size(), "stack_of: a part sits on itself");
    stack.insert(stack.begin(), *below);
  }
  for (Part& p : stack) p.way = {}, p.meets.clear();  // a form is the same however it is made, and cut to others
  return stack;
}

LimbMeasures arm_of(const TapeSheet& tape) {
  const auto mm = [&](BodyMeasure id) { return tape.body.count(id) != 0 ? tape.body.at(id) : 0.0; };
  return {mm(BodyMeasure::wrist), mm(BodyMeasure::forearm), mm(BodyMeasure::hand)};
}

Result<Form> JoinFormsStep::run(Shop&, const Inputs& parts, const Progress&) {
  Form form;
  form.parts = parts;
  std::vector<const SeamMesh*> surfaces;
  double worst = 1e300;
  for (const Held<PartForm>& p : parts) {
    surfaces.push_back(&p->surface);
    form.spans.push_back(span_of(p->surface, p->name, p->outside, p->thickness_mm));
    form.area_mm2 += p->area_mm2;
    if (p->lower_girth_mm > 0.0 && (form.lower_girth_mm == 0.0 || p->lower_girth_mm < form.lower_girth_mm))
      form.lower_girth_mm = p->lower_girth_mm;
    if (p->ease_mm > 0.0 && p->clearance.least_mm - p->ease_mm < worst) {
      worst = p->clearance.least_mm - p->ease_mm;
      form.clearance = p->clearance;
    }
  }
  form.surface = join_forms(surfaces);
  form.faces = faces_of(form.parts, form.spans);
  return form;
}

Result<std::optional<FormStage::Inputs>> FormStage::inputs(const Shop&, const Build& build, const Derived& derived) {
  if (build.making != Making::parts) return std::nullopt;
  if (build.parts.empty()) return fail(Errc::empty_input, "This build has no part yet: add one at Form.", "parts");
  Inputs in;
  for (const Part& part : build.parts) in.stacks.push_back(stack_of(build, part));
  in.worn = {derived.head, build.fit_to_built ? derived.built : nullptr};
  in.arm = arm_of(build.tape);
  in.foam_mm = build.foam.thickness_mm;
  in.meets = meets_of(build);
  return in;
}

Result<FormStage::Made> FormStage::run(Shop& shop, const Inputs& in, const Progress& progress) {
  Made made;
  std::vector<Held<PartForm>> parts;
  std::vector<PartFormStep::Inputs> wanted;
  for (const auto& stack : in.stacks) wanted.push_back({stack, in.worn, in.arm, in.foam_mm});
  for (const auto& form : shop.make_all<PartFormStep>(wanted, progress)) {
    if (form)
      parts.push_back(*form);
    else if (form.error().code == Errc::cancelled)
      return fail(form);
    else
      made.left_out.push_back(form.error());
  }
  if (parts.empty()) return fail(made.left_out.front());
  if (const auto met = meet_parts(shop, parts, in.meets); !met) return fail(met);
  const auto joined = shop.make<JoinFormsStep>(parts);
  if (!joined) return fail(joined);
  made.form = *joined;
  return made;
}

void FormStage::keep(Derived& derived, const Held<Made>& made) {
  derived.form = made->form;
  derived.part_errors.insert(derived.part_errors.end(), made->left_out.begin(), made->left_out.end());
}

Result<std::optional<HeadPlanStage::Inputs>> HeadPlanStage::inputs(
    const Shop& shop, const Build& build, const Derived& derived) {
  if (build.making != Making::headform || build.foam_head.plan >= 0) return std::nullopt;
  const auto foam = foam_of(build.foam, shop.materials());
  return Inputs{
      derived.head, build.foam_head, build.foam.thickness_mm, foam ? bears_strain(*foam, build.foam.heated) : 0.04};
}

Result<int> HeadPlanStage::run(Shop& shop, const Inputs& in, const Progress& progress) {
  constexpr double kNearEnough = 1.5;
  const int count = static_cast<int>(head_seam_plans().size());
  int near_enough = -1;
  for (int plan = 0; plan < count && near_enough < 0; ++plan) {
    FoamHeadSpec spec = in.foam_head;
    spec.plan = plan;
    const auto form = FoamHeadStage::run(shop, {in.head, spec, in.thickness_mm}, {});
    if (!form) return fail(form);
    const auto set = make_panels(form->surface, panel_options(*form->parts.front()),
        progress.span(static_cast<double>(plan) / count, (plan + 1.0) / count));
    if (!set) return fail(set);
    double worst = 0.0;
    for (const Panel& p : set->panels) worst = std::max(worst, p.overlaps ? 1.0 : p.strain.p99);
    if (worst <= in.bears_strain) return plan;
    if (worst <= kNearEnough * in.bears_strain) near_enough = plan;
  }
  return near_enough >= 0 ? near_enough : count - 1;
}

void HeadPlanStage::keep(Derived& derived, const Held<Made>& made) { derived.head_plan = *made; }

Result<FoamHeadBlankStep::Made> FoamHeadBlankStep::run(Shop& shop, const Inputs& in, const Progress&) {
  const auto trimmed = shop.busts().blank(in);
  if (!trimmed) return fail(trimmed);
  SeamMesh seams = cut_head(trimmed->half, trimmed->midline, head_seam_plans()[std::max(0, in.plan)]);
  Riders riders = BustMaker::riders(seams.mesh.vertices, seams.twin_of);
  return Made{std::move(seams), std::move(riders)};
}

Result<std::optional<FoamHeadStage::Inputs>> FoamHeadStage::inputs(
    const Shop&, const Build& build, const Derived& derived) {
  if (build.making != Making::headform) return std::nullopt;
  Inputs in{derived.head, build.foam_head, build.foam.thickness_mm};
  if (in.foam_head.plan < 0) in.foam_head.plan = derived.head_plan;
  return in;
}

Result<Form> FoamHeadStage::run(Shop& shop, const Inputs& in, const Progress& progress) {
  const auto blank = shop.make<FoamHeadBlankStep>(in.foam_head);
  if (!blank) return fail(blank);
  const Headform meant = meant_head(shop.fitter(), *in.head, in.foam_head.mirrored);
  PartForm form;
  form.name = "headform";
  form.outside = true;
  form.thickness_mm = in.thickness_mm;
  form.surface = (*blank)->seams;
  form.surface.mesh.vertices = (*blank)->riders.carried(meant.coefficients);
  form.area_mm2 = area_mm2(form.surface.mesh);
  auto plates = neck_plates(form.surface.mesh, in.thickness_mm, in.foam_head.pipe_mm);
  if (!plates) return fail(plates);
  auto whole = JoinFormsStep::run(shop, {std::make_shared<const PartForm>(std::move(form))}, progress);
  if (!whole) return fail(whole);
  whole->is_headform = true;
  whole->head_plan = in.foam_head.plan;
  whole->plates = std::move(*plates);
  return whole;
}

void FoamHeadStage::keep(Derived& derived, const Held<Made>& made) { derived.form = made; }

}  // namespace awl
