#include "app/stand/stand_view.hpp"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QWheelEvent>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"

namespace awl {

StandView::StandView(QWidget* parent) : QWidget(parent) {
  setObjectName(QStringLiteral("stand"));
  setAccessibleName(tr("Stand: the form in three dimensions"));
  setMouseTracking(true);
  setFocusPolicy(Qt::StrongFocus);
  setMinimumSize(240, 240);
  setToolTip(tr("Drag to turn, middle button to shift, wheel to come nearer.\nF front, S side, B back, T top."));
  m_pool.setMaxThreadCount(1);
  m_still.setSingleShot(true);
  m_still.setInterval(90);
  connect(&m_still, &QTimer::timeout, this, [this] {
    renderNow(2);
    update();
  });
}

StandView::~StandView() {
  ++*m_bake;
  m_pool.waitForDone();
}

void StandView::show(const Derived& derived, const StandChoice& choice, double thickness_mm, double tolerance) {
  const auto old = std::move(m_scene.bodies);
  m_scene = makeStandScene(derived, choice, thickness_mm);
  // Until the new light is there, a body of the same make keeps the light it had.
  for (std::size_t b = 0; b < m_scene.bodies.size(); ++b)
    for (const StandBody& was : old)
      if (was.triangles == m_scene.bodies[b].triangles && was.colour == m_scene.bodies[b].colour) m_scene.bodies[b].light = was.light;
  m_options.tolerance = static_cast<float>(tolerance);
  bakeInBackground();
  moved();
}

void StandView::setRenewing(bool renewing) {
  m_renewing = renewing;
  update();
}

void StandView::setDark(bool dark) {
  m_options.dark = dark;
  moved();
}

void StandView::setLitPanel(int panel) {
  if (m_options.owner_lit == panel) return;
  m_options.owner_lit = panel;
  moved();
}

void StandView::look(float yaw, float pitch) {
  m_camera.yaw = yaw;
  m_camera.pitch = pitch;
  moved();
}

void StandView::moved() {
  m_dirty = true;
  m_still.start();
  update();
}

void StandView::renderNow(int scale) {
  const bool huge = width() * height() > 1400 * 1000;
  const QImage big = m_raster.render(m_scene.bodies, m_camera, huge && scale == 1 ? size() / 2 : size(), scale, m_options);
  m_image = big.size() == size() ? big : big.scaled(size(), Qt::IgnoreAspectRatio, Qt::SmoothTransformation);
  if (huge && scale == 1) m_raster.render({}, m_camera, size(), 1, m_options);
  m_dirty = false;
}

void StandView::bakeInBackground() {
  const int generation = ++*m_bake;
  m_pool.clear();
  m_pool.start([this, bodies = m_scene.bodies, generation, current = m_bake]() mutable {
    for (const int rays : {24, 96}) {
      if (!bakeLight(bodies, rays, [&] { return current->load() == generation; })) return;
      std::vector<std::vector<float>> light;
      for (const StandBody& body : bodies) light.push_back(body.light);
      QMetaObject::invokeMethod(this, [this, generation, light] {
        if (m_bake->load() != generation || light.size() != m_scene.bodies.size()) return;
        for (std::size_t b = 0; b < light.size(); ++b) m_scene.bodies[b].light = light[b];
        moved();
      }, Qt::QueuedConnection);
    }
  });
}

QImage StandView::finishedPicture() {
  ++*m_bake;
  m_pool.waitForDone();
  bakeLight(m_scene.bodies, 96, [] { return true; });
  renderNow(2);
  m_still.stop();
  return m_image;
}

int StandView::panelAt(QPoint at) {
  if (m_dirty) renderNow(1);
  const auto pick = m_raster.pick(at);
  if (pick.body < 0 || m_scene.bodies[pick.body].owner.empty()) return -1;
  return m_scene.bodies[pick.body].owner[pick.triangle];
}

void StandView::paintEvent(QPaintEvent*) {
  if (m_dirty || m_image.size() != size()) renderNow(1);
  QPainter painter(this);
  painter.drawImage(0, 0, m_image);
  painter.setRenderHint(QPainter::Antialiasing);
  paintOverlay(painter);
  if (!m_shown && !m_scene.bodies.empty()) {
    m_shown = true;
    emit firstPicture();
  }
}

void StandView::paintOverlay(QPainter& painter) {
  const float scale = static_cast<float>(m_image.width()) / std::max(1.0f, 2.0f * m_raster.project(m_camera.target).x());
  const auto window = [&](const Vec3f& p) {
    const Vec3f s = m_raster.project(p);
    return QPointF(s.x() * scale, s.y() * scale);
  };
  const QColor ink = m_options.dark ? QColor(0xe8, 0xe2, 0xd4) : QColor(0x2a, 0x24, 0x1c);
  painter.setPen(QPen(ink, 1.6, Qt::SolidLine, Qt::RoundCap));
  for (const auto& line : m_scene.overlay.lines)
    for (std::size_t i = 0; i + 1 < line.points.size(); ++i)
      if (m_raster.visible(0.5f * (line.points[i] + line.points[i + 1]), 3.0f)) painter.drawLine(window(line.points[i]), window(line.points[i + 1]));
  QFont font = painter.font();
  font.setBold(true);
  painter.setFont(font);
  for (const auto& word : m_scene.overlay.words) {
    if (!m_raster.visible(word.at, 3.0f)) continue;
    const QPointF at = window(word.at);
    painter.setBrush(word.owner == m_options.owner_lit ? QColor(0xf2, 0xc1, 0x4e) : QColor(0xfb, 0xf7, 0xec));
    painter.setPen(QPen(QColor(0x2a, 0x24, 0x1c), 1.2));
    painter.drawEllipse(at, 12, 12);
    painter.drawText(QRectF(at.x() - 14, at.y() - 14, 28, 28), Qt::AlignCenter, QString::fromStdString(word.text));
  }
  if (!m_renewing) return;
  const QString text = tr("being renewed");
  const QRectF tag(12, 12, painter.fontMetrics().horizontalAdvance(text) + 24, 28);
  painter.setPen(Qt::NoPen);
  painter.setBrush(QColor(0x2a, 0x24, 0x1c, 190));
  painter.drawRoundedRect(tag, 6, 6);
  painter.setPen(QColor(0xfb, 0xf7, 0xec));
  painter.drawText(tag, Qt::AlignCenter, text);
}

void StandView::mousePressEvent(QMouseEvent* event) { m_last = m_pressed = event->pos(); }

void StandView::mouseMoveEvent(QMouseEvent* event) {
  const QPoint step = event->pos() - m_last;
  m_last = event->pos();
  if (event->buttons() & Qt::LeftButton) {
    m_camera.yaw -= 0.008f * static_cast<float>(step.x());
    m_camera.pitch = std::clamp(m_camera.pitch + 0.008f * static_cast<float>(step.y()), -1.5f, 1.5f);
    moved();
  } else if (event->buttons() & Qt::MiddleButton) {
    const float mm = m_camera.distance * std::tan(0.5f * m_camera.field) * 2.0f / static_cast<float>(height());
    const Vec3f right(std::cos(m_camera.yaw), 0.0f, -std::sin(m_camera.yaw));
    m_camera.target += mm * (-static_cast<float>(step.x()) * right + static_cast<float>(step.y()) * Vec3f::UnitY());
    moved();
  } else {
    emit panelPointed(panelAt(event->pos()));
  }
}

void StandView::mouseReleaseEvent(QMouseEvent* event) {
  if ((event->pos() - m_pressed).manhattanLength() < 4 && event->button() == Qt::LeftButton) emit panelClicked(panelAt(event->pos()));
}

void StandView::leaveEvent(QEvent*) { emit panelPointed(-1); }

void StandView::wheelEvent(QWheelEvent* event) {
  m_camera.distance = std::clamp(m_camera.distance * std::pow(0.9f, static_cast<float>(event->angleDelta().y()) / 120.0f), 350.0f, 3000.0f);
  moved();
}

void StandView::keyPressEvent(QKeyEvent* event) {
  constexpr float kTurn = 0.12f;
  switch (event->key()) {
    case Qt::Key_F: return look(0.0f, 0.0f);
    case Qt::Key_S: return look(static_cast<float>(0.5 * kPi), 0.0f);
    case Qt::Key_B: return look(static_cast<float>(kPi), 0.0f);
    case Qt::Key_T: return look(0.0f, 1.5f);
    case Qt::Key_Left: return look(m_camera.yaw - kTurn, m_camera.pitch);
    case Qt::Key_Right: return look(m_camera.yaw + kTurn, m_camera.pitch);
    case Qt::Key_Up: return look(m_camera.yaw, std::min(1.5f, m_camera.pitch + kTurn));
    case Qt::Key_Down: return look(m_camera.yaw, std::max(-1.5f, m_camera.pitch - kTurn));
    default: QWidget::keyPressEvent(event);
  }
}

void StandView::resizeEvent(QResizeEvent*) { moved(); }

}  // namespace awl
