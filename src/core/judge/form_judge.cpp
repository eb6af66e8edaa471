#include <cmath>

#include "core/base/numbers.hpp"
#include "core/judge/case.hpp"

namespace awl {
namespace {

/// Where a part comes nearer to the head than its ease; of rings only where it would press.
void judge_clearance(const Case& c, Remarks& remarks) {
  const auto& [build, d, materials] = c;
  if (!d.form || build.making != Making::parts) return;
  for (const auto& form : d.form->parts) {
    const Part* part = find_part(build, form->part);
    if (part == nullptr || form->ease_mm <= 0.0) continue;
    const bool rings = std::holds_alternative<RingsSpec>(part->shape);
    if (form->clearance.least_mm >= (rings ? 0.35 : 0.95) * form->ease_mm) continue;
    Remark r{"form.clearance", Severity::warning,
        "parts/" + std::to_string(form->part) + (rings ? "/ease" : "/padding"),
        "The " + form->name + " comes as near as " + fixed(form->clearance.least_mm, 1) + " mm to the head where " +
            fixed(form->ease_mm, 1) + " mm was asked.",
        form->clearance.least_mm, form->ease_mm, {}};
    const double more = form->ease_mm + std::ceil(0.6 * form->ease_mm - form->clearance.least_mm);
    if (rings && more <= 40.0)
      r.remedies.push_back({"Give it more room", "turn " + std::to_string(form->part) + " ease " + fixed(more, 0)});
    remarks.add(std::move(r));
  }
}

/// What sources said of their own forms, and parts that could not be made.
void judge_parts(const Case& c, Remarks& remarks) {
  const auto& [build, d, materials] = c;
  for (const Error& e : d.part_errors)
    if (e.where.starts_with("alterations/"))
      remarks.warn("seam.altered", e.where, e.text)
          .offer("Take that alteration back", "drop-alteration " + e.where.substr(e.where.rfind('/') + 1));
    else if (e.where.starts_with("corrections/"))
      remarks.warn("seam.corrected", e.where, e.text)
          .offer("Go back to the drawn outlines", "drop-correction " + e.where.substr(e.where.rfind('/') + 1));
    else
      remarks.stop("form.part", e.where, e.text);
  if (!d.form) return;
  for (const auto& form : d.form->parts)
    for (Remark r : form->remarks) {
      const auto slash = r.where.find('/');
      r.where = "parts/" + std::to_string(form->part) + (slash == std::string::npos ? "" : r.where.substr(slash));
      remarks.add(std::move(r));
    }
}

/// Once comparing has begun: sides that were never looked at. Looking only at the front costs a rebuilt back.
void judge_looks(const Case& c, Remarks& remarks) {
  const auto& [build, d, materials] = c;
  if (build.compared.empty() && build.references.empty()) return;
  std::string missing;
  int count = 0;
  for (int i = 0; i < kLooks; ++i)
    if (build.compared.count(static_cast<LookFrom>(i)) == 0)
      missing += (count++ > 0 ? ", " : "") + std::string(name_of(static_cast<LookFrom>(i)));
  if (count == 0) return;
  remarks.add({"form.unseen", Severity::note, "parts/compare",
      "Not compared yet from the " + missing + ". Turn it and look before cutting.",
      static_cast<double>(kLooks - count), static_cast<double>(kLooks), {}});
}

}  // namespace

void judge_form(const Case& c, Remarks& remarks) {
  judge_parts(c, remarks);
  judge_looks(c, remarks);
  judge_clearance(c, remarks);
}

}  // namespace awl
