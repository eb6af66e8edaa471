#include "core/dress/kinds/outline.hpp"

#include <Eigen/Geometry>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/dress/detail.hpp"

namespace awl {

std::vector<Dial> dials_of(Outline& o) {
  Dials dials;
  dials.group("Its outline")
      .choice("of", o.of, {"round", "square"}, "Shape", "Of what will sit there.")
      .length("radius", o.radius_mm, {1, 200}, "Radius", "Of a round one.")
      .length("wide", o.wide_mm, {2, 400}, "Wide", "Of a square one.")
      .length("high", o.high_mm, {2, 400}, "High", "Of a square one.")
      .angle("turned", o.turned_deg, {-180, 180}, "Turned", "From upright.");
  return std::move(dials).all();
}

void put_on(const Outline& o, Dressing& d) {
  for (std::size_t k = 0; k < d.lines.size(); ++k) {
    const FormLine& line = d.lines[k];
    FormLine::At at = upright_at(d.site, line.at_mm(0.5 * line.length_mm).at);
    at.left = Eigen::AngleAxisd(radians(k == 1 ? -o.turned_deg : o.turned_deg), at.normal) * at.left;
    at.along = at.left.cross(at.normal);
    std::vector<Vec3> rim;
    if (o.of == Outline::Of::round) {
      constexpr int kCorners = 72;
      for (int i = 0; i < kCorners; ++i) {
        const double a = kTwoPi * i / kCorners;
        rim.push_back(over_face(d.site, at, o.radius_mm * std::cos(a), o.radius_mm * std::sin(a)));
      }
    } else {
      constexpr int kSteps = 8;
      for (const Vec2& p : square_round(o.wide_mm, o.high_mm, kSteps))
        rim.push_back(over_face(d.site, at, p.x(), p.y()));
    }
    if (k == 0 && o.of == Outline::Of::round) d.grip("radius", rim.front(), at.along);
    if (k == 0 && o.of == Outline::Of::square) {
      d.grip("wide", over_face(d.site, at, 0.5 * o.wide_mm, 0.0), at.along, 2.0);
      d.grip("high", over_face(d.site, at, 0.0, 0.5 * o.high_mm), at.left, 2.0);
    }
    d.trace(rim, true, TraceKind::foot, k == 0 ? d.detail.name : std::string());
    const double arm =
        std::min(6.0, 0.4 * (o.of == Outline::Of::round ? o.radius_mm : 0.5 * std::min(o.wide_mm, o.high_mm)));
    for (const Vec3& way : {at.along, at.left})
      d.trace({shot(d.site, at.at, -way, arm), at.at, shot(d.site, at.at, way, arm)}, false, TraceKind::centre, {});
    d.place(at, 2.0 * o.radius_mm, k == 1);
    rim.push_back(rim.front());
    d.out.yield.lines.push_back(std::move(rim));
  }
  d.out.count = 1;
  d.fact("Its outline and middle are drawn on the pieces below.");
}

}  // namespace awl
