#include "app/stations/tape/tape_picture.hpp"

#include <QPainter>
#include <QPainterPath>

#include "core/base/numbers.hpp"

namespace awl {
namespace {

StandCamera cameraFor(Side side) {
  StandCamera camera;
  camera.distance = side == Side::top ? 640.0f : 760.0f;
  camera.target = Vec3f(0.0f, -14.0f, 0.0f);
  // A little off the axis, so that the head keeps its depth.
  camera.yaw = side == Side::left ? static_cast<float>(0.44 * kPi)
      : side == Side::back        ? static_cast<float>(0.92 * kPi)
      : side == Side::top         ? 0.0f
                                  : 0.14f;
  camera.pitch = side == Side::top ? 1.35f : 0.06f;
  return camera;
}

}  // namespace

QImage tapePicture(const Derived& derived, MeasureId measure, QSize size, double ratio, bool dark) {
  if (!derived.head || !derived.tapes || size.isEmpty()) return {};
  StandChoice choice;
  choice.hood = false;
  choice.lit = measure;
  const StandScene scene = makeStandScene(derived, choice);
  StandRaster raster;
  StandRaster::Options options;
  options.dark = dark;
  const QSize pixels = size * ratio;
  QImage image = raster.render({scene.bodies.front()}, cameraFor(facts_of(measure).seen_from), pixels, 2, options)
                     .scaled(pixels, Qt::IgnoreAspectRatio, Qt::SmoothTransformation);
  QPainter painter(&image);
  painter.setRenderHint(QPainter::Antialiasing);
  const auto at = [&](const Vec3f& p) {
    const Vec3f s = raster.project(p);
    return QPointF(0.5 * s.x(), 0.5 * s.y());
  };
  for (const auto& line : scene.overlay.lines) {
    if (line.ink != StandOverlay::Ink::lit) continue;
    QPainterPath seen, hidden;
    for (std::size_t i = 0; i + 1 < line.points.size(); ++i) {
      QPainterPath& path = raster.visible(0.5f * (line.points[i] + line.points[i + 1]), 4.0f) ? seen : hidden;
      path.moveTo(at(line.points[i]));
      path.lineTo(at(line.points[i + 1]));
    }
    painter.strokePath(hidden, QPen(QColor(0xd9, 0x5b, 0x1f, 150), 1.4 * ratio, Qt::DotLine));
    painter.strokePath(seen, QPen(QColor(0x2a, 0x24, 0x1c), 5.0 * ratio));
    painter.strokePath(seen, QPen(QColor(0xd9, 0x5b, 0x1f), 3.2 * ratio));
    if (!line.straight) continue;
    painter.setBrush(QColor(0xd9, 0x5b, 0x1f));
    for (const Vec3f& end : {line.points.front(), line.points.back()})
      painter.drawEllipse(at(end), 4.0 * ratio, 4.0 * ratio);
  }
  painter.end();
  image.setDevicePixelRatio(ratio);
  return image;
}

}  // namespace awl
