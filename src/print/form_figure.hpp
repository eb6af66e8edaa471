#pragma once
#include <QPainter>
#include <set>

#include "core/seam/panels.hpp"

namespace awl {

/// Which panels a figure shows, and how.
struct FormFigure {
  std::set<PanelId> there;  ///< pale: already on
  std::set<PanelId> fresh;  ///< in colour: coming on now
  std::set<SeamId> seams;   ///< drawn thick
  double apart_mm = 0.0;    ///< fresh panels drawn so far off their place
};

/// Paints panels of the real form, seen from where the fresh ones show best, scaled to fit `box`; numbers of pieces by
/// panel.
///
/// Shape: triangles from back to front, shaded by how they face the eye. The painter's unit is free.
void paintFormFigure(QPainter& painter, const QRectF& box, const PanelSet& panels, const FormFigure& figure,
    const std::map<PanelId, QString>& words);

}  // namespace awl
