#include "print/form_figure.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "print/paint_drawing.hpp"
#include "print/pens.hpp"

namespace awl {
namespace {

const QColor kThere(0xd9, 0xdc, 0xde), kFresh(0xd8, 0x8a, 0x4a);

struct Face {
  double depth;
  QPointF corners[3];
  QColor colour;
};
struct Stroke {
  QPointF a, b;
  double depth;
  bool thick;
};

QColor shaded(const QColor& c, double facing) {
  const double light = 0.62 + 0.38 * std::abs(facing);
  return QColor(
      static_cast<int>(c.red() * light), static_cast<int>(c.green() * light), static_cast<int>(c.blue() * light));
}

/// The way to the eye: outwards from the fresh panels, a little from above, never straight along the seam between a
/// pair.
Vec3 eye_for(const PanelSet& set, const FormFigure& figure) {
  Vec3 sum = Vec3::Zero();
  for (const Panel& p : set.panels)
    if (figure.fresh.count(p.id) && !(p.mirror_of && figure.fresh.count(*p.mirror_of)))
      for (const Tri& t : p.solid.triangles) sum += area_vector(p.solid, t);
  Vec3 eye = sum.norm() > 1e-6 ? sum.normalized() : Vec3(0.6, 0.3, 0.74);
  eye.y() = std::clamp(eye.y(), -0.15, 0.75);
  if (std::hypot(eye.x(), eye.z()) < 0.25) eye.x() += 0.35, eye.z() += 0.5;
  return (eye + Vec3(0.12, 0.12, 0.0)).normalized();
}

class Painter {
 public:
  Painter(const PanelSet& set, const FormFigure& figure) : set_(set), figure_(figure), eye_(eye_for(set, figure)) {
    right_ = Vec3::UnitY().cross(eye_).normalized();
    up_ = eye_.cross(right_);
  }

  void run(QPainter& painter, const QRectF& box, const std::map<PanelId, QString>& words) {
    Vec2 low = Vec2::Constant(1e300), high = -low;
    for (const Panel& p : set_.panels) {
      if (!shown(p)) continue;
      for (const Vec3& v : p.solid.vertices) {
        const Vec2 q = flat(v + shift(p));
        low = low.cwiseMin(q), high = high.cwiseMax(q);
      }
    }
    if (low.x() > high.x()) return;
    const Vec2 size = high - low;
    scale_ = std::min(box.width() / std::max(size.x(), 1.0), box.height() / std::max(size.y(), 1.0));
    origin_ = QPointF(
        box.center().x() - scale_ * 0.5 * (low.x() + high.x()), box.center().y() + scale_ * 0.5 * (low.y() + high.y()));
    for (const Panel& p : set_.panels)
      if (shown(p)) add(p);
    std::sort(faces_.begin(), faces_.end(), [](const Face& a, const Face& b) { return a.depth < b.depth; });
    std::sort(strokes_.begin(), strokes_.end(), [](const Stroke& a, const Stroke& b) { return a.depth < b.depth; });
    const double pen = 0.004 * std::min(box.width(), box.height());
    std::size_t next = 0;
    for (const Face& f : faces_) {
      painter.setPen(QPen(f.colour, 0.25 * pen));
      painter.setBrush(f.colour);
      painter.drawPolygon(f.corners, 3);
      for (; next < strokes_.size() && strokes_[next].depth <= f.depth; ++next) stroke(painter, strokes_[next], pen);
    }
    for (; next < strokes_.size(); ++next) stroke(painter, strokes_[next], pen);
    const double capital = 0.05 * std::min(box.width(), box.height());
    for (const Panel& p : set_.panels)
      if (const auto word = words.find(p.id); shown(p) && word != words.end() && faces_eye(p)) {
        const QPointF at = place(middle(p) + shift(p));
        const double half = 0.5 * textWidth(word->second, capital, true) + 0.5 * capital;
        painter.setPen(Qt::NoPen);
        painter.setBrush(QColor(255, 255, 255, 210));
        painter.drawRoundedRect(
            QRectF(at.x() - half, at.y() - capital, 2 * half, 2 * capital), 0.4 * capital, 0.4 * capital);
        paintText(painter, word->second, at, capital, 0.0, kInk, true);
      }
  }

 private:
  bool shown(const Panel& p) const { return figure_.there.count(p.id) || figure_.fresh.count(p.id); }
  Vec2 flat(const Vec3& p) const { return {right_.dot(p), up_.dot(p)}; }
  QPointF place(const Vec3& p) const { return origin_ + scale_ * QPointF(right_.dot(p), -up_.dot(p)); }

  static Vec3 middle(const Panel& p) {
    Vec3 sum = Vec3::Zero();
    for (const Vec3& v : p.solid.vertices) sum += v;
    return sum / static_cast<double>(p.solid.vertices.size());
  }
  Vec3 normal(const Panel& p) const {
    Vec3 n = Vec3::Zero();
    for (const Tri& t : p.solid.triangles) n += area_vector(p.solid, t);
    return n.normalized();
  }
  bool faces_eye(const Panel& p) const { return normal(p).dot(eye_) > 0.1; }
  Vec3 shift(const Panel& p) const {
    return figure_.fresh.count(p.id) ? Vec3(figure_.apart_mm * normal(p)) : Vec3(Vec3::Zero());
  }

  void add(const Panel& p) {
    const QColor colour = figure_.fresh.count(p.id) ? kFresh : kThere;
    const Vec3 by = shift(p);
    for (const Tri& t : p.solid.triangles) {
      Face f;
      f.depth = 0.0;
      for (int k = 0; k < 3; ++k)
        f.corners[k] = place(p.solid.vertices[t[k]] + by), f.depth += eye_.dot(p.solid.vertices[t[k]] + by) / 3.0;
      f.colour = shaded(colour, area_vector(p.solid, t).normalized().dot(eye_));
      faces_.push_back(f);
    }
    for (const BorderEdge& e : p.border) {
      const Vec3 a = p.solid.vertices[e.a] + by, b = p.solid.vertices[e.b] + by;
      // A little nearer than its own faces, so that they do not cover it.
      strokes_.push_back(
          {place(a), place(b), eye_.dot(0.5 * (a + b)) + 3.0, e.seam.valid() && figure_.seams.count(e.seam) > 0});
    }
  }

  static void stroke(QPainter& painter, const Stroke& s, double pen) {
    painter.setPen(QPen(kInk, s.thick ? 2.6 * pen : pen, Qt::SolidLine, Qt::RoundCap));
    painter.drawLine(s.a, s.b);
  }

  const PanelSet& set_;
  const FormFigure& figure_;
  Vec3 eye_, right_, up_;
  double scale_ = 1.0;
  QPointF origin_;
  std::vector<Face> faces_;
  std::vector<Stroke> strokes_;
};

}  // namespace

void paintFormFigure(QPainter& painter, const QRectF& box, const PanelSet& panels, const FormFigure& figure,
    const std::map<PanelId, QString>& words) {
  painter.save();
  Painter(panels, figure).run(painter, box, words);
  painter.restore();
}

}  // namespace awl
