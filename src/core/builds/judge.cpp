#include <algorithm>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/builds/stuffs.hpp"
#include "core/builds/whereabouts.hpp"
#include "core/seam/darts.hpp"

namespace awl {
namespace {

std::string percent(double e) { return fixed(100.0 * e, 1) + " %"; }

constexpr double kBluntTip = 0.1;  // a wider tip ends in a dome no strip lies flat round: workshop value

/// What cuts a part finer, by its source.
std::vector<Remedy> finer_cuts(const Build& build, int id) {
  const Part* part = find_part(build, id);
  if (part == nullptr) return {};
  const std::string number = std::to_string(id);
  if (std::holds_alternative<WrapSpec>(part->shape)) {
    if (!part->seams.belt) return {{"Add a belt seam over the ears", "set-belt on " + number}};
    if (part->seams.preset != SeamPreset::gores) return {{"Cut it in four gores a side", "set-gores 4 " + number}};
    if (part->seams.gores_per_side < 8)
      return {
          {"Cut one more gore a side", "set-gores " + std::to_string(part->seams.gores_per_side + 1) + " " + number}};
  }
  if (const auto* rings = std::get_if<RingsSpec>(&part->shape); rings != nullptr && rings->pieces_round < 16)
    return {{"Cut it in more pieces round",
        "turn " + number + " pieces " + std::to_string(rings->pieces_round < 2 ? 2 : rings->pieces_round + 2)}};
  if (const auto* sweep = std::get_if<SweepSpec>(&part->shape);
      sweep != nullptr && !sweep->tip_open && sweep->tip_share > kBluntTip)
    return {{"Leave the tip open, for a plug of solid foam", "turn " + number + " open 1"},
        {"Cut it in one more strip", "turn " + number + " strips " + std::to_string(std::min(8, sweep->strips + 1))}};
  if (const auto* sweep = std::get_if<SweepSpec>(&part->shape); sweep != nullptr && sweep->strips < 8)
    return {{"Cut it in one more strip", "turn " + number + " strips " + std::to_string(sweep->strips + 1)}};
  if (const auto* import = std::get_if<ImportSpec>(&part->shape); import != nullptr && import->belts < 12)
    return {{"Add a level seam", "turn " + number + " belts " + std::to_string(import->belts + 1)}};
  return {};
}

/// What opens a part that lies round and closed, by the place of the error about it.
std::vector<Remedy> opening_cuts(const Build& build, const std::string& where) {
  if (where.rfind("parts/", 0) != 0) return {};
  const int id = whole_in(where.substr(6, where.find('/', 6) - 6)).value_or(0);
  const Part* part = find_part(build, id);
  if (part != nullptr && std::holds_alternative<WrapSpec>(part->shape) && part->seams.preset == SeamPreset::none)
    return {{"Cut it in two gores a side", "set-gores 2 " + std::to_string(id)}};
  return finer_cuts(build, id);
}

/// The next thinner sheet there is; 0 without one.
double thinner_foam(const Foam& foam, double now_mm) {
  double thinner = 0.0;
  for (const double mm : foam.thickness_mm)
    if (mm < now_mm && mm > thinner) thinner = mm;
  return thinner;
}

/// The panel that is worst off, if it is beyond what its sheet bears.
void judge_strain(const Build& build, const Derived& d, const Materials& materials, std::vector<Remark>& remarks) {
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
  remarks.push_back(std::move(r));
}

void judge_opening(const Build& build, const Derived& d, std::vector<Remark>& remarks) {
  if (!d.form || !d.head || build.making != Making::parts) return;
  const double head_mm = d.head->reading(MeasureId::HC).reads_mm;
  for (const auto& form : d.form->parts) {
    const Part* part = find_part(build, form->part);
    if (part == nullptr || form->lower_girth_mm <= 0.0 || form->lower_girth_mm >= head_mm) continue;
    const std::string number = std::to_string(form->part);
    const bool wrap = std::holds_alternative<WrapSpec>(part->shape);
    Remark r{"form.opening", Severity::warning, wrap ? "parts/" + number + "/up" : "parts/" + number + "/ring1.grow",
        {}, form->lower_girth_mm, head_mm, {}};
    const std::string of = d.form->parts.size() > 1 ? "The lower opening of the " + form->name : "The lower opening";
    r.sentence = of + " is " + format_length(form->lower_girth_mm, build.shown) +
        " round and does not pass over a head of " + format_length(head_mm, build.shown) + ": ";
    if (wrap && std::get<WrapSpec>(part->shape).edge == WrapEdge::neck_piece)
      r.severity = Severity::note, r.sentence += "leave it open at the back, and lace it.";
    else if (wrap)
      r.sentence += "leave the centre line open at the back below the belt, and lace it.",
          r.remedies.push_back({"Take the open-face edge", "set-edge open-face " + number});
    else
      r.sentence += "make it larger.",
          r.remedies.push_back({"Grow its lower edge",
              "turn " + number + " ring1.grow " +
                  fixed(std::get<RingsSpec>(part->shape).rings[0].grow_mm +
                          std::ceil((head_mm - form->lower_girth_mm) / 6.2832) + 1.0,
                      0)});
    remarks.push_back(std::move(r));
  }
}

/// Where a part comes nearer to the head than its ease; of rings only where it would press.
void judge_clearance(const Build& build, const Derived& d, std::vector<Remark>& remarks) {
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
    remarks.push_back(std::move(r));
  }
}

/// What sources said of their own forms, and parts that could not be made.
void judge_parts(const Derived& d, std::vector<Remark>& remarks) {
  for (const Error& e : d.part_errors) {
    const bool altered = e.where.rfind("alterations/", 0) == 0;
    remarks.push_back({altered ? "seam.altered" : "form.part", altered ? Severity::warning : Severity::stop, e.where,
        e.text, {}, {}, {}});
    if (altered)
      remarks.back().remedies = {
          {"Take that alteration back", "drop-alteration " + e.where.substr(e.where.rfind('/') + 1)}};
  }
  if (!d.form) return;
  for (const auto& form : d.form->parts)
    for (Remark r : form->remarks) {
      const auto slash = r.where.find('/');
      r.where = "parts/" + std::to_string(form->part) + (slash == std::string::npos ? "" : r.where.substr(slash));
      remarks.push_back(std::move(r));
    }
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
    remarks.push_back({"check.doubted", Severity::warning, "check/" + id,
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
    remarks.push_back({"check.built", build.fit_to_built || forgiven || tilts ? Severity::note : Severity::warning,
        "check", f.sentence + matter + " " + f.remedy, f.amount, f.sd, {}});
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
  remarks.push_back(std::move(r));
}

/// Once comparing has begun: sides that were never looked at. Looking only at the front costs a rebuilt back.
void judge_looks(const Build& build, std::vector<Remark>& remarks) {
  if (build.compared.empty() && build.references.empty()) return;
  std::string missing;
  int count = 0;
  for (int i = 0; i < kLooks; ++i)
    if (build.compared.count(static_cast<LookFrom>(i)) == 0)
      missing += (count++ > 0 ? ", " : "") + std::string(name_of(static_cast<LookFrom>(i)));
  if (count == 0) return;
  remarks.push_back({"form.unseen", Severity::note, "parts/compare",
      "Not compared yet from the " + missing + ". Turn it and look before cutting.",
      static_cast<double>(kLooks - count), static_cast<double>(kLooks), {}});
}

/// Acts that split a piece which lies over itself.
std::vector<Remedy> splits(const Build& build, int id) {
  const Part* part = find_part(build, id);
  if (part == nullptr) return {};
  const std::string number = std::to_string(id);
  if (const auto* rings = std::get_if<RingsSpec>(&part->shape);
      rings != nullptr && !rings->brim.halves && rings->brim.any())
    return {{"Cut the brim in halves", "turn " + number + " brim.halves 1"}};
  if (const auto* sweep = std::get_if<SweepSpec>(&part->shape); sweep != nullptr && sweep->lengths < 6)
    return {{"Cut it in one more length", "turn " + number + " lengths " + std::to_string(sweep->lengths + 1)}};
  return finer_cuts(build, id);
}

/// The letter of a seam both sides of which belong to this panel: a dart. Empty without one.
std::string slit_in(const Panel& panel, const PanelSet& set) {
  for (const Seam& s : set.seams)
    if (!s.letter.empty() && s.panels[0] == panel.id && s.panels[1] == panel.id) return s.letter;
  return {};
}

void judge_panels(const Build& build, const Derived& d, std::vector<Remark>& remarks) {
  if (!d.panels) return;
  for (const Panel& p : d.panels->panels)
    if (!d.is_skin(p.part))
      continue;
    else if (const std::string slit = slit_in(p, *d.panels); !p.mirror_of && p.overlaps && !slit.empty())
      remarks.push_back({"seam.overlap", Severity::stop, "panels/" + p.name,
          "Where seam " + slit + " ends inside the panel " + p.name +
              ", the piece would lie over itself: it bends the other way there and a dart cannot help. Let that seam "
              "run on to another edge, or take it out.",
          {}, {}, {}});
    else if (!p.mirror_of && (p.overlaps || p.flipped > 0))
      remarks.push_back({"seam.overlap", Severity::stop, "panels/" + p.name,
          "The panel " + p.name + " lies over itself when laid flat: split it.", {}, {},
          d.form ? splits(build, d.form->parts[p.part]->part) : std::vector<Remedy>{}});
}

/// What the material does not bear: heat, and bends tighter than it takes.
void judge_material(const Build& build, const Derived& d, const Materials& materials, std::vector<Remark>& remarks) {
  const auto foam = foam_of(build.foam, materials);
  if (!foam || !d.pieces || !d.panels) return;
  const Verdict heat = heat_on(*foam);
  if (build.foam.heated && !heat.allowed)
    remarks.push_back({"foam.heat", Severity::warning, "foam/heated",
        "The pieces are to be stretched with heat. " + heat.why + " They are bent cold.", {}, {},
        {{"Bend it cold", "set-heated off"}}});
  const bool warm = build.foam.heated && heat.allowed;
  const Piece* worst = nullptr;
  double worst_mm = 0.0, least_mm = 0.0;
  for (const Piece& p : *d.pieces) {
    if (!p.panel.valid() || !p.stuff.empty() || d.panels->panels[p.panel.value].given_flat) continue;
    const double radius = bend_radius_mm(d.panels->panels[p.panel.value]),
                 least = least_bend_radius_mm(p.thickness_mm, warm ? foam->bend_heated : foam->bend_cold);
    if (radius < least && (worst == nullptr || radius / least < worst_mm / least_mm))
      worst = &p, worst_mm = radius, least_mm = least;
  }
  if (worst == nullptr) return;
  Remark r{"foam.bend", Severity::note, "pieces/" + worst->name, {}, worst_mm, least_mm, {}};
  r.sentence = "Piece " + std::to_string(worst->number) + " (" + worst->name + ") is bent round about " +
      format_length(std::round(worst_mm), build.shown) + "; " + foam->name + (warm ? " heated" : " cold") +
      " of that thickness takes " + format_length(std::ceil(least_mm), build.shown) +
      ". Slot it inside (Foam, a bend).";
  if (!warm && heat.allowed && worst_mm >= least_bend_radius_mm(worst->thickness_mm, foam->bend_heated))
    r.remedies.push_back({"Stretch the pieces with heat", "set-heated on"});
  if (const double thinner = thinner_foam(*foam, build.foam.thickness_mm); thinner > 0.0)
    r.remedies.push_back(
        {"Take " + format_length(thinner, build.shown) + " foam", "set-thickness " + fixed(thinner, 1)});
  remarks.push_back(std::move(r));
}

/// Ways on where a piece is larger than the sheet: a larger one that is sold, or another cut through its part.
std::vector<Remedy> larger_sheets(const Build& build, const Materials& materials, const std::string& piece) {
  std::vector<Remedy> ways;
  const auto foam = foam_of(build.foam, materials);
  const SoldSheet* larger = nullptr;
  for (const SoldSheet& s : foam ? foam->sold : std::vector<SoldSheet>{}) {
    const double area = s.width_mm * s.height_mm;
    if (std::abs(s.thickness_mm - build.foam.thickness_mm) < 0.05 &&
        area > build.foam.sheet.width_mm * build.foam.sheet.height_mm &&
        (larger == nullptr || area < larger->width_mm * larger->height_mm))
      larger = &s;
  }
  if (larger != nullptr)
    ways.push_back({"Take the sheet of " + fixed(larger->width_mm, 0) + " x " + fixed(larger->height_mm, 0) + " mm",
        "set-sheet " + fixed(larger->width_mm, 0) + " " + fixed(larger->height_mm, 0)});
  for (const Part& p : build.parts)
    if (piece == p.name || piece.starts_with(p.name + ",") || build.parts.size() == 1) {
      const auto cuts = finer_cuts(build, p.id);
      ways.insert(ways.end(), cuts.begin(), cuts.end());
      break;
    }
  return ways;
}

/// Whether one more alteration leaves less than half of what a seam is unequal by.
bool evens(const PanelSet& set, const UnequalSeam& u, const Alteration& also) {
  const auto tried = alter(set, {also});
  if (!tried) return false;
  double left = 0.0;
  for (const UnequalSeam& after : unequal_seams(*tried))
    if (after.seam == u.seam) left = std::max(left, after.by_mm);
  return left < 0.5 * u.by_mm;
}

/// Sides of a seam that were made unequal by taking in or letting out.
void judge_unequal(const Build& build, const Derived& d, std::vector<Remark>& remarks) {
  constexpr double kEaseShare =
      0.025;  // of the longer side, that can be eased in by stretching the shorter: workshop value
  for (std::size_t i = 0; i < d.part_panels.size() && d.form && i < d.form->parts.size(); ++i) {
    if (!d.is_skin(static_cast<int>(i))) continue;
    const PanelSet& set = *d.part_panels[i];
    for (const UnequalSeam& u : unequal_seams(set)) {
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
      const std::string number = std::to_string(d.form->parts[i]->part);
      const double mm = 2.0 * u.by_mm;  // half of it comes off each side
      Alteration also;
      also.part = d.form->parts[i]->part, also.seam = u.go_on, also.first_mm = mm, also.middle_mm = 0.25 * mm;
      if (!u.go_on.empty() && evens(set, u, also))
        r.remedies.push_back({"Take in " + u.go_on + " too",
            "take-in " + number + " " + fixed(mm, 1) + " " + fixed(0.25 * mm, 1) + " 0 " + u.go_on});
      remarks.push_back(std::move(r));
    }
  }
}

/// Seams of an outer layer that run over those of the one below: both open at one place.
void judge_stagger(const Build& build, const Derived& d, std::vector<Remark>& remarks) {
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
    remarks.push_back(std::move(r));
  }
}

}  // namespace

std::vector<Remark> judge(const Build& build, const Derived& d, const Materials& materials) {
  std::vector<Remark> remarks;
  if (d.head) remarks = d.head->remarks;
  for (Remark& r : judge_sheet(build.tape, build.extras)) remarks.push_back(std::move(r));
  judge_built_form(build, d, remarks);
  judge_parts(d, remarks);
  judge_looks(build, remarks);
  judge_clearance(build, d, remarks);
  judge_opening(build, d, remarks);
  judge_panels(build, d, remarks);
  judge_strain(build, d, materials, remarks);
  judge_material(build, d, materials, remarks);
  judge_unequal(build, d, remarks);
  judge_stagger(build, d, remarks);
  for (const auto& way : d.ways)
    if (way) remarks.insert(remarks.end(), way->remarks.begin(), way->remarks.end());
  if (d.plan) remarks.insert(remarks.end(), d.plan->remarks.begin(), d.plan->remarks.end());
  if (d.error && d.error->code != Errc::cancelled) {
    Remark r{"chain.stopped", Severity::stop, d.error->where, d.error->text, {}, {}, {}};
    if (d.error->code == Errc::not_a_disk) r.remedies = opening_cuts(build, d.error->where);
    if (d.error->where.rfind("pieces/", 0) == 0) r.remedies = larger_sheets(build, materials, d.error->where.substr(7));
    if (d.error->where == "foam/layout" && !build.foam.held.empty())
      r.remedies = {{"Lay everything out again", "drop-held"}};
    remarks.push_back(std::move(r));
  }
  sort_remarks(remarks);
  return remarks;
}

}  // namespace awl
