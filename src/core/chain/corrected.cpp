#include "core/chain/corrected.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/parallel.hpp"
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
    options_.near_enough_mm = kNearEnoughMm;
  }

  /// What one part gains, or why it is left.
  struct OfPart {
    std::optional<Correction> correction;
    std::string said;
  };

  Result<OfPart> of(const PartForm& form, const Progress& progress) const {
    const bool by_hand = std::any_of(
        build_.alterations.begin(), build_.alterations.end(), [&](const Alteration& a) { return a.part == form.part; });
    if (by_hand) return left(form, "altered by hand, and left as you made it.");
    const auto set = make_panels(form.surface, panel_options(form), progress.span(0.0, 0.05));
    if (!set) return fail(set);
    if (set->panels.empty() || set->panels.front().given_flat)
      return left(form, "cut flat, as drawn; there is nothing to correct.");
    const auto trued = true_outlines(*set, options_, progress.span(0.05, 1.0));
    if (!trued) return fail(trued);
    if (trued->near_enough) return left(form, "within " + mm(kNearEnoughMm) + " of its form as it is.");
    if (!trued->better)
      return left(form,
          "no outline brings it nearer than " + mm(trued->before.p95_mm) +
              "; more seams would, and what springs open a strap or a liner holds.");
    std::string gained = "within " + mm(trued->after.p95_mm) + " of the form instead of " + mm(trued->before.p95_mm) +
        ", at most " + mm(trued->after.most_mm) + " off instead of " + mm(trued->before.most_mm) +
        "; outlines move by up to " + mm(trued->moved_most_mm) + ".";
    if (trued->after.strain > bears_ && trued->after.strain > trued->before.strain + kStrainTold)
      gained += " The foam then gives " + fixed(100.0 * trued->after.strain, 1) + " % instead of " +
          fixed(100.0 * trued->before.strain, 1) + " %; it bears " + fixed(100.0 * bears_, 1) +
          " %: a seam more comes first.";
    return OfPart{correction_of(*set, *trued, form.part, closer_), sentence(form, gained)};
  }

 private:
  static std::string sentence(const PartForm& form, const std::string& what) {
    return "The " + form.name + ": " + what;
  }
  static OfPart left(const PartForm& form, const std::string& why) { return {{}, sentence(form, why)}; }
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
  const Corrector corrector(build, materials, closer);
  std::vector<double> sizes;
  for (const PartForm* form : wanted) sizes.push_back(static_cast<double>(form->surface.mesh.vertices.size()));
  SideBySide parts(progress, sizes);
  std::vector<Result<Corrector::OfPart>> found(wanted.size());
  parallel_for(static_cast<int>(wanted.size()), [&](int i) { found[i] = corrector.of(*wanted[i], parts.of(i)); });
  CorrectedForm made;
  for (auto& of : found) {
    if (!of) return fail(of);
    made.said.push_back(std::move(of->said));
    if (of->correction) made.corrections.push_back(std::move(*of->correction));
  }
  return made;
}

}  // namespace awl
