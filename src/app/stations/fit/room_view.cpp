#include "app/stations/fit/room_view.hpp"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>

#include "app/widgets/theme.hpp"

namespace awl {

RoomView::RoomView(QWidget* parent) : QWidget(parent) {
  setObjectName(QStringLiteral("wearers-view"));
  setAccessibleName(tr("A room seen out of it"));
  setToolTip(tr("Drag, or use the arrow keys, to turn the head. Stairs with a handler."));
  setMinimumSize(150, 110);
  setFocusPolicy(Qt::StrongFocus);
}

void RoomView::show(std::shared_ptr<const Worn> worn) {
  if (worn == m_worn) return;
  m_worn = std::move(worn);
  if (m_worn && m_worn->sight && m_worn->sight->eye_height_mm != m_height) {
    m_height = m_worn->sight->eye_height_mm;
    m_room = makeRoom(m_height);
  }
  m_picture = m_shade = {};
  update();
}

void RoomView::look(double left_deg, double down_deg) {
  const double most = m_worn && m_worn->turning ? m_worn->turning->nod_deg : 40.0;
  m_left = std::clamp(left_deg, -70.0, 70.0), m_down = std::clamp(down_deg, -30.0, std::max(12.0, most));
  m_picture = {};
  update();
  emit looked(m_left, m_down);
}

void RoomView::paintEvent(QPaintEvent*) {
  QPainter painter(this);
  if (!m_worn || !m_worn->sight) {
    painter.drawText(rect(), Qt::AlignCenter, m_worn ? QString() : tr("Being tried on\u2026"));
    return;
  }
  if (m_shade.size() != size()) m_shade = shadeOf(*m_worn->sight, size());
  if (m_picture.size() != size()) m_picture = roomPicture(m_room, m_shade, size(), m_left, m_down);
  painter.drawImage(0, 0, m_picture);
  QFont small = font();
  small.setPointSizeF(font().pointSizeF() * 0.82);
  painter.setFont(small);
  const QString words =
      (width() < 250 ? tr("%1\u00b0, bent %2\u00b0") : tr("Turned %1\u00b0, bent %2\u00b0: stairs with a handler"))
          .arg(std::lround(m_left))
          .arg(std::lround(m_down));
  const QRectF band(0, height() - 20, width(), 20);
  painter.fillRect(band, QColor(18, 20, 24, 200));
  painter.setPen(QColor(0xf4, 0xee, 0xdd));
  drawFitted(painter, band, Qt::AlignCenter, words);
  paintFocusFrame(painter, *this);
}

void RoomView::mousePressEvent(QMouseEvent* event) {
  m_pressed = event->pos();
  m_leftThen = m_left, m_downThen = m_down;
}

void RoomView::mouseMoveEvent(QMouseEvent* event) {
  if ((event->buttons() & Qt::LeftButton) == 0) return;
  const QPoint by = event->pos() - m_pressed;
  look(m_leftThen + 0.25 * by.x(), m_downThen + 0.25 * by.y());
}

void RoomView::keyPressEvent(QKeyEvent* event) {
  constexpr double kStep = 5.0;
  switch (event->key()) {
    case Qt::Key_Left:
      return look(m_left + kStep, m_down);
    case Qt::Key_Right:
      return look(m_left - kStep, m_down);
    case Qt::Key_Up:
      return look(m_left, m_down - kStep);
    case Qt::Key_Down:
      return look(m_left, m_down + kStep);
    default:
      QWidget::keyPressEvent(event);
  }
}

}  // namespace awl
