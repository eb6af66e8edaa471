#include <algorithm>

#include "core/base/numbers.hpp"
#include "core/builds/chain.hpp"

namespace awl {
namespace {

std::string percent(double e) { return fixed(100.0 * e, 1) + " %"; }

/// The panel that is worst off, if it is beyond what the foam bears.
void judge_strain(const Build& build, const Derived& d, const Materials& materials, std::vector<Remark>& remarks) {
  const auto foam = materials.foam(build.foam.foam);
  if (!d.panels || !foam) return;
  const double limit = build.foam.heated ? foam->strain_heated : foam->strain_cold;
  const Panel* worst = nullptr;
  int over = 0;
  for (const Panel& p : d.panels->panels) {
    if (p.mirror_of) continue;
    over += p.strain.p99 > limit ? 1 : 0;
    if (worst == nullptr || p.strain.p99 > worst->strain.p99) worst = &p;
  }
  if (worst == nullptr || over == 0) return;
  Remark r{"seam.strain", Severity::warning, "panels/" + worst->name, {}, 100.0 * worst->strain.p99, 100.0 * limit, {}};
  r.sentence = "The panel " + worst->name + " must give by " + percent(worst->strain.p99) + "; " + foam->name + (build.foam.heated ? " heated" : " cold") +
               " bears " + percent(limit) + ". It would pucker or pull its seams open" + (over > 1 ? ", and so would " + std::to_string(over - 1) + " more." : ".");
  const int plans = static_cast<int>(head_seam_plans().size());
  if (!build.foam.heated && worst->strain.p99 <= foam->strain_heated) r.remedies.push_back({"Stretch the pieces with heat", "set-heated on"});
  else if (build.making == Making::headform) {
    if (d.form->head_plan + 1 < plans) r.remedies.push_back({"Take the plan with more pieces", "set-head-plan " + std::to_string(d.form->head_plan + 1)});
  } else if (!build.seams.belt) r.remedies.push_back({"Add a belt seam over the ears", "set-belt on"});
  else if (build.seams.preset != SeamPreset::gores) r.remedies.push_back({"Cut it in four gores a side", "set-gores 4"});
  else if (build.seams.gores_per_side < 8) r.remedies.push_back({"Cut one more gore a side", "set-gores " + std::to_string(build.seams.gores_per_side + 1)});
  remarks.push_back(std::move(r));
}

void judge_opening(const Build& build, const Derived& d, std::vector<Remark>& remarks) {
  if (!d.form || !d.head || build.making != Making::hood) return;
  const double head_mm = d.head->reading(MeasureId::HC).reads_mm;
  if (d.form->lower_girth_mm >= head_mm) return;
  Remark r{"form.opening", Severity::warning, "form/edge", {}, d.form->lower_girth_mm, head_mm, {}};
  r.sentence = "The lower opening is " + format_length(d.form->lower_girth_mm, build.shown) + " round and does not pass over a head of " +
               format_length(head_mm, build.shown) + ": leave the centre line open at the back below the belt, and lace it.";
  r.remedies.push_back({"Take the open-face edge", "set-edge open-face"});
  remarks.push_back(std::move(r));
}

void judge_clearance(const Build& build, const Derived& d, std::vector<Remark>& remarks) {
  if (!d.form || build.making != Making::hood || d.form->clearance.least_mm >= 0.95 * build.hood.ease_mm()) return;
  remarks.push_back({"form.clearance", Severity::warning, "form/ease",
                     "The hood comes as near as " + fixed(d.form->clearance.least_mm, 1) + " mm to the head where " + fixed(build.hood.ease_mm(), 1) + " mm was asked.",
                     d.form->clearance.least_mm, build.hood.ease_mm(), {}});
}

/// How far a flaw pushes a part off the wearer, for comparing with the padding.
double push_mm(const Finding& f) { return std::abs(f.amount) * (f.flaw == Flaw::size ? 1.2 : 1.0); }

/// What the form as built means for what is made on it: padding forgives, a close fit does not.
void judge_built_form(const Build& build, const Derived& d, std::vector<Remark>& remarks) {
  if (d.check_error) {
    const std::string id = d.check_error->where.rfind("check/", 0) == 0 ? d.check_error->where.substr(6) : "";
    remarks.push_back({"check.reading", Severity::warning, d.check_error->where, d.check_error->text, {}, {}, {}});
    if (!id.empty()) remarks.back().remedies = {{"Read it again", "edit-check " + id}};
  }
  if (!d.built) return;
  for (const std::string& id : d.built->doubted)
    remarks.push_back({"check.doubted", Severity::warning, "check/" + id, "The distance " + id + " does not go with the others on the check sheet; it is left out until it is read again.", {}, {}, {{"Read it again", "edit-check " + id}}});
  double wide_mm = 0.0;
  for (const Finding& f : d.built->findings) {
    const bool tilts = f.flaw == Flaw::twist || f.flaw == Flaw::lean_side || f.flaw == Flaw::lean_forward;
    if (f.flaw == Flaw::left || f.flaw == Flaw::right) wide_mm += f.amount;
    if (f.flaw == Flaw::size) wide_mm += 0.01 * f.amount * d.head->reading(MeasureId::HB).reads_mm;
    const bool forgiven = !tilts && push_mm(f) <= 0.5 * build.hood.padding_mm;
    const std::string matter = build.fit_to_built && !tilts ? " The build follows it." : tilts ? " It does not change the size; it turns what is marked from the foot." : forgiven ? " The padding forgives it." : " A close fit does not forgive it.";
    remarks.push_back({"check.built", build.fit_to_built || forgiven || tilts ? Severity::note : Severity::warning, "check", f.sentence + matter + " " + f.remedy, f.amount, f.sd, {}});
  }
  if (std::abs(wide_mm) < 1.0) return;
  Remark r{"check.let-in", Severity::note, "check", {}, wide_mm, {}, {}};
  const std::string by = fixed(std::abs(wide_mm), 1) + " mm " + (wide_mm > 0.0 ? "wide" : "narrow");
  if (build.fit_to_built) r.sentence = "This pattern is made on a form " + by + ".", r.remedies = {{"Fit it to the wearer", "fit-to wearer"}};
  else r.sentence = "What is made on this form comes out " + by + ": " + (wide_mm > 0.0 ? "take in " : "let out ") + fixed(0.5 * std::abs(wide_mm), 1) + " mm each side, or fit the build to the form as built.", r.remedies = {{"Fit it to the form as built", "fit-to built"}};
  remarks.push_back(std::move(r));
}

void judge_panels(const Derived& d, std::vector<Remark>& remarks) {
  if (!d.panels) return;
  for (const Panel& p : d.panels->panels)
    if (p.overlaps || p.flipped > 0)
      remarks.push_back({"seam.overlap", Severity::stop, "panels/" + p.name, "The panel " + p.name + " lies over itself when laid flat: split it.", {}, {}, {}});
}

}  // namespace

std::vector<Remark> judge(const Build& build, const Derived& d, const Materials& materials) {
  std::vector<Remark> remarks;
  if (d.head) remarks = d.head->remarks;
  for (Remark& r : judge_sheet(build.tape, build.extras)) remarks.push_back(std::move(r));
  judge_built_form(build, d, remarks);
  judge_clearance(build, d, remarks);
  judge_opening(build, d, remarks);
  judge_panels(d, remarks);
  judge_strain(build, d, materials, remarks);
  if (d.plan) remarks.insert(remarks.end(), d.plan->remarks.begin(), d.plan->remarks.end());
  if (d.error && d.error->code != Errc::cancelled)
    remarks.push_back({"chain.stopped", Severity::stop, d.error->where, d.error->text, {}, {}, {}});
  sort_remarks(remarks);
  return remarks;
}

}  // namespace awl
