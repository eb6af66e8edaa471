#pragma once
#include <QPainter>
#include <QWidget>

namespace awl {

/// Workshop at daylight, or the same bench in the evening; `points` is the base size of the type (11 or 14).
void applyTheme(bool dark, int points);

/// Nothing moves by itself: what would play is shown in a few still pictures. Also where the desktop asks for it.
void setStill(bool still);
bool isStill();

/// The frame of a view that paints itself, while the keys go to it.
void paintFocusFrame(QPainter& painter, const QWidget& view);

}  // namespace awl
