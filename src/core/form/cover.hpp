#pragma once
#include "core/form/dial.hpp"

namespace awl {

/// Which face of the part below it lies on.
enum class CoverFace { outside, inside };
/// How much of it: everything, or only a hat's brim, to double it.
enum class CoverOver { all, brim };

/// A skin over another part: fabric over foam, thermoplastic over a visor, a brim's second layer, a lining. Its outline
/// follows the face it lies on, so that it is larger (or smaller) than the part below by what that part's thickness
/// asks.
struct CoverSpec {
  CoverFace face = CoverFace::outside;
  CoverOver over = CoverOver::all;
  double gap_mm = 0.0;  ///< between both: wadding, or a thick glue
  double wrap_mm =
      12.0;  ///< folded round the free edges onto the other face, beyond the edge's own thickness; 0: cut flush
  bool operator==(const CoverSpec&) const = default;
};
std::vector<Dial> dials_of(CoverSpec& spec);

}  // namespace awl
