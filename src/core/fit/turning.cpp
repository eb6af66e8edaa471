#include "core/fit/turning.hpp"

#include <algorithm>
#include <cmath>
#include <functional>

#include "core/base/numbers.hpp"
#include "core/fit/going_on.hpp"
#include "core/fit/jaw.hpp"

namespace awl {
namespace {

constexpr double kBodyPointMm = 5.0, kNeckGivesMm = 10.0, kNeckTallMm = 30.0, kWideOpenDeg = 25.0;

Vec3 about_x(const Vec3& p, const Vec3& joint, double deg) {
  const double c = std::cos(radians(deg)), s = std::sin(radians(deg));
  const Vec3 r = p - joint;
  return joint + Vec3(r.x(), c * r.y() - s * r.z(), s * r.y() + c * r.z());
}
Vec3 about_y(const Vec3& p, const Vec3& joint, double deg) {
  const double c = std::cos(radians(deg)), s = std::sin(radians(deg));
  const Vec3 r = p - joint;
  return joint + Vec3(c * r.x() + s * r.z(), r.y(), c * r.z() - s * r.x());
}
Vec3 about_z(const Vec3& p, const Vec3& joint, double deg) {
  const double c = std::cos(radians(deg)), s = std::sin(radians(deg));
  const Vec3 r = p - joint;
  return joint + Vec3(c * r.x() - s * r.y(), s * r.x() + c * r.y(), r.z());
}

class Mover {
 public:
  Mover(const FitHead& head, const std::vector<FitPart>& parts, const Torso& body, const FitRules& rules)
      : head_(head), body_(body), rules_(rules.turning) {
    for (const FitPart& part : parts)
      for (const Vec3& p : spread_points(part.solid, kBodyPointMm)) points_.push_back(p);
    rest_mm_ = 0.0;
    for (const Vec3& p : points_) rest_mm_ = std::max(rest_mm_, body_.depth_mm(p));
  }

  /// Degrees until a place is deeper in the body than at rest by more than a touch.
  double most(double cap_deg, const std::function<Vec3(const Vec3&, double)>& move, Vec3* met = nullptr) {
    const double limit = std::max(rules_.touch_mm, rest_mm_ + rules_.touch_mm);
    for (int deg = 1; deg <= static_cast<int>(cap_deg); ++deg)
      for (const Vec3& p : points_) {
        const Vec3 at = move(p, deg);
        if (body_.depth_mm(at) <= limit) continue;
        stopped_ = true;
        if (met != nullptr) *met = p;
        return deg - 1;
      }
    return cap_deg;
  }

  /// A nod begins in the joint under the skull and goes on in the neck.
  Vec3 nodded(const Vec3& p, double deg) const {
    const double skull = std::clamp(rules_.skull_share * deg, -rules_.skull_most_deg, rules_.skull_most_deg);
    return about_x(about_x(p, head_.skull_joint(), skull), head_.mid_neck(), deg - skull);
  }
  bool stopped() const { return stopped_; }

 private:
  const FitHead& head_;
  const Torso& body_;
  const FitRules::Turning& rules_;
  std::vector<Vec3> points_;
  double rest_mm_ = 0.0;
  bool stopped_ = false;
};

std::optional<double> jaw_opens(const FitHead& head, const std::vector<FitPart>& parts) {
  std::vector<Vec3> chin;
  for (const Landmark l : {Landmark::pogonion, Landmark::menton, Landmark::submandibular})
    if (head.at(l)) chin.push_back(*head.at(l));
  const Vec3 ears = head.between_ears();
  bool covered = false;
  for (double deg = 1.0; deg <= kWideOpenDeg; deg += 1.0)
    for (const Vec3& p : chin) {
      const Vec3 to = with_jaw_open(ears, p, deg), way = to - p;
      for (const FitPart& part : parts) {
        // What lies below or before the chin, within its reach or not.
        covered = covered || part.near->blocked(p, way, 60.0);
        if (part.near->blocked(p, way, way.norm())) return deg - 1.0;
      }
    }
  if (!covered) return std::nullopt;
  return kWideOpenDeg;
}

}  // namespace

double Torso::depth_mm(const Vec3& p) const {
  if (plane_mm) return *plane_mm - p.y();
  const double down = top_mm - p.y();
  if (levels.empty() || down < levels.front().down_mm) return -1e9;
  Level at = levels.back();
  for (std::size_t i = 0; i + 1 < levels.size(); ++i)
    if (down <= levels[i + 1].down_mm) {
      const double t = (down - levels[i].down_mm) / (levels[i + 1].down_mm - levels[i].down_mm);
      at.wide_mm = levels[i].wide_mm + t * (levels[i + 1].wide_mm - levels[i].wide_mm);
      at.deep_mm = levels[i].deep_mm + t * (levels[i + 1].deep_mm - levels[i].deep_mm);
      break;
    }
  const double depth =
      (1.0 - std::hypot(p.x() / at.wide_mm, (p.z() - middle_z_mm) / at.deep_mm)) * std::min(at.wide_mm, at.deep_mm);
  // The neck itself gives way; without that every hood reads one degree.
  return down < kNeckTallMm ? depth - kNeckGivesMm * (kNeckTallMm - std::max(down, 0.0)) / kNeckTallMm : depth;
}

Torso shoulders_of(double throat_y_mm, double neck_girth_mm, double head_length_mm, double breadth_mm) {
  const double half = 0.5 * (breadth_mm > 0.0 ? breadth_mm : 2.15 * head_length_mm + 10.0);
  const double neck = neck_girth_mm / kTwoPi;
  Torso body;
  body.top_mm = throat_y_mm - 10.0;
  body.levels = {{-20, neck, neck}, {0, 1.02 * neck, neck}, {20, 0.36 * half, 1.1 * neck},
      {45, 0.66 * half, 1.25 * neck}, {75, 0.9 * half, 1.35 * neck}, {120, half, 1.45 * neck},
      {190, 0.97 * half, 1.6 * neck}, {330, 0.86 * half, 1.6 * neck}};
  return body;
}

Turning turning_of(const FitHead& head, const std::vector<FitPart>& parts, const Torso& body, const FitRules& rules) {
  Mover mover(head, parts, body, rules);
  Turning turning;
  const Vec3 skull = head.skull_joint(), neck = head.mid_neck();
  turning.nod_deg = mover.most(
      rules.turning.nod_most_deg, [&](const Vec3& p, double d) { return mover.nodded(p, d); }, &turning.nod_at);
  turning.up_deg = mover.most(rules.turning.up_most_deg, [&](const Vec3& p, double d) { return mover.nodded(p, -d); });
  for (const int side : {0, 1}) {
    const double sign = side == 0 ? 1.0 : -1.0;
    turning.turn_deg[side] =
        mover.most(rules.turning.turn_most_deg, [&](const Vec3& p, double d) { return about_y(p, skull, sign * d); });
    turning.tilt_deg[side] =
        mover.most(rules.turning.tilt_most_deg, [&](const Vec3& p, double d) { return about_z(p, neck, -sign * d); });
  }
  turning.stopped = mover.stopped();
  turning.jaw_deg = jaw_opens(head, parts);
  return turning;
}

}  // namespace awl
