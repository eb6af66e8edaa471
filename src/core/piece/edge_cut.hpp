#pragma once
#include <optional>
#include <string>
#include <vector>

#include "core/base/result.hpp"
#include "core/form/dial.hpp"
#include "core/geom/mesh.hpp"

namespace awl {

/// How the two sides of a seam are cut and held together.
enum class EdgeCut { tilted, square, trench, flap, overlap, laced, taped, two_cuts };
inline constexpr int kEdgeCuts = 8;
const char* name_of(EdgeCut cut);   ///< "tilted", "square", "trench", "flap", "overlap", "laced", "taped", "two-cuts"
const char* words_of(EdgeCut cut);  ///< what it is, at the bench
Result<EdgeCut> edge_cut_from(const std::string& name);
/// Whether both sheets end in the plane between them.
inline bool is_tilted(EdgeCut cut) { return cut == EdgeCut::tilted || cut == EdgeCut::two_cuts; }

/// What a maker chose for one seam of a part; all others follow the rule of edge_rule.
struct SeamCut {
  int part = 0;
  std::string seam;
  EdgeCut cut = EdgeCut::tilted;
  double margin_mm = 12.0;  ///< of a flap or an overlap
  bool operator==(const SeamCut&) const = default;
};

/// What is added round every piece, or taken off it. Each is off at 0.
struct Margins {
  double seam_mm = 0.0;  ///< along seams: fabric and leather
  double rim_mm = 0.0;   ///< along free edges: to fold over, or to trim a skin
  double hole_mm = 0.0;  ///< round openings, inwards: a lens's hold
  double pen_mm = 0.0;   ///< the marker's width: the line lies outside the card, the cut inside the line
  double kerf_mm = 0.0;  ///< what the blade or the machine takes away
  bool operator==(const Margins&) const = default;
};

std::vector<Dial> dials_of(Margins& margins);

/// A turn across a seam that is not worth setting the blade for, by the sheet's thickness.
///
/// Units: degrees of tilt, half the turn. A square cut leaves a gap of 2 t tan(tilt) on the outside; below 0.8 mm
/// (workshop
///        value) the glue fills it. Source: docs/formulas/edges.md (1).
double least_tilt_deg(double thickness_mm);

/// A seam cut across, true to scale: both sheets as closed lines, the blade's path, and what it comes to.
///
/// Frame: x across the seam, y outwards, the seam's inner line at the origin; millimetres.
struct CrossSection {
  std::vector<Vec2> left, right;                            ///< the two sheets
  std::vector<std::vector<Vec2>> others;                    ///< tape, clips, backing strip, lacing
  Vec2 blade_from = Vec2::Zero(), blade_to = Vec2::Zero();  ///< the knife in the left sheet
  std::optional<std::pair<Vec2, Vec2>> second_blade;        ///< of two cuts the one that takes the wedge off
  double tilt_deg = 0.0;         ///< of the blade from square, towards the piece for an inner face longer
  double outer_longer_mm = 0.0;  ///< the outer face against the inner, at this cut; negative: shorter
  double gap_mm = 0.0;           ///< left open on the side away from the contact, to be filled
  std::string words;
};

/// Errors: out_of_range for a thickness outside 0.2 to 60 mm or a turn of more than 150 degrees.
Result<CrossSection> cross_section(EdgeCut cut, double thickness_mm, double turn_deg, double margin_mm = 12.0);

/// How far outside the line the first of two cuts stands: the outer face of a ridge, t tan(tilt); none at a furrow.
/// Units: millimetres; degrees of tilt, 75 at most.
double first_cut_out_mm(double thickness_mm, double tilt_deg);

/// Slots on the inner face that let a sheet bend round a radius by an angle.
struct SlotPlan {
  int count = 0;
  double depth_mm = 0.0, wide_mm = 0.0, apart_mm = 0.0;  ///< apart: from middle to middle along the inner face
  double left_mm = 0.0;                                  ///< of sheet under each slot
  double strain = 0.0;                                   ///< of the outer fibre of what is left between slots
  bool needed = true;                                    ///< false if it bends so without
  std::string words;
};

/// How to bend a sheet: inside radius and angle, what the outer fibre bears.
///
/// Errors: out_of_range (radius not positive, angle outside 1 to 350 degrees); no_solution with the smallest radius
/// that goes. Source: docs/formulas/edges.md (2)-(4).
Result<SlotPlan> plan_slots(double thickness_mm, double radius_mm, double angle_deg, double bears_strain);

/// Smallest inside radius a sheet takes without slots: R >= t/2 (1/e - 1). Source: docs/formulas/edges.md (2).
double least_bend_radius_mm(double thickness_mm, double bears_strain);

}  // namespace awl
