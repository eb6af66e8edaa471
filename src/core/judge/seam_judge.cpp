#include <algorithm>

#include "core/base/numbers.hpp"
#include "core/derived/stuffs.hpp"
#include "core/derived/whereabouts.hpp"
#include "core/judge/case.hpp"
#include "core/judge/finer_cuts.hpp"
#include "core/seam/darts.hpp"
#include "core/stuff/bears.hpp"

namespace awl {
namespace {

std::string percent(double e) { return fixed(100.0 * e, 1) + " %"; }

/// The panel that is worst off, if it is beyond what its sheet bears.
void judge_strain(const Case& c, Remarks& remarks) {
  const auto& [build, d, materials] = c;
  if (!d.panels) return;
  const Panel* worst = nullptr;
  std::optional<Foam> foam;
  int over = 0;
  double limit = 0.0;
  for (const Panel& p : d.panels->panels) {
    const auto kind = stuff_of_span(build, d, p.part, materials);
    if (p.mirror_of || !d.is_skin(p.part) || !kind) continue;
    const double bears = bears_strain(*kind, build.foam.heated);
    over += p.strain.p99 > bears ? 1 : 0;
    if (worst == nullptr || p.strain.p99 / bears > worst->strain.p99 / limit) worst = &p, limit = bears, foam = *kind;
  }
  if (worst == nullptr || over == 0) return;
  Remark r{"seam.strain", Severity::warning, "panels/" + worst->name, {}, 100.0 * worst->strain.p99, 100.0 * limit, {}};
  r.sentence = "The panel " + worst->name + " must give by " + percent(worst->strain.p99) +
      (d.head && !worst->face_strain.empty() ? " (worst: " + worst_spot(*worst, *d.panels, *d.head).words + ")" : "") +
      "; " + foam->name +
      (!heat_on(*foam).allowed    ? ""
              : build.foam.heated ? " heated"
                                  : " cold") +
      " bears " + percent(limit) + ". It would pucker or pull its seams open" +
      (over > 1 ? ", and so would " + std::to_string(over - 1) + " more." : ".");
  const int plans = static_cast<int>(head_seam_plans().size());
  if (!build.foam.heated && heat_on(*foam).allowed && worst->strain.p99 <= foam->strain_heated)
    r.remedies.push_back({"Stretch the pieces with heat", "set-heated on"});
  else if (build.making == Making::headform) {
    if (d.form->head_plan + 1 < plans)
      r.remedies.push_back(
          {"Take the plan with more pieces", "set-head-plan " + std::to_string(d.form->head_plan + 1)});
  } else {
    r.remedies = finer_cuts(build, d.form->parts[worst->part]->part);
    if (!worst->given_flat && gathered_curvature(worst->solid) > 0.0)
      r.remedies.push_back({"Add darts to it", "add-darts " + std::to_string(worst->id.value)});
    if (!worst->given_flat)
      r.remedies.push_back({"Move its seams", "move-seams " + std::to_string(d.form->parts[worst->part]->part)});
    if (const double thinner = thinner_foam(*foam, build.foam.thickness_mm);
        thinner > 0.0 && !worst->given_flat && foam->id == build.foam.foam)
      r.remedies.push_back(
          {"Take " + format_length(thinner, build.shown) + " foam", "set-thickness " + fixed(thinner, 1)});
  }
  remarks.add(std::move(r));
}

/// The letter of a seam both sides of which belong to this panel: a dart. Empty without one.
std::string slit_in(const Panel& panel, const PanelSet& set) {
  for (const Seam& s : set.seams)
    if (!s.letter.empty() && s.panels[0] == panel.id && s.panels[1] == panel.id) return s.letter;
  return {};
}

void judge_panels(const Case& c, Remarks& remarks) {
  const auto& [build, d, materials] = c;
  if (!d.panels) return;
  for (const Panel& p : d.panels->panels)
    if (!d.is_skin(p.part))
      continue;
    else if (const std::string slit = slit_in(p, *d.panels); !p.mirror_of && p.overlaps && !slit.empty())
      remarks.add({"seam.overlap", Severity::stop, "panels/" + p.name,
          "Where seam " + slit + " ends inside the panel " + p.name +
              ", the piece would lie over itself: it bends the other way there and a dart cannot help. Let that seam "
              "run on to another edge, or take it out.",
          {}, {}, {}});
    else if (!p.mirror_of && (p.overlaps || p.flipped > 0))
      remarks.add({"seam.overlap", Severity::stop, "panels/" + p.name,
          "The panel " + p.name + " lies over itself when laid flat: split it.", {}, {},
          d.form ? splits(build, d.form->parts[p.part]->part) : std::vector<Remedy>{}});
}

/// Sides of a seam that were made unequal by taking in or letting out.
void judge_unequal(const Case& c, Remarks& remarks) {
  const auto& [build, d, materials] = c;
  constexpr double kEaseShare =
      0.025;  // of the longer side, that can be eased in by stretching the shorter: workshop value
  for (std::size_t i = 0; i < d.unequal.size() && d.form && i < d.form->parts.size(); ++i) {
    if (!d.is_skin(static_cast<int>(i))) continue;
    const PanelSet& set = *d.part_panels[i];
    for (const auto& [u, also] : *d.unequal[i]) {
      const Panel &longer = set.panels[u.longer.value], &shorter = set.panels[u.shorter.value];
      if (longer.mirror_of && shorter.mirror_of) continue;
      const double share = u.by_mm / u.of_mm;
      Remark r{"seam.unequal", share > kEaseShare && !u.to_free_edge ? Severity::warning : Severity::note,
          "panels/" + longer.name, {}, u.by_mm, kEaseShare * u.of_mm, {}};
      const Seam& seam = set.seams[u.seam.value];
      r.sentence = "At seam " + (seam.letter.empty() ? seam.name : seam.letter + " (" + seam.name + ")") +
          " the piece " + longer.name + " is " + format_length(0.1 * std::round(10.0 * u.by_mm), build.shown) +
          " longer than " + shorter.name +
          (u.to_free_edge              ? ": glue it from the other end; what stands out at the free edge is trimmed."
                  : share > kEaseShare ? ": too much to ease in; take it in there too, or cut a dart of that width."
                                       : ": ease it in, stretching " + shorter.name + " evenly from notch to notch.");
      if (also)
        r.remedies.push_back({"Take in " + u.go_on + " too",
            "take-in " + std::to_string(also->part) + " " + fixed(also->first_mm, 1) + " " + fixed(also->middle_mm, 1) +
                " 0 " + u.go_on});
      remarks.add(std::move(r));
    }
  }
}

/// A seam, or of one between flipped copies that of the pieces themselves.
const Seam& drawn_side(const PanelSet& set, const Seam& seam) {
  const auto flipped = [&](const Seam& s) {
    return std::all_of(s.panels.begin(), s.panels.end(),
        [&](PanelId p) { return p.valid() && set.panels[p.value].mirror_of.has_value(); });
  };
  if (!flipped(seam)) return seam;
  const auto other = std::find_if(
      set.seams.begin(), set.seams.end(), [&](const Seam& s) { return s.letter == seam.letter && !flipped(s); });
  return other != set.seams.end() ? *other : seam;
}

/// The seam of each part along which a blade would lean more than a hand can cut, where the maker left it to the rule.
void judge_steep(const Case& c, Remarks& remarks) {
  constexpr double kMostBladeDeg = 45.0, kLongMm = 25.0;
  const auto& [build, d, materials] = c;
  if (build.making != Making::parts || !d.form) return;
  for (std::size_t i = 0; i < d.part_panels.size() && i < d.form->parts.size(); ++i) {
    const PanelSet& set = *d.part_panels[i];
    const int part = d.form->parts[i]->part;
    if (!d.is_skin(static_cast<int>(i))) continue;
    std::vector<double> long_mm(set.seams.size(), 0.0), steepest(set.seams.size(), 0.0);
    for (const Panel& p : set.panels)
      for (const BorderEdge& e : p.border) {
        const double tilt = degrees(0.5 * std::abs(e.turn_rad));
        if (!e.seam.valid() || tilt <= kMostBladeDeg) continue;
        long_mm[e.seam.value] += 0.5 * (p.solid.vertices[e.a] - p.solid.vertices[e.b]).norm();  // both sides count
        steepest[e.seam.value] = std::max(steepest[e.seam.value], tilt);
      }
    const std::size_t at = std::max_element(long_mm.begin(), long_mm.end()) - long_mm.begin();
    if (long_mm.empty() || long_mm[at] < kLongMm) continue;
    const Seam& seam = drawn_side(set, set.seams[at]);
    if (std::any_of(build.foam.cuts.begin(), build.foam.cuts.end(),
            [&](const SeamCut& cut) { return cut.part == part && cut.seam == seam.name; }))
      continue;
    const std::string words = std::to_string(part) + " " + seam.name;
    Remark r{"seam.steep", Severity::note, "parts/" + std::to_string(part),
        "Along the seam " + seam.name + " of the " + d.form->parts[i]->name + " the blade would lean up to " +
            fixed(steepest[at], 0) + "\u00b0 over " + fixed(long_mm[at], 0) + " mm; a hand cuts " +
            fixed(kMostBladeDeg, 0) +
            "\u00b0: cut it in two, lay one piece over the other, or cut square under a strip.",
        steepest[at], kMostBladeDeg, {}};
    r.remedies.push_back({"Cut it in two", "cut-seam two-cuts " + words});
    r.remedies.push_back({"Square, under a strip", "strip-seam " + words});
    remarks.add(std::move(r));
  }
}

/// Seams of an outer layer that run over those of the one below: both open at one place.
void judge_stagger(const Case& c, Remarks& remarks) {
  const auto& [build, d, materials] = c;
  constexpr double kApartMm = 12.0, kShare = 0.25;  // workshop values
  if (!d.form || build.making != Making::parts) return;
  const auto seams_in = [](const PartForm& form) {
    std::vector<Vec3> middles;
    for (const auto& [edge, id] : form.surface.seam_of)
      middles.push_back(0.5 * (form.surface.mesh.vertices[edge.first] + form.surface.mesh.vertices[edge.second]));
    return middles;
  };
  for (const auto& outer : d.form->parts) {
    const Part* part = find_part(build, outer->part);
    const PartForm* inner = part != nullptr && part->on != 0 ? d.form->of(part->on) : nullptr;
    if (inner == nullptr || !std::holds_alternative<WrapSpec>(part->shape) ||
        !std::holds_alternative<WrapSpec>(find_part(build, part->on)->shape))
      continue;
    const auto over = seams_in(*outer), under = seams_in(*inner);
    const double reach = kApartMm + inner->thickness_mm;
    const auto close = std::count_if(over.begin(), over.end(), [&](const Vec3& p) {
      return std::any_of(
          under.begin(), under.end(), [&](const Vec3& q) { return (p - q).squaredNorm() < reach * reach; });
    });
    const double share = over.empty() ? 0.0 : static_cast<double>(close) / static_cast<double>(over.size());
    if (share <= kShare) continue;
    Remark r{"seam.stagger", Severity::note, "parts/" + std::to_string(outer->part) + "/seams",
        fixed(100.0 * share, 0) + " % of the seams of the " + outer->name + " lie over those of the " + inner->name +
            " below it, where both would open at once; keep them " + format_length(kApartMm, build.shown) + " apart.",
        100.0 * share, 100.0 * kShare, {}};
    if (!part->seams.stagger && part->seams.preset != SeamPreset::none)
      r.remedies.push_back({"Set its seams between them", "set-stagger " + std::to_string(outer->part)});
    remarks.add(std::move(r));
  }
}

}  // namespace

void judge_seams(const Case& c, Remarks& remarks) {
  judge_panels(c, remarks);
  judge_strain(c, remarks);
}

void judge_seam_sides(const Case& c, Remarks& remarks) {
  judge_unequal(c, remarks);
  judge_steep(c, remarks);
  judge_stagger(c, remarks);
}

}  // namespace awl
