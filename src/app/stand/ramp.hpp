#pragma once
#include <QPainter>

#include "app/stand/raster.hpp"

namespace awl {

/// The colour ramp of strains and distances: full colour at both ends, a stroke where the contour runs.
inline void paintRamp(QPainter& painter, const QRectF& bar) {
  constexpr int kBars = 61;
  for (int i = 0; i < kBars; ++i) {
    const Vec3f c = strainColour(1.5f * (2.0f * static_cast<float>(i) / (kBars - 1) - 1.0f), 1.0f);
    painter.fillRect(QRectF(bar.left() + i * bar.width() / kBars, bar.top(), bar.width() / kBars + 1.0, bar.height()),
        QColor::fromRgbF(c.x(), c.y(), c.z()));
  }
  painter.setPen(QPen(QColor(0x26, 0x1f, 0x1a), 2));
  for (const double f : {1.0 / 6.0, 5.0 / 6.0})
    painter.drawLine(
        QPointF(bar.left() + f * bar.width(), bar.top()), QPointF(bar.left() + f * bar.width(), bar.bottom()));
}

}  // namespace awl
