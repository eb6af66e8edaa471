#pragma once
#include <memory>
#include <optional>

#include "core/seam/flatten.hpp"
#include "core/seam/seam_mesh.hpp"

namespace awl {

/// A border edge of a panel: local vertices in the order of its border, and the seam it lies on (invalid: a free edge).
struct BorderEdge {
  int a = -1, b = -1;
  SeamId seam;
  double turn_rad = 0.0;  ///< how far the surface turns across the seam: + ridge, - furrow; of a free
                          ///< edge that is cut to another part twice the blade's tilt
};

/// One patch of the form between seams, and how it lies flat.
struct Panel {
  PanelId id;
  std::string name;                     ///< "gore front left"
  std::vector<int> faces;               ///< triangles of the form
  Mesh solid;                           ///< its own copy at the sheet's middle layer
  std::vector<int> vertex_of;           ///< local vertex -> vertex of the form
  int part = 0;                         ///< number of the span of the form it belongs to
  double thickness_mm = 5.0;            ///< of its sheet
  double bevel_deg = 0.0;               ///< of its free edges
  bool given_flat = false;              ///< a plate: cut as drawn, its strain is what bending it takes
  std::vector<BorderEdge> border;       ///< closed, the panel on the left
  std::vector<std::vector<int>> holes;  ///< rims of openings inside it, as loops of local vertices
  std::vector<Vec2> flat;               ///< millimetres, seen from outside, the wearer's up towards +y
  std::vector<Vec2> before;             ///< the same before it was taken in or let out; empty if it was not
  std::vector<double> face_strain;      ///< worst signed strain of each triangle
  Strain strain;
  int flipped = 0;
  bool overlaps = false;
  std::optional<PanelId> mirror_of;  ///< set on the right-hand one of an exactly mirrored pair
};

/// One seam, both sides.
struct Seam {
  SeamId id;
  std::string letter;  ///< the same on both sides of a mirrored form
  std::string name;
  double length_3d_mm = 0.0;  ///< along the sheet's middle layer
  std::array<double, 2> side_mm{0.0, 0.0};
  std::array<PanelId, 2> panels;
  double mean_turn_rad = 0.0, most_turn_rad = 0.0;  ///< most: the largest by size, with its sign
};

/// A stretch of a form made of several parts: which vertices and triangles are whose, and how its sheet lies.
struct FormSpan {
  std::string name;
  int vertices = 0, triangles = 0;  ///< how many, one span after the other
  bool outside = false;             ///< the surface is the sheet's outer face
  double thickness_mm = 5.0;
  std::vector<double> own_mm = {};  ///< per vertex, where its sheets differ; else empty
  double thickness_at(int vertex) const { return own_mm.empty() ? thickness_mm : own_mm[vertex]; }
  bool operator==(const FormSpan&) const = default;
};
/// The span of one surface. `name` is its part's.
FormSpan span_of(const SeamMesh& form, const std::string& name, bool outside, double thickness_mm);
/// The faces of the sheets of such a form: the outer one, or the inner one.
Mesh sheet_face(const Mesh& mesh, const std::vector<FormSpan>& spans, bool outer);

/// One face of a form that is all of one span; where its rim is cut to another part, it ends where the tilted cut ends
/// it.
Mesh sheet_face(const SeamMesh& form, const FormSpan& span, bool outer);
/// The same for both faces of a form: they lean apart at such rims.
void lean_rims(const SeamMesh& form, Mesh& outer, Mesh& inner);

/// The form as closed bodies with the thickness of their sheets.
Mesh sheet_solid(const Mesh& mesh, const std::vector<FormSpan>& spans);

/// A form cut into panels that lie flat.
struct PanelSet {
  SeamMesh form;  ///< inner face of the sheet, or its outer one
  std::vector<FormSpan> spans;
  std::vector<Panel> panels;
  std::vector<Seam> seams;
  double seam_total_mm() const;
};

struct PanelOptions {
  std::string name = {};         ///< of the part; panels of a form of several parts are named after it
  double thickness_mm = 5.0;     ///< the form is the inner face; flattened is the middle layer
  bool form_is_outside = false;  ///< the form is the outer face instead: a headform of foam
  double least_mm2 = 1500.0;     ///< a smaller panel is given to its neighbour, on mirrored forms: workshop value
  bool match_seams = true;       ///< both sides of every seam to their mean length
  FlattenOptions flatten = {};
};

/// Cuts the form along its seams and lays every panel flat.
///
/// Errors: not_a_disk naming the panel and what is missing; cancelled; those of Flattener.
/// Cost:   panels are flattened in parallel; of an exactly mirrored pair only the left one.
Result<PanelSet> make_panels(SeamMesh form, const PanelOptions& options, const Progress& progress = {});

/// The same panels of a form whose rims are cut to other parts in another way: nothing else of it differs.
PanelSet with_rim_tilts(PanelSet set, const std::map<std::pair<int, int>, double>& rim_tilt);

/// Several parts' panels as one set: numbers go on, letters are given anew, names begin with the part's. With one part
/// it is that part's own.
PanelSet join_panels(const std::vector<std::shared_ptr<const PanelSet>>& parts);

/// Several surfaces as one, numbers going on; mirror images stay known where every part knows its own.
SeamMesh join_forms(const std::vector<const SeamMesh*>& parts);

/// A, B ... Z, AA, AB ...
std::string letter_of(int index);

}  // namespace awl
