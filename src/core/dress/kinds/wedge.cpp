#include "core/dress/kinds/wedge.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/dress/detail.hpp"
#include "core/geom/solid.hpp"

namespace awl {
namespace {

constexpr double kUsualSheetMm = 10.0, kThinDeg = 20.0;

/// Which way is away from the line: out of a foot, else to the left.
double away_of(const Dressing& d, const FormLine& line) {
  if (d.detail.track.from != TrackFrom::foot || !line.closed) return 1.0;
  Vec3 middle = Vec3::Zero();
  for (const Vec3& p : line.at) middle += p / static_cast<double>(line.size());
  return line.left(0).dot(middle - line.at[0]) > 0.0 ? -1.0 : 1.0;
}

/// The corner as it stands: that of the wall whose foot the line is, else a right angle.
double corner_rad(const Wedge& w, const Dressing& d) {
  if (w.corner_deg > 0.0) return radians(w.corner_deg);
  if (d.detail.track.from == TrackFrom::foot)
    for (const SiteFoot& foot : d.site.feet)
      if (foot.guest == d.detail.track.number) return std::clamp(foot.corner_rad, radians(20.0), radians(160.0));
  return 0.5 * kPi;
}

Mesh solid_of(const Wedge& w, const FormLine& line, double away, double corner) {
  Mesh m;
  const std::size_t n = line.size();
  for (std::size_t i = 0; i < n; ++i) {
    const Vec3 out = away * line.left(i), up = line.normal[i];
    const Vec3 wall = std::cos(corner) * out + std::sin(corner) * up;
    for (const Vec3& p : {line.at[i], Vec3(line.at[i] + w.wide_mm * out), Vec3(line.at[i] + w.high_mm * wall)})
      m.vertices.push_back(p);
  }
  for (std::size_t i = 0; i + (line.closed ? 0 : 1) < n; ++i) {
    const int a = static_cast<int>(3 * i), b = static_cast<int>(3 * ((i + 1) % n));
    for (int k = 0; k < 3; ++k) {
      m.triangles.push_back({a + k, b + k, a + (k + 1) % 3});
      m.triangles.push_back({a + (k + 1) % 3, b + k, b + (k + 1) % 3});
    }
  }
  if (!line.closed) {
    const int e = static_cast<int>(3 * (n - 1));
    m.triangles.push_back({0, 1, 2}), m.triangles.push_back({e, e + 2, e + 1});
  }
  if (volume_mm3(m) < 0.0)
    for (Tri& t : m.triangles) std::swap(t[1], t[2]);
  return m;
}

}  // namespace

WedgeSection section_of(const Wedge& w, double corner) {
  const double up = w.high_mm * std::sin(corner), along = w.high_mm * std::cos(corner);
  return {std::max(w.wide_mm, along) - std::min(0.0, along), up, corner, std::atan2(up, w.wide_mm - along),
      0.5 * w.wide_mm * up};
}

std::vector<Dial> dials_of(Wedge& w) {
  Dials dials;
  dials.group("The wedge")
      .length("wide", w.wide_mm, {3, 120}, "Width", "On the face, away from the line.")
      .length("high", w.high_mm, {2, 120}, "Height", "Along the wall that stands on the line, or upright.")
      .angle("corner", w.corner_deg, {0, 160}, "Corner",
          "Between face and wall; 0 takes it as it stands there, square where no wall is.");
  return std::move(dials).all();
}

void put_on(const Wedge& w, Dressing& d) {
  const double corner = corner_rad(w, d), sheet = d.thickness_mm(kUsualSheetMm);
  const WedgeSection s = section_of(w, corner);
  const int layers = std::max(1, static_cast<int>(std::ceil(s.block_high_mm / sheet - 1e-6)));
  double all_mm = 0.0;
  for (std::size_t k = 0; k < d.lines.size(); ++k) {
    const FormLine& line = d.lines[k];
    const double away = away_of(d, line);
    const auto middle = beside(d.site, line, 0.5 * away * w.wide_mm);
    if (!middle) return d.remark("leaves", Severity::warning, middle.error().text, w.wide_mm);
    StripOptions o;
    o.wide_mm = s.block_wide_mm, o.thick_mm = std::min(sheet, s.block_high_mm);
    const std::size_t before = d.out.yield.pieces.size();
    all_mm += d.add_strip(*middle, o, d.detail.name + (k == 1 ? ", other side" : ""), 0.0);
    for (std::size_t i = before; i < d.out.yield.pieces.size(); ++i) d.out.yield.pieces[i].copies *= layers;
    d.solid(Matter::foam, solid_of(w, line, away, corner), d.grams(line.length_mm * s.area_mm2));
    if (const auto edge = beside(d.site, line, away * w.wide_mm))
      d.trace(edge->at, edge->closed, TraceKind::foot, k == 0 ? d.detail.name : std::string());
    if (k > 0) continue;
    const FormLine::At at = line.at_mm(0.5 * line.length_mm);
    const Vec3 out = away * at.left, wall = std::cos(corner) * out + std::sin(corner) * at.normal;
    d.grip("wide", at.at + w.wide_mm * out, out), d.grip("high", at.at + w.high_mm * wall, wall);
  }
  d.out.count = d.sides(), d.out.length_mm = all_mm;
  d.out.yield.glue_mm2 += 2.0 * all_mm * (w.wide_mm + w.high_mm);
  const double thin = degrees(std::min(s.outer_rad, kPi - s.outer_rad - corner));
  d.fact("Its corner is " + fixed(degrees(corner), 0) + " degrees; from a block " + in_mm(s.block_wide_mm) + " x " +
      in_mm(s.block_high_mm) + (layers > 1 ? " of " + std::to_string(layers) + " layers" : std::string()) +
      ", its thin edge " + fixed(degrees(s.outer_rad), 0) + " degrees.");
  if (thin < kThinDeg)
    d.remark("thin-edge", Severity::note,
        "its thin edge of " + fixed(thin, 0) + " degrees tears when it is sanded; " + fixed(kThinDeg, 0) +
            " or more stays whole.",
        thin, kThinDeg, {{"Higher", d.turn_act("high", std::ceil(w.wide_mm * std::tan(radians(kThinDeg + 1.0))))}});
  std::vector<std::string> lines;
  if (layers > 1) lines.push_back("Glue " + std::to_string(layers) + " layers to a block first.");
  lines.push_back("Cut the block from corner to corner: the blade at " + fixed(degrees(s.outer_rad), 0) +
      " degrees to the face it lies on" +
      (std::abs(corner - 0.5 * kPi) > 0.02 ? ", and its other side at " + fixed(degrees(corner), 0) : std::string()) +
      ".");
  lines.push_back("Glue it into the corner; its thin edge along the line that is drawn. Sand it in before sealing.");
  d.step("Cut and set " + d.detail.name, std::move(lines),
      "Fresh blade and a guide block, cut away from the hand that holds. Dust mask while sanding.", true, true);
}

}  // namespace awl
