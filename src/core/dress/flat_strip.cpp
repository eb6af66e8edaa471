#include "core/dress/flat_strip.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/geom/polygon.hpp"

namespace awl {
namespace {

constexpr double kEvenPerMm = 1e-4;  // turn within this is an arc
constexpr double kFoldRad = 0.349;   // 20 degrees between two faces
constexpr double kCrispRad = 0.14;   // 8 degrees off, a smooth normal is that of a fold

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

/// A side made longer at its end, or cut back: what lay beyond comes to lie at the cut.
void end_moved(std::vector<Vec2>& side, double more_mm) {
  const std::size_t n = side.size();
  const Vec2 along = (side[n - 1] - side[n - 2]).normalized();
  if (more_mm >= 0.0) {
    side.back() += more_mm * along;
    return;
  }
  double left = -more_mm;
  std::size_t i = n - 1;
  for (; i > 1 && (side[i] - side[i - 1]).norm() <= left; --i) left -= (side[i] - side[i - 1]).norm();
  const Vec2 leg = side[i - 1] - side[i];
  const Vec2 cut = side[i] + std::min(1.0, left / std::max(leg.norm(), 1e-9)) * leg;
  std::fill(side.begin() + static_cast<long>(i), side.end(), cut);
}

/// Both ends cut at half the turn of the corner they meet the next length at.
void mitre(FlatStrip& strip, const StripOptions& o) {
  const double half = 0.5 * o.wide_mm;
  for (const bool at_end : {true, false}) {
    const double rad = at_end ? o.end_mitre_rad : o.start_mitre_rad;
    if (rad == 0.0) continue;
    for (auto* side : {&strip.left, &strip.right}) {
      const double more = half * std::tan(rad) * (side == &strip.left ? -1.0 : 1.0);
      if (!at_end) std::reverse(side->begin(), side->end());
      end_moved(*side, more);
      if (!at_end) std::reverse(side->begin(), side->end());
    }
  }
}

/// The outer face's own normal where its smooth one cuts a fold's corner.
Vec3 crisp_normal(const DressSite& site, const Vec3& at, const Vec3& smooth) {
  const Tri& t = site.outer.triangles[site.hit(at).triangle];
  const auto& v = site.outer.vertices;
  const Vec3 own = (v[t[1]] - v[t[0]]).cross(v[t[2]] - v[t[0]]).normalized();
  return own.dot(smooth) < std::cos(kCrispRad) ? own : smooth;
}

/// One step of a strip's middle layer, `out_mm` outside the face: beside it, or round a fold between both places.
double step_of_middle(const Vec3& a, const Vec3& b, const Vec3& na, const Vec3& nb, double out_mm) {
  const Vec3 chord = b - a;
  const double turn = std::acos(std::clamp(na.dot(nb), -1.0, 1.0));
  if (turn < kFoldRad) return (chord + out_mm * (nb - na)).norm();
  // The fold lies where both faces and the plane through the chord meet.
  const Vec3 side = chord.cross(na + nb);
  Eigen::Matrix3d planes;
  planes << na.transpose(), nb.transpose(), side.transpose();
  if (side.norm() < 1e-9 || std::abs(planes.determinant()) < 1e-6 * side.norm())
    return (chord + out_mm * (nb - na)).norm();
  const Vec3 fold = planes.inverse() * Vec3(na.dot(a), nb.dot(b), side.dot(a));
  const double legs = (fold - a).norm() + (b - fold).norm();
  if (legs > 2.0 * chord.norm()) return (chord + out_mm * (nb - na)).norm();
  // Round the outside the middle layer turns about the fold; in an inner corner it cuts across.
  const bool out = chord.dot(nb - na) * out_mm > 0.0;
  return legs + (out ? std::abs(out_mm) * turn : -2.0 * std::abs(out_mm) * std::tan(0.5 * turn));
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
}

/// Round both sides, without the places a mitre laid on each other.
std::vector<Vec2> round_of(const std::vector<Vec2>& right, const std::vector<Vec2>& left) {
  std::vector<Vec2> all = right;
  all.insert(all.end(), left.rbegin(), left.rend());
  all.erase(std::unique(all.begin(), all.end()), all.end());
  return all;
}

}  // namespace

FlatStrip flat_strip(const DressSite& site, const FormLine& line, const StripOptions& o) {
  FlatStrip strip;
  const double out = o.inside ? -(site.thickness_mm + 0.5 * o.thick_mm + o.over_mm) : 0.5 * o.thick_mm + o.over_mm;
  const std::size_t n = line.size(), count = line.closed ? n : n - 1;
  std::vector<double> steps, headings, turns, domes;
  std::vector<Vec3> normals;
  for (std::size_t i = 0; i < n; ++i) normals.push_back(crisp_normal(site, line.at[i], line.normal[i]));
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
    steps.push_back(step_of_middle(line.at[i], line.at[j], normals[i], normals[j], out));
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
  mitre(strip, o);
  strip.outline = round_of(strip.right, strip.left);
  strip.length_mm = flat_length(strip.middle), strip.left_mm = flat_length(strip.left);
  strip.right_mm = flat_length(strip.right);
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
