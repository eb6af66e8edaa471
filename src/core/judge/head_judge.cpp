#include "core/base/numbers.hpp"
#include "core/judge/case.hpp"

namespace awl {
namespace {

/// How far a flaw pushes a part off the wearer, for comparing with the padding.
double push_mm(const Finding& f) { return std::abs(f.amount) * (f.flaw == Flaw::size ? 1.2 : 1.0); }

/// What the form as built means for what is made on it: padding forgives, a close fit does not.
void judge_built_form(const Case& c, Remarks& remarks) {
  const auto& [build, d, materials] = c;
  if (d.check_error) {
    auto made = remarks.warn("check.reading", d.check_error->where, d.check_error->text);
    if (d.check_error->where.starts_with("check/"))
      made.offer("Read it again", "edit-check " + d.check_error->where.substr(6));
  }
  if (!d.built) return;
  for (const std::string& id : d.built->doubted)
    remarks.add({"check.doubted", Severity::warning, "check/" + id,
        "The distance " + id +
            " does not go with the others on the check sheet; it is left out until it is read again.",
        {}, {}, {{"Read it again", "edit-check " + id}}});
  double wide_mm = 0.0, padding_mm = 0.0;
  for (const Part& p : build.parts)
    if (const auto* wrap = std::get_if<WrapSpec>(&p.shape))
      padding_mm = padding_mm == 0.0 ? wrap->padding_mm : std::min(padding_mm, wrap->padding_mm);
  for (const Finding& f : d.built->findings) {
    const bool tilts = f.flaw == Flaw::twist || f.flaw == Flaw::lean_side || f.flaw == Flaw::lean_forward;
    if (f.flaw == Flaw::left || f.flaw == Flaw::right) wide_mm += f.amount;
    if (f.flaw == Flaw::size) wide_mm += 0.01 * f.amount * d.head->reading(MeasureId::HB).reads_mm;
    const bool forgiven = !tilts && push_mm(f) <= 0.5 * padding_mm;
    const std::string matter = build.fit_to_built && !tilts ? " The build follows it."
        : tilts    ? " It does not change the size; it turns what is marked from the foot."
        : forgiven ? " The padding forgives it."
                   : " A close fit does not forgive it.";
    remarks.add({"check.built", build.fit_to_built || forgiven || tilts ? Severity::note : Severity::warning, "check",
        f.sentence + matter + " " + f.remedy, f.amount, f.sd, {}});
  }
  if (std::abs(wide_mm) < 1.0) return;
  Remark r{"check.let-in", Severity::note, "check", {}, wide_mm, {}, {}};
  const std::string by = fixed(std::abs(wide_mm), 1) + " mm " + (wide_mm > 0.0 ? "wide" : "narrow");
  if (build.fit_to_built)
    r.sentence = "This pattern is made on a form " + by + ".", r.remedies = {{"Fit it to the wearer", "fit-to wearer"}};
  else
    r.sentence = "What is made on this form comes out " + by + ": " + (wide_mm > 0.0 ? "take in " : "let out ") +
        fixed(0.5 * std::abs(wide_mm), 1) + " mm each side, or fit the build to the form as built.",
    r.remedies = {{"Fit it to the form as built", "fit-to built"}};
  remarks.add(std::move(r));
}

}  // namespace

void judge_head(const Case& c, Remarks& remarks) {
  if (c.derived.head) remarks.add(c.derived.head->remarks);
  remarks.add(judge_sheet(c.build.tape, c.build.extras));
  judge_built_form(c, remarks);
}

}  // namespace awl
