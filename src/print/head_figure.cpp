#include "print/head_figure.hpp"

#include <QPainterPath>
#include <algorithm>

#include "core/geom/nearest.hpp"
#include "core/geom/section.hpp"
#include "print/paint_drawing.hpp"
#include "print/pens.hpp"

namespace awl {
namespace {

const QColor kFaint(0xa8, 0xb0, 0xb8);

/// Right and up of the page, and the way to the eye.
struct View {
  Vec3 right, up, eye;
};
View viewFrom(Side side) {
  const Vec3 x = Vec3::UnitX(), y = Vec3::UnitY(), z = Vec3::UnitZ();
  switch (side) {
    case Side::left:
      return {-z, y, x};
    case Side::back:
      return {-x, y, -z};
    case Side::top:
      return {-x, z, y};
    case Side::front:
      break;
  }
  return {x, y, z};
}

class Figure {
 public:
  Figure(QPainter& painter, const QRectF& box, const Mesh& mesh, Side side)
      : m_painter(painter), m_mesh(mesh), m_near(mesh), m_view(viewFrom(side)) {
    Box flat;
    for (const Vec3& p : mesh.vertices) flat.include({m_view.right.dot(p), m_view.up.dot(p), 0.0});
    m_scale = std::min(box.width() / flat.size().x(), box.height() / flat.size().y());
    const Vec3 middle = 0.5 * (flat.low + flat.high);
    m_origin = QPointF(box.center().x() - m_scale * middle.x(), box.center().y() + m_scale * middle.y());
  }

  double scale() const { return m_scale; }
  QPointF at(const Vec3& p) const {
    return m_origin + QPointF(m_scale * m_view.right.dot(p), -m_scale * m_view.up.dot(p));
  }
  bool seen(const Vec3& p) const { return !m_near.blocked(p + 1.2 * m_view.eye, m_view.eye, 600.0); }

  void line(const FigureLine& line) {
    QPainterPath seen_part, hidden_part;
    for (std::size_t i = 0; i + 1 < line.points.size(); ++i) {
      const Vec3 &a = line.points[i], &b = line.points[i + 1];
      const int steps = std::max(1, static_cast<int>((b - a).norm() / 4.0));
      for (int k = 0; k < steps; ++k) {
        const Vec3 from = a + (b - a) * k / steps, to = a + (b - a) * (k + 1) / steps;
        QPainterPath& path = seen(0.5 * (from + to)) ? seen_part : hidden_part;
        path.moveTo(at(from));
        path.lineTo(at(to));
      }
    }
    m_painter.strokePath(seen_part, QPen(line.colour, line.width_mm, Qt::SolidLine, Qt::RoundCap));
    if (line.through)
      m_painter.strokePath(hidden_part, QPen(line.colour, 0.6 * line.width_mm, Qt::DotLine, Qt::RoundCap));
  }

  void outline() {
    QPainterPath path;
    for (const auto& e : topology_of(m_mesh).edges) {
      const double a = area_vector(m_mesh, m_mesh.triangles[e.left]).dot(m_view.eye);
      const double b = e.right < 0 ? -a : area_vector(m_mesh, m_mesh.triangles[e.right]).dot(m_view.eye);
      if (a * b > 0.0 || !seen(0.5 * (m_mesh.vertices[e.a] + m_mesh.vertices[e.b]))) continue;
      path.moveTo(at(m_mesh.vertices[e.a]));
      path.lineTo(at(m_mesh.vertices[e.b]));
    }
    m_painter.strokePath(path, QPen(kInk, 0.45, Qt::SolidLine, Qt::RoundCap));
  }

  void sections() {
    const Box box = box_of(m_mesh.vertices);
    const bool from_top = m_view.eye.y() > 0.5;
    constexpr double kStepMm = 15.0;
    for (double level = (from_top ? box.low.z() : box.low.y()) + 0.5 * kStepMm;
         level < (from_top ? box.high.z() : box.high.y()); level += kStepMm)
      for (const auto& points : section_lines(
               m_mesh, {level * (from_top ? Vec3::UnitZ() : Vec3::UnitY()), from_top ? Vec3::UnitZ() : Vec3::UnitY()}))
        line({points, kFaint, 0.18, false});
  }

  void mark(const FigureMark& mark) {
    if (!seen(mark.at)) return;
    const QPointF p = at(mark.at);
    m_painter.setPen(QPen(kInk, 0.3));
    m_painter.setBrush(Qt::white);
    m_painter.drawEllipse(p, 1.1, 1.1);
    constexpr double kHeight = 1.9;
    const double half = 0.5 * textWidth(mark.label, kHeight, true) + 2.0;
    // Outwards first, then wherever no other label stands.
    const double out = p.x() > m_origin.x() + 1.0 ? half : -half;
    QRectF box;
    for (const QPointF& off : {QPointF(out, -1.6), QPointF(-out, -1.6), QPointF(0, 3.6), QPointF(0, -3.6),
             QPointF(out, 3.4), QPointF(-out, 3.4), QPointF(0, 7.2)}) {
      box = QRectF(p.x() + off.x() - half + 1.2, p.y() + off.y() - 1.8, 2.0 * half - 2.4, 3.6);
      if (std::none_of(m_labels.begin(), m_labels.end(), [&](const QRectF& other) { return other.intersects(box); }))
        break;
    }
    m_labels.push_back(box);
    QPainterPath halo;
    halo.addRoundedRect(box, 0.8, 0.8);
    m_painter.fillPath(halo, QColor(255, 255, 255, 220));
    paintText(m_painter, mark.label, box.center(), kHeight, 0.0, kInk, true);
  }

 private:
  QPainter& m_painter;
  const Mesh& m_mesh;
  Nearest m_near;
  View m_view;
  double m_scale = 1.0;
  QPointF m_origin;
  std::vector<QRectF> m_labels;  ///< set so far
};

}  // namespace

double paintHeadFigure(QPainter& painter, const QRectF& box, const Mesh& mesh, Side side,
    const std::vector<FigureLine>& lines, const std::vector<FigureMark>& marks) {
  Figure figure(painter, box, mesh, side);
  figure.sections();
  figure.outline();
  for (const FigureLine& line : lines) figure.line(line);
  for (const FigureMark& mark : marks) figure.mark(mark);
  return figure.scale();
}

}  // namespace awl
