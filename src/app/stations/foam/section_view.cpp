#include "app/stations/foam/section_view.hpp"

#include <QPainter>
#include <QPainterPath>
#include <QtMath>

namespace awl {

SectionView::SectionView(QWidget* parent) : QWidget(parent) {
  setObjectName(QStringLiteral("edge-section"));
  setAccessibleName(tr("The seam cut across"));
  setFixedHeight(150);
}

void SectionView::show(const std::optional<CrossSection>& section) {
  m_section = section;
  m_times = 2;
  if (section) {
    Vec2 low = section->blade_from.cwiseMin(section->blade_to), high = section->blade_from.cwiseMax(section->blade_to);
    if (const auto& second = section->second_blade)
      low = low.cwiseMin(second->first).cwiseMin(second->second),
      high = high.cwiseMax(second->first).cwiseMax(second->second);
    for (const auto* sheet : {&section->left, &section->right})
      for (const Vec2& p : *sheet) low = low.cwiseMin(p), high = high.cwiseMax(p);
    m_middle = 0.5 * (low + high);
    // As large as fits beside the words, in whole steps, so that the scale can be said.
    const double per_mm = logicalDpiY() / 25.4, tall = (height() - 44.0) / ((high - low).y() * per_mm),
                 wide = 300.0 / ((high - low).x() * per_mm);
    m_times = std::clamp(static_cast<int>(std::min(tall, wide)), 1, 6);
  }
  update();
}

void SectionView::paintEvent(QPaintEvent*) {
  QPainter painter(this);
  painter.setRenderHint(QPainter::Antialiasing);
  const QColor ink = palette().color(QPalette::WindowText), accent(0xb4, 0x4a, 0x18);
  if (!m_section) {
    painter.setPen(ink);
    painter.drawText(rect(), Qt::AlignCenter, tr("Choose a seam to see it cut across."));
    return;
  }
  const double scale = m_times * logicalDpiY() / 25.4;
  const auto at = [&](const Vec2& p) {
    return QPointF(
        0.5 * width() + scale * (p.x() - m_middle.x()), 0.5 * height() + 10.0 - scale * (p.y() - m_middle.y()));
  };
  const auto shape = [&](const std::vector<Vec2>& line) {
    QPainterPath path;
    for (std::size_t i = 0; i < line.size(); ++i) i == 0 ? path.moveTo(at(line[i])) : path.lineTo(at(line[i]));
    path.closeSubpath();
    return path;
  };
  QColor sheet = palette().color(QPalette::Mid), under = palette().color(QPalette::Midlight);
  for (const auto* line : {&m_section->left, &m_section->right}) {
    painter.fillPath(shape(*line), sheet);
    painter.strokePath(shape(*line), QPen(ink, 1.4));
  }
  for (const auto& other : m_section->others) {
    painter.fillPath(shape(other), under);
    painter.strokePath(shape(other), QPen(ink, 1.0));
  }
  painter.setPen(QPen(accent, 2.2, Qt::DashLine));
  painter.drawLine(at(m_section->blade_from), at(m_section->blade_to));
  if (const auto& second = m_section->second_blade) {
    painter.drawLine(at(second->first), at(second->second));
    painter.setPen(accent);
    // In the order they are cut.
    painter.drawText(
        QRectF(at(m_section->blade_from) - QPointF(24, 14), QSizeF(20, 20)), Qt::AlignCenter, QStringLiteral("1"));
    painter.drawText(QRectF(at(second->first) - QPointF(10, 21), QSizeF(20, 20)), Qt::AlignCenter, QStringLiteral("2"));
  } else {
    painter.setPen(accent);
    painter.drawText(QRectF(at(m_section->blade_from) - QPointF(64, 22), QSizeF(128, 20)), Qt::AlignCenter,
        tr("blade %1\u00b0").arg(qAbs(qRound(m_section->tilt_deg))));
  }
  painter.setPen(ink);
  painter.drawText(QRectF(4, 2, width() - 8, 18), Qt::AlignLeft, tr("outside"));
  painter.drawText(QRectF(4, height() - 20, width() - 8, 18), Qt::AlignLeft, tr("inside"));
  painter.drawText(QRectF(4, height() - 20, width() - 8, 18), Qt::AlignRight,
      m_times == 1 ? tr("true size") : tr("%1 times true size").arg(m_times));
}

}  // namespace awl
