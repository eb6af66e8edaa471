#pragma once
#include "core/seam/panels.hpp"

namespace awl {

struct Trued;

/// The flat outlines of one part corrected so that it comes out nearer to its form: how far every vertex of every
/// border moves. Made for the pieces it was made of; others are left as they are, with a sentence.
struct Correction {
  struct OfPanel {
    std::string panel;
    double round_mm = 0.0;    ///< how long its border is, uncorrected: whether it is still the same piece
    std::vector<Vec2> moves;  ///< of its border's vertices, in its order
    bool operator==(const OfPanel&) const = default;
  };
  int part = 1;
  bool closer = false;                     ///< outlines may move as far as it takes
  double before_mm = 0.0, after_mm = 0.0;  ///< 95 in 100 of the surface within, before and after, as it was told
  std::vector<OfPanel> panels;             ///< of mirrored pairs the left ones
  bool operator==(const Correction&) const = default;
};

/// What was found, for a set of a part.
Correction correction_of(const PanelSet& set, const Trued& trued, int part, bool closer);

/// Errors: unknown_name, at "corrections/PART", if the pieces are not those it was made for; out_of_range where a
/// panel would turn over or cross itself.
Result<PanelSet> corrected(PanelSet set, const Correction& correction);

}  // namespace awl
