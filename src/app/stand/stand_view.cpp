#include "app/stand/stand_view.hpp"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QWheelEvent>
#include <algorithm>
#include <cmath>

#include "app/stand/far_look.hpp"
#include "app/stand/ramp.hpp"
#include "app/widgets/theme.hpp"
#include "core/base/guard.hpp"
#include "core/base/numbers.hpp"

namespace awl {

StandView::StandView(QWidget* parent) : QWidget(parent) {
  setObjectName(QStringLiteral("stand"));
  setAccessibleName(tr("Stand: the form in three dimensions"));
  setMouseTracking(true);
  setFocusPolicy(Qt::StrongFocus);
  setMinimumSize(120, 150);
  setToolTip(
      tr("Drag to turn, middle button to shift, wheel to come nearer.\nF front, S left side, Shift+S right side, B "
         "back, T top, A all of it."));
  m_pool.setMaxThreadCount(1);
  m_still.setSingleShot(true);
  m_still.setInterval(90);
  m_painters.setMaxThreadCount(1);
  connect(&m_still, &QTimer::timeout, this, [this] {
    if (m_rough) return;
    requestFrame(2.0);
    update();
  });
}

StandView::~StandView() {
  ++*m_bake;
  m_pool.waitForDone();
  m_painters.waitForDone();
}

void StandView::show(const Derived& derived, const StandChoice& choice, double tolerance) {
  m_seenFrom = choice.seen_from_m;
  bool same_bodies = false;
  const StandScene& scene = m_maker.scene(derived, choice, same_bodies);
  if (same_bodies && m_options.tolerance == static_cast<float>(tolerance)) {
    m_scene.overlay = scene.overlay;
    return update();
  }
  const auto old = std::move(m_scene.bodies);
  m_scene = scene;
  // Until the new light is there, a body of the same make keeps the light it had.
  bool same = old.size() == m_scene.bodies.size();
  for (std::size_t b = 0; b < m_scene.bodies.size(); ++b) {
    for (const StandBody& was : old)
      if (was.triangles == m_scene.bodies[b].triangles && was.colour == m_scene.bodies[b].colour)
        m_scene.bodies[b].light = was.light;
    same = same && old[b].places == m_scene.bodies[b].places && !m_scene.bodies[b].light.empty();
  }
  m_options.tolerance = static_cast<float>(tolerance);
  if (!same || !m_lit) bakeInBackground();
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
  tellView();
}

void StandView::frameAll() {
  Vec3f low = Vec3f::Constant(1e9f), high = Vec3f::Constant(-1e9f);
  for (const StandBody& body : m_scene.bodies)
    for (const Vec3f& p : body.places) low = low.cwiseMin(p), high = high.cwiseMax(p);
  if (low.x() > high.x()) return;
  const Vec3f size = high - low;
  const float ratio = static_cast<float>(width()) / static_cast<float>(std::max(1, height()));
  const float tall = std::max(size.y(), std::hypot(size.x(), size.z()) / std::max(ratio, 0.2f));
  m_camera.target = 0.5f * (low + high);
  m_camera.distance = std::clamp(
      0.5f * tall / std::tan(0.5f * m_camera.field) * 1.12f + 0.5f * std::max(size.x(), size.z()), 350.0f, 3000.0f);
  m_framed = true;
  moved();
}

/// Says when the eye stands square before one side, which is how forms are compared with pictures.
void StandView::tellView() {
  constexpr float kSquare = 0.2f;
  if (m_camera.pitch > 1.2f) return emit looked(QStringLiteral("top"));
  if (std::abs(m_camera.pitch) > 2.0f * kSquare) return;
  const float yaw = std::remainder(m_camera.yaw, static_cast<float>(kTwoPi));
  const auto near = [&](double at) {
    return std::abs(std::remainder(yaw - static_cast<float>(at), static_cast<float>(kTwoPi))) < kSquare;
  };
  if (near(0.0))
    emit looked(QStringLiteral("front"));
  else if (near(0.5 * kPi))
    emit looked(QStringLiteral("left"));
  else if (near(-0.5 * kPi))
    emit looked(QStringLiteral("right"));
  else if (near(kPi))
    emit looked(QStringLiteral("back"));
}

QPointF StandView::gripPlace(int grip) const {
  return onWindow(m_scene.overlay.grips[static_cast<std::size_t>(grip)].at);
}

int StandView::gripAt(QPointF at) const {
  // Of several under the pointer the one in sight, then the nearest to it.
  constexpr double kReach = 12.0, kHidden = 4.0 * kReach;
  int best = -1;
  double least = 1e9;
  for (int i = 0; i < static_cast<int>(m_scene.overlay.grips.size()); ++i) {
    const QPointF off = gripPlace(i) - at;
    const double distance = std::hypot(off.x(), off.y());
    if (distance >= kReach) continue;
    const double rank =
        distance + (m_raster.visible(m_scene.overlay.grips[static_cast<std::size_t>(i)].at, 8.0f) ? 0.0 : kHidden);
    if (rank < least) least = rank, best = i;
  }
  return best;
}

void StandView::setGripText(const QString& text) {
  m_gripText = text;
  update();
}

void StandView::setBackdrop(const QImage& picture, double mm_per_pixel, const QPointF& origin_px, double strength) {
  m_backdrop = picture, m_backdropMmPerPixel = mm_per_pixel, m_backdropOrigin = origin_px,
  m_backdropStrength = strength;
  update();
}

QPointF StandView::backdropPixel(QPointF at) const {
  return m_backdropOrigin + (at - onWindow(Vec3f::Zero())) * (mmPerPixel() / m_backdropMmPerPixel);
}

double StandView::mmPerPixel() const {
  return m_camera.distance * std::tan(0.5 * m_camera.field) * 2.0 / std::max(1, height());
}

/// Large with what is still made out, and in the corner as small as it is then.
void StandView::paintFromAfar(QPainter& painter) {
  const QImage far = madeOutFrom(m_image, mmPerPixel(), m_seenFrom);
  painter.drawImage(0, 0, far);
  constexpr double kInchMm = 25.4;
  const double scale = std::min(0.4, apparentScale(mmPerPixel(), m_seenFrom, kInchMm / logicalDpiX()));
  const QImage whole = m_image.scaled(m_image.size() * scale, Qt::KeepAspectRatio, Qt::SmoothTransformation);
  const QImage small = whole.copy(withoutBackground(whole));
  const QString words =
      tr("as large as from %1 m").arg(QString::fromStdString(fixed(m_seenFrom, m_seenFrom < 10.0 ? 1 : 0)));
  const double high = painter.fontMetrics().height();
  const QRectF frame(12.0, height() - small.height() - high - 20.0,
      std::max<double>(small.width(), painter.fontMetrics().horizontalAdvance(words)) + 12.0,
      small.height() + high + 10.0);
  painter.fillRect(frame, m_options.dark ? QColor(0x24, 0x20, 0x1c) : QColor(0xf4, 0xee, 0xe2));
  painter.drawImage(QPointF(frame.center().x() - 0.5 * small.width(), frame.top() + 2.0), small);
  painter.setPen(ink());
  painter.drawText(frame.adjusted(4.0, 0.0, -4.0, -2.0), Qt::AlignHCenter | Qt::AlignBottom, words);
}

void StandView::moved() {
  m_dirty = m_stale = true;
  m_still.start();
  update();
}

namespace {

struct Frame {
  StandRaster raster;
  QImage image;
};

Frame painted(const std::vector<StandBody>& bodies, const StandCamera& camera, QSize size, double scale,
    const StandRaster::Options& options) {
  Frame frame;
  const QImage made = frame.raster.render(bodies, camera, size, scale, options);
  frame.image = made.size() == size ? made : made.scaled(size, Qt::IgnoreAspectRatio, Qt::SmoothTransformation);
  return frame;
}

}  // namespace

/// How finely it is painted while it moves: what is huge, and what nobody looks at, at half its size.
double StandView::soon() const {
  constexpr int kHuge = 1400 * 1000;
  return m_rough || width() * height() > kHuge ? 0.5 : 1.0;
}

void StandView::renderNow(double scale) {
  Frame frame = painted(m_scene.bodies, m_camera, size(), scale, m_options);
  m_raster = std::move(frame.raster);
  m_image = std::move(frame.image);
  m_newest = ++m_frame;  // what is being painted still is older
  m_dirty = m_stale = false;
}

void StandView::requestFrame(double scale) {
  if (m_painting) return void(m_dirty = true);  // the newest wish is painted once this one is done
  m_painting = true;
  m_dirty = false;
  m_painters.start([this, bodies = m_scene.bodies, camera = m_camera, size = size(), scale, options = m_options,
                       number = ++m_frame] {
    const auto made = guarded("painting the stand", [&]() -> Result<std::shared_ptr<Frame>> {
      return std::make_shared<Frame>(painted(bodies, camera, size, scale, options));
    });
    QMetaObject::invokeMethod(
        this,
        [this, number, size, frame = made.value_or(nullptr)] {
          m_painting = false;
          if (frame && number > m_newest && size == this->size()) {
            m_raster = std::move(frame->raster);
            m_image = std::move(frame->image);
            m_newest = number;
            m_stale = m_dirty;
            update();
          }
          if (m_dirty) requestFrame(soon());
        },
        Qt::QueuedConnection);
  });
}

void StandView::bakeInBackground() {
  const int generation = ++*m_bake;
  m_lit = m_rough;
  m_pool.clear();
  if (m_rough) return;
  m_pool.start([this, bodies = m_scene.bodies, generation, current = m_bake]() mutable {
    for (const int rays : {24, 96}) {
      // Without its light the form is still to be seen: a fault here is not worth a word.
      const auto baked = guarded("lighting the stand",
          [&]() -> Result<bool> { return bakeLight(bodies, rays, [&] { return current->load() == generation; }); });
      if (!baked.value_or(false)) return;
      std::vector<std::vector<float>> light;
      for (const StandBody& body : bodies) light.push_back(body.light);
      QMetaObject::invokeMethod(
          this,
          [this, generation, light] {
            if (m_bake->load() != generation || light.size() != m_scene.bodies.size()) return;
            for (std::size_t b = 0; b < light.size(); ++b) m_scene.bodies[b].light = light[b];
            m_lit = true;
            moved();
          },
          Qt::QueuedConnection);
    }
  });
}

QImage StandView::finishedPicture() {
  ++*m_bake;
  m_pool.waitForDone();
  if (!m_rough) bakeLight(m_scene.bodies, 96, [] { return true; });
  renderNow(m_rough ? 1.0 : 2.0);
  m_still.stop();
  return m_image;
}

int StandView::panelAt(QPoint at) {
  if (m_stale) renderNow(soon());
  const auto pick = m_raster.pick(at);
  if (pick.body < 0 || m_scene.bodies[pick.body].owner.empty()) return -1;
  return m_scene.bodies[pick.body].owner[pick.triangle];
}

void StandView::paintEvent(QPaintEvent*) {
  if (m_image.size() != size())
    renderNow(soon());
  else if (m_dirty)
    requestFrame(soon());
  QPainter painter(this);
  if (m_seenFrom > 0.0)
    paintFromAfar(painter);
  else
    painter.drawImage(0, 0, m_image);
  painter.setRenderHint(QPainter::Antialiasing);
  paintOverlay(painter);
  paintFocusFrame(painter, *this);
  if (!m_shown && !m_scene.bodies.empty()) {
    m_shown = true;
    emit firstPicture();
  }
}

QPointF StandView::onWindow(const Vec3f& p) const {
  const float scale =
      static_cast<float>(m_image.width()) / std::max(1.0f, 2.0f * m_raster.project(m_camera.target).x());
  const Vec3f s = m_raster.project(p);
  return {s.x() * scale, s.y() * scale};
}

std::optional<Vec3f> StandView::surfaceAt(QPoint at) {
  if (m_stale) renderNow(soon());
  const auto pick = m_raster.pick(at);
  if (pick.body < 0 || (pick.body != 0 && pick.body != m_scene.worn)) return std::nullopt;
  const StandBody& body = m_scene.bodies[static_cast<std::size_t>(pick.body)];
  const auto& t = body.triangles[pick.triangle];
  return Vec3f((body.places[t[0]] + body.places[t[1]] + body.places[t[2]]) / 3.0f);
}

int StandView::measureAt(QPointF at) const {
  for (const Spot& spot : m_spots)
    if (spot.label.contains(at)) return spot.measure;
  constexpr double kReach = 7.0;
  for (const Spot& spot : m_spots)
    for (int i = 0; i + 1 < spot.line.size(); i += 2) {
      const QPointF a = spot.line[i], d = spot.line[i + 1] - a;
      const double t = std::clamp(QPointF::dotProduct(at - a, d) / std::max(QPointF::dotProduct(d, d), 1e-9), 0.0, 1.0);
      const QPointF off = at - a - t * d;
      if (QPointF::dotProduct(off, off) < kReach * kReach) return spot.measure;
    }
  return -1;
}

void StandView::mousePressEvent(QMouseEvent* event) {
  m_last = m_pressed = event->pos();
  m_grip = event->button() == Qt::LeftButton ? gripAt(event->position()) : -1;
  if (m_grip >= 0) m_held = m_scene.overlay.grips[static_cast<std::size_t>(m_grip)];
}

/// How far along its own way a grip was dragged, by the nearest point of that way under the pointer.
double StandView::dragged(QPointF to) const {
  const QPointF from = onWindow(m_held.at), way = onWindow(m_held.at + 10.0f * m_held.along) - from;
  const double length = QPointF::dotProduct(way, way);
  return length < 1.0 ? 0.0 : 10.0 * QPointF::dotProduct(to - QPointF(m_pressed), way) / length;
}

void StandView::tellGrip(QPointF at, bool whole, bool last) {
  const QString name = QString::fromStdString(m_held.dial);
  if (!m_held.free) return emit gripMoved(name, dragged(at), last);
  // While a newer picture is being painted the marker waits for it; where it is let go is looked up exactly.
  if (!m_stale || last)
    if (const auto place = surfaceAt(at.toPoint()); place && m_raster.pick(at.toPoint()).body != 0) m_held.at = *place;
  emit markerMoved(name, m_held.at.x(), m_held.at.y(), m_held.at.z(), whole, last);
}

void StandView::mouseMoveEvent(QMouseEvent* event) {
  const QPoint step = event->pos() - m_last;
  m_last = event->pos();
  if (m_grip >= 0 && (event->buttons() & Qt::LeftButton))
    return tellGrip(event->position(), event->modifiers() & Qt::ShiftModifier, false);
  if (event->buttons() & Qt::LeftButton) {
    m_camera.yaw -= 0.008f * static_cast<float>(step.x());
    m_camera.pitch = std::clamp(m_camera.pitch + 0.008f * static_cast<float>(step.y()), -1.5f, 1.5f);
    moved();
  } else if (event->buttons() & Qt::MiddleButton) {
    const float mm = m_camera.distance * std::tan(0.5f * m_camera.field) * 2.0f / static_cast<float>(height());
    const Vec3f right(std::cos(m_camera.yaw), 0.0f, -std::sin(m_camera.yaw));
    m_framed = false;
    m_camera.target += mm * (-static_cast<float>(step.x()) * right + static_cast<float>(step.y()) * Vec3f::UnitY());
    moved();
  } else {
    if (!m_stale) emit panelPointed(panelAt(event->pos()));
  }
}

void StandView::mouseReleaseEvent(QMouseEvent* event) {
  if (m_grip >= 0) {
    m_grip = -1;
    m_gripText.clear();
    // A click on a marker is no drag: while a line is drawn it is a place to go through.
    if (m_held.free && (event->pos() - m_pressed).manhattanLength() < 3)
      return emit wornClicked(m_held.at.x(), m_held.at.y(), m_held.at.z());
    return tellGrip(event->position(), event->modifiers() & Qt::ShiftModifier, true);
  }
  if ((event->pos() - m_pressed).manhattanLength() >= 4 && event->button() == Qt::LeftButton) tellView();
  if ((event->pos() - m_pressed).manhattanLength() >= 4 || event->button() != Qt::LeftButton) return;
  if (hasBackdrop()) emit backdropClicked(backdropPixel(event->position()));
  if (const auto place = surfaceAt(event->pos())) {
    if (m_raster.pick(event->pos()).body == 0)
      emit surfaceClicked(place->x(), place->y(), place->z());
    else
      emit wornClicked(place->x(), place->y(), place->z());
  }
  if (const int measure = measureAt(event->pos()); measure >= 0) return emit measureClicked(measure);
  emit panelClicked(panelAt(event->pos()));
}

void StandView::leaveEvent(QEvent*) { emit panelPointed(-1); }

void StandView::wheelEvent(QWheelEvent* event) {
  m_framed = false;
  m_camera.distance = std::clamp(
      m_camera.distance * std::pow(0.9f, static_cast<float>(event->angleDelta().y()) / 120.0f), 350.0f, 3000.0f);
  moved();
}

void StandView::keyPressEvent(QKeyEvent* event) {
  constexpr float kTurn = 0.12f;
  switch (event->key()) {
    case Qt::Key_F:
      return look(0.0f, 0.0f);
    case Qt::Key_S:
      return look(static_cast<float>((event->modifiers() & Qt::ShiftModifier) ? -0.5 * kPi : 0.5 * kPi), 0.0f);
    case Qt::Key_B:
      return look(static_cast<float>(kPi), 0.0f);
    case Qt::Key_T:
      return look(0.0f, 1.5f);
    case Qt::Key_A:
      return frameAll();
    case Qt::Key_Left:
      return look(m_camera.yaw - kTurn, m_camera.pitch);
    case Qt::Key_Right:
      return look(m_camera.yaw + kTurn, m_camera.pitch);
    case Qt::Key_Up:
      return look(m_camera.yaw, std::min(1.5f, m_camera.pitch + kTurn));
    case Qt::Key_Down:
      return look(m_camera.yaw, std::max(-1.5f, m_camera.pitch - kTurn));
    default:
      QWidget::keyPressEvent(event);
  }
}

void StandView::resizeEvent(QResizeEvent*) { m_framed ? frameAll() : moved(); }

}  // namespace awl
