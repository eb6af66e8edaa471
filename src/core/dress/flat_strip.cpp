#include "core/dress/flat_strip.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/geom/polygon.hpp"

namespace awl {
namespace {

constexpr double kEvenPerMm = 1e-4;  // turn within this is an arc

double flat_length(const std::vector<Vec2>& line) {
  double sum = 0.0;
  for (std::size_t i = 0; i + 1 < line.size(); ++i) sum += (line[i + 1] - line[i]).norm();
  return sum;
}

/// Gauss curvature along a line: how the normals turn along and across it.
double gauss_at(const DressSite& site, const FormLine& line, std::size_t i, double across_mm) {
  const std::size_t j = line.next(i), h = line.before(i);
  const Vec3 along = line.along(i), left = line.left(i), dn = line.normal[j] - line.normal[h];
  const double step = std::max((line.at[j] - line.at[h]).norm(), 1e-9);
  const double kn = dn.dot(along) / step, twist = dn.dot(left) / step;
  const NearestHit a = site.hit(line.at[i] + across_mm * left), b = site.hit(line.at[i] - across_mm * left);
  const double across = (site.normal_at(a) - site.normal_at(b)).dot(left) / std::max((a.point - b.point).norm(), 1e-9);
  return kn * across - twist * twist;
}

/// The value that nine of ten do not pass by size.
double of_nine_tenths(std::vector<double> values) {
  if (values.empty()) return 0.0;
  std::sort(values.begin(), values.end(), [](double a, double b) { return std::abs(a) < std::abs(b); });
  return values[std::min(values.size() - 1, values.size() * 9 / 10)];
}

void lay_out(FlatStrip& strip, const std::vector<double>& steps, const std::vector<double>& headings, double half) {
  strip.middle.push_back(Vec2::Zero());
  for (std::size_t i = 0; i < steps.size(); ++i)
    strip.middle.push_back(strip.middle.back() + steps[i] * Vec2(std::cos(headings[i]), std::sin(headings[i])));
  for (std::size_t i = 0; i < strip.middle.size(); ++i) {
    const double before = headings[i > 0 ? i - 1 : 0], after = headings[std::min(i, headings.size() - 1)];
    const double turn = after - before, mean = before + 0.5 * turn;
    const Vec2 left(-std::sin(mean), std::cos(mean));
    const double reach = half / std::max(std::cos(0.5 * turn), 0.5);
    strip.left.push_back(strip.middle[i] + reach * left), strip.right.push_back(strip.middle[i] - reach * left);
  }
  strip.outline = strip.right;
  strip.outline.insert(strip.outline.end(), strip.left.rbegin(), strip.left.rend());
  strip.length_mm = flat_length(strip.middle), strip.left_mm = flat_length(strip.left);
  strip.right_mm = flat_length(strip.right);
}

}  // namespace

FlatStrip flat_strip(const DressSite& site, const FormLine& line, const StripOptions& o) {
  FlatStrip strip;
  const double out = o.inside ? -(site.thickness_mm + 0.5 * o.thick_mm + o.over_mm) : 0.5 * o.thick_mm + o.over_mm;
  const std::size_t n = line.size(), count = line.closed ? n : n - 1;
  std::vector<double> steps, headings, turns, domes;
  double heading = 0.0, least = 1e300, most = -1e300;
  for (std::size_t i = 0; i < count; ++i) {
    const std::size_t j = line.next(i);
    const Vec3 p = line.at[j] - line.at[i], q = p + out * (line.normal[j] - line.normal[i]);
    if (i > 0) heading += line.turn[i];
    if (line.closed || (i > 0 && i + 1 < n)) {
      const double kg = line.turn[i] / line.step_mm;
      least = std::min(least, kg), most = std::max(most, kg);
    }
    const Vec3 normal = (line.normal[i] + line.normal[j]).normalized();
    steps.push_back(q.norm());
    headings.push_back(o.straight ? 0.0 : heading + angle_about(p, q, normal));
    turns.push_back(0.5 * o.wide_mm * std::abs(line.turn[i]) / line.step_mm);
    if (i % 4 == 0) domes.push_back(gauss_at(site, line, i, 0.5 * o.wide_mm) * o.wide_mm * o.wide_mm / 8.0);
  }
  // The worst tenth is what a rim's own teeth and single corners say.
  strip.straight_strain = of_nine_tenths(turns), strip.lie_strain = of_nine_tenths(domes);
  strip.turn_rad = line.turn_rad;
  if (!steps.empty() && o.more_start_mm > 0.0)
    steps.insert(steps.begin(), o.more_start_mm), headings.insert(headings.begin(), headings.front());
  if (!steps.empty() && o.more_end_mm > 0.0) steps.push_back(o.more_end_mm), headings.push_back(headings.back());
  lay_out(strip, steps, headings, 0.5 * o.wide_mm);
  if (signed_area_mm2(strip.outline) < 0.0) std::reverse(strip.outline.begin(), strip.outline.end());
  if (most > least - 1.0 && most - least < kEvenPerMm && std::abs(strip.turn_rad) > 0.05 && !o.straight)
    strip.radius_mm = strip.length_mm / std::abs(strip.turn_rad);
  return strip;
}

int lengths_of(const FlatStrip& strip, double room_mm, double wide_mm) {
  const double most_turn = 0.85 * kTwoPi;  // a ring nearly closed leaves no room for the blade
  const int by_length = static_cast<int>(std::ceil((strip.length_mm + 1e-6) / std::max(room_mm, 2.0 * wide_mm)));
  const int by_turn = static_cast<int>(std::ceil(std::abs(strip.turn_rad) / most_turn - 1e-9));
  return std::max({1, by_length, by_turn});
}

}  // namespace awl
