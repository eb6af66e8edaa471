#include "core/chain/glued.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/parallel.hpp"
#include "core/derived/part_lines.hpp"
#include "core/derived/whereabouts.hpp"

namespace awl {
namespace {

// Below these a maker would not see it, or sands it away: workshop values.
constexpr double kOffMm = 1.5, kPointMm = 1.2, kGluedRimMm = 3.0, kPuckerDeg = 14.0;
constexpr std::size_t kMostShownPoints = 3;

/// Middles of a part's rims, in the order details number them.
std::vector<Vec3> rim_middles(const PartForm& form) {
  std::vector<Vec3> middles;
  for (const SiteLine& rim : dress_site(form, false).rims) {
    Vec3 sum = Vec3::Zero();
    for (const Vec3& p : rim.at) sum += p / static_cast<double>(rim.at.size());
    middles.push_back(sum);
  }
  return middles;
}

class Teller {
 public:
  Teller(const Build& build, const Headform* head, bool named) : build_(build), head_(head), named_(named) {}

  /// `rims`: middles of the part's rims, in the order details number them.
  void tell(const GluedUp& g, const std::string& part, int id, const std::vector<Vec3>& rims) {
    const std::string of = named_ ? "The " + part + ": " : "";
    if (g.worst >= 0 && g.most_mm >= kOffMm)
      add(of + "farthest from the form " + where(g.meant[g.worst]) + ": " + length(g.most_mm) +
              (g.off_mm[g.worst] > 0.0 ? " out." : " in."),
          g.meant[g.worst], g.most_mm);
    std::size_t told = 0;
    for (const GluedPoint& p : g.points) {
      if (std::abs(p.out_mm) < kPointMm || told++ == kMostShownPoints) break;
      const std::string what = p.dart
          ? (p.out_mm > 0.0 ? "the end of the dart stands up by " : "the end of the dart sinks in by ")
          : p.out_mm > 0.0 ? "it comes out pointed where seams meet, by "
                           : "it comes out dented where seams meet, by ";
      add(of + what + length(std::abs(p.out_mm)) + ", " + where(p.at) +
              ". Bend those pieces over something round before gluing.",
          p.at, std::abs(p.out_mm));
    }
    for (const GluedRim& r : g.rims) {
      const double wider = r.glued_breadth_mm - r.breadth_mm, longer = r.glued_girth_mm - r.girth_mm;
      if (std::abs(wider) < kGluedRimMm && std::abs(longer) < kGluedRimMm) continue;
      const bool breadth = std::abs(wider) >= std::abs(longer);
      add(of + edge_words(box_of(g.meant), r.at) +
              (breadth
                      ? " ends " + length(std::abs(wider)) + (wider < 0.0 ? " narrower" : " wider")
                      : " comes out " + length(std::abs(longer)) + (longer < 0.0 ? " shorter" : " longer") + " round") +
              " than the form's." +
              (breadth && wider > 0.0 ? " A strap, a strip along the rim or a liner holds it in." : ""),
          r.at, std::max(std::abs(wider), std::abs(longer)));
      if (!breadth || wider <= 0.0 || rims.empty() || id == 0) continue;
      const auto nearest = std::min_element(rims.begin(), rims.end(),
          [&](const Vec3& a, const Vec3& b) { return (a - r.at).norm() < (b - r.at).norm(); });
      findings.back().remedies = {{"Hold it with a band inside",
          "hold-rim " + std::to_string(id) + " " + std::to_string(nearest - rims.begin() + 1)}};
    }
    if (g.pucker_deg >= kPuckerDeg)
      add(of + "the foam puckers " + where(g.pucker_at) + "; it leans " + fixed(g.pucker_deg, 0) +
              " degrees off the form. A dart or a seam there takes it out.",
          g.pucker_at, 0.1 * g.pucker_deg);
    if (!g.at_rest) add(of + "it was still moving when the reckoning ended; take this as rough.", Vec3::Zero(), 0.0);
  }

