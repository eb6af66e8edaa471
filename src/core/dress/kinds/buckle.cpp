#include "core/dress/kinds/buckle.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/dress/detail.hpp"
#include "core/dress/shapes.hpp"
#include "core/geom/solid.hpp"

namespace awl {
namespace {

constexpr double kUsualBuckleMm = 5.0;

/// Four bars and a prong on the surface.
Mesh seen(const Buckle& b, const Dressing& d, const FormLine& line, const FormLine::At& at, double thick) {
  Mesh all;
  const double along = 0.5 * (b.open_mm + b.bar_mm), across = 0.5 * (b.strap_mm + d.rules.slot_side_mm + b.bar_mm);
  const auto put = [&](double a, double c, double la, double lc, double high) {
    FormLine::At bar = line.size() > 1 ? line.at_mm(at.along_mm + a) : at;
    if (line.size() < 2) bar.at = d.site.onto(at.at + a * at.along);
    const NearestHit hit = d.site.hit(bar.at + c * bar.left);
    bar.at = hit.point;
    add_mesh(all, block_on(bar, la, lc, high, 1.5 * b.strap_thick_mm));
  };
  const double high = 2.0 * across + b.bar_mm;
  put(along, 0.0, b.bar_mm, high, thick), put(-along, 0.0, b.bar_mm, high, thick);
  put(0.0, across, b.open_mm, b.bar_mm, thick), put(0.0, -across, b.open_mm, b.bar_mm, thick);
  put(0.0, 0.0, b.open_mm + b.bar_mm, 0.5 * b.bar_mm, thick + 0.5);
  return all;
}

}  // namespace

std::vector<Dial> dials_of(Buckle& b) {
  Dials dials;
  dials.group("The strap")
      .length("strap", b.strap_mm, {5, 120}, "Width of the strap", "The buckle follows it.")
      .length("strap-thick", b.strap_thick_mm, {0.5, 8}, "Its thickness", "Twice it goes through a slot.")
      .yes_no("slots", b.slotted, "Slots in the part", "The strap goes to the inside on both sides of the buckle.");
  dials.group("The buckle")
      .length("bar", b.bar_mm, {3, 40}, "Frame", "Width of its bars.")
      .length("open", b.open_mm, {5, 120}, "Window", "Along the strap.");
  return std::move(dials).all();
}

void put_on(const Buckle& b, Dressing& d) {
  const double thick = d.thickness_mm(kUsualBuckleMm), slot_long = b.strap_mm + d.rules.slot_side_mm,
               slot_high = 2.0 * b.strap_thick_mm + d.rules.slot_over_mm;
  for (std::size_t k = 0; k < d.lines.size(); ++k) {
    const FormLine& line = d.lines[k];
    const FormLine::At at = line.at_mm(line.closed ? 0.0 : 0.5 * line.length_mm);
    d.place(at, slot_long, k == 1);
    if (k == 0) {
      d.grip("strap", at.at + 0.5 * b.strap_mm * at.left, at.left, 2.0);
      d.grip("open", at.at + 0.5 * b.open_mm * at.along, at.along, 2.0);
    }
    d.solid(Matter::metal, seen(b, d, line, at, thick),
        d.grams((b.open_mm + 2.0 * b.bar_mm) * (slot_long + 2.0 * b.bar_mm) * thick * 0.6), false);
    if (!b.slotted) continue;
    for (const double side : {1.0, -1.0}) {
      const Vec3 middle = d.site.onto(at.at + side * (0.5 * b.open_mm + b.bar_mm + 6.0) * at.along);
      std::vector<Vec3> rim;
      for (const Vec2& p : square_round(slot_high, slot_long, 1))
        rim.push_back(d.site.onto(middle + p.x() * at.along + p.y() * at.left));
      d.hole(rim);
    }
  }
  Piece& frame =
      d.piece(d.detail.name, square_round(b.open_mm + 2.0 * b.bar_mm, slot_long + 2.0 * b.bar_mm, 1), thick, d.sides());
  auto window = square_round(b.open_mm, slot_long, 1);
  std::reverse(window.begin(), window.end());
  frame.area_mm2 -= b.open_mm * slot_long;
  frame.holes.push_back(std::move(window));
  d.piece(d.detail.name + ", prong", square_round(b.open_mm + 1.5 * b.bar_mm, 0.5 * b.bar_mm, 1), thick, d.sides());
  d.out.count = 1;
  d.fact("Window " + in_mm(b.open_mm) + " x " + in_mm(slot_long) + " for a strap of " + in_mm(b.strap_mm) +
      (b.slotted ? "; two slots of " + in_mm(slot_long) + " x " + in_mm(slot_high) + "." : "."));
  if (b.slotted)
    d.step("Cut the slots of " + d.detail.name, {"Punch a hole at each end, then cut between: a slot's corners tear."},
        kBladeCaution, false, false);
  d.step("Put on " + d.detail.name, {"Glue frame and prong over the strap once that lies."}, kBladeCaution, true, true);
}

}  // namespace awl
