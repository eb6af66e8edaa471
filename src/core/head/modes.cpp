#include "core/head/modes.hpp"

#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/result.hpp"

namespace awl {
namespace {

double growth(double t) { return t > 0.0 ? t * t / (t + 40.0) : 0.0; }

/// Bells at a centre and its mirror image, pushing along `dir` (x mirrored too).
Vec3 corner_bell(const Vec3& p, const Vec3& centre, const Vec3& sigma, const Vec3& dir) {
  const auto one = [&](double side) {
    const Vec3 q(side * p.x(), p.y(), p.z());
    const double h = std::exp(-0.5 * (q - centre).cwiseQuotient(sigma).squaredNorm());
    return Vec3(side * h * dir.x(), h * dir.y(), h * dir.z());
  };
  if (centre.x() == 0.0) return one(1.0);
  return one(1.0) + one(-1.0);
}

double ear_mask(const Vec3& p, const Vec3& centre, const Vec3& radii, double inner) {
  const Vec3 q(std::abs(p.x()), p.y(), p.z());
  return 1.0 - smoothstep(inner, 1.9, (q - centre).cwiseQuotient(radii).norm());
}

void cranium_modes(const Vec3& p, ModeColumns& m) {
  const double x = p.x(), y = p.y(), z = p.z();
  const double wc = smoothstep(-10, 45, y);
  const double w = wc + (0.75 - 0.75 * wc) * smoothstep(-45, 0, y);
  m.col(0) = 0.01 * p;
  m.col(1).z() = -growth(-z) / growth(97) * smoothstep(-75, 10, y);
  m.col(2).z() = growth(z) / growth(97) * smoothstep(-125, -85, y);
  m.col(3).x() = x / 76 * w;
  m.col(4).y() = growth(y - 15) / growth(113);
  m.col(14) = corner_bell(p, {52, 98, -10}, {24, 24, 60}, {0.7, 0.7, 0});
  m.col(15) = corner_bell(p, {54, 45, 62}, {24, 38, 26}, {0.7, 0, 0.7});
  m.col(16) = corner_bell(p, {54, 40, -68}, {24, 38, 26}, {0.7, 0, -0.7});
  m.col(17) = corner_bell(p, {0, 98, 62}, {55, 24, 26}, {0, 0.7, 0.7});
  m.col(18) = corner_bell(p, {0, 100, -68}, {55, 24, 26}, {0, 0.7, -0.7});
  m.col(19) = corner_bell(p, {0, -15, -76}, {50, 24, 28}, {0, 0, -1});
  m.col(30).x() = x * x / (std::abs(x) + 15) / 76 * w * 1.15;
}

void face_modes(const Vec3& p, ModeColumns& m) {
  const double x = p.x(), y = p.y(), z = p.z();
  const double above_neck = smoothstep(-165, -100, y), front = smoothstep(-25, 40, z);
  m.col(5).y() = -(1 - smoothstep(-32, 20, y)) * front * above_neck;
  m.col(6).y() = -(1 - smoothstep(-85, -30, y)) * front * above_neck;
  m.col(7).x() = x / 69.5 * bell(y + 6, 30) * smoothstep(-45, 30, z);
  m.col(8).x() = x / 58 * bell(y + 62, 26) * smoothstep(-35, 10, z);
  m.col(9).z() = smoothstep(95, 118, z) * bell(x, 14) * smoothstep(-42, -28, y) * (1 - smoothstep(-5, 22, y));
  m.col(10).x() = 0.5 * x / 31.3 * bell(std::abs(x) - 31.3, 17) * bell(y - 12.5, 15) * smoothstep(35, 75, z);
  const double chin = smoothstep(20, 75, z) * (1 - smoothstep(-85, -35, y)) * above_neck;
  m.col(22).z() = chin;
  m.col(31).x() = chin;
}

void ear_and_neck_modes(const Vec3& p, double off_skin_mm, ModeColumns& m) {
  const double x = p.x(), y = p.y(), z = p.z(), side = x / std::sqrt(x * x + 225);
  const double near_ear = ear_mask(p, {80, 1, -14}, {15, 35, 23}, 1.0);
  m.col(11) = near_ear * Vec3(0, (y - 1) / 64, 0.5 * (z + 2) / 64);
  m.col(12).x() = side * std::max(0.0, off_skin_mm) / 21;
  const double wide_ear = ear_mask(p, {78, 1, -12}, {24, 44, 34}, 0.7);
  m.col(20).z() = wide_ear;
  m.col(21).y() = wide_ear;
  const double neck = 1 - smoothstep(-85, -42, y + 0.45 * (z + 70));
  m.col(13) = neck / 55 * Vec3(x, 0, z - (-20 + 0.15 * (y + 105)));
}

}  // namespace

ModeColumns modes_at(const Vec3& place, double off_skin_mm) {
  ModeColumns m = ModeColumns::Zero();
  cranium_modes(place, m);
  face_modes(place, m);
  ear_and_neck_modes(place, off_skin_mm, m);
  const double side = place.x() / std::sqrt(place.x() * place.x() + 225);
  // Asymmetric twins of ear height, stand-off, up-down, fore-aft, jaw, cheek and pupils.
  constexpr int twins[7] = {11, 12, 21, 20, 8, 7, 10};
  for (int k = 0; k < 7; ++k) m.col(kSymmetricModes + k) = side * m.col(twins[k]);
  return m;
}

const Coefficients& mode_sd() {
  static const Coefficients sd = [] {
    Coefficients s;
    s << 2.8, 3.5, 3, 4, 4.5, 2.5, 4.5, 3.5, 5, 2, 2, 3.5, 3.5, 5, 2, 2, 2, 2, 2, 3, 3.5, 3, 3.5,  //
        1.2, 1.5, 1.2, 1.2, 1.5, 1.2, 0.8, 1.2, 1.5;
    return s;
  }();
  return sd;
}

Riders::Riders(std::vector<Vec3> places, const std::vector<double>& off_skin_mm, std::vector<int> twin_of)
    : places_(std::move(places)), twin_of_(std::move(twin_of)), slot_of_(places_.size()) {
  expects(places_.size() == off_skin_mm.size(), "Riders: one distance per place");
  for (int i = 0; i < static_cast<int>(places_.size()); ++i) {
    slot_of_[i] = derived(i) ? slot_of_[twin_of_[i]] : static_cast<int>(modes_.size());
    if (!derived(i)) modes_.push_back(modes_at(places_[i], off_skin_mm[i]).cast<float>());
  }
}

ModeColumns Riders::modes(int i) const {
  ModeColumns m = modes_[slot_of_[i]].cast<double>();
  if (!derived(i)) return m;
  m.row(0).head<kSymmetricModes>() *= -1.0;
  m.bottomRows<2>().rightCols<kModeCount - kSymmetricModes>() *= -1.0;
  return m;
}

std::vector<Vec3> Riders::carried(const Coefficients& c) const {
  constexpr int kAsymmetric = kModeCount - kSymmetricModes;
  const Eigen::Matrix<float, kModeCount, 1> w = c.cast<float>();
  const bool crooked = !c.tail<kAsymmetric>().isZero(0.0);
  std::vector<Vec3> out(places_.size());
  for (int i = 0; i < static_cast<int>(out.size()); ++i) {
    if (derived(i)) continue;
    const auto& m = modes_[slot_of_[i]];
    const Vec3 even = places_[i] + (m.leftCols<kSymmetricModes>() * w.head<kSymmetricModes>()).cast<double>();
    Vec3 odd = Vec3::Zero();
    if (crooked) odd = (m.rightCols<kAsymmetric>() * w.tail<kAsymmetric>()).cast<double>();
    out[i] = even + odd;
    if (twin_of_.empty() || twin_of_[i] == i) continue;
    const Vec3 other = even - odd;
    out[twin_of_[i]] = {-other.x(), other.y(), other.z()};
  }
  return out;
}

}  // namespace awl
