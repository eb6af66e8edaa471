#pragma once
#include <QImage>
#include <QPainter>
#include <optional>

#include "core/fit/worn.hpp"

namespace awl {

/// What a direction is to the wearer.
enum class Seen { beyond, covered, one, both };
Seen seen_at(const Sight& sight, const Vec3& direction);

/// The round map of a wearer's view in a circle: straight ahead in the middle, their left on the left.
class SightMap {
 public:
  static constexpr double kMostDeg = 110.0;
  explicit SightMap(QRectF circle) : m_circle(circle) {}
  std::optional<Vec3> directionAt(QPointF at) const;
  QPointF placeOf(double az_deg, double el_deg) const;
  /// The map alone; `ratio`: pixels of the image for one of the circle's units. Covered and one-eyed places are drawn
  /// with strokes beside their shade.
  QImage image(const Sight& sight, QSize size, double ratio, bool dark) const;
  /// Circles every 30 degrees, their names, and the sides.
  void paintLabels(QPainter& painter, const QColor& ink) const;
  /// What the shades mean, in words, from a place on to the right, or one below the other.
  static void paintKey(QPainter& painter, QPointF at, const QColor& ink, bool below = false);

 private:
  QRectF m_circle;
};

}  // namespace awl
