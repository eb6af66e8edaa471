#include "app/stations/foam/photo_trace.hpp"

#include <QHBoxLayout>
#include <QMouseEvent>
#include <QPainter>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/geom/polygon.hpp"
#include "app/widgets/text.hpp"

namespace awl {
namespace {

constexpr double kReachPx = 9.0;  // a corner this near is taken hold of
constexpr double kStillPx = 3.0;  // a hand that shakes no more does not drag
constexpr double kSharpPx = 0.3;  // how well a sharp corner is found
constexpr double kUnsureMm = 5.0;
constexpr std::size_t kSquare = 4;

}  // namespace

PhotoView::PhotoView(QWidget* parent) : QWidget(parent) {
  setObjectName(QStringLiteral("photo-view"));
  setAccessibleName(tr("The photograph"));
  setToolTip(tr("Click corner after corner; drag one to move it."));
  setMinimumSize(560, 420);
  setCursor(Qt::CrossCursor);
}

void PhotoView::setPhoto(const QImage& photo) {
  m_photo = photo;
  const QImage grey = photo.convertToFormat(QImage::Format_Grayscale8);
  m_grey = {grey.width(), grey.height(), {}};
  for (int y = 0; y < grey.height(); ++y)
    m_grey.grey.insert(m_grey.grey.end(), grey.constScanLine(y), grey.constScanLine(y) + grey.width());
  clear();
}

void PhotoView::clear() { m_points.clear(), m_sharp.clear(), update(), emit pointsChanged(); }
void PhotoView::removeLast() {
  if (!m_points.empty()) m_points.pop_back(), m_sharp.pop_back();
  update();
  emit pointsChanged();
}

double PhotoView::zoom() const {
  return m_photo.isNull()
      ? 1.0
      : std::min(static_cast<double>(width()) / m_photo.width(), static_cast<double>(height()) / m_photo.height());
}
QPointF PhotoView::corner() const {
  return {0.5 * (width() - m_photo.width() * zoom()), 0.5 * (height() - m_photo.height() * zoom())};
}
QPointF PhotoView::placeOf(const Vec2& p) const { return corner() + QPointF(p.x() * zoom(), p.y() * zoom()); }
Vec2 PhotoView::pixelAt(QPointF at) const {
  const QPointF on = (at - corner()) / zoom();
  return {std::clamp(on.x(), 0.0, m_photo.width() - 1.0), std::clamp(on.y(), 0.0, m_photo.height() - 1.0)};
}

void PhotoView::mousePressEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton || m_photo.isNull()) return;
  m_dragged = -1;
  m_pressed = event->position();
  for (std::size_t i = 0; i < m_points.size(); ++i)
    if (const QPointF off = placeOf(m_points[i]) - event->position(); std::hypot(off.x(), off.y()) < kReachPx)
      m_dragged = static_cast<int>(i);
  if (m_dragged < 0) {
    m_points.push_back(pixelAt(event->position()));
    m_sharp.push_back(0);
    m_dragged = static_cast<int>(m_points.size()) - 1;
    // Those of the square set the scale of all: a sharp corner of the picture near by is the one that was meant.
    if (m_points.size() <= kSquare)
      if (const auto corner = corner_near(m_grey, m_points.back(), kReachPx / zoom()))
        m_points.back() = *corner, m_sharp.back() = 1;
  }
  update();
  emit pointsChanged();
}

void PhotoView::mouseMoveEvent(QMouseEvent* event) {
  if (m_dragged < 0 || !(event->buttons() & Qt::LeftButton)) return;
  const QPointF moved = event->position() - m_pressed;
  if (std::hypot(moved.x(), moved.y()) < kStillPx) return;
  m_sharp[static_cast<std::size_t>(m_dragged)] = 0;
  m_points[static_cast<std::size_t>(m_dragged)] = pixelAt(event->position());
  update();
  emit pointsChanged();
}

double PhotoView::slipPx() const {
  return m_sharp.size() >= kSquare &&
          std::all_of(m_sharp.begin(), m_sharp.begin() + kSquare, [](char sharp) { return sharp != 0; })
      ? kSharpPx
      : 1.0 / zoom();
}

void PhotoView::mouseReleaseEvent(QMouseEvent*) { m_dragged = -1; }

void PhotoView::paintEvent(QPaintEvent*) {
  QPainter painter(this);
  painter.setRenderHints(QPainter::Antialiasing | QPainter::SmoothPixmapTransform);
  painter.drawImage(QRectF(corner(), QSizeF(m_photo.width() * zoom(), m_photo.height() * zoom())), m_photo);
  const auto loop = [&](std::size_t from, std::size_t to, const QColor& colour) {
    QPolygonF line;
    for (std::size_t i = from; i < to; ++i) line << placeOf(m_points[i]);
    for (const QPen& pen : {QPen(Qt::white, 4.0), QPen(colour, 2.0)}) {
      painter.setPen(pen);
      painter.setBrush(Qt::NoBrush);
      if (line.size() > 2)
        painter.drawPolygon(line);
      else
        painter.drawPolyline(line);
      for (const QPointF& p : line) painter.drawEllipse(p, 4.0, 4.0);
    }
  };
  loop(0, std::min(kSquare, m_points.size()), QColor(0x1f, 0x6f, 0x8b));
  if (m_points.size() > kSquare) loop(kSquare, m_points.size(), QColor(0xb3, 0x3a, 0x12));
}

