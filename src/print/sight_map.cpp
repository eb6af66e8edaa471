#include "print/sight_map.hpp"

#include <QCoreApplication>
#include <cmath>

#include "core/base/numbers.hpp"

namespace awl {
namespace {

struct Shades {
  QRgb both, one, covered, stroke, fine;
};
Shades shades(bool dark) {
  if (dark)
    return {qRgb(0xf0, 0xe6, 0xcc), qRgb(0xb9, 0xa9, 0x83), qRgb(0x2b, 0x30, 0x35), qRgb(0x40, 0x48, 0x50),
        qRgb(0x8f, 0x82, 0x62)};
  return {qRgb(0xff, 0xf8, 0xe4), qRgb(0xe6, 0xd3, 0xa2), qRgb(0x4a, 0x55, 0x5c), qRgb(0x64, 0x71, 0x79),
      qRgb(0xc6, 0xae, 0x76)};
}

QString spoken(const char* text) { return QCoreApplication::translate("SightMap", text); }

}  // namespace

Seen seen_at(const Sight& s, const Vec3& direction) {
  const int cell = s.grid.cell(direction);
  const bool open = s.eyes[0].ahead.open[cell] || s.eyes[1].ahead.open[cell];
  const int eyes = (s.eyes[0].ahead.through[cell] >= s.least_through ? 1 : 0) +
      (s.eyes[1].ahead.through[cell] >= s.least_through ? 1 : 0);
  if (!open && eyes == 0) return Seen::beyond;
  return eyes == 2 ? Seen::both : eyes == 1 ? Seen::one : Seen::covered;
}

std::optional<Vec3> SightMap::directionAt(QPointF at) const {
  const double x = (at.x() - m_circle.center().x()) / (0.5 * m_circle.width()),
               y = (m_circle.center().y() - at.y()) / (0.5 * m_circle.height());
  const double off = std::hypot(x, y);
  if (off > 1.0) return std::nullopt;
  const double angle = radians(off * kMostDeg), m = std::atan2(y, -x);
  return Vec3(std::sin(angle) * std::cos(m), std::sin(angle) * std::sin(m), std::cos(angle));
}

QPointF SightMap::placeOf(double az_deg, double el_deg) const {
  const double az = radians(az_deg), el = radians(el_deg);
  const Vec3 d(std::cos(el) * std::sin(az), std::sin(el), std::cos(el) * std::cos(az));
  const double off = degrees(std::acos(std::clamp(d.z(), -1.0, 1.0))) / kMostDeg, m = std::atan2(d.y(), d.x());
  return m_circle.center() + 0.5 * m_circle.width() * off * QPointF(-std::cos(m), -std::sin(m));
}

QImage SightMap::image(const Sight& sight, QSize size, double ratio, bool dark) const {
  QImage map(size * ratio, QImage::Format_ARGB32_Premultiplied);
  map.setDevicePixelRatio(ratio);
  map.fill(Qt::transparent);
  const Shades shade = shades(dark);
  const int wide = std::max(4, static_cast<int>(8 * ratio)), narrow = std::max(3, static_cast<int>(6 * ratio));
  for (int y = 0; y < map.height(); ++y) {
    auto* line = reinterpret_cast<QRgb*>(map.scanLine(y));
    for (int x = 0; x < map.width(); ++x) {
      const auto d = directionAt({(x + 0.5) / ratio, (y + 0.5) / ratio});
      if (!d) continue;
      switch (seen_at(sight, *d)) {
        case Seen::beyond:
          break;
        case Seen::covered:
          line[x] = (x + y) % wide < std::max(1.0, ratio) ? shade.stroke : shade.covered;
          break;
        case Seen::one:
          line[x] = (x - y + 60000) % narrow < std::max(1.0, ratio) ? shade.fine : shade.one;
          break;
        case Seen::both:
          line[x] = shade.both;
          break;
      }
    }
  }
  return map;
}

void SightMap::paintLabels(QPainter& painter, const QColor& ink) const {
  QColor faint = ink;
  faint.setAlpha(110);
  const double unit = m_circle.width() / 300.0;
  painter.setPen(QPen(faint, unit, Qt::DotLine));
  painter.setBrush(Qt::NoBrush);
  for (const double deg : {30.0, 60.0, 90.0})
    painter.drawEllipse(
        m_circle.center(), 0.5 * m_circle.width() * deg / kMostDeg, 0.5 * m_circle.height() * deg / kMostDeg);
  painter.setPen(QPen(ink, 1.4 * unit));
  const QPointF middle = m_circle.center();
  painter.drawLine(middle - QPointF(6 * unit, 0), middle + QPointF(6 * unit, 0));
  painter.drawLine(middle - QPointF(0, 6 * unit), middle + QPointF(0, 6 * unit));
  // On a bit of paper each, since what lies below may be dark.
  const double tall = painter.fontMetrics().height();
  for (const double deg : {30.0, 60.0, 90.0}) {
    const QString words = spoken("%1\u00b0").arg(deg);
    const double wide = painter.fontMetrics().horizontalAdvance(words) + 0.4 * tall;
    const QRectF box(placeOf(-deg, 0.0) - QPointF(0.5 * wide, 0.5 * tall), QSizeF(wide, tall));
    painter.setPen(Qt::NoPen);
    painter.setBrush(QColor(0xf6, 0xf1, 0xe4, 215));
    painter.drawRoundedRect(box, 0.2 * tall, 0.2 * tall);
    painter.setPen(QColor(0x1d, 0x27, 0x33));
    painter.drawText(box, Qt::AlignCenter, words);
  }
}

void SightMap::paintKey(QPainter& painter, QPointF at, const QColor& ink, bool below) {
  const Shades shade = shades(false);
  const double tall = 0.75 * painter.fontMetrics().height();
  for (const auto& [words, seen] : {std::pair{spoken("both eyes"), Seen::both}, {spoken("one eye"), Seen::one},
           {spoken("covered"), Seen::covered}}) {
    const QRectF box(at.x(), at.y() - tall, 1.2 * tall, tall);
    painter.fillRect(box,
        QColor::fromRgb(seen == Seen::both ? shade.both
                : seen == Seen::one        ? shade.one
                                           : shade.covered));
    if (seen != Seen::both)
      painter.fillRect(box,
          QBrush(QColor::fromRgb(seen == Seen::one ? shade.fine : shade.stroke),
              seen == Seen::one ? Qt::FDiagPattern : Qt::BDiagPattern));
    painter.setPen(QPen(ink, 0.08 * tall));
    painter.setBrush(Qt::NoBrush);
    painter.drawRect(box);
    painter.drawText(at + QPointF(1.6 * tall, -0.1 * tall), words);
    if (below)
      at.ry() += 1.5 * tall;
    else
      at.rx() += 2.6 * tall + painter.fontMetrics().horizontalAdvance(words) + tall;
  }
}

}  // namespace awl
