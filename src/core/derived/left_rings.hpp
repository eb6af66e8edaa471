#pragma once
#include <optional>
#include <string>
#include <vector>

#include "core/derived/derived.hpp"
#include "core/dress/dressed.hpp"
#include "core/stock/offcut.hpp"

namespace awl {

/// A disc of sheet that is left when the pieces are cut, or an offcut that is kept.
struct LeftDisc {
  std::string from;   ///< "the disc cut out of piece 3", "the offcut B"
  std::string stuff;  ///< its kind, as in data/materials; empty: the build's foam
  double thickness_mm = 0.0;
  double radius_mm = 0.0;
};

/// Of every hole cut out of a piece and every offcut the largest disc in it. Those under 15 mm of radius are left out.
std::vector<LeftDisc> discs_left(const std::vector<Piece>& pieces, const std::vector<Offcut>& offcuts);

/// A strip cut as a ring from what is left, as it is.
struct RingServes {
  LeftDisc from;
  double inner_mm = 0.0, outer_mm = 0.0;  ///< between these radii
  double strain = 0.0;                    ///< of its edges, laid along the strip's line
};

/// The left-over in which a strip of even or uneven turn gives least when laid along its line, if it is long enough and
/// gives no more than `most_strain`. Source: docs/formulas/dress-strips.md.
std::optional<RingServes> ring_for(
    const FlatStrip& strip, double wide_mm, double most_strain, const std::vector<LeftDisc>& left);

/// The same for every strip of a detail among the build's own pieces and its offcuts, in words; those of the sheet's
/// kind and thickness alone. Errors: unknown_name.
Result<std::vector<std::string>> rings_that_serve(
    const Build& build, const Derived& derived, const Dressed& made, const Materials& materials);

}  // namespace awl
