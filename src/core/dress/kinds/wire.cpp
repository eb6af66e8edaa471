#include "core/dress/kinds/wire.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/units.hpp"
#include "core/dress/detail.hpp"
#include "core/dress/shapes.hpp"

namespace awl {
namespace {

constexpr double kUsualAntennaMm = 150.0;

/// Out of a place, bending backwards evenly.
std::vector<Vec3> antenna(const FormLine::At& at, double long_mm, double bend_deg) {
  constexpr int kSteps = 24;
  const Vec3 back(0.0, 0.0, -1.0);
  Vec3 axis = at.normal.cross(back);
  axis = axis.norm() > 0.1 ? axis.normalized() : Vec3(Vec3::UnitX());
  std::vector<Vec3> line{at.at - 4.0 * at.normal};
  Vec3 way = at.normal;
  for (int i = 0; i <= kSteps; ++i) {
    line.push_back(i == 0 ? at.at : Vec3(line.back() + long_mm / kSteps * way));
    way = Eigen::AngleAxisd(radians(bend_deg) / kSteps, axis) * way;
  }
  return line;
}

double wire_mm(const Wire& w, Dressing& d, double way_mm) {
  // Both ends are bent to loops, so that nothing pricks through.
  return way_mm + 2.0 * d.rules.wire_loops * kPi * w.thick_mm;
}

void antennas(const Wire& w, Dressing& d) {
  const double length = w.long_mm > 0.0 ? w.long_mm : kUsualAntennaMm;
  for (std::size_t k = 0; k < d.lines.size(); ++k) {
    const FormLine::At at = d.lines[k].at_mm(0.5 * d.lines[k].length_mm);
    const auto line = antenna(at, length, w.bend_deg);
    d.bore(at.at, w.thick_mm, k == 0 ? "antenna" : "");
    d.place(at, w.thick_mm, k == 1);
    d.solid(Matter::metal, bar_along(line, w.thick_mm), 0.25 * kPi * w.thick_mm * w.thick_mm * length * kSteelGMm3);
    if (k == 0) d.grip("long", line.back(), (line.back() - line[line.size() - 2]).normalized());
    if (w.bead_mm <= 0.0) continue;
    FormLine::At tip;
    tip.at = line.back(), tip.normal = (line.back() - line[line.size() - 2]).normalized();
    tip.along = tip.normal.cross(Vec3::UnitX()).normalized(), tip.left = tip.normal.cross(tip.along);
    d.solid(Matter::lamp, dome_on(tip, w.bead_mm, 0.8 * w.bead_mm), 0.0005 * std::pow(w.bead_mm, 3), false);
    tip.normal = -tip.normal, tip.left = -tip.left;
    d.solid(Matter::lamp, dome_on(tip, w.bead_mm, 0.3 * w.bead_mm), 0.0, false);
  }
  d.out.count = d.sides(), d.out.length_mm = wire_mm(w, d, length + 30.0);
  d.fact(counted(d.sides(), "antenna") + " of " + in_mm(length) + ": cut " + in_mm(d.out.length_mm) +
      " of wire for each.");
}

/// How many wires: of a pair of horns two, of what stands on the middle one.
int wires_of(const Wire& w, const Dressing& d) {
  if (w.use != Wire::Use::spine) return d.sides();
  constexpr double kMiddleMm = 4.0;
  const bool aside =
      std::any_of(d.site.spine.begin(), d.site.spine.end(), [](const Vec3& p) { return std::abs(p.x()) > kMiddleMm; });
  return d.detail.mirrored && d.site.mirrored && aside ? 2 : 1;
}

void inside(const Wire& w, Dressing& d) {
  const bool spine = w.use == Wire::Use::spine;
  if (spine && d.site.spine.size() < 2)
    return d.remark("no-spine", Severity::warning, "this part has no spine for a wire; lay it along a line instead.",
        {}, {}, {{"Along the line", d.turn_act("use", static_cast<double>(Wire::Use::along))}});
  const int sides = wires_of(w, d);
  const double way = spine ? length_of(d.site.spine, false) : d.lines.front().length_mm;
  if (w.long_mm > way + 0.5)
    return d.remark("too-long", Severity::warning,
        "a wire of " + in_mm(w.long_mm) + " is longer than the " + in_mm(way) + " there are; 0 takes all of it.",
        w.long_mm, way, {{"All of it", d.turn_act("long", 0)}});
  const double taken = w.long_mm > 0.0 ? w.long_mm : way;
  for (int k = 0; k < sides; ++k) {
    std::vector<Vec3> line = spine ? d.site.spine : d.lines[k].at;
    if (!spine)
      for (std::size_t i = 0; i < line.size(); ++i)
        line[i] = d.site.inside_of(d.site.hit(line[i])) - 0.5 * w.thick_mm * d.lines[k].normal[i];
    if (spine && k == 1)
      for (Vec3& p : line) p.x() = -p.x();
    d.solid(
        Matter::metal, bar_along(line, w.thick_mm), 0.25 * kPi * w.thick_mm * w.thick_mm * taken * kSteelGMm3, false);
  }
  const int holds = static_cast<int>(taken / d.rules.wire_every_mm) + 1;
  d.out.count = holds, d.out.length_mm = wire_mm(w, d, taken);
  d.fact("Cut " + in_mm(d.out.length_mm) + " of wire" + (sides > 1 ? " for each side" : "") + ", held down at " +
      std::to_string(holds) + " places.");
}

}  // namespace

std::vector<Dial> dials_of(Wire& w) {
  Dials dials;
  dials.group("The wire")
      .choice("use", w.use, {"spine", "along", "antenna"}, "Where",
          "In a horn's middle, along a line inside, or standing out of a place.")
      .length("thick", w.thick_mm, {0.5, 10}, "Thickness", "Of the wire.")
      .length("long", w.long_mm, {0, 1500}, "Length", "0 is all of the spine or line; of an antenna 150 mm.")
      .angle("bend", w.bend_deg, {-180, 180}, "Antenna bends back", "Over its length.")
      .length("bead", w.bead_mm, {0, 60}, "Bead at its tip", "Of an antenna: no bare end in anybody's eye.");
  return std::move(dials).all();
}

void put_on(const Wire& w, Dressing& d) {
  if (w.use == Wire::Use::antenna)
    antennas(w, d);
  else
    inside(w, d);
  if (d.out.length_mm <= 0.0) return;
  d.want("wire/" + fixed(w.thick_mm, 1), "Wire, " + in_mm(w.thick_mm),
      std::ceil(d.out.length_mm * wires_of(w, d) / 100.0) / 10.0, "m");
  d.step("Put in " + d.detail.name,
      {"Bend both ends to loops of a turn and a half, hold it down every " + in_mm(d.rules.wire_every_mm) +
              " with a strip of foam.",
          w.use == Wire::Use::antenna ? "Bore, push it through, glue its loop inside over a patch."
                                      : "Before the part is closed."},
      "Goggles when wire is cut: ends fly. No bare end may stand out where a face or hand can meet it.", false,
      w.use == Wire::Use::antenna);
}

}  // namespace awl
