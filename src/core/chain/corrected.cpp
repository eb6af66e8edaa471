#include "core/chain/corrected.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/chain/stages/panels.hpp"
#include "core/seam/truing.hpp"
#include "core/stuff/bears.hpp"

namespace awl {
namespace {

constexpr double kNearEnoughMm = 0.5;  // nobody cuts truer by hand: workshop value
constexpr double kStrainTold = 0.005;  // a rise worth a word
constexpr double kStayCloser = 0.3, kStrainCloser = 0.2;

class Corrector {
 public:
  Corrector(const Build& build, const Materials& materials, bool closer) : build_(build), closer_(closer) {
    if (const auto foam = foam_of(build.foam, materials)) {
      options_.glue.squeeze = foam->squeeze_stiffness;
      options_.glue.keeps_bend = build.foam.heated ? foam->keeps_bend_heated : 0.0;
      bears_ = bears_strain(*foam, build.foam.heated);
    }
    if (closer) options_.stay = kStayCloser, options_.strain = kStrainCloser;
  }

  Result<void> add(const PartForm& form, const Progress& progress) {
    const bool by_hand = std::any_of(
        build_.alterations.begin(), build_.alterations.end(), [&](const Alteration& a) { return a.part == form.part; });
    if (by_hand) return say(form, "altered by hand, and left as you made it."), Result<void>();
    const auto set = make_panels(form.surface, panel_options(form), progress.span(0.0, 0.05));
    if (!set) return fail(set);
    if (set->panels.empty() || set->panels.front().given_flat)
      return say(form, "cut flat, as drawn; there is nothing to correct."), Result<void>();
    const auto glued = glue_up(*set, options_.glue, progress.span(0.05, 0.1));
    if (!glued) return fail(glued);
    if (glued->p95_mm < kNearEnoughMm)
      return say(form, "within " + mm(kNearEnoughMm) + " of its form as it is."), Result<void>();
    const auto trued = true_outlines(*set, options_, progress.span(0.1, 1.0));
    if (!trued) return fail(trued);
    if (!trued->better)
      return say(form,
                 "no outline brings it nearer than " + mm(glued->p95_mm) +
                     "; more seams would, and what springs open a strap or a liner holds."),
             Result<void>();
    made.corrections.push_back(correction_of(*set, *trued, form.part, closer_));
    std::string gained = "within " + mm(trued->after.p95_mm) + " of the form instead of " + mm(trued->before.p95_mm) +
        ", at most " + mm(trued->after.most_mm) + " off instead of " + mm(trued->before.most_mm) +
        "; outlines move by up to " + mm(trued->moved_most_mm) + ".";
    if (trued->after.strain > bears_ && trued->after.strain > trued->before.strain + kStrainTold)
      gained += " The foam then gives " + fixed(100.0 * trued->after.strain, 1) + " % instead of " +
          fixed(100.0 * trued->before.strain, 1) + " %; it bears " + fixed(100.0 * bears_, 1) +
          " %: a seam more comes first.";
    say(form, gained);
    return {};
  }

  CorrectedForm made;

 private:
  void say(const PartForm& form, const std::string& what) { made.said.push_back("The " + form.name + ": " + what); }
  std::string mm(double value) const { return format_length(0.1 * std::round(10.0 * value), build_.shown); }

  const Build& build_;
  bool closer_;
  double bears_ = 1.0;
  TruingOptions options_;
};

}  // namespace

Result<CorrectedForm> correct_outlines(const Derived& derived, const Build& build, const Materials& materials, int part,
    bool closer, const Progress& progress) {
  if (!derived.form || derived.part_panels.empty())
    return fail(Errc::empty_input, "There are no pieces to correct yet.", "panels");
  std::vector<const PartForm*> wanted;
  for (const auto& form : derived.form->parts) {
    const Part* of = find_part(build, form->part);
    const bool of_sheet = of == nullptr || of->way.way == Way::skin;
    if (of_sheet && (part == 0 || form->part == part)) wanted.push_back(form.get());
  }
  if (wanted.empty())
    return fail(Errc::unknown_name, "No part number " + std::to_string(part) + " is made of sheet.", "parts");
  Corrector corrector(build, materials, closer);
  const double n = static_cast<double>(wanted.size());
  for (std::size_t i = 0; i < wanted.size(); ++i)
    if (auto good = corrector.add(*wanted[i], progress.span(i / n, (i + 1) / n)); !good) return fail(good);
  return std::move(corrector.made);
}

}  // namespace awl
