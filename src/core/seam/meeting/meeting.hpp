#pragma once
#include <optional>

#include "core/seam/seam_mesh.hpp"

namespace awl {

/// What becomes of two parts where one runs into the other.
enum class MeetHow {
  sits,     ///< its foot is cut to the other's outer face
  opens,    ///< the same, and the other is open inside the foot
  through,  ///< it runs on; the other gets a hole round it
  edge,     ///< it fills the other's opening, edge to edge
  skin,     ///< both are cut where they cross, and become one skin with a seam there
};
const char* name_of(MeetHow how);  ///< "sits", "opens", "through", "edge", "skin"
Result<MeetHow> meet_how_from(const std::string& name);

/// How a part meets one made before it.
struct Meet {
  int with = 0;
  MeetHow how = MeetHow::sits;
  double play_mm = 0.5;  ///< round what runs through
  bool operator==(const Meet&) const = default;
};
/// Errors: out_of_range for the play.
Result<void> check_meet(const Meet& meet);

/// One of two forms that meet. Contract: one sheet thickness, unless it is cut flat.
struct MeetSide {
  const SeamMesh* form = nullptr;
  bool outside = false;
  double thickness_mm = 5.0;
  std::string name;
};

/// Both as they are cut to each other; the faces of their sheets end on each other, through their thickness.
struct Met {
  SeamMesh upper;                 ///< of one skin empty: it is in `lower`
  std::optional<SeamMesh> lower;  ///< nothing: it stays as it is
  double line_mm = 0.0;           ///< length of all lines they meet along
  double steepest_deg = 0.0;      ///< largest tilt of a blade along them
  double hole_mm2 = 0.0;          ///< taken out of the lower
};

/// Cuts two forms to each other where they meet.
///
/// Shape:  the middle layer of the upper ends on the outer face of the lower (of its middle layer, for one skin), with
///         the tilt of the blade that lays the whole cut there (`SeamMesh::rim_tilt`). A foot that ends above the lower
///         is carried on along its own surface until it meets it. `face`: the lower's form before it was opened.
/// Errors: no_solution where they do not meet, or meet in a line that does not close; degenerate_shape where nothing
///         would be left; out_of_range where sheets of two thicknesses cannot be one skin. All in words.
/// Source: docs/formulas/meeting.md.
Result<Met> meet(const MeetSide& upper, const MeetSide& lower, const SeamMesh& face, const Meet& how);

}  // namespace awl
