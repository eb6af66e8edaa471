#pragma once
#include "core/builds/build.hpp"
#include "core/seam/seam_mesh.hpp"

namespace awl {

/// What the drawing table shows of a plate: how the wearer's face lies behind the flat sheet.
struct PlateLayout {
  Vec2 scale = Vec2::Ones();                        ///< template millimetres to this wearer's
  std::vector<std::vector<Vec2>> holes;             ///< on the sheet
  std::vector<std::pair<std::string, Vec2>> marks;  ///< places of the face, on the sheet
};

/// What came of a part meeting another.
struct MetFact {
  int with = 0;
  MeetHow how = MeetHow::sits;
  double line_mm = 0.0, steepest_deg = 0.0, hole_mm2 = 0.0;  ///< as in Met
  bool lower = false;                                        ///< it is the one the other runs into
};

/// One part's form on one wearer, with its seams cut into it.
struct PartForm {
  int part = 0;
  std::string name;
  SeamMesh surface;  ///< inner or outer face of the foam, see `outside`
  bool outside = false;
  double thickness_mm = 5.0;
  std::vector<FeatureLine> features;
  std::vector<Handle> handles;
  Clearance clearance;   ///< of its inner face from the head; none measured for parts away from the head
  double ease_mm = 0.0;  ///< what it should keep
  double lower_girth_mm = 0.0, area_mm2 = 0.0;
  std::vector<Remark> remarks;
  std::optional<PlateLayout> plate;
  Mesh worn_on;                  ///< as in Draft
  std::vector<DrawnLine> drawn;  ///< pencil and ink, as they lie on it
  std::vector<MetFact> met;
  std::vector<std::shared_ptr<const PartForm>> joined;  ///< parts that are one skin with it, as they were before
  /// Where meeting others did nothing but tilt the blade along its rims, the form before: the same sheet, vertex for
  /// vertex. Else null.
  std::shared_ptr<const PartForm> same_sheet;
};

/// A ring drafted with compasses on a card: the circle of its girth, and how that differs from the oval it stands for.
struct DraftingCard {
  double radius_mm = 0.0;
  double wide_mm = 0.0;   ///< the circle beyond the oval at either side
  double short_mm = 0.0;  ///< the oval beyond the circle in front and behind
};
/// Of the opening the head goes through; none where there is none, or it is no level ring.
std::optional<DraftingCard> drafting_card(const PartForm& form);

/// A form as a draft to draw on, its half where it is exactly mirrored; without its seams unless they are to stay.
Draft undrawn(const PartForm& form, bool keep_seams = false);

}  // namespace awl
