#pragma once
#include <map>
#include <string>
#include <vector>

#include "core/base/ids.hpp"
#include "core/base/result.hpp"
#include "core/form/dial.hpp"
#include "core/form/draft.hpp"
#include "core/form/foam_head.hpp"
#include "core/geom/split.hpp"

namespace awl {

/// A form with the seams that cut it: chains of mesh edges, so both sides match vertex for vertex.
struct SeamMesh {
  Mesh mesh;
  std::map<std::pair<int, int>, SeamId> seam_of;  ///< edge -> its seam
  std::vector<std::string> seam_names;            ///< by SeamId; what the maker calls it
  std::vector<int> twin_of;                       ///< vertex -> mirror image; empty if the mesh is not mirrored
  std::set<int> opening = {};                     ///< vertices on rims of openings that may lie inside a panel
  std::vector<Vec2> flat = {};          ///< per vertex, where it lies on the sheet, of plates cut flat; else empty
  std::vector<Vec3> home = {};          ///< as in Draft; of a mirror image, mirrored
  std::vector<SheetFacts> sheets = {};  ///< as in Draft
  std::vector<int> sheet_of = {};
  /// Per vertex, the middle layer of the sheet where it was cut to another part there; else empty: the form moved by
  /// half the thickness.
  std::vector<Vec3> middle = {};
  /// Edges of a rim that is cut to another part: how the blade is tilted there, radians, + the outer face the larger.
  std::map<std::pair<int, int>, double> rim_tilt = {};

  /// The sheet a vertex belongs to: its own thickness, or the one given.
  double thickness_at(int vertex, double usual_mm) const {
    const double own = sheet_of.empty() ? 0.0 : sheets[sheet_of[vertex]].thickness_mm;
    return own > 0.0 ? own : usual_mm;
  }

  SeamId seam_at(int a, int b) const {
    const auto it = seam_of.find(edge_of(a, b));
    return it == seam_of.end() ? SeamId{} : it->second;
  }
};

/// Whether its right half is the exact image of its left one, triangle for triangle: the left half's come first.
bool is_mirrored(const SeamMesh& form);

/// How seams are laid on a hood.
enum class SeamPreset { gores, side_middle_side, none };
const char* name_of(SeamPreset preset);  ///< "gores", "side-middle-side", "none": only what is drawn
Result<SeamPreset> seam_preset_from(const std::string& name);

struct SeamSpec {
  SeamPreset preset = SeamPreset::gores;
  int gores_per_side = 4;    ///< 1 to 8, for gores
  double middle_mm = 110.0;  ///< width of the middle strip, for side-middle-side
  bool belt = true;          ///< one more seam round the head
  double belt_up_mm = 5.0;   ///< height of the belt seam over the ear flaps
  bool stagger = false;      ///< of an outer layer: seams lie between those of the layer below
  bool operator==(const SeamSpec&) const = default;
};

std::vector<Dial> dials_of(SeamSpec& spec);
/// Errors: out_of_range with the value and its limits.
Result<void> check_seams(const SeamSpec& spec);

/// Cuts the x >= 0 half of a form along a preset and mirrors it to the whole.
///
/// Contract: `midline` are the half's border edges in x = 0. Gores meet at the highest point of the midline.
/// Errors: those of check_seams; not_a_disk when a panel would have a hole or several borders.
Result<SeamMesh> cut_by_preset(const Mesh& half, const EdgeLabels& midline, const SeamSpec& spec);
/// The same before it is mirrored, so that more can be drawn on it.
Result<Draft> half_by_preset(const Mesh& half, const EdgeLabels& midline, const SeamSpec& spec);

/// A whole form as a draft, its seams as labels: to be cut or trimmed further. Nothing of the mirror is kept.
Draft draft_of(SeamMesh form);

/// A seam stands for one unbroken chain: what lies in its way makes two of it, and along a free edge it is none.
void separate_chains(SeamMesh& seams);

/// A drafted form, whole, with the seams its source gave it; those on one side only come on both.
SeamMesh seams_of(const Draft& draft);

/// Cuts a whole mesh along level planes and upright ones through its middle: for forms made elsewhere.
struct PlaneSeams {
  int belts = 0;       ///< level cuts at equal heights
  bool middle = true;  ///< the plane x = 0
  bool cross = false;  ///< the plane through the middle across that one
  bool operator==(const PlaneSeams&) const = default;
};
void cut_by_planes(Draft& draft, const PlaneSeams& spec);

/// The same for a headform: the centre line, belts round it, and gores from the crown.
SeamMesh cut_head(const Mesh& half, const EdgeLabels& midline, const HeadSeams& seams);

}  // namespace awl
