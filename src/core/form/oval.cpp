#include "core/form/oval.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"

namespace awl {
namespace {

constexpr int kSamples = 180;  // of the half turn

/// Angle number i of the half turn, at the middle of its step.
double sample(int i) { return kPi * (i + 0.5) / kSamples; }

}  // namespace

double Oval::support(double a) const {
  double h = 0.0;
  for (int k = 0; k < kTerms; ++k) h += c_[k] * std::cos(k * a);
  return h;
}

Vec2 Oval::point(double a) const {
  double h = 0.0, slope = 0.0;
  for (int k = 0; k < kTerms; ++k) h += c_[k] * std::cos(k * a), slope -= k * c_[k] * std::sin(k * a);
  return Vec2(h * std::sin(a) + slope * std::cos(a), h * std::cos(a) - slope * std::sin(a));  // (1)
}

double Oval::radius(double a) const {
  double r = 0.0;
  for (int k = 0; k < kTerms; ++k) r += c_[k] * (1.0 - k * k) * std::cos(k * a);  // (2)
  return r;
}

double Oval::girth_mm() const { return kTwoPi * c_[0]; }  // (3)
double Oval::length_mm() const { return support(0.0) + support(kPi); }

double Oval::smallest_radius_mm() const {
  double least = 1e300;
  for (int i = 0; i < kSamples; ++i) least = std::min(least, radius(sample(i)));
  return std::min({least, radius(0.0), radius(kPi)});
}

double Oval::circle_error_mm() const {
  double most = 0.0;
  const double middle = 0.5 * (support(0.0) - support(kPi));
  for (int i = 0; i < kSamples; ++i)
    most = std::max(most, std::abs(support(sample(i)) - middle * std::cos(sample(i)) - c_[0]));
  return most;
}

/// Cosine series of a support function; the fine terms are faded until the outline is as round as asked everywhere.
Oval Oval::fitted(const std::function<double(double)>& support_of, double least_radius_mm) {
  Oval exact;
  std::array<double, kSamples> h;
  for (int i = 0; i < kSamples; ++i) h[i] = support_of(sample(i));
  for (int k = 0; k < kTerms; ++k) {
    for (int i = 0; i < kSamples; ++i) exact.c_[k] += (k == 0 ? 1.0 : 2.0) / kSamples * h[i] * std::cos(k * sample(i));
  }
  Oval best = exact;
  for (int step = 0; step < 60 && best.smallest_radius_mm() < least_radius_mm; ++step)
    for (int k = 2; k < kTerms; ++k) best.c_[k] *= 1.0 - 0.002 * k * k;
  return best;
}

Oval Oval::round(const std::vector<Vec2>& points, double least_radius_mm) {
  const auto reach = [&](double a) {
    const Vec2 n(std::sin(a), std::cos(a));
    double h = -1e300;
    for (const Vec2& p : points) h = std::max(h, std::abs(p.x()) * n.x() + p.y() * n.y());
    return h;
  };
  Oval oval = fitted(reach, least_radius_mm);
  double short_mm = 0.0;
  for (int i = 0; i < kSamples; ++i) short_mm = std::max(short_mm, reach(sample(i)) - oval.support(sample(i)));
  oval.c_[0] += short_mm;
  return oval;
}

Oval Oval::ellipse(double half_breadth_mm, double half_length_mm) {
  return fitted([=](double a) { return std::hypot(half_breadth_mm * std::sin(a), half_length_mm * std::cos(a)); }, 0.0);
}

Oval Oval::squarish(double half_breadth_mm, double half_length_mm, double exponent) {
  const double dual = exponent / (exponent - 1.0);
  return fitted(
      [=](double a) {
        return std::pow(std::pow(half_breadth_mm * std::abs(std::sin(a)), dual) +
                std::pow(half_length_mm * std::abs(std::cos(a)), dual),
            1.0 / dual);
      },
      10.0);
}

Oval Oval::grown(double mm) const {
  Oval o = *this;
  o.c_[0] += mm;
  return o;
}

Oval Oval::shifted(double forward_mm) const {
  Oval o = *this;
  o.c_[1] += forward_mm;
  return o;
}

/// Under p -> (sx x, sz z) about the middle of the length the support becomes h(A n) with the normal's length kept.
Oval Oval::scaled(double breadth_mm, double length_mm) const {
  const double middle = 0.5 * (support(0.0) - support(kPi));
  const double sx = breadth_mm / this->breadth_mm(), sz = length_mm / this->length_mm();
  const Oval about = shifted(-middle);
  const Oval grown = fitted(
      [&](double a) {
        const double x = sx * std::sin(a), z = sz * std::cos(a);
        return std::hypot(x, z) * about.support(std::atan2(x, z));
      },
      0.0);
  return grown.shifted(middle);
}

Oval Oval::towards(const Oval& other, double t) const {
  Oval o;
  for (int k = 0; k < kTerms; ++k) o.c_[k] = (1.0 - t) * c_[k] + t * other.c_[k];
  return o;
}

std::vector<double> Oval::even_angles(int n) const {
  constexpr int kFine = 720;
  std::vector<double> arc(kFine + 1, 0.0);
  for (int i = 1; i <= kFine; ++i) arc[i] = arc[i - 1] + std::max(radius(kPi * (i - 0.5) / kFine), 1e-6) * kPi / kFine;
  std::vector<double> angles;
  int i = 0;
  for (int k = 0; k <= n; ++k) {
    const double wanted = arc.back() * k / n;
    while (i + 1 < kFine && arc[i + 1] < wanted) ++i;
    const double t = (wanted - arc[i]) / (arc[i + 1] - arc[i]);
    angles.push_back(kPi * (i + t) / kFine);
  }
  angles.front() = 0.0, angles.back() = kPi;
  return angles;
}

}  // namespace awl
