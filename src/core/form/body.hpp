#pragma once
#include "core/form/seat.hpp"
#include "core/geom/triangulate.hpp"

namespace awl {

enum class BodyKind { ball, disc, box, turned, inflated };
/// On both sides, on the middle line with both its sides alike, or one by itself.
enum class BodySides { pair, middle, one };

/// A free-standing closed form: a ball, a disc, a box, or an outline turned about its axis or blown up.
///
/// Units: millimetres. An outline lies in the seat's frame: of a turned body x is the radius and y runs outwards, from
///        its foot to its top; of one blown up x runs to its side and y up.
struct BodySpec {
  Seat seat;
  BodyKind kind = BodyKind::ball;
  BodySides sides = BodySides::pair;
  double wide_mm = 60.0, tall_mm = 60.0, deep_mm = 60.0;  ///< across, along the seat's up, outwards
  double sunk_mm = 12.0;                                  ///< how far its foot lies below what it sits on
  int strips = 6;                                         ///< round balls and turned ones
  double rim_mm = 0.0;                                    ///< rounding of a disc's rim
  std::vector<CurvePoint> outline;                        ///< of turned and inflated ones; empty: a ready one
  bool operator==(const BodySpec&) const = default;
};
std::vector<Dial> dials_of(BodySpec& spec);
/// The outline there is, or the ready one of its kind; nothing for balls, discs and boxes.
std::vector<CurvePoint> outline_of(const BodySpec& spec);

/// The body on this wearer and host; the surface is the outer face of the foam, closed.
/// Errors: out_of_range for a dial; degenerate_shape for an outline that crosses itself or its axis, or a pair that
/// meets in the middle.
Result<Draft> draft_body(const BodySpec& spec, const Site& site);

}  // namespace awl
