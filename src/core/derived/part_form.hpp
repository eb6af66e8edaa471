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
};

/// A form as a draft to draw on, its half where it is exactly mirrored; without its seams unless they are to stay.
Draft undrawn(const PartForm& form, bool keep_seams = false);

}  // namespace awl
