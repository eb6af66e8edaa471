#include "core/fit/jaw.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"

namespace awl {
namespace {

constexpr double kTalkingDeg = 8.0, kLoudDeg = 15.0, kWideDeg = 25.0;
constexpr double kBeforeChinMm = 40.0;  // farther off it is not the chin that would move it
constexpr double kHalfHeadMm = 400.0;

/// Angle of a place about the jaw's axis; down is positive.
double angle_about(const Vec3& hinge, const Vec3& p) { return std::atan2(hinge.y() - p.y(), p.z() - hinge.z()); }
double from_axis_mm(const Vec3& hinge, const Vec3& p) { return std::hypot(p.y() - hinge.y(), p.z() - hinge.z()); }

}  // namespace

Vec3 jaw_hinge(const Vec3& between_ears) { return between_ears + Vec3(0.0, -5.0, 11.0); }

Vec3 with_jaw_open(const Vec3& between_ears, const Vec3& place, double open_deg) {
  const Vec3 hinge = jaw_hinge(between_ears);
  return hinge + Eigen::AngleAxisd(radians(open_deg), Vec3::UnitX()) * (place - hinge) +
      open_deg * Vec3(0.0, -0.25, 0.4);
}

std::optional<JawWork> jaw_work(const FitHead& head, const FitPart& part) {
  const auto& chin = head.at(Landmark::menton);
  if (!chin || !head.at(Landmark::tragion_l) || !head.at(Landmark::tragion_r) || part.solid.vertices.empty())
    return std::nullopt;
  JawWork work;
  const Vec3 ears = head.between_ears();
  work.hinge = jaw_hinge(ears);
  for (const int side : {0, 1}) {
    const Vec3 out = side == 0 ? Vec3(Vec3::UnitX()) : Vec3(-Vec3::UnitX());
    if (const auto hit = part.near->first_hit(work.hinge, out)) work.at[side] = work.hinge + hit->along_mm * out;
  }
  double nearest = kHalfHeadMm, farthest = 0.0;
  for (const Vec3& p : part.solid.vertices) {
    const double off = from_axis_mm(work.hinge, p);
    nearest = std::min(nearest, off), farthest = std::max(farthest, off);
  }
  work.off_mm = work.at[0] || work.at[1] ? 0.0 : nearest;
  work.tip_mm = farthest;
  work.lever_mm = from_axis_mm(work.hinge, *chin);
  if (const double gap = std::abs(part.near->to(*chin).signed_mm); gap <= kBeforeChinMm) work.chin_gap_mm = gap;
  const double rest = angle_about(work.hinge, *chin);
  for (std::size_t i = 0; i < work.openings.size(); ++i) {
    JawOpening& open = work.openings[i];
    open.jaw_deg = std::array{kTalkingDeg, kLoudDeg, kWideDeg}[i];
    const Vec3 to = with_jaw_open(ears, *chin, open.jaw_deg);
    open.part_deg = degrees(angle_about(work.hinge, to) - rest);  // (4)
    open.chin_mm = (to - *chin).norm();
    open.throw_mm = 2.0 * work.tip_mm * std::sin(0.5 * radians(open.part_deg));  // (5)
    open.slides_mm = std::abs(from_axis_mm(work.hinge, to) - work.lever_mm);
  }
  const double forward = part.centre.z() - work.hinge.z();
  work.carries_n =
      part.mass_g * 1e-3 * kGravity * std::max(0.0, forward) / std::max(20.0, chin->z() - work.hinge.z());  // (6)
  return work;
}

}  // namespace awl
