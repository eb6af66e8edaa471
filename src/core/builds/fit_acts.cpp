#include "core/builds/area_acts.hpp"

#include <algorithm>

namespace awl {
namespace {

using Done = Result<Build>;

template <class T>
int next_id(const std::vector<T>& all) {
  int most = 0;
  for (const T& one : all) most = std::max(most, one.id);
  return most + 1;
}

template <class T>
Result<T*> numbered(std::vector<T>& all, Words& words, const char* what) {
  const auto id = words.whole();
  if (!id) return fail(id.error().code, std::string("Which ") + what + ": " + id.error().text);
  const auto at = std::find_if(all.begin(), all.end(), [&](const T& one) { return one.id == *id; });
  if (at == all.end())
    return fail(Errc::unknown_name, "There is no " + std::string(what) + " number " + std::to_string(*id) + ".", "fit");
  return &*at;
}

Result<int> part_in(const Build& build, Words& words) {
  const auto id = words.whole();
  if (!id) return fail(id.error().code, "Which part: " + id.error().text);
  if (find_part(build, *id) == nullptr)
    return fail(Errc::unknown_name, "There is no part number " + std::to_string(*id) + ".", "parts");
  return *id;
}

/// Takes the one of this number away.
template <class T>
Done dropped(Build next, std::vector<T> FitSpec::*list, Words& words, const char* what) {
  auto& all = next.fit.*list;
  const auto one = numbered(all, words, what);
  if (!one) return fail(one);
  all.erase(all.begin() + (*one - all.data()));
  return next;
}

/// "add-slit 1 back 115 40 lacing": part, place, length and opening in mm, what closes it.
Done add_slit(Build next, Words& words) {
  const auto part = part_in(next, words);
  if (!part) return fail(part);
  const auto at = slit_at_from(std::string(words.next()));
  if (!at) return fail(at);
  const auto length = words.number(), opens = words.number();
  if (!length) return fail(length);
  if (!opens) return fail(opens);
  const auto by = closed_by_from(std::string(words.next()));
  if (!by) return fail(by);
  std::erase_if(next.fit.slits, [&](const Slit& s) { return s.part == *part; });
  next.fit.slits.push_back({next_id(next.fit.slits), *part, *at, *by, *length, *opens});
  return next;
}

/// "add-hold 2 magnets"
Done add_hold(Build next, Words& words) {
  const auto part = part_in(next, words);
  if (!part) return fail(part);
  const auto by = hold_by_from(std::string(words.next()));
  if (!by) return fail(by);
  Hold hold;
  hold.id = next_id(next.fit.holds), hold.part = *part, hold.by = *by;
  next.fit.holds.push_back(hold);
  return next;
}

Done more_hold(Build next, Words& words) {
  const auto hold = numbered(next.fit.holds, words, "hold");
  if (!hold) return fail(hold);
  if ((*hold)->by == HoldBy::elastic)
    (*hold)->wide_mm += 10.0;
  else
    ++(*hold)->count;
  return next;
}

/// "set-magnet 1 10 x 3 N42"
Done set_magnet(Build next, Words& words) {
  const auto hold = numbered(next.fit.holds, words, "hold");
  if (!hold) return fail(hold);
  const std::string size(words.rest());
  if (const auto magnet = magnet_from(size); !magnet) return fail(magnet);
  (*hold)->magnet = size;
  return next;
}

Done set_hold_width(Build next, Words& words) {
  const auto hold = numbered(next.fit.holds, words, "hold");
  if (!hold) return fail(hold);
  const auto wide = words.number();
  if (!wide) return fail(wide);
  (*hold)->wide_mm = *wide;
  return next;
}

/// "add-room battery", or with its middle: "add-room battery 0 -10 -120".
Done add_room(Build next, Words& words) {
  const auto kind = room_kind_from(std::string(words.next()));
  if (!kind) return fail(kind);
  FitHead::Places places;
  for (int i = 0; i < kLandmarkCount; ++i) places[i] = template_landmarks()[i];
  Room room = usual_room(*kind, places);
  room.id = next_id(next.fit.rooms);
  if (!words.at_end())
    for (int k = 0; k < 3; ++k) {
      const auto mm = words.number();
      if (!mm) return fail(mm);
      room.at_mm[k] = *mm;
    }
  next.fit.rooms.push_back(room);
  return next;
}

/// "add-counterweight 120", in grams.
Done add_counterweight(Build next, Words& words) {
  const auto grams = words.number();
  if (!grams) return fail(grams);
  FitHead::Places places;
  for (int i = 0; i < kLandmarkCount; ++i) places[i] = template_landmarks()[i];
  Room room = counterweight_of(*grams, places);
  room.id = next_id(next.fit.rooms);
  next.fit.rooms.push_back(room);
  return next;
}

/// "add-cutout 1 ears"
Done add_cutout(Build next, Words& words) {
  const auto part = part_in(next, words);
  if (!part) return fail(part);
  const auto kind = cutout_kind_from(std::string(words.next()));
  if (!kind) return fail(kind);
  if (!has_cutout(next.fit, *part, *kind)) next.fit.cutouts.push_back({next_id(next.fit.cutouts), *part, *kind});
  return next;
}

}  // namespace

const std::vector<ActOf>& fit_acts() {
  static const std::vector<ActOf> acts{{"add-slit", add_slit},
      {"drop-slit", [](Build next, Words& words) { return dropped(std::move(next), &FitSpec::slits, words, "slit"); }},
      {"add-hold", add_hold},
      {"drop-hold", [](Build next, Words& words) { return dropped(std::move(next), &FitSpec::holds, words, "hold"); }},
      {"more-hold", more_hold}, {"set-magnet", set_magnet}, {"set-hold-width", set_hold_width}, {"add-room", add_room},
      {"add-counterweight", add_counterweight},
      {"drop-room", [](Build next, Words& words) { return dropped(std::move(next), &FitSpec::rooms, words, "room"); }},
      {"add-cutout", add_cutout}, {"drop-cutout", [](Build next, Words& words) {
                                     return dropped(std::move(next), &FitSpec::cutouts, words, "cutout");
                                   }}};
  return acts;
}

}  // namespace awl
