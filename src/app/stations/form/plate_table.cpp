#include "app/stations/form/plate_table.hpp"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/geom/polygon.hpp"

namespace awl {

PlateTable::PlateTable(Document& document, QWidget* parent) : QWidget(parent), m_document(document) {
  setObjectName(QStringLiteral("plate-table"));
  setAccessibleName(tr("Drawing table: the outline of the plate on the sheet"));
  setToolTip(
      tr("Drag a point; double-click the line to add one; C corner or curve; Delete; arrows move by 1 mm; PgUp, PgDn "
         "change the layer."));
  setFocusPolicy(Qt::StrongFocus);
  setMinimumSize(150, 200);
}

void PlateTable::setDark(bool dark) {
  m_dark = dark;
  update();
}

void PlateTable::show(const Build& build, int part) {
  const Part* now = find_part(build, part);
  const auto* plate = now != nullptr ? std::get_if<PlateSpec>(&now->shape) : nullptr;
  if (part != m_part) m_layer = 0, m_picked = -1;
  m_part = part, m_unit = build.shown;
  m_plate = plate != nullptr ? std::optional(*plate) : std::nullopt;
  if (m_plate) m_layer = std::clamp(m_layer, 0, static_cast<int>(m_plate->layers.size()) - 1);
  if (m_plate && m_picked >= static_cast<int>(outline().size())) m_picked = -1;
  setVisible(m_plate.has_value());
  update();
}

void PlateTable::showForm(const PartForm* form) {
  if (form != nullptr && form->plate) m_layout = *form->plate;
  update();
}

/// The whole plate and the face in view, one scale for both ways.
void PlateTable::fit() {
  if (m_dragging) return;
  Vec2 low(0, 0), high(0, 0);
  const auto include = [&](const Vec2& p) { low = low.cwiseMin(p), high = high.cwiseMax(p); };
  for (const PlateLayer& layer : m_plate->layers)
    for (const CurvePoint& p : layer.outline) {
      const Vec2 at = p.at.cwiseProduct(m_layout.scale);
      include(at);
      if (m_plate->on_fold) include(Vec2(-at.x(), at.y()));
    }
  for (const auto& [name, at] : m_layout.marks)
    if (at.norm() < 160.0) include(at);
  const Vec2 size = (high - low).cwiseMax(Vec2(40, 40)), middle = 0.5 * (low + high);
  m_scale = std::min((width() - 60.0) / size.x(), (height() - 110.0) / size.y());
  m_origin = QPointF(0.5 * width() - m_scale * middle.x(), 0.5 * height() + m_scale * middle.y() + 10.0);
}

QPointF PlateTable::onTable(const Vec2& p) const { return m_origin + QPointF(m_scale * p.x(), -m_scale * p.y()); }
Vec2 PlateTable::onSheet(QPointF at) const {
  return {(at.x() - m_origin.x()) / m_scale, -(at.y() - m_origin.y()) / m_scale};
}
QPointF PlateTable::placeOf(int point) const {
  return onTable(outline()[static_cast<std::size_t>(point)].at.cwiseProduct(m_layout.scale));
}

int PlateTable::pointAt(QPointF at) const {
  if (!m_plate) return -1;
  for (int i = 0; i < static_cast<int>(outline().size()); ++i) {
    const QPointF off = placeOf(i) - at;
    if (QPointF::dotProduct(off, off) < 100.0) return i;
  }
  return -1;
}

/// Pupils, nose, mouth and jaw where they lie behind the flat sheet.
void PlateTable::paintFace(QPainter& painter) const {
  std::map<std::string, std::vector<Vec2>> at;
  for (const auto& [name, p] : m_layout.marks) at[name].push_back(p);
  const QColor faint = m_dark ? QColor(0x9a, 0x8f, 0x7f) : QColor(0x8f, 0x7d, 0x66);
  painter.setPen(QPen(faint, 1.6));
  painter.setBrush(Qt::NoBrush);
  for (const Vec2& p : at["pupil"]) {
    painter.drawEllipse(onTable(p), 5.6 * m_scale, 5.6 * m_scale);
    painter.drawEllipse(onTable(p), 14.0 * m_scale, 6.5 * m_scale);
    painter.drawPoint(onTable(p));
  }
  const auto curve = [&](const std::vector<Vec2>& points) {
    QPainterPath path(onTable(points.front()));
    for (std::size_t i = 1; i < points.size(); ++i) path.lineTo(onTable(points[i]));
    painter.drawPath(path);
  };
  const auto one = [&](const char* name, std::size_t i = 0) { return at[name].size() > i ? at[name][i] : Vec2(0, 0); };
  if (at["pupil"].size() < 2) return;
  curve({one("between the brows"), one("tip of the nose"), one("wing of the nose"), one("tip of the nose"),
      one("wing of the nose", 1)});
  curve({one("corner of the mouth"), one("mouth"), one("corner of the mouth", 1)});
  curve({one("cheekbone"), one("corner of the jaw"), one("under the chin"), one("corner of the jaw", 1),
      one("cheekbone", 1)});
  painter.setFont([&] {
    QFont f = font();
    f.setPointSizeF(0.8 * f.pointSizeF());
    return f;
  }());
  painter.drawText(onTable(one("under the chin")) + QPointF(6, 14), tr("chin"));
  painter.drawText(onTable(one("pupil")) + QPointF(8, -8), tr("pupil"));
}

void PlateTable::paintLayer(QPainter& painter, int index) const {
  const PlateLayer& layer = m_plate->layers[static_cast<std::size_t>(index)];
  std::vector<CurvePoint> points = layer.outline;
  for (CurvePoint& p : points) p.at = p.at.cwiseProduct(m_layout.scale);
  const auto line = smooth_curve(points, !m_plate->on_fold, 2.0);
  QPainterPath own, other;
  for (std::size_t i = 0; i < line.size(); ++i) {
    const Vec2 mirrored(-line[i].x(), line[i].y());
    i == 0 ? own.moveTo(onTable(line[i])) : own.lineTo(onTable(line[i]));
    i == 0 ? other.moveTo(onTable(mirrored)) : other.lineTo(onTable(mirrored));
  }
  if (!m_plate->on_fold) own.closeSubpath();
  const bool hand = index == m_layer;
  QColor foam(0xdb, 0xcc, 0xad, hand ? 120 : 60);
  QPainterPath filled = own;
  if (m_plate->on_fold) filled.addPath(other);
  painter.fillPath(filled, foam);
  painter.setBrush(Qt::NoBrush);
  painter.strokePath(own, QPen(ink(), hand ? 2.4 : 1.2));
  if (m_plate->on_fold) painter.strokePath(other, QPen(ink(), 1.0, Qt::DashLine));
  if (!layer.holes) return;
  painter.setPen(QPen(ink(), 1.4));
  painter.setBrush(m_dark ? QColor(0x2b, 0x27, 0x22) : QColor(0xf5, 0xee, 0xdf));
  for (const auto& hole : m_layout.holes) {
    QPolygonF ring;
    for (const Vec2& p : hole) ring << onTable(p);
    painter.drawPolygon(ring);
  }
}

void PlateTable::paintEvent(QPaintEvent*) {
  QPainter painter(this);
  painter.fillRect(rect(), m_dark ? QColor(0x2b, 0x27, 0x22) : QColor(0xf5, 0xee, 0xdf));
  if (!m_plate) return;
  fit();
  painter.setRenderHint(QPainter::Antialiasing);
  painter.setPen(QPen(m_dark ? QColor(255, 255, 255, 22) : QColor(0x6b, 0x58, 0x3a, 40), 1.0));
  const Vec2 low = onSheet(QPointF(0, height())), high = onSheet(QPointF(width(), 0));
  for (double x = 10.0 * std::ceil(low.x() / 10.0); x < high.x(); x += 10.0)
    painter.drawLine(onTable({x, low.y()}), onTable({x, high.y()}));
  for (double y = 10.0 * std::ceil(low.y() / 10.0); y < high.y(); y += 10.0)
    painter.drawLine(onTable({low.x(), y}), onTable({high.x(), y}));
  for (int i = 0; i < static_cast<int>(m_plate->layers.size()); ++i)
    if (i != m_layer) paintLayer(painter, i);
  paintLayer(painter, m_layer);
  paintFace(painter);
  if (m_plate->on_fold) {
    painter.setPen(QPen(QColor(0xb0, 0x3a, 0x2e), 1.4, Qt::DashDotLine));
    painter.drawLine(onTable({0, low.y()}), onTable({0, high.y()}));
    painter.drawText(onTable({0, low.y()}) + QPointF(6, -30), tr("fold"));
  }
  for (int i = 0; i < static_cast<int>(outline().size()); ++i) {
    painter.setPen(QPen(QColor(0xfb, 0xf7, 0xec), 1.4));
    painter.setBrush(i == m_picked ? QColor(0xf2, 0xc1, 0x4e) : QColor(0x1f, 0x6f, 0x8b));
    const QPointF at = placeOf(i);
    if (outline()[static_cast<std::size_t>(i)].corner)
      painter.drawRect(QRectF(at.x() - 6, at.y() - 6, 12, 12));
    else
      painter.drawEllipse(at, 6.5, 6.5);
  }
  painter.setPen(ink());
  painter.setFont(font());
  painter.drawText(QRectF(12, 8, width() - 24, 24), Qt::AlignLeft,
      tr("Layer %1 of %2, flat and true to this wearer").arg(m_layer + 1).arg(m_plate->layers.size()));
  if (m_picked < 0)
    return painter.drawText(
        QRectF(12, height() - 32, width() - 24, 24), Qt::AlignLeft, tr("Squares are corners, circles curve."));
  const Vec2 at = outline()[static_cast<std::size_t>(m_picked)].at.cwiseProduct(m_layout.scale);
  const auto length = [&](double mm) { return QString::fromStdString(format_length(mm, m_unit)); };
  painter.drawText(QRectF(12, height() - 32, width() - 24, 24), Qt::AlignLeft,
      tr("This point: %1 from the fold, %2 up").arg(length(at.x()), length(at.y())));
}

void PlateTable::changeOutline(
    const QString& label, const std::function<void(std::vector<CurvePoint>&)>& edit, const QString& gesture) {
  m_document.changePart(
      m_part, label,
      [&](Part part) -> Result<Part> {
        auto* plate = std::get_if<PlateSpec>(&part.shape);
        if (plate == nullptr) return fail(Errc::unknown_name, "The plate is gone.");
        edit(plate->layers[static_cast<std::size_t>(m_layer)].outline);
        return part;
      },
      gesture);
}

void PlateTable::changePoint(int point, const Vec2& to_mm, const QString& gesture) {
  const bool end = m_plate->on_fold && (point == 0 || point + 1 == static_cast<int>(outline().size()));
  Vec2 at = to_mm.cwiseQuotient(m_layout.scale);
  if (end)
    at.x() = 0.0;
  else if (m_plate->on_fold)
    at.x() = std::max(at.x(), 0.5);
  changeOutline(
      tr("Move a point"), [&](std::vector<CurvePoint>& points) { points[static_cast<std::size_t>(point)].at = at; },
      gesture);
}

void PlateTable::mousePressEvent(QMouseEvent* event) {
  m_picked = pointAt(event->position());
  m_dragging = m_picked >= 0 && event->button() == Qt::LeftButton;
  ++m_drag;
  update();
}

void PlateTable::mouseMoveEvent(QMouseEvent* event) {
  if (!m_dragging) return;
  Vec2 at = onSheet(event->position());
  at = Vec2(0.5 * std::round(2.0 * at.x()), 0.5 * std::round(2.0 * at.y()));
  changePoint(m_picked, at, QStringLiteral("plate-%1").arg(m_drag));
}

void PlateTable::mouseReleaseEvent(QMouseEvent*) {
  m_dragging = false;
  update();
}

void PlateTable::mouseDoubleClickEvent(QMouseEvent* event) {
  if (!m_plate || pointAt(event->position()) >= 0) return;
  const Vec2 at = onSheet(event->position()).cwiseQuotient(m_layout.scale);
  const int n = static_cast<int>(outline().size()), spans = m_plate->on_fold ? n - 1 : n;
  int best = 0;
  double off = 1e300;
  for (int i = 0; i < spans; ++i) {
    const Vec2 a = outline()[static_cast<std::size_t>(i)].at,
               d = outline()[static_cast<std::size_t>((i + 1) % n)].at - a;
    const double t = std::clamp((at - a).dot(d) / std::max(d.squaredNorm(), 1e-9), 0.0, 1.0),
                 far = (at - a - t * d).norm();
    if (far < off) off = far, best = i;
  }
  if (off > 25.0) return;
  m_picked = best + 1;
  changeOutline(tr("Add a point"), [&](std::vector<CurvePoint>& points) {
    points.insert(points.begin() + best + 1, CurvePoint{at, false});
  });
}

void PlateTable::keyPressEvent(QKeyEvent* event) {
  if (!m_plate) return QWidget::keyPressEvent(event);
  const int layers = static_cast<int>(m_plate->layers.size());
  if (event->key() == Qt::Key_PageUp || event->key() == Qt::Key_PageDown) {
    m_layer = (m_layer + (event->key() == Qt::Key_PageUp ? layers - 1 : 1)) % layers;
    m_picked = -1;
    return update();
  }
  if (event->key() == Qt::Key_N) {
    m_picked = (m_picked + 1) % static_cast<int>(outline().size());
    return update();
  }
  if (m_picked < 0) return QWidget::keyPressEvent(event);
  const auto nudge = [&](double x, double y) {
    changePoint(
        m_picked, outline()[static_cast<std::size_t>(m_picked)].at.cwiseProduct(m_layout.scale) + Vec2(x, y), {});
  };
  const bool end = m_plate->on_fold && (m_picked == 0 || m_picked + 1 == static_cast<int>(outline().size()));
  switch (event->key()) {
    case Qt::Key_Left:
      return nudge(-1, 0);
    case Qt::Key_Right:
      return nudge(1, 0);
    case Qt::Key_Up:
      return nudge(0, 1);
    case Qt::Key_Down:
      return nudge(0, -1);
    case Qt::Key_C:
      return changeOutline(tr("Corner or curve"), [&](std::vector<CurvePoint>& points) {
        points[static_cast<std::size_t>(m_picked)].corner = !points[static_cast<std::size_t>(m_picked)].corner;
      });
    case Qt::Key_Delete:
      if (!end && outline().size() > 3)
        changeOutline(
            tr("Take a point away"), [&](std::vector<CurvePoint>& points) { points.erase(points.begin() + m_picked); });
      return;
    default:
      QWidget::keyPressEvent(event);
  }
}

}  // namespace awl
