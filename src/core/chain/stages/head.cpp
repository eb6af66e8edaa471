#include "core/chain/stages/head.hpp"

#include "core/base/numbers.hpp"
#include "core/chain/forms/wrap_form.hpp"
#include "core/chain/shop.hpp"
#include "core/derived/derived.hpp"

namespace awl {
namespace {

constexpr double kBustFootMm = -157.0;  // the neck of a headform of foam is cut here, over the foot's rounded edge
constexpr double kWellCovered = 0.85;
constexpr int kShortList = 6;

/// The head of a scan, tapes joining in; they are shown as given.
Result<HeadStage::Made> scanned_head(const Shop& shop, const HeadStage::Inputs& in, const Progress& progress) {
  auto fit = fit_scan(shop.fitter(), *in.scan.scan, in.measures, progress);
  if (!fit) return fail(fit);
  Headform head = fit->head;
  for (Reading& r : head.readings) r.band_mm = std::max(1.0, fit->p95_mm);
  for (const auto& [id, mm] : in.measures.set) {
    Reading& reading = head.readings[index_of(id)];
    reading.given = true;
    reading.given_mm = mm;
  }
  if (fit->covered_share < kWellCovered)
    head.remarks.push_back({"head.scan-cover", Severity::note, "scan",
        "The scan covers " + fixed(100.0 * fit->covered_share, 0) +
            " % of the head; the rest is filled in from proportions and tapes.",
        100.0 * fit->covered_share, 100.0 * kWellCovered, {}});
  HeadStage::Made made;
  made.tapes = std::make_shared<const std::vector<TapePath>>(tape_paths(shop.fitter(), head));
  made.head = std::make_shared<const Headform>(std::move(head));
  made.scan = std::make_shared<const ScanFit>(std::move(*fit));
  return made;
}

}  // namespace

Result<std::optional<HeadStage::Inputs>> HeadStage::inputs(const Shop&, const Build& build, const Derived&) {
  return Inputs{build.tape.measures(), build.scan};
}

Result<HeadStage::Made> HeadStage::run(Shop& shop, const Inputs& in, const Progress& progress) {
  if (in.scan.ready()) return scanned_head(shop, in, progress);
  auto head = shop.fitter().fit(in.measures);
  if (!head) return fail(head);
  Made made;
  made.tapes = std::make_shared<const std::vector<TapePath>>(tape_paths(shop.fitter(), *head));
  made.head = std::make_shared<const Headform>(std::move(*head));
  return made;
}

void HeadStage::keep(Derived& derived, const Held<Made>& made) {
  derived.head = made->head;
  derived.tapes = made->tapes;
  derived.scan = made->scan;
}

Headform meant_head(const HeadFitter& fitter, const Headform& head, bool mirrored) {
  constexpr int kAsymmetric = kModeCount - kSymmetricModes;
  if (!mirrored || head.coefficients.tail<kAsymmetric>().isZero(0.0)) return head;
  Coefficients c = head.coefficients;
  c.tail<kAsymmetric>().setZero();
  return fitter.shape(c);
}

Result<std::optional<CheckStage::Inputs>> CheckStage::inputs(const Shop&, const Build& build, const Derived& derived) {
  return Inputs{derived.head, build.foam_head.neck_up_mm, build.foam_head.mirrored, build.built};
}

Result<CheckStage::Made> CheckStage::run(Shop& shop, const Inputs& in, const Progress&) {
  Made made;
  const Headform meant = meant_head(shop.fitter(), *in.head, in.mirrored);
  made.plan = std::make_shared<const CheckPlan>(plan_check(shop.fitter(), meant, kBustFootMm + in.neck_up_mm));
  if (in.built.empty()) return made;
  auto built = judge_built(*made.plan, meant, in.built);
  if (built)
    made.built = std::make_shared<const BuiltForm>(std::move(*built));
  else
    made.error = built.error();
  return made;
}

void CheckStage::keep(Derived& derived, const Held<Made>& made) {
  derived.check = made->plan;
  derived.built = made->built;
  derived.check_error = made->error;
}

Result<std::optional<TellingStage::Inputs>> TellingStage::inputs(const Shop&, const Build& build, const Derived&) {
  Inputs in{build.tape.measures(), {}};
  for (const Part& p : build.parts)
    if (std::holds_alternative<WrapSpec>(p.shape)) {
      in.wrap = p;
      auto& spec = std::get<WrapSpec>(in.wrap.shape);
      spec.cards.clear();  // laying tape over cards for this would take too long
      spec.tight_mm = WrapSpec{}.tight_mm;
      break;
    }
  return in;
}

Result<TellingStage::Made> TellingStage::run(Shop& shop, const Inputs& in, const Progress&) {
  const auto blank = shop.make<WrapBlankStep>(WrapBlankStep::of(in.wrap, std::get<WrapSpec>(in.wrap.shape)));
  if (!blank) return Made{};  // that wrap cannot be made, which its form will say
  const Centre& centre = shop.fitter().centre_for(in.measures);
  Made made{most_telling(centre, {}, (*blank)->samples, kShortList), {}};
  const auto next = most_telling(centre, in.measures.set, (*blank)->samples, 1);
  if (!next.empty()) made.next = next.front();
  return made;
}

void TellingStage::keep(Derived& derived, const Held<Made>& made) {
  derived.short_list = made->short_list;
  derived.next = made->next;
}

}  // namespace awl
