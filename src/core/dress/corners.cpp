#include "core/dress/corners.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

namespace awl {
namespace {

constexpr double kLookMm = 6.0;          // chords on both sides of a place
constexpr double kLeastTurnRad = 0.61;   // 35 degrees
constexpr double kMostTurnAcross = 0.5;  // turn per millimetre times half the width: beyond, the inner edge folds

struct Corner {
  std::size_t at = 0;
  double turn_rad = 0.0;
  Vec3 place = Vec3::Zero();
};

/// Places of a line by number: those of a closed one go round, an open one ends where it ends.
struct Walk {
  const FormLine& line;
  long n() const { return static_cast<long>(line.size()); }
  bool has(long i) const { return line.closed || (i >= 0 && i < n()); }
  const Vec3& at(long i) const { return line.at[static_cast<std::size_t>(((i % n()) + n()) % n())]; }
};

/// A corner by its legs, drawn on straight to where they meet: even steps pass it by and round it off.
Corner by_legs(const DressSite& site, const Walk& walk, long i, double turn_rad) {
  const Vec3 &here = walk.at(i), &normal = walk.line.normal[static_cast<std::size_t>(i)];
  Corner corner{static_cast<std::size_t>(i), turn_rad, here};
  constexpr long kNear = 3, kFar = 7;
  if (!walk.has(i - kFar) || !walk.has(i + kFar)) return corner;
  const Vec3 a = walk.at(i - kNear), u = in_plane(walk.at(i - kNear) - walk.at(i - kFar), normal).normalized();
  const Vec3 b = walk.at(i + kNear), v = in_plane(walk.at(i + kNear) - walk.at(i + kFar), normal).normalized();
  const double across = normal.dot(u.cross(v));
  if (std::abs(across) < 0.3) return corner;
  corner.turn_rad = angle_about(u, -v, normal);
  const Vec3 meet = a + normal.dot(in_plane(b - a, normal).cross(v)) / across * u;
  if ((meet - here).norm() < kLookMm) corner.place = site.onto(meet);
  return corner;
}

std::vector<Corner> corners_of(const DressSite& site, const FormLine& line, double wide_mm) {
  const Walk walk{line};
  const long reach = std::max(1L, std::lround(kLookMm / std::max(line.step_mm, 0.1)));
  const auto turn_over = [&](long i, long by) {
    if (!walk.has(i - by) || !walk.has(i + by)) return 0.0;
    return angle_about(
        walk.at(i) - walk.at(i - by), walk.at(i + by) - walk.at(i), line.normal[static_cast<std::size_t>(i)]);
  };
  std::vector<double> turn(line.size(), 0.0);
  for (long i = 0; i < walk.n(); ++i) {
    const double here = turn_over(i, reach), further = turn_over(i, 2 * reach);
    // The tooth of a rim turns back at once: a corner is still one when looked at from further off.
    if (std::abs(further) >= 0.8 * std::abs(here)) turn[static_cast<std::size_t>(i)] = here;
  }
  std::vector<Corner> corners;
  for (long i = 0; i < walk.n(); ++i) {
    const double here = turn[static_cast<std::size_t>(i)];
    if (std::abs(here) < kLeastTurnRad || 0.5 * wide_mm * std::abs(here) / kLookMm < kMostTurnAcross) continue;
    bool most = true;
    for (long k = -2 * reach; k <= 2 * reach && most; ++k) {
      if (k == 0 || !walk.has(i + k)) continue;
      const double there = std::abs(turn[static_cast<std::size_t>(((i + k) % walk.n() + walk.n()) % walk.n())]);
      most = there < std::abs(here) || (there == std::abs(here) && k > 0);
    }
    if (most) corners.push_back(by_legs(site, walk, i, here));
  }
  return corners;
}

}  // namespace

std::vector<MitredStretch> parted_at_corners(const DressSite& site, const FormLine& line, double wide_mm) {
  const auto corners = line.size() < 8 ? std::vector<Corner>{} : corners_of(site, line, wide_mm);
  if (corners.empty()) return {{line, 0.0, 0.0}};
  std::vector<MitredStretch> parts;
  const Walk walk{line};
  const auto add = [&](const Corner* from, const Corner* to) {
    const long a = from != nullptr ? static_cast<long>(from->at) + 1 : 0;
    long b = to != nullptr ? static_cast<long>(to->at) - 1 : walk.n() - 1;
    if (line.closed && b < a) b += walk.n();
    std::vector<Vec3> at;
    if (from != nullptr) at.push_back(from->place);
    // Those next to a corner are rounded off it.
    const auto near = [&](const Corner* c, long i) { return c != nullptr && (walk.at(i) - c->place).norm() < kLookMm; };
    for (long i = a; i <= b; ++i)
      if (!near(from, i) && !near(to, i)) at.push_back(walk.at(i));
    if (to != nullptr) at.push_back(to->place);
    // Nothing but the corner itself lies between two corners of one bend.
    if (at.size() < 2) return;
    parts.push_back({line_through(site, at, false), from != nullptr ? 0.5 * from->turn_rad : 0.0,
        to != nullptr ? 0.5 * to->turn_rad : 0.0});
  };
  if (line.closed) {
    for (std::size_t k = 0; k < corners.size(); ++k) add(&corners[k], &corners[(k + 1) % corners.size()]);
    return parts;
  }
  add(nullptr, &corners.front());
  for (std::size_t k = 0; k + 1 < corners.size(); ++k) add(&corners[k], &corners[k + 1]);
  add(&corners.back(), nullptr);
  return parts;
}

}  // namespace awl
