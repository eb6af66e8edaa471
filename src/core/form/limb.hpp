#pragma once
#include "core/form/seat.hpp"

namespace awl {

/// A guard round the forearm: a true cone from wrist to elbow side, open along one seam.
struct LimbSpec {
  double length_mm = 190.0;
  double ease_mm = 10.0;    ///< sleeve and padding, all round
  double flare_mm = 12.0;   ///< wider at the elbow end, beyond the forearm
  double overlap_mm = 0.0;  ///< 0: edges meet; else the gap left for lacing (-) or the overlap (+)
  bool operator==(const LimbSpec&) const = default;
};
std::vector<Dial> dials_of(LimbSpec& spec);

/// What the arm measures, millimetres round.
struct LimbMeasures {
  double wrist_mm = 0.0, forearm_mm = 0.0, hand_mm = 0.0;  ///< 0: not measured, an estimate is used
  bool operator==(const LimbMeasures&) const = default;
};

/// The pair of guards, shown beside the head. The surface is the inner face.
///
/// Errors: out_of_range for a dial. The remark "form.slip-on" says whether the hand passes the wrist end, with both
/// girths.
Result<Draft> draft_limb(const LimbSpec& spec, const LimbMeasures& arm, const Headform& head);

}  // namespace awl
