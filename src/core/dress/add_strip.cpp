#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/dress/corners.hpp"
#include "core/dress/detail.hpp"
#include "core/geom/polygon.hpp"
#include "core/seam/flatten.hpp"

namespace awl {
namespace {

constexpr int kMostLengths = 12;

/// One of equal stretches of a flat strip.
std::vector<Vec2> stretch_of(const FlatStrip& flat, int k, int of) {
  const std::size_t n = flat.middle.size();
  const std::size_t a = k * (n - 1) / of, b = (k + 1) * (n - 1) / of;
  std::vector<Vec2> outline(flat.right.begin() + static_cast<long>(a), flat.right.begin() + static_cast<long>(b) + 1);
  for (std::size_t i = b + 1; i-- > a;) outline.push_back(flat.left[i]);
  outline.erase(std::unique(outline.begin(), outline.end()), outline.end());
  return outline;
}

bool over_itself(const FlatStrip& flat, int lengths) {
  for (int k = 0; k < lengths; ++k)
    if (crosses_itself(stretch_of(flat, k, lengths))) return true;
  return false;
}

void say_folds(Dressing& d, double wide_mm) {
  d.remark("folds", Severity::warning,
      "it turns so sharply that a strip " + in_mm(wide_mm) +
          " wide lies over itself; make it narrower, or draw it as two.",
      wide_mm, {}, {{"Half as wide", d.turn_act("wide", std::max(3.0, std::floor(0.5 * wide_mm)))}});
}

void say_pucker(Dressing& d, const FlatStrip& flat, double wide_mm, double most) {
  const Strip* strip = std::get_if<Strip>(&d.detail.shape);
  const bool folded = strip != nullptr && strip->lies == Strip::Lies::over_edge;
  d.remark("pucker", Severity::warning,
      "cut straight it puckers: its edges stretch " + fixed(100.0 * flat.straight_strain, 1) + " %, it bears " +
          fixed(100.0 * most, 1) + " %. " +
          (folded ? "Make it narrower, or lay a strip beside the edge." : "Cut it curved, or make it narrower."),
      flat.straight_strain, most,
      {folded ? Remedy{"Narrower",
                    d.turn_act("wide", std::max(3.0, std::floor(wide_mm * 0.4 * most / flat.straight_strain)))}
              : Remedy{"Cut it curved", d.turn_act("straight", 0)}});
}

void say_dome(Dressing& d, const FlatStrip& flat, double wide_mm, double most) {
  const double gives = std::abs(flat.lie_strain);
  d.remark("dome", Severity::warning,
      "it lies on a dome: however it is cut, its edges give by " + fixed(100.0 * gives, 1) + " %, and it bears " +
          fixed(100.0 * most, 1) + " %. Make it narrower.",
      gives, most, {{"Narrower", d.turn_act("wide", std::max(4.0, std::floor(wide_mm * std::sqrt(most / gives))))}});
}

/// One length between two corners: its pieces and what is said of it. False where it lies over itself.
bool add_length(Dressing& d, const FormLine& line, const StripOptions& o, const std::string& name) {
  const FlatStrip flat = flat_strip(d.site, line, o);
  d.out.strips.push_back({name, flat});
  // Equal lengths, so many that none lies over itself.
  int lengths = lengths_of(flat, kSheetRoomMm, o.wide_mm);
  while (lengths < kMostLengths && over_itself(flat, lengths)) ++lengths;
  if (over_itself(flat, lengths)) return say_folds(d, o.wide_mm), false;
  for (int k = 0; k < lengths; ++k)
    d.piece(lengths == 1 ? name : name + ", length " + std::to_string(k + 1),
        lengths == 1 ? flat.outline : stretch_of(flat, k, lengths), o.thick_mm, 1);
  std::string words = name + ": " + in_mm(flat.length_mm) + " x " + in_mm(o.wide_mm);
  if (flat.radius_mm)
    words += ", an arc of radius " + in_mm(*flat.radius_mm) + " over " + fixed(degrees(std::abs(flat.turn_rad)), 0) +
        " degrees";
  if (lengths > 1) words += ", in " + std::to_string(lengths) + " lengths";
  d.fact(words + ".");
  if (flat.radius_mm && *flat.radius_mm > o.wide_mm)
    d.fact("A left-over ring from " + in_mm(*flat.radius_mm - 0.5 * o.wide_mm) + " to " +
        in_mm(*flat.radius_mm + 0.5 * o.wide_mm) + " of radius serves as it is.");
  const double most = bears_strain(d.stuff, true);
  if (!o.straight && flat.straight_strain > d.rules.notice_strain && flat.straight_strain <= most)
    d.fact("Cut straight instead, its edges stretch " + fixed(100.0 * flat.straight_strain, 1) + " %: it bears that.");
  if (o.straight && flat.straight_strain > most) say_pucker(d, flat, o.wide_mm, most);
  if (std::abs(flat.lie_strain) > most) say_dome(d, flat, o.wide_mm, most);
  return true;
}

}  // namespace

double Dressing::add_strip(const FormLine& line, StripOptions o, const std::string& name, double lap_mm) {
  const auto parts = parted_at_corners(site, line, o.wide_mm);
  const bool mitred = parts.size() > 1 || parts.front().end_rad != 0.0;
  if (!mitred && line.closed) o.more_end_mm += lap_mm;
  double all_mm = 0.0;
  for (std::size_t k = 0; k < parts.size(); ++k) {
    StripOptions own = o;
    own.start_mitre_rad = parts[k].start_rad, own.end_mitre_rad = parts[k].end_rad;
    if (k > 0 || (mitred && line.closed)) own.more_start_mm = 0.0;
    if (k + 1 < parts.size() || (mitred && line.closed)) own.more_end_mm = 0.0;
    if (!add_length(*this, parts[k].line, own, mitred ? name + ", side " + std::to_string(k + 1) : name)) break;
    all_mm += out.strips.back().second.length_mm;
  }
  if (mitred)
    fact("Mitred at " + counted(static_cast<int>(line.closed ? parts.size() : parts.size() - 1), "corner") +
        ": its ends are cut at half the turn and meet there.");
  return all_mm;
}

}  // namespace awl
