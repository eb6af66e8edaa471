#pragma once
#include <QPainter>

#include "core/head/measures.hpp"
#include "core/geom/mesh.hpp"

namespace awl {

/// A line on the figure's surface; hidden parts are left out unless it is `through`, then they are dashed.
struct FigureLine {
  std::vector<Vec3> points;
  QColor colour;
  double width_mm = 0.7;
  bool through = false;
};
struct FigureMark {
  Vec3 at;
  QString label;
};

/// Draws a head as a line figure seen straight from one side: outline, level sections every 15 mm, lines and marks.
///
/// The painter's unit is the millimetre; the figure is scaled to fit `box` and the scale is answered.
double paintHeadFigure(QPainter& painter, const QRectF& box, const Mesh& mesh, Side side,
    const std::vector<FigureLine>& lines, const std::vector<FigureMark>& marks);

}  // namespace awl
