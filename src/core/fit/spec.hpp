#pragma once
#include <string>
#include <vector>

#include "core/base/result.hpp"
#include "core/fit/hold.hpp"
#include "core/form/dial.hpp"

namespace awl {

/// Where a slit runs up from the rim; or right over, from ear to ear, so that there are two halves.
enum class SlitAt { back, sides, halves };
const char* name_of(SlitAt at);  ///< "back", "sides", "halves"
Result<SlitAt> slit_at_from(const std::string& name);

/// How a slit is drawn together again.
enum class ClosedBy { lacing, elastic, magnets };
const char* name_of(ClosedBy by);  ///< "lacing", "elastic", "magnets": of halves alone
Result<ClosedBy> closed_by_from(const std::string& name);

/// A slit in a part's rim, so that it goes over the head, and what closes it.
struct Slit {
  int id = 0;
  int part = 1;
  SlitAt at = SlitAt::back;
  ClosedBy by = ClosedBy::lacing;
  double long_mm = 110.0;
  double opens_mm = 40.0;  ///< the strip behind it covers so much
  double pitch_mm = 20.0;  ///< from eyelet to eyelet
  bool straight = false;   ///< laced straight across instead of crosswise
  bool operator==(const Slit&) const = default;
};

/// What keeps a part where it is; of a jaw two screws it turns on, so that it opens with the wearer's own.
enum class HoldBy { magnets, chin_strap, elastic, band, tabs, clips, jaw };
const char* name_of(HoldBy by);  ///< "magnets", "chin-strap", "elastic", "band", "tabs", "clips", "jaw"
Result<HoldBy> hold_by_from(const std::string& name);

struct Hold {
  int id = 0;
  int part = 1;
  HoldBy by = HoldBy::elastic;
  int count = 2;
  std::string magnet = "10 x 3 N42";
  bool steel = false;       ///< the other side is a steel plate, not a magnet
  double between_mm = 2.0;  ///< what lies between the pair beside the foam: a wig's net, cloth
  double wide_mm = 20.0;    ///< of an elastic or strap
  bool operator==(const Hold&) const = default;
};

/// Something of a size that is put between head and shell.
enum class RoomKind { glasses, fan, battery, electronics, padding, counterweight };
const char* name_of(RoomKind kind);  ///< "glasses", "fan", ...
Result<RoomKind> room_kind_from(const std::string& name);

struct Room {
  int id = 0;
  RoomKind kind = RoomKind::battery;
  Vec3 size_mm{60.0, 30.0, 100.0};  ///< across, up, front to back
  Vec3 at_mm{0.0, 40.0, -110.0};    ///< its middle, in the head frame
  double mass_g = 150.0;
  bool operator==(const Room&) const = default;
};
/// As usual for its kind, where it usually is on a head with these places.
Room usual_room(RoomKind kind, const FitHead::Places& places);
/// Steel plates of so many grams behind the head, their size following from it.
Room counterweight_of(double mass_g, const FitHead::Places& places);

/// A hole that is cut for comfort; or, of the nose, a zone that is formed warm onto it and not cut at all.
enum class CutoutKind { ears, vents_top, vents_back, nose };
const char* name_of(CutoutKind kind);  ///< "ears", "vents-top", "vents-back", "nose"
Result<CutoutKind> cutout_kind_from(const std::string& name);

struct Cutout {
  int id = 0;
  int part = 1;
  CutoutKind kind = CutoutKind::ears;
  int count = 5;          ///< of vents
  double wide_mm = 14.0;  ///< of each vent
  bool operator==(const Cutout&) const = default;
};

/// What a maker decides about wearing it.
struct FitSpec {
  double eye_height_mm = 0.0;  ///< standing; 0: as usual for the wearer's age
  double wig_mm = 0.0;         ///< worn under everything, beyond the hair the parts already allow for
  std::vector<Slit> slits;
  std::vector<Hold> holds;
  std::vector<Room> rooms;
  std::vector<Cutout> cutouts;
  bool operator==(const FitSpec&) const = default;
};

std::vector<Dial> dials_of(Slit& slit);
std::vector<Dial> dials_of(Hold& hold);
std::vector<Dial> dials_of(Room& room);
std::vector<Dial> dials_of(Cutout& cutout);
/// Without those of its slits, holds, rooms and cutouts.
std::vector<Dial> dials_of(FitSpec& spec);

/// Whether a part is parted in two halves.
bool is_parted(const FitSpec& spec, int part);
/// How far the slits of a part open it; of halves more than any head.
double slit_opening(const FitSpec& spec, int part);

/// Whether a hole of this kind is cut into a part; of any part for 0.
bool has_cutout(const FitSpec& spec, int part, CutoutKind kind);

/// Every number within what can be. Errors: out_of_range, unknown_name, too_large, with the place.
Result<void> check_fit(const FitSpec& spec);

}  // namespace awl