  std::vector<GlueFinding> findings;

 private:
  void add(std::string sentence, const Vec3& at, double mm) {
    sentence[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(sentence[0])));
    findings.push_back({std::move(sentence), at, mm});
  }
  std::string where(const Vec3& at) const { return head_ != nullptr ? whereabouts(*head_, at) : "there"; }
  std::string length(double mm) const { return format_length(0.1 * std::round(10.0 * mm), build_.shown); }

  const Build& build_;
  const Headform* head_;
  bool named_;
};

bool is_glued(const PanelSet& set) { return !set.panels.empty() && !set.panels.front().given_flat; }

/// Every part that is glued from pieces, side by side.
std::vector<std::optional<Result<GluedUp>>> glue_parts(
    const Derived& d, const GlueUpOptions& options, const Progress& progress) {
  std::vector<std::optional<Result<GluedUp>>> made(d.part_panels.size());
  std::vector<double> sizes;
  for (const auto& set : d.part_panels)
    sizes.push_back(is_glued(*set) ? static_cast<double>(set->form.mesh.vertices.size()) : 0.0);
  SideBySide parts(progress, sizes);
  parallel_for(static_cast<int>(made.size()), [&](int i) {
    const PanelSet& set = *d.part_panels[i];
    if (is_glued(set)) made[i] = glue_up(set, options, parts.of(i));
  });
  return made;
}

}  // namespace

Result<GluedForm> glue_form(
    const Derived& d, const Build& build, const Materials& materials, const Progress& progress) {
  if (!d.panels || d.part_panels.empty()) return fail(Errc::empty_input, "There are no pieces to glue yet.", "panels");
  const auto foam = foam_of(build.foam, materials);
  GlueUpOptions options;
  if (foam)
    options.squeeze = foam->squeeze_stiffness, options.keeps_bend = build.foam.heated ? foam->keeps_bend_heated : 0.0;
  GluedForm made;
  made.panels = d.panels;
  Teller telling(build, d.head.get(), d.part_panels.size() > 1);
  const auto glued_parts = glue_parts(d, options, progress);
  double weight = 0.0;
  for (std::size_t i = 0; i < d.part_panels.size(); ++i) {
    const PanelSet& set = *d.part_panels[i];
    const std::size_t vertices = set.form.mesh.vertices.size();
    if (!is_glued(set)) {
      made.moved.resize(made.moved.size() + vertices, Vec3::Zero()),
          made.off_mm.resize(made.off_mm.size() + vertices, 0.0);
      continue;
    }
    const auto& glued = *glued_parts[i];
    if (!glued) return fail(glued);
    for (std::size_t v = 0; v < vertices; ++v) made.moved.push_back(glued->places[v] - glued->meant[v]);
    made.off_mm.insert(made.off_mm.end(), glued->off_mm.begin(), glued->off_mm.end());
    made.most_mm = std::max(made.most_mm, glued->most_mm);
    const double area = area_mm2(set.form.mesh);
    made.p95_mm += area * glued->p95_mm, weight += area;
    const PartForm* form = d.form && i < d.form->parts.size() ? d.form->parts[i].get() : nullptr;
    telling.tell(*glued, set.spans.front().name, form != nullptr ? form->part : 0,
        form != nullptr ? rim_middles(*form) : std::vector<Vec3>{});
  }
  made.p95_mm /= std::max(weight, 1e-9);
  made.findings = std::move(telling.findings);
  std::stable_sort(
      made.findings.begin(), made.findings.end(), [](const auto& a, const auto& b) { return a.mm > b.mm; });
  if (made.findings.empty())
    made.findings.push_back({"Glued up, it comes out as the form: nowhere more than " +
            format_length(0.1 * std::ceil(10.0 * made.most_mm), build.shown) + " off.",
        Vec3::Zero(), 0.0});
  return made;
}

}  // namespace awl
