#include "app/mat/mat_view.hpp"

#include <Eigen/Geometry>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

#include "app/stand/raster.hpp"
#include "app/widgets/theme.hpp"
#include "core/base/numbers.hpp"
#include "print/paint_drawing.hpp"
#include "print/text.hpp"

namespace awl {
namespace {

constexpr double kBorder = 26.0;  // pixels left free round the sheets

QColor colourOf(const Vec3f& c) { return QColor::fromRgbF(c.x(), c.y(), c.z()); }

}  // namespace

MatView::MatView(QWidget* parent) : QWidget(parent) {
  setObjectName(QStringLiteral("mat"));
  setAccessibleName(tr("Mat: the flat pieces on their sheets"));
  setMouseTracking(true);
  setFocusPolicy(Qt::StrongFocus);
  setMinimumSize(150, 150);
  setToolTip(
      tr("Point at a piece to see it on the stand. Wheel to come nearer, middle button to shift, 0 to see all."));
}

void MatView::show(const Derived& d, bool strain, double tolerance) {
  const bool same = m_layout && m_layout == d.layout && m_pieces == d.pieces && m_panels == d.panels;
  if (same && m_strain == strain && m_tolerance == tolerance && m_hand < 0) return;
  m_strain = strain;
  m_tolerance = tolerance;
  const bool same_sheets =
      m_layout && d.layout && m_layout->sheet == d.layout->sheet && m_layout->blanks == d.layout->blanks;
  if (d.pieces && d.layout && d.panels) {
    m_pieces = d.pieces, m_panels = d.panels, m_layout = d.layout;
  } else if (!d.layout) {
    m_layout.reset();
  }
  const std::pair hand = m_hand >= 0 ? std::pair(m_items[m_hand].piece, m_items[m_hand].copy) : std::pair(-1, -1);
  m_items.clear();
  m_drawings.clear();
  m_hand = -1, m_dragging = m_collides = false;
  m_under.clear();
  if (m_layout) {
    for (const Placement& p : m_layout->placements) {
      const Piece& piece = (*m_pieces)[p.piece.value];
      const PanelId panel = p.pose.flipped && piece.twin ? *piece.twin : piece.panel;
      m_items.push_back({panel.value, p.piece.value, p.sheet, p.pose, p.copy, p.held});
      m_drawings.push_back(placed(draw_piece(piece, p.pose.flipped ? Copy::right : Copy::left), p.pose));
    }
    for (int i = 0; i < static_cast<int>(m_items.size()); ++i)
      if (std::pair(m_items[i].piece, m_items[i].copy) == hand)
        m_hand = i, m_before = m_items[i].pose, m_beforeSheet = m_items[i].sheet;
    if (m_fitted || !same_sheets || m_lows.size() != static_cast<std::size_t>(m_layout->sheets)) zoomToFit();
  }
  update();
}

void MatView::setDark(bool dark) { m_dark = dark, update(); }
void MatView::setRenewing(bool renewing) { m_renewing = renewing, update(); }

void MatView::setLitPanel(int panel) {
  if (m_lit == panel) return;
  m_lit = panel;
  update();
}

void MatView::setFormer(std::vector<PieceChange> changes) {
  if (changes.empty() && m_former.empty()) return;
  m_former = std::move(changes);
  update();
}

void MatView::zoomToFit() {
  if (!m_layout) return;
  arrangeSheets();
  double right = 0.0, top = 0.0;
  for (int s = 0; s < m_layout->sheets; ++s)
    right = std::max(right, sheetLow(s).x() + sizeOf(s).x()), top = std::max(top, sheetLow(s).y() + sizeOf(s).y());
  if (m_layout->sheets == 1) {
    // The part of the sheet that is used: nobody needs to look at empty foam.
    double used_right = 0.0, used_top = 0.0;
    for (const Item& item : m_items)
      for (const Vec2& p : (*m_pieces)[item.piece].knife_line())
        used_right = std::max(used_right, item.pose(p).x()), used_top = std::max(used_top, item.pose(p).y());
    right = std::min(right, used_right + 40.0), top = std::min(top, used_top + 40.0);
  }
  m_zoom = std::max(
      0.05, std::min((width() - 2 * kBorder) / std::max(right, 1.0), (height() - 2 * kBorder) / std::max(top, 1.0)));
  m_origin = {kBorder, height() - kBorder - 0.5 * std::max(0.0, height() - 2 * kBorder - m_zoom * top)};
  m_fitted = true;
  update();
}

Vec2 MatView::rowsSize(int columns, std::vector<Vec2>& lows) const {
  constexpr double kBetweenMm = 40.0, kWordsMm = 120.0;
  const int count = m_layout->sheets, rows = (count + columns - 1) / columns;
  lows.assign(static_cast<std::size_t>(count), Vec2::Zero());
  double width = 0.0, low = 0.0;
  // The first sheet is at the top left, as one reads.
  for (int row = rows - 1; row >= 0; --row) {
    double left = 0.0, high = 0.0;
    for (int s = row * columns; s < std::min(count, (row + 1) * columns); ++s) {
      lows[static_cast<std::size_t>(s)] = {left, low};
      left += sizeOf(s).x() + kBetweenMm, high = std::max(high, sizeOf(s).y());
    }
    width = std::max(width, left - kBetweenMm);
    low += high + kWordsMm;
  }
  return {width, low - (count > 1 ? 0.0 : kWordsMm)};
}

void MatView::arrangeSheets() {
  double best = -1.0;
  m_lows.assign(static_cast<std::size_t>(m_layout->sheets), Vec2::Zero());
  for (int columns = 1; columns <= m_layout->sheets; ++columns) {
    std::vector<Vec2> lows;
    const Vec2 size = rowsSize(columns, lows);
    const double zoom =
        std::min((width() - 2 * kBorder) / std::max(size.x(), 1.0), (height() - 2 * kBorder) / std::max(size.y(), 1.0));
    if (zoom > best) best = zoom, m_lows = std::move(lows);
  }
}

/// What a sheet is, where there is more than one kind or an offcut.
QString MatView::sheetWords(int sheet) const {
  if (sheet >= static_cast<int>(m_layout->blanks.size())) return {};
  const Blank& blank = m_layout->blanks[static_cast<std::size_t>(sheet)];
  if (blank.offcut != 0) return tr("offcut: %1").arg(QString::fromStdString(blank.name));
  const bool alike = std::all_of(m_layout->blanks.begin(), m_layout->blanks.end(),
      [&](const Blank& b) { return b.stuff == blank.stuff && b.thickness_mm == blank.thickness_mm; });
  if (alike) return {};
  const QString kind = blank.stuff.empty()
      ? tr("foam")
      : qs(QString::fromStdString(blank.stuff).replace(QLatin1Char('-'), QLatin1Char(' ')).toStdString());
  return tr("%1, %2 mm").arg(kind).arg(blank.thickness_mm);
}

int MatView::itemAt(QPointF at) const {
  if (!m_layout) return -1;
  for (int i = 0; i < static_cast<int>(m_items.size()); ++i) {
    const Vec2 p = toSheet(at, m_items[i].sheet);
    std::vector<Vec2> outline;
    for (const Vec2& q : (*m_pieces)[m_items[i].piece].outline) outline.push_back(m_items[i].pose(q));
    if (inside(outline, p)) return i;
  }
  return -1;
}

QPointF MatView::middleOf(int item) const {
  const Item& it = m_items[item];
  return toWidget(it.pose((*m_pieces)[it.piece].label_at) + sheetLow(it.sheet));
}

void MatView::paintEvent(QPaintEvent*) {
  QPainter painter(this);
  painter.setRenderHint(QPainter::Antialiasing);
  painter.fillRect(rect(), m_dark ? QColor(0x24, 0x23, 0x20) : QColor(0xd9, 0xd3, 0xc4));
  if (!m_layout) {
    painter.setPen(palette().color(QPalette::WindowText));
    painter.drawText(
        rect(), Qt::AlignCenter | Qt::TextWordWrap, tr("No pieces yet.\nThe remark below says what is missing."));
    return;
  }
  for (int s = 0; s < m_layout->sheets; ++s) paintSheet(painter, s);
  for (const Item& item : m_items) paintItem(painter, item);
  paintHand(painter);
  paintScale(painter);
  if (m_renewing) painter.fillRect(rect(), QColor(m_dark ? 0 : 255, m_dark ? 0 : 250, m_dark ? 0 : 235, 50));
  paintFocusFrame(painter, *this);
}

Vec2 MatView::sizeOf(int sheet) const {
  if (sheet >= static_cast<int>(m_layout->blanks.size())) return {m_layout->sheet.width_mm, m_layout->sheet.height_mm};
  Vec2 high = Vec2::Zero();
  for (const Vec2& p : m_layout->blanks[sheet].outline) high = high.cwiseMax(p);
  return high;
}

void MatView::paintSheet(QPainter& painter, int sheet) const {
  const Vec2 size = sizeOf(sheet);
  const Vec2 low = sheetLow(sheet);
  const auto at = [&](double x, double y) { return toWidget(low + Vec2(x, y)); };
  QPainterPath area;
  if (sheet < static_cast<int>(m_layout->blanks.size())) {
    QPolygonF outline;
    for (const Vec2& p : m_layout->blanks[sheet].outline) outline << at(p.x(), p.y());
    area.addPolygon(outline);
    area.closeSubpath();
  } else {
    area.addRect(QRectF(at(0.0, size.y()), at(size.x(), 0.0)));
  }
  painter.fillPath(area, m_dark ? QColor(0x33, 0x31, 0x2c) : QColor(0xf3, 0xee, 0xe1));
  painter.save();
  painter.setClipPath(area);
  const double step = m_zoom * 10.0 < 6.0 ? 50.0 : 10.0;
  painter.setRenderHint(QPainter::Antialiasing, false);
  for (int k = 1; k * step < size.maxCoeff(); ++k) {
    const bool strong = std::fmod(k * step, 100.0) < 0.5;
    painter.setPen(QPen(m_dark ? QColor(255, 255, 255, strong ? 34 : 14) : QColor(96, 84, 60, strong ? 64 : 26), 1));
    if (k * step < size.x()) painter.drawLine(at(k * step, 0.0), at(k * step, size.y()));
    if (k * step < size.y()) painter.drawLine(at(0.0, k * step), at(size.x(), k * step));
  }
  painter.restore();
  painter.strokePath(area, QPen(m_dark ? QColor(0x8a, 0x83, 0x74) : QColor(0x9a, 0x93, 0x84), 1.4));
  const QString words = sheetWords(sheet);
  if (words.isEmpty()) return;
  painter.setPen(palette().color(QPalette::WindowText));
  painter.drawText(at(0.0, size.y()) + QPointF(2.0, -5.0),
      painter.fontMetrics().elidedText(words, Qt::ElideRight, static_cast<int>(m_zoom * size.x()) + 20));
}

void MatView::paintStrain(QPainter& painter, const Item& item) const {
  const Piece& piece = (*m_pieces)[item.piece];
  paintStrain(painter, m_panels->panels[piece.panel.value], item.pose, {});
  for (const FoldedOn& on : piece.also) paintStrain(painter, m_panels->panels[on.panel.value], item.pose, on.pose);
}

void MatView::paintStrain(QPainter& painter, const Panel& panel, const Pose& pose, const Pose& own) const {
  // Means at the vertices first, as on the stand: neighbours of opposite sign would only flicker.
  std::vector<double> mean(panel.flat.size(), 0.0);
  std::vector<int> count(mean.size(), 0);
  for (std::size_t f = 0; f < panel.solid.triangles.size(); ++f)
    for (const int v : panel.solid.triangles[f]) mean[v] += panel.face_strain[f], ++count[v];
  const auto at_face = [&](const Tri& t) {
    return (mean[t[0]] / count[t[0]] + mean[t[1]] / count[t[1]] + mean[t[2]] / count[t[2]]) / 3.0;
  };
  painter.setRenderHint(QPainter::Antialiasing, false);
  painter.setPen(Qt::NoPen);
  for (std::size_t f = 0; f < panel.solid.triangles.size(); ++f) {
    QPolygonF triangle;
    for (const int v : panel.solid.triangles[f]) {
      const Vec2 p = pose(own(panel.flat[v]));
      triangle << QPointF(p.x(), -p.y());
    }
    const QColor colour =
        colourOf(strainColour(static_cast<float>(at_face(panel.solid.triangles[f])), static_cast<float>(m_tolerance)));
    painter.setPen(QPen(colour, 0.2));
    painter.setBrush(colour);
    painter.drawPolygon(triangle);
  }
  painter.setRenderHint(QPainter::Antialiasing, true);
}

/// Whether a panel is part of this copy.
bool MatView::makes(const Item& item, int panel) const {
  if (panel < 0 || item.panel == panel) return panel >= 0;
  const auto& also = (*m_pieces)[item.piece].also;
  return std::any_of(also.begin(), also.end(),
      [&](const FoldedOn& on) { return (item.pose.flipped && on.twin ? *on.twin : on.panel).value == panel; });
}

void MatView::paintItem(QPainter& painter, const Item& item) const {
  const std::size_t index = static_cast<std::size_t>(&item - m_items.data());
  painter.save();
  painter.translate(toWidget(sheetLow(item.sheet)));
  painter.scale(m_zoom, m_zoom);
  DrawingStyle style;
  // What lies as it was drawn, as a strip or a lens, has no strain to show.
  const bool strained = m_strain && (*m_pieces)[item.piece].panel.valid();
  if (strained)
    paintStrain(painter, item);
  else
    style.fill = m_dark ? QColor(0x4a, 0x46, 0x3d) : QColor(0xfd, 0xfb, 0xf5);
  const bool lit = makes(item, m_lit);
  if (lit) style.fill = QColor(0xf2, 0xc1, 0x4e, strained ? 110 : 255);
  if (m_dark && !strained && !lit)
    style.cut = style.ticks = style.text = QColor(0xee, 0xe8, 0xda), style.tilt = QColor(0xf0, 0xa8, 0x6c),
    style.traces = QColor(0x7f, 0xd0, 0xbc);
  style.cut_mm = std::max(0.35, 1.6 / m_zoom);
  style.thin_mm = std::max(0.22, 1.0 / m_zoom);
  constexpr double kReadablePixels = 2.5;
  style.least_text_mm = kReadablePixels / m_zoom;
  paintDrawing(painter, m_drawings[index], style);
  paintFormer(painter, item);
  painter.restore();
}

/// How the piece was: a dashed line over it.
void MatView::paintFormer(QPainter& painter, const Item& item) const {
  const Piece& piece = (*m_pieces)[item.piece];
  for (const PieceChange& c : m_former) {
    if (c.kind != PieceChange::Kind::changed || c.number != piece.number || c.name != piece.name) continue;
    QPolygonF outline;
    for (const Vec2& p : c.former) {
      const Vec2 q = item.pose(p);
      outline << QPointF(q.x(), -q.y());
    }
    QPen pen(m_dark ? QColor(0xf0, 0xa8, 0x6c) : QColor(0xb3, 0x3a, 0x12), std::max(0.5, 2.0 / m_zoom));
    pen.setDashPattern({4, 3});
    painter.setPen(pen);
    painter.setBrush(Qt::NoBrush);
    painter.drawPolygon(outline);
  }
}

void MatView::paintScale(QPainter& painter) const {
  const double mm = m_zoom > 2.0 ? 50.0 : 100.0;
  const QPointF right(width() - 18.0, height() - 12.0), left = right - QPointF(mm * m_zoom, 0);
  const QColor ink = palette().color(QPalette::WindowText);
  QColor backing = palette().color(QPalette::Window);
  backing.setAlpha(220);
  painter.setPen(Qt::NoPen);
  painter.setBrush(backing);
  painter.drawRoundedRect(QRectF(left.x() - 12, left.y() - 26, mm * m_zoom + 24, 32), 5, 5);
  painter.setPen(QPen(ink, 2));
  painter.drawLine(left, right);
  painter.drawLine(left - QPointF(0, 5), left);
  painter.drawLine(right - QPointF(0, 5), right);
  drawFitted(painter, QRectF(left.x() - 12, left.y() - 24, mm * m_zoom + 24, 20), Qt::AlignHCenter | Qt::AlignBottom,
      tr("%1 mm").arg(mm));
}

void MatView::mousePressEvent(QMouseEvent* event) {
  m_last = event->pos();
  if (event->button() != Qt::LeftButton) return;
  const int item = itemAt(event->position());
  if (m_movable) {
    if (item != m_hand) putBack();
    m_hand = item;
    if (item >= 0) m_before = m_items[item].pose, m_beforeSheet = m_items[item].sheet;
    update();
  }
  emit panelClicked(item < 0 ? -1 : m_items[item].panel);
  if (item < 0) return;
  const Item& it = m_items[item];
  Vec2 at = Eigen::Rotation2Dd(-it.pose.angle_rad) * (toSheet(event->position(), it.sheet) - it.pose.at);
  if (it.pose.flipped) at.x() = -at.x();
  emit pieceClicked(it.piece, at.x(), at.y(), it.pose.flipped);
}

void MatView::mouseMoveEvent(QMouseEvent* event) {
  if (event->buttons() & Qt::MiddleButton) {
    m_origin += event->pos() - m_last;
    m_last = event->pos();
    m_fitted = false;
    update();
    return;
  }
  if (m_movable && m_hand >= 0 && (event->buttons() & Qt::LeftButton)) {
    const QPoint by = event->pos() - m_last;
    if (!m_dragging && by.manhattanLength() < 4) return;
    m_dragging = true;
    m_last = event->pos();
    moveHand(Vec2(by.x(), -by.y()) / m_zoom);
    return;
  }
  const int item = itemAt(event->position());
  emit panelPointed(item < 0 ? -1 : m_items[item].panel);
}

void MatView::mouseReleaseEvent(QMouseEvent* event) {
  if (event->button() == Qt::LeftButton && m_dragging) layDown();
}

void MatView::leaveEvent(QEvent*) { emit panelPointed(-1); }

void MatView::zoomAt(QPointF at, double factor) {
  const double next = std::clamp(m_zoom * factor, 0.05, 20.0);
  m_origin = at + (m_origin - at) * (next / m_zoom);
  m_zoom = next;
  m_fitted = false;
  update();
}

void MatView::wheelEvent(QWheelEvent* event) {
  zoomAt(event->position(), std::pow(1.15, event->angleDelta().y() / 120.0));
}

void MatView::keyPressEvent(QKeyEvent* event) {
  if (event->key() == Qt::Key_0) return zoomToFit();
  if (event->key() == Qt::Key_Plus) return zoomAt(rect().center(), 1.25);
  if (event->key() == Qt::Key_Minus) return zoomAt(rect().center(), 0.8);
  if (m_movable && !m_items.empty() && (event->key() == Qt::Key_N || event->key() == Qt::Key_B)) {
    putBack();
    const int count = static_cast<int>(m_items.size());
    m_hand = event->key() == Qt::Key_N ? (m_hand + 1) % count : (m_hand + count - 1) % count;
    m_before = m_items[m_hand].pose, m_beforeSheet = m_items[m_hand].sheet;
    return update();
  }
  if (m_movable && m_hand >= 0) {
    const bool much = event->modifiers() & Qt::ShiftModifier;
    const double step = much ? 20.0 : 2.0;
    switch (event->key()) {
      case Qt::Key_Left:
        return moveHand({-step, 0.0});
      case Qt::Key_Right:
        return moveHand({step, 0.0});
      case Qt::Key_Up:
        return moveHand({0.0, step});
      case Qt::Key_Down:
        return moveHand({0.0, -step});
      case Qt::Key_R:
        return turnHand(radians(much ? -15.0 : 15.0));
      case Qt::Key_Return:
      case Qt::Key_Enter:
        return layDown();
      case Qt::Key_Escape:
        return putBack();
      case Qt::Key_L: {
        const Item& item = m_items[m_hand];
        if (item.held)
          emit copyReleased(QString::fromStdString((*m_pieces)[item.piece].name), item.copy);
        else
          layDown();
        return;
      }
      default:
        break;
    }
  }
  QWidget::keyPressEvent(event);
}

void MatView::resizeEvent(QResizeEvent*) {
  if (m_fitted) zoomToFit();
}

void MatView::setMovable(bool movable) {
  if (m_movable == movable) return;
  putBack();
  m_hand = -1, m_movable = movable;
  setToolTip(movable
          ? tr("Drag a piece to lay it by hand: it then stays, and the others are laid round it. R turns it, L holds "
               "it or lets it go, N takes the next. Wheel to come nearer, middle button to shift, 0 to see all.")
          : tr("Point at a piece to see it on the stand. Wheel to come nearer, middle button to shift, 0 to see all."));
  update();
}

void MatView::moveHand(const Vec2& by) {
  Item& item = m_items[m_hand];
  item.pose.at += by;
  // Its middle tells which sheet it is over now; only sheets of its own kind and thickness take it.
  const Vec2 middle = sheetLow(item.sheet) + item.pose((*m_pieces)[item.piece].label_at);
  for (int s = 0; s < m_layout->sheets; ++s) {
    const Blank &from = m_layout->blanks[item.sheet], &to = m_layout->blanks[s];
    const Vec2 on = middle - sheetLow(s);
    if (s == item.sheet || on.minCoeff() < 0.0 || (on - sizeOf(s)).maxCoeff() > 0.0 || from.stuff != to.stuff ||
        from.thickness_mm != to.thickness_mm)
      continue;
    item.pose.at += sheetLow(item.sheet) - sheetLow(s);
    item.sheet = s;
    break;
  }
  judgeHand();
}

void MatView::turnHand(double by_rad) {
  Item& item = m_items[m_hand];
  const Vec2 middle = item.pose((*m_pieces)[item.piece].label_at);
  item.pose.angle_rad += by_rad;
  item.pose.at += middle - item.pose((*m_pieces)[item.piece].label_at);
  judgeHand();
}

void MatView::judgeHand() {
  const Item& item = m_items[m_hand];
  const Piece& piece = (*m_pieces)[item.piece];
  m_drawings[m_hand] = placed(draw_piece(piece, item.pose.flipped ? Copy::right : Copy::left), item.pose);
  m_under = whatIsUnder(m_collides);
  update();
}

/// What the copy in hand lies over: another's number and name, or the edge of the sheet; empty if it lies free. Copies
/// that are not held are only told of: they are laid anew round it.
std::string MatView::whatIsUnder(bool& blocks) const {
  blocks = true;
  const auto region = [&](const Item& of) {
    std::vector<Vec2> line;
    for (const Vec2& p : (*m_pieces)[of.piece].knife_line()) line.push_back(of.pose(p));
    return region_of({line});
  };
  constexpr double kTouchMm2 = 0.5;
  std::string loose;
  const Item& item = m_items[m_hand];
  const Rings own = region(item);
  if (region_area_mm2(own) - region_area_mm2(common(own, {m_layout->blanks[item.sheet].outline})) > kTouchMm2)
    return tr("the edge of the sheet").toStdString();
  for (int i = 0; i < static_cast<int>(m_items.size()); ++i) {
    if (i == m_hand || m_items[i].sheet != item.sheet || region_area_mm2(common(own, region(m_items[i]))) <= kTouchMm2)
      continue;
    const std::string what =
        std::to_string((*m_pieces)[m_items[i].piece].number) + ", " + (*m_pieces)[m_items[i].piece].name;
    if (m_items[i].held) return what + tr(", which is held").toStdString();
    loose = what + tr(", which is laid anew").toStdString();
  }
  blocks = false;
  return loose;
}

void MatView::layDown() {
  m_dragging = false;
  if (m_hand < 0) return;
  judgeHand();
  if (m_collides) {
    emit told(tr("It lies over %1: it was put back.").arg(QString::fromStdString(m_under)));
    return putBack();
  }
  const Item& item = m_items[m_hand];
  m_before = item.pose, m_beforeSheet = item.sheet;
  emit copyLaid(
      {(*m_pieces)[item.piece].name, item.copy, m_layout->blanks[item.sheet].place, item.pose.at, item.pose.angle_rad});
}

void MatView::putBack() {
  m_dragging = m_collides = false;
  m_under.clear();
  if (m_hand < 0 || m_hand >= static_cast<int>(m_items.size())) return;
  Item& item = m_items[m_hand];
  item.pose = m_before, item.sheet = m_beforeSheet;
  m_drawings[m_hand] =
      placed(draw_piece((*m_pieces)[item.piece], item.pose.flipped ? Copy::right : Copy::left), item.pose);
  update();
}

/// Pins on what is held, a rim round what is in hand, and what it lies over.
void MatView::paintHand(QPainter& painter) const {
  if (!m_movable) return;
  const QColor warn(0xb3, 0x3a, 0x12), act(0x1f, 0x6f, 0x8b);
  for (int i = 0; i < static_cast<int>(m_items.size()); ++i) {
    if (!m_items[i].held) continue;
    const QPointF pin = middleOf(i) + QPointF(0.0, 26.0);
    painter.setPen(QPen(m_dark ? QColor(0xee, 0xe8, 0xda) : QColor(0x1d, 0x27, 0x33), 1.4));
    painter.setBrush(act);
    painter.drawEllipse(pin, 5.0, 5.0);
    painter.drawLine(pin + QPointF(0.0, 5.0), pin + QPointF(0.0, 13.0));
  }
  if (m_hand < 0 || m_hand >= static_cast<int>(m_items.size())) return;
  const Item& item = m_items[m_hand];
  QPolygonF outline;
  for (const Vec2& p : (*m_pieces)[item.piece].knife_line()) outline << toWidget(item.pose(p) + sheetLow(item.sheet));
  painter.setPen(QPen(m_collides ? warn : act, 3.0));
  painter.setBrush(m_collides ? QBrush(warn, Qt::BDiagPattern) : QBrush(Qt::NoBrush));
  painter.drawPolygon(outline);
  if (m_under.empty()) return;
  const QString text = tr("over %1").arg(QString::fromStdString(m_under));
  QRectF box = painter.fontMetrics().boundingRect(text);
  box.moveCenter(middleOf(m_hand) + QPointF(0.0, -24.0));
  // Words stay within the view.
  box.moveLeft(std::clamp(box.left(), 10.0, std::max(10.0, width() - 10.0 - box.width())));
  box.moveTop(std::clamp(box.top(), 6.0, height() - 30.0));
  painter.fillRect(box.adjusted(-6, -3, 6, 3), m_collides ? warn : act);
  painter.setPen(Qt::white);
  painter.drawText(box, Qt::AlignCenter, text);
}

}  // namespace awl
