#include "core/dress/kinds/strip.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/dress/detail.hpp"
#include "core/dress/shapes.hpp"

namespace awl {
namespace {

constexpr double kUsualStripMm = 2.0;

/// A ring's joint lies at the back, where it is seen last.
FormLine joined_behind(const DressSite& site, const FormLine& line) {
  if (!line.closed) return line;
  std::vector<Vec3> at = line.at;
  const auto back = std::min_element(at.begin(), at.end(),
      [](const Vec3& a, const Vec3& b) { return a.z() + 0.01 * std::abs(a.x()) < b.z() + 0.01 * std::abs(b.x()); });
  std::rotate(at.begin(), back, at.end());
  return line_through(site, at, true);
}

void add_solid(const Strip& s, Dressing& d, const FormLine& line, double thick) {
  const double mass = d.grams(line.length_mm * s.wide_mm * thick), over = s.layers_below * thick;
  if (s.lies == Strip::Lies::on_face)
    return d.solid(Matter::foam, band_along(d.site, line, 0.5 * s.wide_mm, 0.5 * s.wide_mm, over, thick), mass);
  if (s.lies == Strip::Lies::inside)
    return d.solid(Matter::cloth, band_along(d.site, line, s.wide_mm, 0.0, over, thick, true), mass, false);
  // Folded over: a band outside, a band inside and the turn between them, seen as one reaching past the edge.
  d.solid(Matter::foam, band_along(d.site, line, s.wide_mm, thick, over, thick), mass);
  d.solid(Matter::foam, band_along(d.site, line, s.wide_mm, thick, over, thick, true), mass);
}

}  // namespace

std::vector<Dial> dials_of(Strip& s) {
  Dials dials;
  dials.group("The strip")
      .choice("lies", s.lies, {"on the face", "over the edge", "inside"}, "It lies",
          "Over the edge it hides the raw foam of a rim; inside it is a sweatband.")
      .length("wide", s.wide_mm, {3, 200}, "Width", "Over an edge: what shows on each face.")
      .length("lap", s.lap_mm, {0, 60}, "Ends lie over by", "Of a ring: where its ends meet, at the back.")
      .yes_no("fold-start", s.fold_start, "Folded in at its beginning", "Its end is tucked round a rim to the inside.")
      .yes_no("fold-end", s.fold_end, "Folded in at its end", "The same at the other end.")
      .yes_no("straight", s.straight, "Cut straight", "From a straight band, where the material gives enough.")
      .count(
          "below", s.layers_below, {0, 4}, "Strips under it", "Where strips cross, the upper one is a little longer.");
  return std::move(dials).all();
}

void put_on(const Strip& s, Dressing& d) {
  const double thick = d.thickness_mm(kUsualStripMm), host = d.site.thickness_mm;
  double all_mm = 0.0;
  for (std::size_t k = 0; k < d.lines.size(); ++k) {
    const FormLine line = joined_behind(d.site, d.lines[k]);
    StripOptions o;
    o.thick_mm = thick, o.wide_mm = s.wide_mm, o.over_mm = s.layers_below * thick, o.straight = s.straight;
    const double tuck = host + d.rules.tuck_mm + 0.5 * kPi * thick;
    if (s.fold_start) o.more_start_mm = tuck;
    if (s.fold_end) o.more_end_mm = tuck;
    if (s.lies == Strip::Lies::inside) o.inside = true;
    if (s.lies == Strip::Lies::over_edge) {
      o.wide_mm = 2.0 * s.wide_mm + host + 0.5 * kPi * thick;
      o.straight = true;
    }
    all_mm += d.add_strip(line, o, d.detail.name + (k == 1 ? ", other side" : ""), s.lap_mm);
    add_solid(s, d, line, thick);
    if (k == 0) {
      const FormLine::At middle = line.at_mm(0.5 * line.length_mm);
      const bool both_ways = s.lies == Strip::Lies::on_face;
      d.grip("wide", d.site.onto(middle.at + (both_ways ? 0.5 : 1.0) * s.wide_mm * middle.left), middle.left,
          both_ways ? 2.0 : 1.0);
    }
    if (s.lies == Strip::Lies::on_face)
      for (const double side : {0.5, -0.5})
        if (const auto edge = beside(d.site, line, side * s.wide_mm))
          d.trace(edge->at, edge->closed, TraceKind::foot, side > 0.0 ? d.detail.name : std::string());
  }
  d.out.count = static_cast<int>(d.lines.size()), d.out.length_mm = all_mm;
  d.out.yield.glue_mm2 += 2.0 * all_mm * s.wide_mm;
  std::vector<std::string> lines{s.lies == Strip::Lies::over_edge
          ? "Glue its middle along the edge first, then fold both sides down."
          : "Glue it on along its outline as it is drawn on the pieces, from the front to both sides."};
  if (s.fold_start || s.fold_end) lines.push_back("Tuck its ends in round the rim.");
  if (d.lines.front().closed)
    lines.push_back("Its ends meet at the back and lie over each other by " + in_mm(s.lap_mm) + ".");
  if (s.layers_below > 0) lines.push_back("It goes over the strips below: those first.");
  d.step("Put on " + d.detail.name, std::move(lines), kBladeCaution, true, true);
}

}  // namespace awl
