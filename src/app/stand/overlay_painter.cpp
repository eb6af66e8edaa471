#include <QPainter>
#include <QPainterPath>
#include <cmath>

#include "app/stand/ramp.hpp"
#include "app/stand/stand_view.hpp"
#include "core/base/numbers.hpp"
#include "print/text.hpp"

namespace awl {

namespace {

/// One straight stretch of a seam: there are thousands.
bool isStretch(const StandOverlay::Line& line) {
  return line.ink == StandOverlay::Ink::seam && line.points.size() == 2 && !line.straight && line.measure < 0;
}

}  // namespace

/// The picture lies over the form, faintly, true to size at the middle of the head.
void StandView::paintBackdrop(QPainter& painter) {
  if (m_backdrop.isNull()) return;
  const double mm = m_camera.distance * std::tan(0.5 * m_camera.field) * 2.0 / height();
  const double scale = m_backdropMmPerPixel / mm;
  const QPointF middle = onWindow(Vec3f::Zero());
  painter.save();
  painter.setOpacity(m_backdropStrength);
  painter.setRenderHint(QPainter::SmoothPixmapTransform);
  painter.drawImage(QRectF(middle.x() - scale * m_backdropOrigin.x(), middle.y() - scale * m_backdropOrigin.y(),
                        scale * m_backdrop.width(), scale * m_backdrop.height()),
      m_backdrop);
  painter.restore();
}

void StandView::paintGrips(QPainter& painter) {
  for (int i = 0; i < static_cast<int>(m_scene.overlay.grips.size()); ++i) {
    const auto& grip = m_scene.overlay.grips[i];
    const QPointF at = onWindow(grip.at);
    QPointF way = onWindow(grip.at + 30.0f * grip.along.normalized()) - at;
    const double length = std::hypot(way.x(), way.y());
    const bool held = m_grip >= 0 && m_held.dial == grip.dial;
    // One behind the part can be reached, but is not taken for one in front.
    constexpr double kBehind = 0.3;
    constexpr float kUnderDetailsMm = 45.0f;  // what only fur or plumes cover is in front
    painter.setOpacity(held || m_raster.visible(grip.at, kUnderDetailsMm) ? 1.0 : kBehind);
    const QColor fill = held ? QColor(0xf2, 0xc1, 0x4e) : QColor(0x1f, 0x6f, 0x8b);
    if (grip.free) {
      if (!held && !m_raster.visible(grip.at, 6.0f)) continue;
      painter.setPen(QPen(QColor(0xfb, 0xf7, 0xec), 1.4));
      painter.setBrush(held ? fill : QColor(0xd9, 0x5b, 0x1f));
      painter.drawEllipse(at, 5.5, 5.5);
    } else if (length > 4.0) {
      way /= length;
      painter.setPen(QPen(fill, 2.0));
      const double reach = grip.small ? 11.0 : 17.0;
      painter.drawLine(at - reach * way, at + reach * way);
    }
    painter.setPen(QPen(QColor(0xfb, 0xf7, 0xec), 1.6));
    painter.setBrush(fill);
    const double r = grip.small && !held ? 5.0 : 8.0;
    if (!grip.free)
      painter.drawPolygon(QPolygonF{at + QPointF(0, -r), at + QPointF(r, 0), at + QPointF(0, r), at + QPointF(-r, 0)});
    if (!held || m_gripText.isEmpty()) continue;
    const QRectF box(at.x() + 14, at.y() - 30, painter.fontMetrics().horizontalAdvance(m_gripText) + 18,
        painter.fontMetrics().height() + 8);
    painter.setPen(QPen(QColor(0x2a, 0x24, 0x1c), 1.2));
    painter.setBrush(QColor(0xff, 0xf4, 0xd6));
    painter.drawRoundedRect(box, 4, 4);
    painter.drawText(box, Qt::AlignCenter, m_gripText);
  }
  painter.setOpacity(1.0);
}

void StandView::paintStretches(QPainter& painter) {
  QVector<QLineF> seen;
  for (const auto& line : m_scene.overlay.lines)
    if (isStretch(line) && m_raster.visible(0.5f * (line.points[0] + line.points[1]), 3.0f))
      seen.push_back({onWindow(line.points[0]), onWindow(line.points[1])});
  painter.setPen(QPen(ink(), 1.6, Qt::SolidLine, Qt::FlatCap, Qt::RoundJoin));
  painter.drawLines(seen);
}

void StandView::paintLine(QPainter& painter, const StandOverlay::Line& line) {
  using Ink = StandOverlay::Ink;
  const bool tape = line.ink == Ink::tape || line.ink == Ink::guess || line.ink == Ink::lit;
  QColor colour = ink();
  if (line.ink == Ink::tape) colour = QColor(0xe0, 0xa9, 0x1e);
  if (line.ink == Ink::guess) colour = QColor(0xcf, 0xc8, 0xb8);
  if (line.ink == Ink::lit) colour = QColor(0xd9, 0x5b, 0x1f);
  const double width = line.ink == Ink::lit ? 4.5
      : tape                                ? 3.2
      : line.ink == Ink::contour            ? 0.7
      : line.ink == Ink::feature            ? 2.2
                                            : 1.6;
  if (line.ink == Ink::feature) colour = QColor(0x1f, 0x6f, 0x8b);
  if (line.ink == Ink::pencil) colour = QColor(0x6b, 0x6f, 0x78);
  QPolygonF drawn;
  QPainterPath seen, hidden;
  for (std::size_t i = 0; i + 1 < line.points.size(); ++i) {
    const bool visible = m_raster.visible(0.5f * (line.points[i] + line.points[i + 1]), tape ? 4.0f : 3.0f);
    if (!visible && !line.straight) continue;
    QPainterPath& path = visible ? seen : hidden;
    const QPointF from = onWindow(line.points[i]), to = onWindow(line.points[i + 1]);
    if (path.isEmpty() || path.currentPosition() != from) path.moveTo(from);
    path.lineTo(to);
    drawn << from << to;
  }
  painter.setBrush(Qt::NoBrush);
  if (tape) {
    painter.strokePath(seen, QPen(QColor(0x2a, 0x24, 0x1c), width + 1.8, Qt::SolidLine, Qt::FlatCap));
    QPen dashed(colour, 0.6 * width, Qt::CustomDashLine, Qt::FlatCap);
    dashed.setDashPattern({2.0, 2.0});
    painter.strokePath(hidden, dashed);
  }
  painter.strokePath(
      seen, QPen(colour, width, line.ink == Ink::guess ? Qt::DashLine : Qt::SolidLine, Qt::FlatCap, Qt::RoundJoin));
  if (line.straight) {
    painter.setBrush(colour);
    painter.setPen(QPen(QColor(0x2a, 0x24, 0x1c), 1.0));
    for (const Vec3f& end : {line.points.front(), line.points.back()}) painter.drawEllipse(onWindow(end), 4, 4);
  }
  if (line.measure >= 0) m_spots.push_back({line.measure, {}, drawn});
}

void StandView::paintWords(QPainter& painter) {
  for (const auto& word : m_scene.overlay.words) {
    if (!m_raster.visible(word.at, word.dot ? 4.0f : 3.0f)) continue;
    const QPointF at = onWindow(word.at);
    painter.setBrush(
        word.owner == m_options.owner_lit && !word.dot ? QColor(0xf2, 0xc1, 0x4e) : QColor(0xfb, 0xf7, 0xec));
    painter.setPen(QPen(QColor(0x2a, 0x24, 0x1c), 1.2));
    if (!word.dot) {
      painter.drawEllipse(at, 12, 12);
      painter.drawText(QRectF(at.x() - 14, at.y() - 14, 28, 28), Qt::AlignCenter, QString::fromStdString(word.text));
      continue;
    }
    painter.drawEllipse(at, 3.2, 3.2);
    QFont small = font();
    small.setPointSizeF(0.78 * font().pointSizeF());
    painter.setFont(small);
    QPainterPath text;
    text.addText(at + QPointF(6, 4), small, QString::fromStdString(word.text));
    painter.strokePath(text, QPen(QColor(0xfb, 0xf7, 0xec, 200), 3));
    painter.fillPath(text, QColor(0x2a, 0x24, 0x1c));
  }
}

/// Values in a column on each side, in the order of the places they belong to, so that no leaders cross.
void StandView::paintCallouts(QPainter& painter) {
  struct Set {
    QPointF anchor;
    QString text;
    int measure;
    bool lit;
  };
  std::vector<Set> columns[2];
  const double middle = onWindow(m_camera.target).x();
  for (const auto& callout : m_scene.overlay.callouts) {
    const auto& line = m_scene.overlay.lines[callout.line];
    std::optional<QPointF> left, right;
    for (const Vec3f& p : line.points) {
      if (!line.straight && !m_raster.visible(p, 4.0f)) continue;
      const QPointF at = onWindow(p);
      if (!left || at.x() < left->x()) left = at;
      if (!right || at.x() > right->x()) right = at;
    }
    if (!left) continue;
    const bool on_left = middle - left->x() > right->x() - middle
        ? true
        : columns[0].size() < columns[1].size() && std::abs(middle - left->x() - (right->x() - middle)) < 12.0;
    columns[on_left ? 0 : 1].push_back({on_left ? *left : *right, QString::fromStdString(callout.text), line.measure,
        line.ink == StandOverlay::Ink::lit});
  }
  const QFontMetrics metrics = painter.fontMetrics();
  for (int side = 0; side < 2; ++side) {
    auto& column = columns[side];
    std::sort(column.begin(), column.end(), [](const Set& a, const Set& b) { return a.anchor.y() < b.anchor.y(); });
    double lowest = 8.0;
    for (std::size_t i = 0; i < column.size(); ++i) {
      const Set& s = column[i];
      const double tall = metrics.height() + 8.0, wide = metrics.horizontalAdvance(s.text) + 18.0;
      const double room = height() - 8.0 - tall - (tall + 5.0) * static_cast<double>(column.size() - 1 - i);
      const double top = std::min(std::max(lowest, s.anchor.y() - 0.5 * tall), room);
      lowest = top + tall + 5.0;
      const QRectF box(side == 0 ? 10.0 : width() - 10.0 - wide, top, wide, tall);
      painter.setPen(QPen(s.lit ? QColor(0xd9, 0x5b, 0x1f) : ink(), s.lit ? 2.0 : 1.0));
      painter.drawLine(QPointF(side == 0 ? box.right() : box.left(), box.center().y()), s.anchor);
      painter.setBrush(s.lit ? QColor(0xff, 0xe9, 0xdc) : QColor(0xfb, 0xf7, 0xec));
      painter.drawRoundedRect(box, 4, 4);
      painter.setPen(QColor(0x2a, 0x24, 0x1c));
      painter.drawText(box, Qt::AlignCenter, s.text);
      m_spots.push_back({s.measure, box, {}});
    }
  }
}

/// The ramp of a distance map, full colour at its ends, a line where the contour runs.
void StandView::paintLegend(QPainter& painter) {
  if (m_scene.overlay.legend.size() != 2) return;
  const QRectF bar(16, height() - 52, 220, 14);
  paintRamp(painter, bar);
  painter.setPen(ink());
  const QRectF words(bar.left(), bar.bottom() + 3, bar.width(), 24);
  painter.drawText(words, Qt::AlignLeft, qs(m_scene.overlay.legend[0]));
  painter.drawText(words, Qt::AlignRight, qs(m_scene.overlay.legend[1]));
}

void StandView::paintOverlay(QPainter& painter) {
  m_spots.clear();
  paintBackdrop(painter);
  paintStretches(painter);
  for (const auto& line : m_scene.overlay.lines)
    if (line.ink != StandOverlay::Ink::lit && !isStretch(line)) paintLine(painter, line);
  for (const auto& line : m_scene.overlay.lines)
    if (line.ink == StandOverlay::Ink::lit) paintLine(painter, line);
  QFont bold = painter.font();
  const QFont plain = bold;
  bold.setBold(true);
  painter.setFont(bold);
  paintWords(painter);
  painter.setFont(plain);
  paintCallouts(painter);
  paintLegend(painter);
  painter.setFont(bold);
  paintGrips(painter);
  if (!m_renewing) return;
  const QString text = tr("being renewed");
  const QRectF tag(12, height() - 40, painter.fontMetrics().horizontalAdvance(text) + 24, 28);
  painter.setPen(Qt::NoPen);
  painter.setBrush(QColor(0x2a, 0x24, 0x1c, 190));
  painter.drawRoundedRect(tag, 6, 6);
  painter.setPen(QColor(0xfb, 0xf7, 0xec));
  painter.drawText(tag, Qt::AlignCenter, text);
}

}  // namespace awl
