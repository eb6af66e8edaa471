#pragma once
#include "core/geom/solid.hpp"
#include "core/make/way.hpp"

namespace awl {

struct CarveOptions {
  OwnAxes axes;  ///< of the block; own_axes() of the body, or upright
  double spare_mm = 2.0;
  std::vector<double> heights_mm{100.0};  ///< thicknesses the block is glued up from, if one is not enough
};

/// Front and side templates for one block, and how its foot is cut to sit.
struct CarvePlan {
  Rings front, side;  ///< silhouettes with what is left on; front: x to the wearer's left, side: x to the back, both y
                      ///< along, as they are seen
  Vec3 block_mm = Vec3::Zero();  ///< across, along, deep
  bool has_base = false;         ///< the body has a foot: its largest border, unless it lies along the block
  double mitre_front_deg =
      0.0;  ///< how far the base leans from a square cut, seen from the front: + higher on the wearer's left
  double mitre_side_deg = 0.0;    ///< the same from the side: + higher in front
  double base_off_flat_mm = 0.0;  ///< how far the true base leaves that plane at most
  int layers = 1;                 ///< of the thickest sold that the block is glued up from
  double layer_mm = 0.0;
  double form_mm3 = 0.0, block_mm3 = 0.0;
};

/// Errors: degenerate_shape for a body thinner than 3 mm; empty_input without heights.
/// Source: docs/formulas/making.md, "carving".
Result<CarvePlan> plan_carving(const Body& body, const CarveOptions& options);

/// The two templates as pieces of card.
std::vector<Piece> carve_templates(const CarvePlan& plan, const Body& body, double card_mm);

/// What to do in which order.
std::vector<std::string> carve_steps(const CarvePlan& plan, const Body& body);

}  // namespace awl
