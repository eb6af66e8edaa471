#pragma once
#include "core/geom/curve_fit.hpp"
#include "core/seam/panels.hpp"

namespace awl {

/// How near to a curve its points are drawn, and how far apart at most.
inline constexpr double kDrawnOffMm = 0.02, kDrawnChordMm = 10.0;

/// A stretch of a panel's border from corner to corner, as a knife would run along it.
struct FairStretch {
  std::size_t first = 0, count = 0;  ///< edges of the panel's border, going round
  Curve curve;
  /// By vertex of those edges, first to last: how far along the curve it belongs. Of a seam both sides say the same.
  std::vector<double> at_mm;
};

/// The borders of one panel as curves.
struct FairPanel {
  std::vector<FairStretch> stretches;  ///< once round
  std::vector<Curve> holes;
  std::vector<Vec2> outline() const;
};

struct FairOptions {
  CurveFitOptions fit = {};
  double given_off_mm = 0.05;  ///< of plates, cut as they were drawn
  double corner_deg = 25.0;    ///< over one chord and over three: a corner of the drawing, kept
};

/// What fitting came to.
struct FairOutlines {
  std::vector<FairPanel> panels;
  int cubics = 0;
  double uneven_mm = 0.0;  ///< by how much the sides of any half of a seam's cubic differ
};

/// Cubics through the flat borders of panels, both sides of every seam fitted together and made equally long, half by
/// half of every cubic, by the least moves of knots, tangents and corners. Corners stay corners. Where a panel would
/// cross itself that did not before, it and what it is joined to keep their chords.
///
/// Contract: panels lie flat. Source: docs/formulas/outlines.md. Cost: 0.05 to 0.3 s for a hood.
FairOutlines fair_outlines(const PanelSet& set, const FairOptions& options = {});

}  // namespace awl
