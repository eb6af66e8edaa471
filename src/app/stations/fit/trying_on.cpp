#include "app/stations/fit/trying_on.hpp"

#include <QCoreApplication>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"

namespace awl {
namespace {

constexpr double kRoomRangeMm = 25.0;

}  // namespace

std::shared_ptr<const WornMap> tryingOn(
    const Derived& d, const Build& build, const GoingOn* on, double share, bool colours) {
  if (!d.panels || !d.form || !d.worn) return nullptr;
  auto map = std::make_shared<WornMap>();
  map->on = d.panels;
  const bool moved = on != nullptr && share < 1.0 && !on->way.empty();
  if (!colours && !moved) return nullptr;
  const std::size_t n = d.panels->form.mesh.vertices.size();
  if (colours)
    map->mm.assign(n, 0.0), map->range_mm = kRoomRangeMm,
                            map->low = QCoreApplication::translate("Fit", "presses").toStdString(),
                            map->high = QCoreApplication::translate("Fit", "stands off").toStdString();
  if (moved) map->moved.assign(n, Vec3::Zero());
  WayMoment moment;
  if (moved) {
    const double at = (static_cast<double>(on->way.size()) - 1.0) * share;
    const auto& a = on->way[static_cast<std::size_t>(at)];
    const auto& b = on->way[std::min(on->way.size() - 1, static_cast<std::size_t>(at) + 1)];
    const double t = at - std::floor(at);
    moment = a;
    moment.up_mm += t * (b.up_mm - a.up_mm), moment.pitch_deg += t * (b.pitch_deg - a.pitch_deg),
        moment.across_mm += t * (b.across_mm - a.across_mm);
  }
  std::size_t first = 0;
  for (const auto& part : d.form->parts) {
    const std::size_t count = part->surface.mesh.vertices.size();
    for (const PartClearance& c : d.worn->clearance)
      if (colours && c.part == part->part && c.room_mm.size() == count)
        std::copy(c.room_mm.begin(), c.room_mm.end(), map->mm.begin() + static_cast<long>(first));
    // What sits on it goes along.
    bool along = moved && part->part == on->part;
    for (const Part* p = find_part(build, part->part); moved && p != nullptr && p->on != 0 && !along;
         p = find_part(build, p->on))
      along = p->on == on->part;
    for (std::size_t v = 0; along && v < count && first + v < n; ++v) {
      const Vec3& place = d.panels->form.mesh.vertices[first + v];
      map->moved[first + v] = on_the_way(*on, moment, place) - place;
    }
    first += count;
  }
  return first == n ? map : nullptr;
}

std::vector<std::vector<Vec3>> fittingLines(const Derived& d, const std::function<bool(const Yield&)>& wanted) {
  constexpr double kClearMm = 1.5;  // above the sheet, so that it does not hide them
  constexpr double kCrossMm = 4.0;  // a place is drawn as a ring of this radius
  constexpr int kRound = 8;
  std::vector<std::vector<Vec3>> lines;
  if (!d.fittings || !d.form) return lines;
  for (const Yield& y : *d.fittings) {
    if (!wanted(y)) continue;
    const PartForm* form = d.form->of(y.part);
    const double out_mm = kClearMm + (form == nullptr ? 0.0 : form->thickness_mm);
    const auto level = [](const Vec3& p) {
      const Vec3 away(p.x(), 0.0, p.z());
      return away.norm() > 1.0 ? away.normalized() : Vec3(Vec3::UnitZ());
    };
    for (std::vector<Vec3> line : y.lines) {
      for (Vec3& p : line) p += out_mm * level(p);
      lines.push_back(std::move(line));
    }
    for (const PieceMark& mark : y.marks) {
      const bool cross = mark.kind == PieceMark::Kind::cross;
      if ((!cross && mark.kind != PieceMark::Kind::hole) || mark.line.size() != 1) continue;
      const Vec3 out = level(mark.line[0]), across = Vec3::UnitY().cross(out);
      const double radius = cross ? kCrossMm : mark.radius_mm;
      std::vector<Vec3> ring;
      for (int k = 0; k <= kRound; ++k)
        ring.push_back(mark.line[0] + out_mm * out +
            radius * (std::cos(kTwoPi * k / kRound) * across + std::sin(kTwoPi * k / kRound) * Vec3::UnitY()));
      lines.push_back(std::move(ring));
    }
  }
  return lines;
}

}  // namespace awl
