#pragma once
#include <functional>

#include "core/form/seat.hpp"
#include "core/geom/triangulate.hpp"

namespace awl {

/// How a flat plate is bent onto the wearer.
enum class Bend { flat, round, cone, face, cup };
enum class HoleFor { eye, mouth, nose, free };

/// A hole that follows a place of the wearer's face; off the middle line it comes on both sides.
struct PlateHole {
  HoleFor place = HoleFor::eye;
  double wide_mm = 36.0, tall_mm = 18.0;
  double aside_mm = 0.0, up_mm = 0.0;  ///< from that place
  double tilt_deg = 0.0;               ///< outer end raised
  double square = 2.2;                 ///< 2 an ellipse, 6 a rectangle
  bool operator==(const PlateHole&) const = default;
};

/// One sheet of a plate with an outline of its own.
struct PlateLayer {
  std::vector<CurvePoint>
      outline;             ///< of the half from the top of the fold to its foot, or closed for a pair; see PlateSpec
  bool holes = true;       ///< the holes go through this layer too
  double bevel_deg = 0.0;  ///< of its rim, from the square cut
  bool operator==(const PlateLayer&) const = default;
};

/// Half an outline drawn on a fold line and mirrored, cut flat in layers, then bent.
///
/// Units: outlines are millimetres on a face of the template's size; on a wearer breadths follow theirs (cheekbones)
/// and
///        heights theirs (sellion to chin), so that a plate fits who wears it. x to the wearer's left, y up.
struct PlateSpec {
  Seat seat;
  bool on_fold = true;       ///< else a mirrored pair of whole outlines
  bool one_sided = false;    ///< of a pair only one; sat round to the right its mirror image
  bool follows_face = true;  ///< scaled with the face; else its own size
  Bend bend = Bend::round;
  double ease_mm = 6.0;                 ///< off the skin, for `round`, `cone` and `face`
  double slope_deg = 20.0;              ///< of a cone
  double cup_mm = 60.0;                 ///< radius of a cupped plate, edges forward
  double lip_deg = 0.0, lip_mm = 18.0;  ///< its rim curls further by this angle over this width
  bool upright =
      false;  ///< stands on its edge in the middle plane, cut to the head: a crest. x is backwards, y outwards
  bool standing = false;  ///< stands on its lower edge and faces the front: an ear
  std::vector<PlateLayer> layers;
  std::vector<PlateHole> holes;
  double layer_mm = 5.0;    ///< thickness of each layer
  double core_mm = 0.0;     ///< gap between the layers of a sandwich, filled by a core of this thickness
  double core_in_mm = 2.0;  ///< how far the core stays behind the rims beside it
  bool operator==(const PlateSpec&) const = default;
};
std::vector<Dial> dials_of(PlateSpec& spec);
/// What is kept of what it does not have now.
std::vector<Dial> hidden_dials_of(PlateSpec& spec);

/// A part of a shell over the face that has been laid flat: its places in space and on the sheet.
struct FaceSheet {
  Mesh mesh;
  std::vector<Vec2> flat;  ///< origin at the middle of the face, the wearer's up towards +y
};
/// How far round a place a sheet must reach, millimetres on the template; a small sheet is strained less.
struct FaceReach {
  double middle_y_mm = 0.0, side_mm = 80.0, tall_mm = 80.0;
  bool operator==(const FaceReach&) const = default;
};
/// Gives the sheet over the face at this ease; for plates that are bent onto the face itself.
using FaceSheetMaker = std::function<Result<FaceSheet>(double ease_mm, const FaceReach& reach)>;

/// How places of the sheet go to space and the face's landmarks to the sheet.
struct PlateMap {
  std::function<Vec3(const Vec2& uv, double off_mm)> to_space;
  Vec2 scale = Vec2::Ones();  ///< template millimetres to this wearer's
  SeatFrame frame;
  /// Where on the sheet a place of the face lies straight behind.
  Vec2 under(const Vec3& place) const;
};
/// Errors: those of seat_frame and of the face sheet.
Result<PlateMap> plate_map(const PlateSpec& spec, const Site& site, const FaceSheetMaker& face);

/// The holes of a plate on this wearer, on the sheet; on a fold those of both sides.
std::vector<std::vector<Vec2>> holes_on_sheet(const PlateSpec& spec, const PlateMap& map, const Headform& head);

/// Errors: out_of_range for a dial; degenerate_shape for an outline that crosses itself or leaves its half, with the
/// place.
Result<Draft> draft_plate(const PlateSpec& spec, const Site& site, const FaceSheetMaker& face);

}  // namespace awl
