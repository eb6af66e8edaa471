#pragma once
#include <optional>

#include "core/fit/fit_head.hpp"
#include "core/fit/fit_part.hpp"
#include "core/fit/rules.hpp"

namespace awl {

enum class WayOn { from_above, from_the_front, from_below };
const char* name_of(WayOn way);  ///< "from above", "from the front", "from below"

/// One moment of putting something on: how far it still is from its place, and how it is held.
struct WayMoment {
  double up_mm = 0.0;       ///< still to go
  double pitch_deg = 0.0;   ///< + chin first
  double across_mm = 0.0;   ///< shifted forward (up, from the front)
  double stretch = 0.0;     ///< of its tightest ring there, as a share; below 0 it is loose
  double overlap_mm = 0.0;  ///< of what is stiff: how deep it would be in the head
};

/// Whether one part goes on its head, and what would help.
struct GoingOn {
  int part = 0;
  std::string name;
  WayOn from = WayOn::from_above;
  Vec3 towards = Vec3::UnitY();  ///< from its place back to where it comes from
  Vec3 about = Vec3::Zero();     ///< what it is pitched about
  bool has_rings = false;        ///< something of it goes round the head
  bool passes = true;
  double stretch = 0.0, straight = 0.0;  ///< most it is stretched on the best way, and without pitching
  double gives = 0.0;                    ///< what it bears
  double short_mm = 0.0;                 ///< what its tightest ring lacks beyond that; below 0: what it spares
  double ring_mm = 0.0;                  ///< how far in from the rim that is
  double ring_girth_mm = 0.0;
  double pitch_deg = 0.0;                ///< most it is pitched on the way
  double slit_mm = 0.0, opens_mm = 0.0;  ///< what would let it pass; 0: none is needed
  int slits = 0;
  double spread_mm = 0.0;   ///< open rings are spread by this much
  bool stiff = false;       ///< decided by its hardness, not its girths
  double overlap_mm = 0.0;  ///< stiff, at its place: how deep it would press
  std::string overlap_at;
  double stops_short_mm = 0.0;  ///< stiff: how far from its place it stops
  double rests_up_mm = 0.0;     ///< where a band or hat comes to sit, above its place
  std::vector<WayMoment> way;   ///< from far to its place, or to where it stops
};

struct GoingOnOptions {
  double layers_mm = 0.0;  ///< hair and padding as they are squeezed on the way
  double press_mm = 0.0;   ///< what a stiff shell may press
  std::optional<WayOn> from = {};
};

/// Whether a part goes on. Girths are compared ring by ring along its way for what gives; for what is stiff, and for
/// masks, the solid itself is moved: the way its opening says, and where that does not end at its place the two others
/// too, of which the best is told.
///
/// Source: docs/formulas/fit-going-on.md. Cost: 30 to 200 ms.
GoingOn going_on(const FitHead& head, const FitPart& part, const FitRules& rules, const GoingOnOptions& options);

/// Where a part is at a moment of its way: its place moved and pitched.
Vec3 on_the_way(const GoingOn& way, const WayMoment& step, const Vec3& place);

/// The entry of an inner face: the rim the head goes in through, and the direction into the part.
struct RimEntry {
  std::vector<Vec3> rim;
  Vec3 into = Vec3::UnitY(), middle = Vec3::Zero();
};
std::optional<RimEntry> entry_of(const Mesh& inner, const Vec3& neck);

/// Points all over a mesh, one for every `apart_mm` or so.
std::vector<Vec3> spread_points(const Mesh& mesh, double apart_mm);

}  // namespace awl