PhotoTrace::PhotoTrace(const QImage& photo, LengthUnit unit, QWidget* parent)
    : EyeDialog(parent), m_view(new PhotoView(this)),
      m_side(new LengthField(QStringLiteral("photo-side"), tr("Side of the square"),
          tr("A card cut square, a tile: whatever lies on the sheet and is measured."), this)),
      m_said(new QLabel(this)), m_back(new QPushButton(tr("Take the last corner back"), this)),
      m_again(new QPushButton(tr("Begin again"), this)), m_take(new QPushButton(tr("Take this outline"), this)),
      m_unit(unit) {
  setObjectName(QStringLiteral("photo-trace"));
  setWindowTitle(tr("Trace an offcut"));
  resize(920, 640);
  m_view->setPhoto(photo);
  m_side->showValue(m_sideMm, unit);
  m_said->setObjectName(QStringLiteral("photo-said"));
  m_said->setWordWrap(true);
  const struct {
    QPushButton* button;
    const char* name;
    QString tip;
  } buttons[] = {{m_back, "photo-back", tr("One corner at a time.")},
      {m_again, "photo-again", tr("Forgets all corners.")},
      {m_take, "photo-take", tr("Puts the outline into the tray; it still needs a name.")}};
  for (const auto& b : buttons)
    b.button->setObjectName(QLatin1String(b.name)), b.button->setToolTip(b.tip), b.button->setAutoDefault(false);
  m_take->setProperty("act", true);
  auto* side = new QVBoxLayout;
  auto* label = new QLabel(tr("Side of the square"), this);
  label->setBuddy(m_side);
  side->addWidget(label);
  side->addWidget(m_side);
  side->addWidget(m_said);
  side->addStretch(1);
  side->addWidget(m_back);
  side->addWidget(m_again);
  side->addWidget(m_take);
  auto* all = new QHBoxLayout(this);
  all->addWidget(m_view, 1);
  all->addLayout(side);
  m_said->setFixedWidth(240);
  connect(m_view, &PhotoView::pointsChanged, this, &PhotoTrace::renew);
  connect(m_back, &QPushButton::clicked, m_view, &PhotoView::removeLast);
  connect(m_again, &QPushButton::clicked, m_view, &PhotoView::clear);
  connect(m_take, &QPushButton::clicked, this, &QDialog::accept);
  connect(m_side, &LengthField::entered, this, [this](double mm) {
    m_sideMm = mm;
    m_side->showValue(mm, m_unit);
    renew();
  });
  renew();
}

void PhotoTrace::renew() {
  const auto& points = m_view->points();
  m_outline.clear();
  m_take->setEnabled(false);
  m_back->setEnabled(!points.empty());
  m_again->setEnabled(!points.empty());
  if (points.size() < kSquare)
    return m_said->setText(
        tr("Click the four corners of the square, one after the other: %1 of 4. It must lie flat on the sheet. A sharp "
           "corner near by is found by itself; drag it if it is the wrong one.")
            .arg(points.size()));
  const auto plane = PhotoPlane::of({points[0], points[1], points[2], points[3]}, m_sideMm);
  if (!plane) return m_said->setText(qs(plane.error().text));
  const std::vector<Vec2> corners(points.begin() + kSquare, points.end());
  if (corners.size() < 3)
    return m_said->setText(tr("Now the corners of the offcut, all the way round: %1 so far.").arg(corners.size()));
  const auto made = make_offcut({0, "", "", 1.0, plane->on_table(corners), {}});
  if (!made) return m_said->setText(qs(made.error().text));
  m_outline = made->outline;
  Vec2 high = Vec2::Zero();
  for (const Vec2& p : m_outline) high = high.cwiseMax(p);
  const double off = slip_mm({points[0], points[1], points[2], points[3]}, m_sideMm, corners, m_view->slipPx());
  const QString sure = off > kUnsureMm
      ? tr("Good to about %1 only: the square is small in the picture. A larger one, or a nearer photograph, is surer.")
      : tr("Good to about %1.");
  m_said->setText(
      tr("%1 corners, %2 \u00d7 %3, %4 cm\u00b2. %5 Go on clicking, or take it.")
          .arg(m_outline.size())
          .arg(qs(format_length(std::round(high.x()), m_unit)), qs(format_length(std::round(high.y()), m_unit)))
          .arg(std::round(signed_area_mm2(m_outline) / 100.0))
          .arg(sure.arg(qs(format_length(std::max(1.0, std::round(off)), m_unit)))));
  m_take->setEnabled(true);
}

}  // namespace awl
