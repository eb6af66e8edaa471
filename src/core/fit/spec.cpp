#include "core/fit/spec.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/base/units.hpp"

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

std::vector<Dial> dials_of(Slit& s) {
  Dials dials;
  dials.choice("at", s.at, {std::begin(kSlitAt), std::end(kSlitAt)}, "Slit it", "Where it runs up from the rim.")
      .said({"at the back", "at both sides", "in two halves"})
      .choice("by", s.by, {std::begin(kClosedBy), std::end(kClosedBy)}, "Drawn together by",
          "Lacing adjusts; elastic is quicker.")
      .said({"Lacing", "Elastic with snaps", "Magnets"})
      .length("long", s.long_mm, {20, 500}, "Length", "From the rim to its end.")
      .key("long_mm")
      .length("opens", s.opens_mm, {0, 300}, "Opens by", "How far it is drawn apart.")
      .key("opens_mm")
      .length("pitch", s.pitch_mm, {8, 100}, "Eyelet to eyelet", "Nearer ones pull more evenly and take longer.")
      .key("pitch_mm")
      .flag("straight", s.straight, "Laced straight across", "Instead of crosswise.");
  return std::move(dials).all();
}

std::vector<Dial> dials_of(Hold& h) {
  Dials dials;
  dials.choice("by", h.by, {std::begin(kHoldBy), std::end(kHoldBy)}, "By", "Several may share a part.")
      .said({"Magnets", "Chin strap", "Elastic with snaps", "Its own band", "Tabs through a wig", "Clips",
          "Hinge, worked by the chin"})
      .count("count", h.count, {1, 24}, "How many", "Magnets in pairs, tabs, clips or snaps.")
      .word("magnet", h.magnet, "Magnets", "Across, thickness and grade, as they are sold.")
      .flag("steel", h.steel, "Against a steel plate", "The other side is steel, not a magnet: it pulls less.")
      .length("between", h.between_mm, {0, 80}, "Between them",
          "A wig's net, cloth or a hood: every millimetre costs a third of the pull.")
      .key("between_mm")
      .length("wide", h.wide_mm, {3, 120}, "Width", "Of the elastic or strap: a wider one presses less.")
      .key("wide_mm");
  return std::move(dials).all();
}

std::vector<Dial> dials_of(Room& r) {
  constexpr DialRange kSide{2, 600}, kPlace{-1000, 1000};
  Dials dials;
  dials.choice("kind", r.kind, {std::begin(kRooms), std::end(kRooms)}, "Put in", "What room is made for.")
      .length("across", r.size_mm.x(), kSide, "Wide", "Its outer size.")
      .length("up", r.size_mm.y(), kSide, "Tall", "Its outer size.")
      .length("deep", r.size_mm.z(), kSide, "Deep", "Its outer size.")
      .length("at-across", r.at_mm.x(), kPlace, "To the left", "Of its middle, in the head's frame.")
      .length("at-up", r.at_mm.y(), kPlace, "Up", "Of its middle, in the head's frame.")
      .length("at-deep", r.at_mm.z(), kPlace, "Forward", "Of its middle, in the head's frame.")
      .number("mass", r.mass_g, {0, 5000}, " g", 0, "Weight", "As the kitchen scales say.")
      .key("mass_g");
  return std::move(dials).all();
}

std::vector<Dial> dials_of(Cutout& c) {
  Dials dials;
  dials.choice("kind", c.kind, {std::begin(kCutouts), std::end(kCutouts)}, "Cut", "For hearing, air or a nose.")
      .count("count", c.count, {1, 24}, "How many", "Of vents.")
      .length("wide", c.wide_mm, {3, 60}, "Width", "Of each vent.")
      .key("wide_mm");
  return std::move(dials).all();
}

std::vector<Dial> dials_of(FitSpec& s) {
  Dials dials;
  dials
      .length("eye-height", s.eye_height_mm, {400, 2500}, "Eyes above the floor",
          "Standing, in shoes; the nearest floor that is seen hangs on it.")
      .key("eye_height_mm")
      .or_zero("as usual for the wearer's age")
      .length("wig", s.wig_mm, {0, 80}, "Wig, beyond hair",
          "What is worn under everything and not in any part's own layers.")
      .key("wig_mm");
  return std::move(dials).all();
}

namespace {

/// Every one of a list. `where` is the place of the list.
template <class T>
Result<void> check_each(std::vector<T> all, const std::string& where) {
  constexpr std::size_t kMost = 60;
  if (all.size() > kMost)
    return fail(Errc::too_large, "A build holds up to 60 slits, holds, rooms and cutouts of each.", "fit");
  for (T& one : all)
    if (auto good = check_dials(dials_of(one), where + "/" + std::to_string(one.id)); !good) return good;
  return {};
}

}  // namespace

Result<void> check_fit(const FitSpec& spec) {
  FitSpec own{spec.eye_height_mm, spec.wig_mm, {}, {}, {}, {}};
  if (auto good = check_dials(dials_of(own), "fit"); !good) return good;
  for (const auto& good : {check_each(spec.slits, "fit/slit"), check_each(spec.holds, "fit/hold"),
           check_each(spec.rooms, "fit/room"), check_each(spec.cutouts, "fit/cutout")})
    if (!good) return good;
  for (const Hold& h : spec.holds)
    if (h.magnet.size() > 40) return fail(Errc::too_large, "A magnet is written like 10 x 3 N42.", "fit");
  return {};
}

}  // namespace awl
