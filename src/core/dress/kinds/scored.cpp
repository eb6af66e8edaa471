#include "core/dress/kinds/scored.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/dress/detail.hpp"
#include "core/dress/shapes.hpp"
#include "core/geom/solid.hpp"

namespace awl {
namespace {

TraceKind trace_of(Scored::How how) {
  switch (how) {
    case Scored::How::open:
      return TraceKind::open;
    case Scored::How::burn:
      return TraceKind::burn;
    case Scored::How::carve:
      return TraceKind::carve;
    default:
      return TraceKind::grain;
  }
}

const char* word_of(Scored::How how) {
  constexpr const char* kWords[] = {"open", "burn", "carve", "grain", "brush"};
  return kWords[static_cast<int>(how)];
}

bool only_drawn(Scored::How how) { return how == Scored::How::grain || how == Scored::How::brush; }

/// What heat is not borne for is carved instead, and said so: no mark and no step advises it.
Scored borne(const Scored& asked, Dressing& d) {
  if (asked.how != Scored::How::open && asked.how != Scored::How::burn) return asked;
  const Verdict heat = heat_on(d.host);
  if (heat.allowed) return asked;
  d.remark("heat", Severity::warning, heat.why + " It is carved instead.", {}, {},
      {{"Carve it", d.turn_act("how", static_cast<double>(Scored::How::carve))}});
  Scored carved = asked;
  carved.how = Scored::How::carve;
  return carved;
}

void check_depth(const Scored& s, Dressing& d) {
  const double most = s.how == Scored::How::open ? 0.5 * d.site.thickness_mm : d.site.thickness_mm - d.rules.leave_mm;
  if (only_drawn(s.how) || d.site.thickness_mm <= 0.0 || s.depth_mm <= most) return;
  d.remark("depth", Severity::warning,
      "a line " + in_mm(s.depth_mm) + " deep in " + in_mm(d.site.thickness_mm) +
          " of foam folds there or cuts through; " + in_mm(std::max(0.5, most)) + " is the most.",
      s.depth_mm, most, {{"Shallower", d.turn_act("depth", std::max(0.5, std::floor(2.0 * most) / 2.0))}});
}

void check_seams(Dressing& d, const FormLine& line) {
  const double clear = std::max(d.rules.seam_clear_mm, d.site.thickness_mm);
  std::vector<const SiteLine*> seams;
  for (const SiteLine& l : d.site.seams) seams.push_back(&l);
  const auto near = too_near(line, seams, clear);
  double beside_mm = 0.0;
  for (const auto& [a, b] : near)
    if (b - a > 3.0 * clear) beside_mm += b - a;  // shorter ones only cross it
  if (beside_mm > 0.0)
    d.remark("near-seam", Severity::note,
        "it runs beside a seam, nearer than " + in_mm(clear) + ", for " + in_mm(beside_mm) +
            ": the strip between breaks out. Move it, or let the seam be the line.",
        beside_mm, clear);
}

void tell(const Scored& s, Dressing& d, double all_mm, const std::string& caution) {
  const std::string label = word_of(s.how) + std::string(only_drawn(s.how) ? "" : ", " + in_mm(s.depth_mm) + " deep");
  switch (s.how) {
    case Scored::How::open:
      return d.step("Cut the lines of " + d.detail.name,
          {"Cut along the drawn lines, " + in_mm(s.depth_mm) + " deep, not through, while the piece lies flat.",
              "Once it is bent pass the hot air over: the cuts open by about " + in_mm(d.rules.opens_mm) + "."},
          joined_cautions({kBladeCaution, caution, "Hot air: gloves, unplug it when it is laid down."}), false, false);
    case Scored::How::burn:
      return d.step("Burn the lines of " + d.detail.name,
          {"Draw the tip along at one speed, " + in_mm(s.depth_mm) + " deep; try on an offcut first."},
          joined_cautions({kBurnCaution, caution}), false, false);
    case Scored::How::carve:
      return d.step("Carve the lines of " + d.detail.name,
          {"A V, " + in_mm(s.depth_mm) + " deep and " +
              in_mm(2.0 * s.depth_mm * std::tan(0.5 * radians(d.rules.blade_deg))) +
              " wide: two cuts leaning to each other."},
          kBladeCaution, false, false);
    default:
      d.step(std::string("Keep to the ") + (s.how == Scored::How::grain ? "grain" : "brush lines") + " of " +
              d.detail.name,
          {"Scratch or brush along the drawn lines, " + fixed(all_mm / 1000.0, 1) + " m in all."}, {}, false, true);
  }
}

}  // namespace

std::vector<Dial> dials_of(Scored& s) {
  Dials dials;
  dials.group("The line")
      .choice("how", s.how, {"open", "burn", "carve", "grain", "brush"}, "How",
          "Cut and opened by heat, burned, carved as a V; grain and brush lines are only drawn.")
      .length("depth", s.depth_mm, {0.5, 20}, "Depth", "Leave enough below, or the sheet folds there.")
      .count("beside", s.beside, {1, 24}, "Lines side by side", "Further ones to its left.")
      .length("apart", s.apart_mm, {1, 80}, "Apart", "From line to line.")
      .share("taper", s.taper, {0, 0.9}, "Shorter each", "As wood grain runs out: share of its length.");
  return std::move(dials).all();
}

void put_on(const Scored& asked, Dressing& d) {
  const Scored s = borne(asked, d);
  check_depth(s, d);
  double all_mm = 0.0;
  Mesh cut;
  const double wide = s.how == Scored::How::carve ? 2.0 * s.depth_mm * std::tan(0.5 * radians(d.rules.blade_deg))
                                                  : std::max(0.8, d.rules.opens_mm);
  for (std::size_t k = 0; k < d.lines.size(); ++k)
    for (int r = 0; r < s.beside; ++r) {
      auto line = beside(d.site, d.lines[k], r * s.apart_mm);
      if (!line) return d.remark("leaves", Severity::warning, line.error().text);
      const double less = 0.5 * (1.0 - std::pow(1.0 - s.taper, r));
      const FormLine drawn = less > 0.0 ? stretch_of(d.site, *line, less, 1.0 - less) : *line;
      d.trace(drawn.at, drawn.closed, trace_of(s.how), r == 0 ? std::string(word_of(s.how)) : std::string());
      // Seen as a dark groove: a thin band sunk into the face.
      add_mesh(cut, band_along(d.site, drawn, 0.5 * wide, 0.5 * wide, 0.1, only_drawn(s.how) ? 0.05 : 0.15));
      all_mm += drawn.length_mm;
      if (k == 0) d.out.rows.push_back({drawn.length_mm, 1});
      if (k == 0 && r == 1) {
        const FormLine::At middle = drawn.at_mm(0.5 * drawn.length_mm);
        d.grip("apart", middle.at, middle.left);
      }
      if (k == 0 && r == 0 && !only_drawn(s.how)) check_seams(d, drawn);
    }
  d.solid(Matter::cord, std::move(cut), 0.0, false);
  d.out.count = s.beside, d.out.length_mm = all_mm;
  d.fact(counted(s.beside, "line") + (d.sides() > 1 ? " a side" : "") + ", " + fixed(all_mm / 1000.0, 2) + " m in all" +
      (only_drawn(s.how) ? "." : ", " + in_mm(s.depth_mm) + " deep."));
  tell(s, d, all_mm, heat_on(d.host).caution);
}

}  // namespace awl
