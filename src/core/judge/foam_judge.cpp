#include <algorithm>
#include <cmath>
#include <set>

#include "core/base/numbers.hpp"
#include "core/judge/case.hpp"
#include "core/stuff/bears.hpp"

namespace awl {

double thinner_foam(const Foam& foam, double now_mm) {
  double thinner = 0.0;
  for (const double mm : foam.thickness_mm)
    if (mm < now_mm && mm > thinner) thinner = mm;
  return thinner;
}

bool is_slotted(const Piece& piece) {
  return std::any_of(
      piece.traces.begin(), piece.traces.end(), [](const PieceTrace& t) { return t.kind == TraceKind::slot; });
}

/// What the material does not bear: heat, and bends tighter than it takes.
void judge_foam(const Case& c, Remarks& remarks) {
  const auto& [build, d, materials] = c;
  const auto foam = foam_of(build.foam, materials);
  if (!foam || !d.pieces || !d.panels) return;
  const Verdict heat = heat_on(*foam);
  if (build.foam.heated && !heat.allowed)
    remarks.add({"foam.heat", Severity::warning, "foam/heated",
        "The pieces are to be stretched with heat. " + heat.why + " They are bent cold.", {}, {},
        {{"Bend it cold", "set-heated off"}}});
  std::set<std::string> told;
  const bool warm = build.foam.heated && heat.allowed;
  for (const Piece& p : *d.pieces)
    for (const PieceEdge& e : p.edges)
      if (!e.stays_apart.empty() && told.insert(e.letter).second)
        remarks.add({"foam.trench", Severity::note, "pieces/" + p.name,
            "Along the trench " + e.letter + " the pieces stay two: " + e.stays_apart + ".", {}, {}, {}});
  const Piece* worst = nullptr;
  double worst_mm = 0.0, least_mm = 0.0;
  // Warm sheet gives back some of its bend: what it is bent over is rounder than the form by that.
  const double former = warm && foam->keeps_bend_heated > 0.0 ? foam->keeps_bend_heated : 1.0;
  for (const Piece& p : *d.pieces) {
    if (!p.panel.valid() || !p.stuff.empty() || d.panels->panels[p.panel.value].given_flat || is_slotted(p)) continue;
    double tightest = 1e300;
    for (const PanelId id : p.panels()) tightest = std::min(tightest, bend_radius_mm(d.panels->panels[id.value]));
    const double radius = former * tightest,
                 least = least_bend_radius_mm(p.thickness_mm, warm ? foam->bend_heated : foam->bend_cold);
    if (radius < least && (worst == nullptr || radius / least < worst_mm / least_mm))
      worst = &p, worst_mm = radius, least_mm = least;
  }
  if (worst == nullptr) return;
  Remark r{"foam.bend", Severity::note, "pieces/" + worst->name, {}, worst_mm, least_mm, {}};
  r.sentence = "Piece " + std::to_string(worst->number) + " (" + worst->name +
      (former < 1.0 ? ") is bent over a former of about " : ") is bent round about ") +
      format_length(std::round(worst_mm), build.shown) +
      (former < 1.0 ? ", since cooled it opens to " + format_length(std::round(worst_mm / former), build.shown) : "") +
      "; " + foam->name + (warm ? " heated" : " cold") + " of that thickness takes " +
      format_length(std::ceil(least_mm), build.shown) + ". Slot it inside (Foam, a bend).";
  if (!build.foam.slotted) r.remedies.push_back({"Draw the slots on the pieces", "set-slots on"});
  if (!warm && heat.allowed &&
      foam->keeps_bend_heated * worst_mm >= least_bend_radius_mm(worst->thickness_mm, foam->bend_heated))
    r.remedies.push_back({"Stretch the pieces with heat", "set-heated on"});
  if (const double thinner = thinner_foam(*foam, build.foam.thickness_mm); thinner > 0.0)
    r.remedies.push_back(
        {"Take " + format_length(thinner, build.shown) + " foam", "set-thickness " + fixed(thinner, 1)});
  remarks.add(std::move(r));
}

}  // namespace awl
