#include "app/stations/fit/sight_view.hpp"

#include <QHelpEvent>
#include <QToolTip>
#include <cmath>

#include "app/widgets/theme.hpp"

namespace awl {

SightView::SightView(QWidget* parent) : QWidget(parent) {
  setObjectName(QStringLiteral("sight-map"));
  setAccessibleName(tr("What the wearer sees, as a round map"));
  setMinimumSize(150, 190);
  setFocusPolicy(Qt::StrongFocus);
}

void SightView::show(std::shared_ptr<const Worn> worn) {
  if (worn == m_worn) return;
  m_worn = std::move(worn);
  m_map = {};
  setAccessibleDescription(m_worn && m_worn->sight
          ? tr("About %1 % of the field ahead is left.").arg(std::lround(100.0 * m_worn->sight->kept))
          : QString());
  update();
}

void SightView::setDark(bool dark) {
  m_dark = dark;
  m_map = {};
  update();
}

void SightView::setTitle(const QString& title) {
  m_title = title;
  update();
}

SightMap SightView::map() const {
  const double side = std::min(width() - 12.0, height() - (isNarrow() ? 112.0 : 74.0));
  return SightMap({0.5 * (width() - side), 46.0, side, side});
}

QString SightView::wordsAt(QPointF at) const {
  const auto direction = map().directionAt(at);
  if (!direction || !m_worn || !m_worn->sight) return {};
  switch (seen_at(*m_worn->sight, *direction)) {
    case Seen::beyond:
      return tr("beyond what the bare head sees");
    case Seen::covered:
      return tr("covered");
    case Seen::one:
      return tr("seen with one eye");
    case Seen::both:
      return tr("seen with both eyes");
  }
  return {};
}

bool SightView::event(QEvent* event) {
  if (event->type() != QEvent::ToolTip) return QWidget::event(event);
  const auto* help = static_cast<QHelpEvent*>(event);
  QToolTip::showText(help->globalPos(), wordsAt(help->pos()), this);
  return true;
}

void SightView::paintEvent(QPaintEvent*) {
  QPainter painter(this);
  painter.setRenderHint(QPainter::Antialiasing);
  const QColor ink = palette().color(QPalette::WindowText);
  painter.setPen(ink);
  if (!m_worn || !m_worn->sight) {
    painter.drawText(rect().adjusted(12, 0, -12, 0), Qt::AlignCenter | Qt::TextWordWrap,
        m_worn ? tr("Nothing of this is worn before the eyes.") : tr("Being tried on\u2026"));
    return;
  }
  QFont bold = font(), small = font();
  bold.setWeight(QFont::DemiBold);
  small.setPointSizeF(std::min(13.0, font().pointSizeF() * 0.82));  // the round map needs the room
  painter.setFont(bold);
  if (isNarrow()) painter.setFont(small);
  drawFitted(painter, QRectF(2, 4, width() - 4, 20), Qt::AlignCenter,
      m_title.isEmpty() && isNarrow() ? tr("About %1 % is left").arg(std::lround(100.0 * m_worn->sight->kept))
          : m_title.isEmpty()
          ? tr("About %1 % of the field ahead is left").arg(std::lround(100.0 * m_worn->sight->kept))
          : tr("%1: about %2 %").arg(m_title).arg(std::lround(100.0 * m_worn->sight->kept)));
  if (m_map.isNull()) m_map = map().image(*m_worn->sight, size(), devicePixelRatioF(), m_dark);
  painter.drawImage(0, 0, m_map);
  painter.setFont(small);
  map().paintLabels(painter, ink);
  painter.setPen(ink);
  drawFitted(painter, QRectF(6, 26, 110, 18), Qt::AlignLeft, tr("your left"));
  drawFitted(painter, QRectF(width() - 116, 26, 110, 18), Qt::AlignRight, tr("your right"));
  SightMap::paintKey(painter, {8.0, height() - (isNarrow() ? 44.0 : 6.0)}, ink, isNarrow());
  paintFocusFrame(painter, *this);
}

}  // namespace awl
