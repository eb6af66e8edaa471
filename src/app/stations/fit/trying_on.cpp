#include "app/stations/fit/trying_on.hpp"

#include <QCoreApplication>
#include <algorithm>
#include <cmath>

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

}  // namespace awl
