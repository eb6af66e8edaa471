#pragma once
#include <string>

#include "core/base/remark.hpp"
#include "core/geom/split.hpp"

namespace awl {

/// A line of a form that has a name: the ridge of a beak, the rim of a brim. Seams may snap to it, strips may follow
/// it.
struct FeatureLine {
  std::string name;
  std::vector<Vec3> line;
};

/// A place on the form that can be taken hold of: dragging it by a millimetre along `along` turns the dial by `per_mm`.
struct Handle {
  std::string dial;
  Vec3 at = Vec3::Zero(), along = Vec3::UnitY();
  double per_mm = 1.0;
};

/// One sheet of a form that is made of several, where it differs from the rest.
struct SheetFacts {
  double thickness_mm = 0.0;  ///< 0: that of the part
  double bevel_deg = 0.0;     ///< of its free edges, from the square cut: + the outer face is the larger
  bool operator==(const SheetFacts&) const = default;
};

/// How far aside of the mirror the home frame of a pair's left one lies (Draft::home), millimetres.
constexpr double kPairHomeMm = 1000.0;

/// What one of the five sources yields: a surface with its seams, before it is mirrored and cut.
///
/// Contract: with `mirrored`, `mesh` is the x >= 0 half and its border in x = 0 (if any) closes on itself when
/// mirrored;
///           seams that lie in x = 0 are edges of that border.
struct Draft {
  Mesh mesh;
  bool mirrored = true;
  bool outside = false;  ///< the surface is the sheet's outer face, else its inner one
  EdgeLabels seams;      ///< edge -> index into seam_names
  std::vector<std::string> seam_names;
  std::set<int> opening;   ///< vertices on the rims of openings that may lie inside a panel (eyes, vents)
  std::vector<Vec2> flat;  ///< per vertex, of a plate cut flat: where it lies on the sheet; else empty
  /// Per vertex, its place in a frame of the form's own that no wearer and no dial of size touches: of a wrap the
  /// template, of rings and sweeps a plain cylinder, of plates the drawing. Empty: the places themselves. What is drawn
  /// is kept in it.
  std::vector<Vec3> home;
  std::vector<SheetFacts> sheets;  ///< empty: one sheet, as the part says
  std::vector<int> sheet_of;       ///< per vertex, which of the sheets; empty without them
  std::vector<FeatureLine> features;
  std::vector<Handle> handles;
  std::vector<Remark> remarks;
  double lower_girth_mm = 0.0;  ///< round the opening the head goes through; 0 without one
  Mesh worn_on;                 ///< of what is worn away from the head: the limb in it, its x >= 0 one

  int seam(const std::string& name) {
    seam_names.push_back(name);
    return static_cast<int>(seam_names.size()) - 1;
  }
};

/// Adds another draft's surface, seams and lines; both keep what they are.
void append(Draft& draft, const Draft& other);

/// The other side's: the mirror image in the head's middle, its own frame and drawing too.
void reflect(Draft& draft);

/// Drops vertices no triangle uses.
void drop_unused(Draft& draft);

/// Splits along f = 0 (see split_along); homes go along, the curve is not yet a seam.
Split split_draft(Draft& draft, const std::function<double(const Vec3&)>& f, double snap = 0.2);

/// The draft without what lies where f < 0, cut cleanly along f = 0. Contract: no `flat` and no sheets (new vertices
/// have none); `f` as for split_along.
void trim(Draft& draft, const std::function<double(const Vec3&)>& f);

/// Makes one corner of every two that follow each other on a border nearer than `mm`, where the surface stays one and
/// no triangle turns over: what two cuts along nearly the same line leave. Seams, homes and openings go along.
/// Contract: as for trim.
void join_close_corners(Draft& draft, double mm);

/// Clips teeth off the borders: triangles hanging by one side whose tip is sharper than `most_deg` and stands out by
/// less than `mm`. A tip where a seam ends stays. Contract: as for trim.
void clip_teeth(Draft& draft, double mm, double most_deg);

/// Only the connected parts for whose some vertex `wanted` is true.
void keep_parts(Draft& draft, const std::function<bool(const Vec3&)>& wanted);

}  // namespace awl
