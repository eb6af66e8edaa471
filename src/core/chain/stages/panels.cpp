#include "core/chain/stages/panels.hpp"

#include <algorithm>

#include "core/base/text.hpp"
#include "core/chain/shop.hpp"

namespace awl {
namespace {

/// Alterations as far as they can be done; each that cannot is told of and left out.
Result<Held<PanelSet>> altered(
    Shop& shop, const Held<PanelSet>& plain, std::vector<Alteration> alterations, std::vector<Error>& left_out) {
  while (!alterations.empty()) {
    auto done = shop.make<AlterStep>({plain, alterations});
    if (done) return done;
    left_out.push_back(done.error());
    const auto id = whole_in(done.error().where.substr(done.error().where.rfind('/') + 1));
    // An error about none of them: then all are left out, rather than none for ever.
    if (std::erase_if(alterations, [&](const Alteration& a) { return id && a.id == *id; }) == 0) alterations.clear();
  }
  return plain;
}

/// Outlines corrected, if that was done for these pieces.
Result<Held<PanelSet>> with_correction(
    Shop& shop, const Held<PanelSet>& plain, const PanelStage::Inputs& in, int part, std::vector<Error>& left_out) {
  const auto own =
      std::find_if(in.corrections.begin(), in.corrections.end(), [&](const Correction& c) { return c.part == part; });
  if (own == in.corrections.end()) return plain;
  auto done = shop.make<CorrectStep>({plain, *own});
  if (done) return done;
  left_out.push_back(done.error());
  return plain;
}

/// Whether one more alteration leaves less than half of what a seam is unequal by.
bool evens(const PanelSet& set, const UnequalSeam& unequal, const Alteration& also) {
  const auto tried = alter(set, {also});
  if (!tried) return false;
  double left = 0.0;
  for (const UnequalSeam& after : unequal_seams(*tried))
    if (after.seam == unequal.seam) left = std::max(left, after.by_mm);
  return left < 0.5 * unequal.by_mm;
}

}  // namespace

PanelOptions panel_options(const PartForm& form) {
  PanelOptions options;
  options.name = form.name;
  options.thickness_mm = form.thickness_mm;
  options.form_is_outside = form.outside;
  const bool detailed = form.ease_mm == 0.0 || form.clearance.mean_mm == 0.0;
  if (detailed && form.name != "headform") options.least_mm2 = 0.0;
  return options;
}

Result<PanelSet> FlatPartStep::run(Shop& shop, const Inputs& part, const Progress& progress) {
  if (part->same_sheet) {
    const auto flat = shop.make<FlatPartStep>(part->same_sheet, progress);
    if (!flat) return fail(flat);
    return with_rim_tilts(**flat, part->surface.rim_tilt);
  }
  return make_panels(part->surface, panel_options(*part), progress);
}

Result<PanelSet> CorrectStep::run(Shop&, const Inputs& in, const Progress&) {
  return corrected(*in.panels, in.correction);
}

Result<PanelSet> AlterStep::run(Shop&, const Inputs& in, const Progress&) { return alter(*in.panels, in.alterations); }

Result<PanelSet> UncutStep::run(Shop&, const Inputs& part, const Progress&) {
  return PanelSet{part->surface, {span_of(part->surface, part->name, part->outside, part->thickness_mm)}, {}, {}};
}

Result<PanelSet> JoinPanelsStep::run(Shop&, const Inputs& sets, const Progress&) { return join_panels(sets); }

Result<std::vector<LeftUnequal>> UnequalStep::run(Shop&, const Inputs& in, const Progress&) {
  constexpr double kMiddleShare = 0.25;  // of what is taken in at the end where the seams meet: workshop value
  Made made;
  for (const UnequalSeam& u : unequal_seams(*in.panels)) {
    made.push_back({u, {}});
    if (u.go_on.empty()) continue;
    Alteration also;
    also.part = in.part;
    also.seam = u.go_on;
    also.first_mm = 2.0 * u.by_mm;  // half of it comes off each side
    also.middle_mm = kMiddleShare * also.first_mm;
    if (evens(*in.panels, u, also)) made.back().also = also;
  }
  return made;
}

Result<std::optional<PanelStage::Inputs>> PanelStage::inputs(const Shop&, const Build& build, const Derived& derived) {
  Inputs in{derived.form, build.alterations, build.corrections, {}};
  for (const auto& form : derived.form->parts) {
    const Part* part = find_part(build, form->part);
    in.flat.push_back(part == nullptr || part->way.way == Way::skin);
  }
  return in;
}

Result<PanelStage::Made> PanelStage::run(Shop& shop, const Inputs& in, const Progress& progress) {
  Made made;
  const auto& parts = in.form->parts;
  const auto flat = shop.make_all<FlatPartStep>(parts, progress);
  for (std::size_t i = 0; i < parts.size(); ++i) {
    const Held<PartForm>& part = parts[i];
    auto set = flat[i];
    if (set) {
      std::vector<Alteration> own;
      for (const Alteration& a : in.alterations)
        if (a.part == part->part) own.push_back(a);
      set = with_correction(shop, *set, in, part->part, made.left_out);
      set = altered(shop, *set, std::move(own), made.left_out);
    } else if (set.error().code != Errc::cancelled && !in.flat[i]) {
      set = shop.make<UncutStep>(part);
    }
    if (!set && (set.error().code == Errc::cancelled || parts.size() == 1)) return fail(set);
    if (!set)
      return fail(
          set.error().code, "The " + part->name + ": " + set.error().text, "parts/" + std::to_string(part->part));
    made.by_part.push_back(*set);
    const auto unequal = shop.make<UnequalStep>({*set, part->part});
    if (!unequal) return fail(unequal);
    made.unequal.push_back(*unequal);
  }
  const auto joined =
      made.by_part.size() == 1 ? Result<Held<PanelSet>>(made.by_part.front()) : shop.make<JoinPanelsStep>(made.by_part);
  if (!joined) return fail(joined);
  made.joined = *joined;
  return made;
}

void PanelStage::keep(Derived& derived, const Held<Made>& made) {
  derived.panels = made->joined;
  derived.part_panels = made->by_part;
  derived.unequal = made->unequal;
  derived.part_errors.insert(derived.part_errors.end(), made->left_out.begin(), made->left_out.end());
}

}  // namespace awl
