#pragma once
#include <QColor>
#include <QPainter>

#include "core/piece/drawing.hpp"

namespace awl {

/// Colours and widths of a painted drawing; widths in millimetres.
struct DrawingStyle {
  QColor cut{0x1d, 0x27, 0x33}, ticks{0x1d, 0x27, 0x33}, text{0x1d, 0x27, 0x33}, tilt{0x8a, 0x3b, 0x12},
      sheet{0x9a, 0x93, 0x84}, traces{0x2f, 0x6b, 0x5e};
  QColor fill = Qt::transparent;  ///< inside of cut outlines
  double cut_mm = 0.35, thin_mm = 0.22;
  double least_text_mm = 0.0;  ///< smaller capitals are left out: on a screen they would be a smudge
};

/// Paints a drawing; the painter's unit is the millimetre and its y runs downwards: drawing (x, y) is painted at (x,
/// -y).
void paintDrawing(QPainter& painter, const Drawing& drawing, const DrawingStyle& style = {});

/// One text centred at a place, capital height in painter units.
void paintText(QPainter& painter, const QString& text, QPointF centre, double capitalHeight, double angleDeg,
    const QColor& colour, bool bold = false);

/// Width of a text at a capital height, in the same units.
double textWidth(const QString& text, double capitalHeight, bool bold = false);

}  // namespace awl
