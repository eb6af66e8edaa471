#pragma once
#include "core/geom/curve.hpp"

namespace awl {

struct CurveFitOptions {
  double off_mm = 0.25;       ///< points may lie so far off
  double shortest_mm = 12.0;  ///< no cubic is halved to less
  int fewest = 3;             ///< points a cubic spans at least
};

/// Cubics through rows of points, all over one parameter and with the same breaks, so that each lies beside the others
/// as the points did: the two sides of a seam. C1 within; the ends are held.
struct FittedRows {
  std::vector<double> breaks;               ///< of the parameter: the mean length of the rows' chords
  std::vector<double> at;                   ///< of every point
  std::vector<std::vector<Vec2>> knots;     ///< by row and break
  std::vector<std::vector<Vec2>> tangents;  ///< change with the parameter
  bool closed = false;                      ///< the last break is the first one again
  double worst_mm = 0.0;                    ///< farthest a point lies off at its own parameter
  int worst = -1;                           ///< and which
  Cubic cubic(std::size_t row, std::size_t span) const;
  Curve curve(std::size_t row) const;
};

/// Least squares, halved where a point lies too far off, for as long as that may be. A touch of stiffness settles what
/// few points leave open. `closed`: rows end where they begin, without a corner; that point is not given twice.
/// Contract: rows alike in number, two points at least (closed: four), no two in a row alike.
/// Source: docs/formulas/outlines.md (after schneider1990).
FittedRows fit_rows(const std::vector<std::vector<Vec2>>& rows, bool closed, const CurveFitOptions& options = {});

/// A closed outline as cubics from corner to corner; corners turn by more than `corner_deg` over one chord and over
/// three.
Curve fit_outline(const std::vector<Vec2>& outline, double corner_deg, const CurveFitOptions& options);

/// By how much a line of points turns at one of them, radians, over so many chords each side; `closed`: it goes round.
double turn_at(const std::vector<Vec2>& points, bool closed, std::size_t i, int chords);

}  // namespace awl
