#pragma once
#include "core/geom/solid.hpp"
#include "core/make/way.hpp"

namespace awl {

struct DrawnOptions {
  Vec3 pull = Vec3::UnitZ();  ///< unit, from the buck's foot to its top
  double sheet_mm = 1.5;      ///< before it is drawn
  double skirt_mm = 20.0;     ///< the buck goes on straight below the visor's edge
  double clamp_mm = 25.0;
  double least_draft_deg = 3.0;  ///< walls steeper than this stick to the buck: workshop value
};

/// What drawing a heated sheet over a buck comes to.
struct DrawnPlan {
  Vec3 pull = Vec3::UnitZ();
  double depth_mm = 0.0;            ///< of the visor, without its skirt
  double undercut_mm2 = 0.0;        ///< surface that looks away from the pull
  Vec3 undercut_at = Vec3::Zero();  ///< the middle of it
  double steep_mm2 = 0.0;           ///< surface with less draft than asked
  double least_draft_deg = 90.0;    ///< of the steepest hundredth of the surface
  Vec2 blank_mm = Vec2::Zero();     ///< sheet to cut: across the pull, the wearer's up (or front) along y
  Vec2 frame_mm = Vec2::Zero();     ///< inside of the frame
  double buck_high_mm = 0.0;
  std::vector<double> thickness_mm;  ///< per vertex of the visor
  double thinnest_mm = 0.0, mean_mm = 0.0;
  Vec3 thinnest_at = Vec3::Zero();
  Rings trim_line;  ///< the visor's edge as seen along the pull, to draw on the blank
  Mesh buck;        ///< closed: the visor's inner face, its skirt and a foot
};

/// Pull direction, undercuts, draft, blank, frame, how thin the sheet gets where, and the buck.
///
/// Shape:  the sheet touches the buck from its top downwards and what is touched moves no more; the free sheet between
/// the line
///         it touches at depth z and the frame stretches evenly: dt/t = -dS/A(z), dS the surface covered on the way
///         down by dz, A(z) the area of the free sheet. The sheet's volume is kept.
/// Errors: degenerate_shape for a surface without a border (nothing to trim), or of no extent across the pull.
/// Source: docs/formulas/making.md, "drawing a sheet", eq. (3)-(6).
Result<DrawnPlan> plan_drawing(const Mesh& visor, const DrawnOptions& options);

/// The blank as a piece, the edge to trim to drawn on it.
Piece drawn_blank(const DrawnPlan& plan, const std::string& name, const std::string& stuff, double sheet_mm);

}  // namespace awl
