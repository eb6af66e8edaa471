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
  if (!build.foam.heated && worst->strain.p99 <= foam->strain_heated) r.remedies.push_back({"Stretch the pieces with heat", "set-heated on"});
  else if (!build.seams.belt) r.remedies.push_back({"Add a belt seam over the ears", "set-belt on"});
  else if (build.seams.preset != SeamPreset::gores) r.remedies.push_back({"Cut it in four gores a side", "set-gores 4"});
  else if (build.seams.gores_per_side < 8) r.remedies.push_back({"Cut one more gore a side", "set-gores " + std::to_string(build.seams.gores_per_side + 1)});
  remarks.push_back(std::move(r));
}

void judge_opening(const Build& build, const Derived& d, std::vector<Remark>& remarks) {
  if (!d.form || !d.head) return;
  const double head_mm = d.head->reading(MeasureId::HC).reads_mm;
  if (d.form->lower_girth_mm >= head_mm) return;
  Remark r{"form.opening", Severity::warning, "form/edge", {}, d.form->lower_girth_mm, head_mm, {}};
  r.sentence = "The lower opening is " + format_length(d.form->lower_girth_mm, build.shown) + " round and does not pass over a head of " +
               format_length(head_mm, build.shown) + ": leave the centre line open at the back below the belt, and lace it.";
  r.remedies.push_back({"Take the open-face edge", "set-edge open-face"});
  remarks.push_back(std::move(r));
}

void judge_clearance(const Build& build, const Derived& d, std::vector<Remark>& remarks) {
  if (!d.form || d.form->clearance.least_mm >= 0.95 * build.hood.ease_mm()) return;
  remarks.push_back({"form.clearance", Severity::warning, "form/ease",
                     "The hood comes as near as " + fixed(d.form->clearance.least_mm, 1) + " mm to the head where " + fixed(build.hood.ease_mm(), 1) + " mm was asked.",
                     d.form->clearance.least_mm, build.hood.ease_mm(), {}});
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
