#pragma once
#include <QPainter>
#include <QWidget>

namespace awl {

/// Workshop at daylight, or the same bench in the evening; the size of the type in hundredths of the usual.
void applyTheme(bool dark, int type_percent);

/// Gives a widget type that is so many times as large as the usual, whatever size that is or comes to be.
void setTypeTimes(QWidget& widget, double times, QFont::Weight weight);
/// Keeps a list between so many pixels high in the usual type, and in any other as many rows: the heights grow with it.
void setTypeHeight(QWidget& widget, int least, int most);

/// Nothing moves by itself: what would play is shown in a few still pictures. Also where the desktop asks for it.
void setStill(bool still);
bool isStill();

/// Words of a view that paints itself, in the painter's font or, where its size has no room there, as large as has.
void drawFitted(QPainter& painter, const QRectF& in, int flags, const QString& words);
/// How many times larger than usual a widget's type is.
double typeScale(const QWidget& widget);

/// The frame of a view that paints itself, while the keys go to it.
void paintFocusFrame(QPainter& painter, const QWidget& view);

}  // namespace awl
