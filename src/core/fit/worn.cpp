#include "core/fit/worn.hpp"

#include <algorithm>

namespace awl {

const GoingOn* Worn::tightest() const {
  const auto rank = [](const GoingOn& g) { return g.stiff ? g.stops_short_mm : g.short_mm; };
  const auto most = std::max_element(going_on.begin(), going_on.end(), [&](const GoingOn& a, const GoingOn& b) {
    if (a.passes != b.passes) return a.passes;
    return rank(a) < rank(b);
  });
  return most == going_on.end() ? nullptr : &*most;
}

Result<Worn> worn_on(const FitHead& head, const std::vector<FitPart>& parts, const WornQuestion& question,
    const FitRules& rules, const Progress& progress) {
  Worn worn;
  worn.rules = rules;
  const auto stopped = [&](double done) -> bool { return !progress.keep_going(done); };
  const auto cancelled = [] { return fail(Errc::cancelled, "Stopped.", "fit"); };
  const double n = std::max<double>(1.0, static_cast<double>(parts.size()));
  for (std::size_t i = 0; i < parts.size(); ++i) {
    if (stopped(0.4 * static_cast<double>(i) / n)) return cancelled();
    if (!parts[i].on_head) continue;
    GoingOnOptions options = question.going_on;
    if (question.squeeze) options.layers_mm = rules.going_on.squeezed * parts[i].layers_mm;
    worn.going_on.push_back(going_on(head, parts[i], rules, options));
  }
  std::vector<Vec3> contacts;
  for (std::size_t i = 0; i < parts.size(); ++i) {
    if (stopped(0.4 + 0.15 * static_cast<double>(i) / n)) return cancelled();
    if (!parts[i].on_head) continue;
    const ClearanceOptions options{question.squeeze ? parts[i].layers_mm : question.layers_mm, question.touch_mm};
    worn.clearance.push_back(clearance_inside(head, parts[i], rules, options));
    for (std::size_t v = 0; v < parts[i].inner.vertices.size(); ++v)
      if (worn.clearance.back().room_mm[v] < Worn::kRestsMm) contacts.push_back(parts[i].inner.vertices[v]);
  }
  for (const Room& room : question.rooms) worn.rooms.push_back(check_room(head, parts, room, rules));
  worn.ears = ear_rooms(head, parts, rules);
  if (stopped(0.6)) return cancelled();
  worn.balance = balance_of(head, parts, question.loads, rules, question.child);
  worn.tips_at_deg = tips_at_deg(contacts, worn.balance.centre);
  if (question.body) worn.turning = turning_of(head, parts, *question.body, rules);
  if (stopped(0.7)) return cancelled();
  SightOptions sight = question.sight;
  if (worn.turning) sight.nod_deg = std::min(sight.nod_deg, worn.turning->nod_deg);
  worn.sight = sight_of(head, parts, rules, sight);
  if (stopped(0.9)) return cancelled();
  worn.air = air_of(head, parts, rules);
  worn.chin_strap_mm = chin_strap_mm(head);
  return worn;
}

}  // namespace awl
