#include "app/stand/stand_view.hpp"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QWheelEvent>
#include <algorithm>
#include <cmath>

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
  setMinimumSize(150, 150);
  setToolTip(
      tr("Drag to turn, middle button to shift, wheel to come nearer.\nF front, S left side, Shift+S right side, B "
         "back, T top, A all of it."));
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

void StandView::show(const Derived& derived, const StandChoice& choice, double tolerance) {
  const auto old = std::move(m_scene.bodies);
  m_scene = makeStandScene(derived, choice);
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
  const double mm = m_camera.distance * std::tan(0.5 * m_camera.field) * 2.0 / height();
  return m_backdropOrigin + (at - onWindow(Vec3f::Zero())) * (mm / m_backdropMmPerPixel);
}

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
}

void StandView::moved() {
  m_dirty = true;
  m_still.start();
  update();
}

void StandView::renderNow(int scale) {
  const bool huge = width() * height() > 1400 * 1000;
  const QImage big =
      m_raster.render(m_scene.bodies, m_camera, huge && scale == 1 ? size() / 2 : size(), scale, m_options);
  m_image = big.size() == size() ? big : big.scaled(size(), Qt::IgnoreAspectRatio, Qt::SmoothTransformation);
  if (huge && scale == 1) m_raster.render({}, m_camera, size(), 1, m_options);
  m_dirty = false;
}

void StandView::bakeInBackground() {
  const int generation = ++*m_bake;
  m_lit = false;
  m_pool.clear();
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

std::optional<Vec3f> StandView::surfaceAt(QPoint at) {
  if (m_dirty) renderNow(1);
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

/// The ramp of a distance map, full colour at its ends, a line where the contour runs.
void StandView::paintLegend(QPainter& painter) {
  if (m_scene.overlay.legend.size() != 2) return;
  const QRectF bar(16, height() - 52, 220, 14);
  paintRamp(painter, bar);
  painter.setPen(ink());
  const QRectF words(bar.left(), bar.bottom() + 3, bar.width(), 24);
  painter.drawText(words, Qt::AlignLeft, QString::fromStdString(m_scene.overlay.legend[0]));
  painter.drawText(words, Qt::AlignRight, QString::fromStdString(m_scene.overlay.legend[1]));
}

void StandView::paintOverlay(QPainter& painter) {
  m_spots.clear();
  paintBackdrop(painter);
  for (const auto& line : m_scene.overlay.lines)
    if (line.ink != StandOverlay::Ink::lit) paintLine(painter, line);
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
    emit panelPointed(panelAt(event->pos()));
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
