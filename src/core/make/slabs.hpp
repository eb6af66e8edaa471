#pragma once
#include "core/make/way.hpp"
#include "core/geom/solid.hpp"

namespace awl {

struct SlabOptions {
  Vec3 up = Vec3::UnitY();
  Vec3 front = Vec3::UnitZ();  ///< shown as the front of every slab; what of it lies in the slab counts
  std::vector<double> heights_mm{12.0, 25.0, 38.0};
  double wall_mm = 0.0;  ///< 0: solid
  double spare_mm = 2.0;
  bool open_below = true;  ///< a hollow runs out at the bottom
};

/// One slab of a stack, seen from above, cut upright with the knife.
struct Slab {
  double from_mm = 0.0, thickness_mm = 0.0;
  Rings cut;           ///< all the form fills in this slab, with what is left on: outer rings and holes
  Rings above, below;  ///< sections of the form at its upper and lower face
  double upper_trim_mm = 0.0, lower_trim_mm = 0.0;  ///< how much is carved off at most at either face
  double taper_deg = 0.0;                           ///< the flattest slope that leaves
};

/// A form cut into slabs to be stacked, from the bottom upwards.
struct SlabPlan {
  std::vector<Slab> slabs;
  PlaneFrame frame;  ///< of the slabs: origin on the lowest point, v to the front
  double height_mm = 0.0;
  double stacked_mm = 0.0;  ///< heights of the slabs together
  double form_mm3 = 0.0, slabs_mm3 = 0.0;
  double glue_mm2 = 0.0;  ///< of one face of all glue planes
};

/// The stack with the least waste: which slabs, from which height to which, the outline of each, its hollow and how
/// much is carved off.
///
/// Shape:  waste is what of the slabs lies outside the form; every glue plane counts like 1.5 mm more of slab (workshop
/// value).
///         Found by dynamic programming over heights in millimetres on a raster; outlines are exact to 1/1000 mm.
/// Errors: empty_input without heights; degenerate_shape for a form lower than 3 mm; out_of_range above 1500 mm;
/// cancelled. Source: docs/formulas/making.md, "slabs".
Result<SlabPlan> plan_slabs(const Mesh& solid, const SlabOptions& options, const Progress& progress = {});

/// The slabs as pieces, numbered from the bottom, the next one's outline drawn on each.
std::vector<Piece> slab_pieces(const SlabPlan& plan, const Body& body, const std::string& stuff);

}  // namespace awl
