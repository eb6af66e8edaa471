#pragma once
#include "core/derived/derived.hpp"

namespace awl {

/// What lies between the lines of a part at which colours meet.
struct PaintField {
  int part = 0;
  std::vector<int> faces;  ///< triangles of the ground
  double area_mm2 = 0.0;
  Vec3 within = Vec3::Zero();  ///< a place well inside it, on the outer face
  Vec3 seed = Vec3::Zero();    ///< the same in the form's own frame
  Vec3 share = Vec3::Zero();   ///< the same in the part's box: 0 right, below, behind; 1 left, above, in front
  int image = -1;              ///< the field its image in the middle lies in, itself perhaps; -1: there is none
  std::vector<std::pair<int, int>> ends;  ///< edges of the ground at which it ends
};

/// The form as it is painted: cut where colours meet.
///
/// Where they meet are lines drawn for it, and panel lines and gouges that are worked into the surface. A line that
/// ends in the middle of nowhere parts nothing.
struct PaintGround {
  std::vector<int> face_of;  ///< the form's triangle each of its own lies in; parts lie one after the other
  Mesh surface, outer;       ///< the form's surface and its outer face, vertex by vertex
  std::vector<int> spans;    ///< how many triangles each of the form's parts has
  std::vector<PaintField> fields;
  std::vector<int> field_of;  ///< by triangle; -1 where its part has no lines
  std::vector<Error> lost;    ///< lines that could not be followed
};

/// Null where no line is drawn for colours to meet at, and nothing is worked into the surface.
/// Accuracy: borders are those of Cutter; corners within 5 % of an edge of a line are put on it.
std::shared_ptr<const PaintGround> paint_ground(
    const Form& form, const std::vector<std::shared_ptr<const Dressed>>* dressed);

/// The field a place of a part's own frame lies in, and the one its image in the middle lies in where there is one;
/// empty where that part has no lines.
std::vector<int> fields_at(const PaintGround& ground, const Form& form, int part, const Vec3& seed, bool both_sides);

}  // namespace awl
