#include "app/stand/far_look.hpp"

#include <algorithm>
#include <cmath>

#include "core/coat/masking.hpp"

namespace awl {
namespace {

constexpr double kArmMm = 600.0;

}  // namespace

QImage madeOutFrom(const QImage& picture, double mm_per_pixel, double metres) {
  const double block = seen_stroke_mm(metres) / mm_per_pixel;
  if (block <= 1.0 || picture.isNull()) return picture;
  const QSize small(std::max(1, static_cast<int>(std::lround(picture.width() / block))),
      std::max(1, static_cast<int>(std::lround(picture.height() / block))));
  return picture.scaled(small, Qt::IgnoreAspectRatio, Qt::SmoothTransformation)
      .scaled(picture.size(), Qt::IgnoreAspectRatio, Qt::SmoothTransformation);
}

QRect withoutBackground(const QImage& picture) {
  constexpr int kAlike = 10, kRoom = 4;
  QRect content;
  for (int y = 0; y < picture.height(); ++y) {
    const int plain = qGray(picture.pixel(0, y));
    for (int x = 1; x < picture.width(); ++x)
      if (std::abs(qGray(picture.pixel(x, y)) - plain) > kAlike) content = content.united(QRect(x, y, 1, 1));
  }
  return content.isEmpty() ? picture.rect()
                           : content.adjusted(-kRoom, -kRoom, kRoom, kRoom).intersected(picture.rect());
}

double apparentScale(double mm_per_pixel, double metres, double screen_mm_per_pixel) {
  return mm_per_pixel / screen_mm_per_pixel * kArmMm / (metres * 1000.0);
}

}  // namespace awl
