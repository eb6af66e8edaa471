#include "core/coat/colour.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace awl {
namespace {

std::array<double, 3> lab_of(unsigned rgb) {
  std::array<double, 3> linear{};
  for (int k = 0; k < 3; ++k) {
    const double v = ((rgb >> (16 - 8 * k)) & 0xffU) / 255.0;
    linear[k] = v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4);
  }
  const double x = (0.4124564 * linear[0] + 0.3575761 * linear[1] + 0.1804375 * linear[2]) / 0.95047;
  const double y = 0.2126729 * linear[0] + 0.7151522 * linear[1] + 0.0721750 * linear[2];
  const double z = (0.0193339 * linear[0] + 0.1191920 * linear[1] + 0.9503041 * linear[2]) / 1.08883;
  const auto f = [](double t) { return t > 216.0 / 24389.0 ? std::cbrt(t) : (24389.0 / 27.0 * t + 16.0) / 116.0; };
  return {116.0 * f(y) - 16.0, 500.0 * (f(x) - f(y)), 200.0 * (f(y) - f(z))};
}

unsigned rgb_of(const std::array<double, 3>& lab) {
  const double fy = (lab[0] + 16.0) / 116.0;
  const auto back = [](double f) {
    const double cube = f * f * f;
    return cube > 216.0 / 24389.0 ? cube : (116.0 * f - 16.0) * 27.0 / 24389.0;
  };
  const double x = back(fy + lab[1] / 500.0) * 0.95047, y = back(fy), z = back(fy - lab[2] / 200.0) * 1.08883;
  unsigned rgb = 0;
  for (const double v : {3.2404542 * x - 1.5371385 * y - 0.4985314 * z, -0.9692660 * x + 1.8760108 * y + 0.0415560 * z,
           0.0556434 * x - 0.2040259 * y + 1.0572252 * z}) {
    const double shown = v <= 0.0031308 ? 12.92 * v : 1.055 * std::pow(v, 1.0 / 2.4) - 0.055;
    rgb = rgb << 8 | static_cast<unsigned>(std::lround(255.0 * std::clamp(shown, 0.0, 1.0)));
  }
  return rgb;
}

}  // namespace

double colour_difference(unsigned one, unsigned other) {
  const auto a = lab_of(one), b = lab_of(other);
  return std::hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);
}

double lightness_of(unsigned rgb) { return lab_of(rgb)[0] / 100.0; }

int gradient_mixes(unsigned one, unsigned other) {
  constexpr double kStep = 8.0;  // a difference that is not seen as a step: workshop value
  return static_cast<int>(std::ceil(colour_difference(one, other) / kStep)) + 1;
}

unsigned mix_between(unsigned one, unsigned other, int k, int count) {
  k = std::clamp(k, 0, std::max(0, count - 1));
  if (k == 0) return one;
  if (k == count - 1) return other;
  const auto a = lab_of(one), b = lab_of(other);
  const double t = static_cast<double>(k) / (count - 1);
  return rgb_of({a[0] + t * (b[0] - a[0]), a[1] + t * (b[1] - a[1]), a[2] + t * (b[2] - a[2])});
}

}  // namespace awl
