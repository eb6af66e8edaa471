#include "core/fit/spec.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"

namespace awl {
namespace {

constexpr const char* kSlitAt[] = {"back", "sides", "halves"};
constexpr const char* kClosedBy[] = {"lacing", "elastic", "magnets"};
constexpr const char* kHoldBy[] = {"magnets", "chin-strap", "elastic", "band", "tabs", "clips", "jaw"};
constexpr const char* kCutouts[] = {"ears", "vents-top", "vents-back", "nose"};
constexpr const char* kRooms[] = {"glasses", "fan", "battery", "electronics", "padding", "counterweight"};

template <class E, std::size_t N>
Result<E> from_word(const char* const (&words)[N], const std::string& word, const char* what) {
  std::string known;
  for (std::size_t i = 0; i < N; ++i) {
    if (word == words[i]) return static_cast<E>(i);
    known += (i == 0 ? "" : ", ") + std::string(words[i]);
  }
  return fail(Errc::unknown_name, in_quotes(word) + " is no " + what + "; there are " + known + ".");
}

}  // namespace

const char* name_of(SlitAt at) { return kSlitAt[static_cast<int>(at)]; }
const char* name_of(ClosedBy by) { return kClosedBy[static_cast<int>(by)]; }
const char* name_of(HoldBy by) { return kHoldBy[static_cast<int>(by)]; }
const char* name_of(CutoutKind kind) { return kCutouts[static_cast<int>(kind)]; }
const char* name_of(RoomKind kind) { return kRooms[static_cast<int>(kind)]; }
Result<SlitAt> slit_at_from(const std::string& name) { return from_word<SlitAt>(kSlitAt, name, "place of a slit"); }
Result<ClosedBy> closed_by_from(const std::string& name) {
  return from_word<ClosedBy>(kClosedBy, name, "way of closing a slit");
}
Result<HoldBy> hold_by_from(const std::string& name) { return from_word<HoldBy>(kHoldBy, name, "way of holding"); }
Result<RoomKind> room_kind_from(const std::string& name) {
  return from_word<RoomKind>(kRooms, name, "thing that needs room");
}

Result<CutoutKind> cutout_kind_from(const std::string& name) {
  return from_word<CutoutKind>(kCutouts, name, "hole or zone for comfort");
}

Room usual_room(RoomKind kind, const FitHead::Places& places) {
  const auto place = [&](Landmark l, const Vec3& usual) { return places[static_cast<int>(l)].value_or(usual); };
  const Vec3 eyes = 0.5 * (place(Landmark::pupil_l, {31, 12, 82}) + place(Landmark::pupil_r, {-31, 12, 82}));
  const Vec3 back = place(Landmark::opisthocranion, {0, 31, -98}), crown = place(Landmark::vertex, {0, 128, -5});
  switch (kind) {
    case RoomKind::glasses:
      return {0, kind, {140.0, 45.0, 16.0}, eyes + Vec3(0.0, -4.0, 20.0), 30.0};
    case RoomKind::fan:
      return {0, kind, {40.0, 40.0, 12.0}, crown + Vec3(0.0, -20.0, 60.0), 25.0};
    case RoomKind::battery:
      return {0, kind, {62.0, 100.0, 22.0}, back + Vec3(0.0, -40.0, -16.0), 180.0};
    case RoomKind::electronics:
      return {0, kind, {50.0, 30.0, 15.0}, back + Vec3(0.0, 30.0, -12.0), 30.0};
    case RoomKind::padding:
      return {0, kind, {60.0, 10.0, 60.0}, crown + Vec3(0.0, 7.0, 0.0), 5.0};
    case RoomKind::counterweight:
      return {0, kind, {60.0, 40.0, 6.0}, back + Vec3(0.0, -30.0, -10.0), 110.0};
  }
  return {};
}

Room counterweight_of(double mass_g, const FitHead::Places& places) {
  constexpr double kSteelGMm3 = 0.00785;
  Room room = usual_room(RoomKind::counterweight, places);
  room.mass_g = mass_g;
  room.size_mm.y() = std::clamp(std::round(mass_g / (kSteelGMm3 * room.size_mm.x() * room.size_mm.z())), 5.0, 200.0);
  return room;
}

bool has_cutout(const FitSpec& spec, int part, CutoutKind kind) {
  for (const Cutout& c : spec.cutouts)
    if ((part == 0 || c.part == part) && c.kind == kind) return true;
  return false;
}

bool is_parted(const FitSpec& spec, int part) {
  for (const Slit& s : spec.slits)
    if (s.part == part && s.at == SlitAt::halves) return true;
  return false;
}

double slit_opening(const FitSpec& spec, int part) {
  constexpr double kHalvesOpenMm = 2000.0;  // they are laid round the head
  double opens = 0.0;
  for (const Slit& s : spec.slits)
    if (s.part == part)
      opens += s.at == SlitAt::halves ? kHalvesOpenMm : s.opens_mm * (s.at == SlitAt::sides ? 2.0 : 1.0);
  return opens;
}

Result<void> check_fit(const FitSpec& spec) {
  constexpr std::size_t kMost = 60;
  const auto outside = [](const char* what, double value, double least, double most) {
    return fail(Errc::out_of_range,
        std::string(what) + " of " + fixed(value, 1) + " mm is outside " + fixed(least, 0) + " to " + fixed(most, 0) +
            " mm.",
        "fit");
  };
  const auto within = [](double v, double least, double most) { return v >= least && v <= most; };
  if (spec.slits.size() > kMost || spec.holds.size() > kMost || spec.rooms.size() > kMost ||
      spec.cutouts.size() > kMost)
    return fail(Errc::too_large, "A build holds up to 60 slits, holds, rooms and cutouts of each.", "fit");
  if (spec.eye_height_mm != 0.0 && !within(spec.eye_height_mm, 400.0, 2500.0))
    return outside("An eye height", spec.eye_height_mm, 400.0, 2500.0);
  if (!within(spec.wig_mm, 0.0, 80.0)) return outside("A wig", spec.wig_mm, 0.0, 80.0);
  for (const Slit& s : spec.slits) {
    if (!within(s.long_mm, 20.0, 500.0)) return outside("A slit", s.long_mm, 20.0, 500.0);
    if (!within(s.opens_mm, 0.0, 300.0)) return outside("The opening of a slit", s.opens_mm, 0.0, 300.0);
    if (!within(s.pitch_mm, 8.0, 100.0)) return outside("The distance of eyelets", s.pitch_mm, 8.0, 100.0);
  }
  for (const Hold& h : spec.holds) {
    if (h.count < 1 || h.count > 24)
      return fail(Errc::out_of_range, "One hold has 1 to 24 of a kind, not " + std::to_string(h.count) + ".", "fit");
    if (!within(h.between_mm, 0.0, 80.0)) return outside("What lies between", h.between_mm, 0.0, 80.0);
    if (!within(h.wide_mm, 3.0, 120.0)) return outside("The width of a strap", h.wide_mm, 3.0, 120.0);
    if (h.magnet.size() > 40) return fail(Errc::too_large, "A magnet is written like 10 x 3 N42.", "fit");
  }
  for (const Cutout& c : spec.cutouts) {
    if (c.count < 1 || c.count > 24)
      return fail(Errc::out_of_range, "Vents are 1 to 24, not " + std::to_string(c.count) + ".", "fit");
    if (!within(c.wide_mm, 3.0, 60.0)) return outside("A vent", c.wide_mm, 3.0, 60.0);
  }
  for (const Room& r : spec.rooms) {
    for (int k = 0; k < 3; ++k) {
      if (!within(r.size_mm[k], 2.0, 600.0)) return outside("A room's side", r.size_mm[k], 2.0, 600.0);
      if (!within(r.at_mm[k], -1000.0, 1000.0)) return outside("A room's place", r.at_mm[k], -1000.0, 1000.0);
    }
    if (!within(r.mass_g, 0.0, 5000.0))
      return fail(Errc::out_of_range, "A mass of " + fixed(r.mass_g, 0) + " g is outside 0 to 5000 g.", "fit");
  }
  return {};
}

}  // namespace awl
