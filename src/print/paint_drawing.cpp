#include "print/paint_drawing.hpp"

#include <QFontMetricsF>
#include <QPainterPath>

#include "core/base/numbers.hpp"
#include "print/text.hpp"

namespace awl {
namespace {

constexpr double kFontPixels = 100.0;

QFont drawingFont(bool bold) {
  QFont font(QStringLiteral("Inter"));
  font.setPixelSize(static_cast<int>(kFontPixels));
  font.setWeight(bold ? QFont::Bold : QFont::Normal);
  font.setHintingPreference(QFont::PreferNoHinting);
  return font;
}

QPointF down(const Vec2& p) { return {p.x(), -p.y()}; }

QPainterPath pathOf(const Mark& m) {
  QPainterPath path;
  if (!m.curve.empty()) {
    path.moveTo(down(m.curve.front().p[0]));
    for (const Cubic& c : m.curve) path.cubicTo(down(c.p[1]), down(c.p[2]), down(c.p[3]));
    if (m.closed) path.closeSubpath();
    return path;
  }
  for (std::size_t i = 0; i < m.line.size(); ++i) i == 0 ? path.moveTo(down(m.line[i])) : path.lineTo(down(m.line[i]));
  if (m.closed) path.closeSubpath();
  return path;
}

const QColor& colourOf(Layer layer, const DrawingStyle& style) {
  switch (layer) {
    case Layer::cut:
      return style.cut;
    case Layer::fold:
      return style.ticks;
    case Layer::ticks:
      return style.ticks;
    case Layer::tilt:
      return style.tilt;
    case Layer::sheet:
      return style.sheet;
    case Layer::draw:
    case Layer::drill:
      return style.traces;
    case Layer::text:
      break;
  }
  return style.text;
}

}  // namespace

void paintText(QPainter& painter, const QString& text, QPointF centre, double capitalHeight, double angleDeg,
    const QColor& colour, bool bold) {
  const QFont font = drawingFont(bold);
  const QFontMetricsF metrics(font);
  const double scale = capitalHeight / metrics.capHeight();
  QPainterPath path;
  path.addText(-0.5 * metrics.horizontalAdvance(text), 0.5 * metrics.capHeight(), font, text);
  painter.save();
  painter.translate(centre);
  painter.rotate(angleDeg);
  painter.scale(scale, scale);
  painter.fillPath(path, colour);
  painter.restore();
}

double textWidth(const QString& text, double capitalHeight, bool bold) {
  const QFontMetricsF metrics(drawingFont(bold));
  return metrics.horizontalAdvance(text) * capitalHeight / metrics.capHeight();
}

void paintDrawing(QPainter& painter, const Drawing& drawing, const DrawingStyle& style) {
  for (const Mark& m : drawing.marks) {
    const QColor& colour = colourOf(m.layer, style);
    if (m.line.empty()) {
      if (m.height_mm < style.least_text_mm) continue;
      const bool number = m.layer == Layer::text && m.height_mm > 5.5, bold = number || m.text.size() <= 2;
      // Another language's words keep within the room that was found for them.
      const QString words = qs(m.text);
      const double own = textWidth(QString::fromStdString(m.text), m.height_mm, bold),
                   said = textWidth(words, m.height_mm, bold);
      paintText(painter, words, down(m.at), m.height_mm * (said > own ? own / said : 1.0), -degrees(m.angle_rad),
          colour, bold);
      continue;
    }
    const QPainterPath path = pathOf(m);
    if (m.layer == Layer::cut && style.fill.alpha() > 0) painter.fillPath(path, style.fill);
    if (m.filled) painter.fillPath(path, colour);
    painter.strokePath(path,
        QPen(colour, m.layer == Layer::cut ? style.cut_mm : style.thin_mm,
            m.layer == Layer::fold ? Qt::DashLine : Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
  }
}

}  // namespace awl
