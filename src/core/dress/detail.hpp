#pragma once
#include <variant>

#include "core/dress/kinds.hpp"

namespace awl {

inline constexpr std::size_t kMostDetails = 120, kMostDetailMarkers = 200;

/// Where the line of a detail comes from.
enum class TrackFrom {
  drawn,    ///< markers drawn on the form, a smooth line through them; one marker is a place
  way,      ///< the shortest way over the form between two markers
  round,    ///< level round the form, at the height of a marker
  rim,      ///< a rim or the edge of an opening, by its number from below
  seam,     ///< a seam, by its name
  feature,  ///< a named line of the form: a ridge, a brim
  foot,     ///< round the foot of a part that sits on it
  beside    ///< beside another detail's line
};
const char* name_of(TrackFrom from);  ///< "drawn", "way", ...
Result<TrackFrom> track_from(const std::string& name);

/// The line, or the place, a detail is made along. Kept in the form's own frame, so that it rides along to any wearer.
struct Track {
  TrackFrom from = TrackFrom::drawn;
  std::vector<Vec3> points;       ///< markers, in home coordinates
  bool closed = false;            ///< of a drawn line
  std::string name;               ///< of a seam or a feature
  int number = 1;                 ///< of a rim, from 1; of a foot the guest's part; of beside the other detail
  double off_mm = 0.0;            ///< moved over the surface, + to its left: from a rim inwards
  double start = 0.0, end = 1.0;  ///< which share of it
  bool operator==(const Track&) const = default;
};

/// Something put on a part: a line or place, and a rule. Inputs only.
struct Detail {
  int id = 0;
  int part = 1;
  std::string name = "detail";
  DetailShape shape;
  Track track;
  bool mirrored = true;       ///< the same on the other side
  std::string stuff;          ///< kind of sheet as in data/materials; empty: its host's
  double thickness_mm = 0.0;  ///< 0: usual for what it is
  bool operator==(const Detail&) const = default;
};

/// What a maker decides about dressing it.
struct DressSpec {
  std::vector<Detail> details;  ///< in the order they are put on
  bool footprints = true;       ///< where parts sit on parts, their feet are drawn on the pieces below
  bool operator==(const DressSpec&) const = default;
};

const Detail* find_detail(const DressSpec& spec, int id);
Detail* find_detail(DressSpec& spec, int id);

/// The word in files and acts: "strip", "studs" ...; and in the window: "Strip, rim or ribbon".
const char* kind_of(const DetailShape& shape);
const char* label_of(const DetailShape& shape);
/// A kind that says nothing of it is made along a line.
LineNeed needs_of(const DetailShape& shape);
/// One of every kind, as usual. The first is the usual one.
const std::vector<DetailShape>& detail_kinds();
/// Errors: unknown_name with those there are.
Result<DetailShape> detail_shape_from(const std::string& kind);
/// Every dial of a detail: those of its kind, then those of its line.
std::vector<Dial> dials_of(Detail& detail);

/// Every number within what can be, every name and reference sound. Errors: out_of_range, unknown_name, too_large, with
/// "dress/ID".
Result<void> check_dress(const DressSpec& spec);

}  // namespace awl
