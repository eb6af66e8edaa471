#pragma once
#include <algorithm>
#include <cmath>
#include <string>

namespace awl {

inline constexpr double kPi = 3.14159265358979323846;
inline constexpr double kTwoPi = 2.0 * kPi;
inline constexpr double radians(double degrees) { return degrees * kPi / 180.0; }
inline constexpr double degrees(double radians) { return radians * 180.0 / kPi; }

inline constexpr double kGravity = 9.81;  ///< metres a second squared

/// Cubic step from 0 at `from` to 1 at `to` (from > to steps downwards).
inline double smoothstep(double from, double to, double t) {
  const double u = std::clamp((t - from) / (to - from), 0.0, 1.0);
  return u * u * (3.0 - 2.0 * u);
}

/// Bell curve of height 1 and standard deviation `sigma`.
inline double bell(double t, double sigma) { return std::exp(-0.5 * (t / sigma) * (t / sigma)); }

/// Smooth minimum: quadratic blend over |a - b| < k. Source: HEADFORM page, docs/formulas/headform.md eq. (1).
inline double smooth_min(double a, double b, double k) {
  if (k <= 0.0) return std::min(a, b);
  const double h = std::max(k - std::abs(a - b), 0.0) / k;
  return std::min(a, b) - h * h * k * 0.25;
}

inline double smooth_max(double a, double b, double k) { return -smooth_min(-a, -b, k); }

/// Number with a fixed count of decimals and '.' whatever the locale; "-0.0" reads "0.0".
std::string fixed(double value, int decimals);

}  // namespace awl
