#include "core/form/seat.hpp"

#include <Eigen/Geometry>
#include <cmath>

#include "core/base/numbers.hpp"

namespace awl {
namespace {

Vec3 direction_of(double around_rad, double up_rad) {
  return {std::sin(around_rad) * std::cos(up_rad), std::sin(up_rad), std::cos(around_rad) * std::cos(up_rad)};
}

}  // namespace

Site::Site(const Headform& head) : head_(&head), near_head_(head.mesh) {}

Site::Site(const Headform& head, const Mesh& host) : head_(&head), near_head_(head.mesh), host_(host) {}

double Site::above(const Vec3& p) const {
  const double head = near_head_.to(p).signed_mm;
  if (!host_) return head;
  const NearestHit hit = host_->hit(p);
  return hit.signed_mm < 0.0 && host_->past(hit) ? head : std::min(head, hit.signed_mm);
}

Vec3 Site::middle() const {
  const Vec3 ears = 0.5 * (head_->at(Landmark::tragion_l) + head_->at(Landmark::tragion_r));
  return ears + Vec3(0.0, 0.25 * (head_->at(Landmark::vertex).y() - ears.y()), 0.0);
}

std::vector<std::vector<Vec3>> Site::section(const Plane& plane) const {
  auto lines = section_lines(head_->mesh, plane);
  if (host_)
    for (auto& line : section_lines(host_->mesh(), plane)) lines.push_back(std::move(line));
  return lines;
}

std::optional<Vec3> Site::outermost(const Vec3& direction) const {
  constexpr double kFarMm = 2000.0;
  const Vec3 from = middle() + kFarMm * direction.normalized();
  auto hit = near_head_.first_hit(from, -direction);
  if (host_)
    if (const auto host = host_->first_hit(from, -direction); host && (!hit || host->along_mm < hit->along_mm))
      hit = host;
  if (!hit) return std::nullopt;
  return from - hit->along_mm * direction.normalized();
}

std::vector<Dial> dials_of(Seat& s) {
  const std::string group = "Where it sits";
  Dials dials;
  dials.group(group);
  dials.angle("around", s.around_deg, {-180, 180}, "Round the head from the front",
      "Turns the place where it sits towards the wearer's left.");
  dials.angle("up", s.up_deg, {-60, 90}, "Up from the middle of the head", "Ninety degrees is the crown.");
  dials.angle("lean", s.lean_deg, {-80, 80}, "Tipped upwards", "When it should not stand straight out of the head.");
  dials.angle("splay", s.splay_deg, {-80, 80}, "Tipped sideways", "Spreads a pair apart, or closes it.");
  dials.angle("spin", s.spin_deg, {-180, 180}, "Turned on its base", "Which way it bends or faces.");
  dials.length("gap", s.gap_mm, {-20, 80}, "Off the surface", "For a pad, a magnet or a washer between.");

  return std::move(dials).all();
}

Result<SeatFrame> seat_frame(const Site& site, const Seat& seat) {
  constexpr double kStep = 0.10;  // radians: evens out ears, brows and seams under the base
  const double a = radians(seat.around_deg), e = radians(seat.up_deg);
  const auto place = [&](double da, double de) -> std::optional<Vec3> {
    const Vec3 along_up = direction_of(a, e + 0.5 * kPi), dir = direction_of(a, e), along_side = along_up.cross(dir);
    return site.outermost(dir + std::tan(da) * along_side + std::tan(de) * along_up);
  };
  const auto at = place(0, 0), left = place(kStep, 0), right = place(-kStep, 0), over = place(0, kStep),
             under = place(0, -kStep);
  if (!at)
    return fail(Errc::no_solution,
        "There is nothing to sit on " + fixed(seat.around_deg, 0) + " degrees round and " + fixed(seat.up_deg, 0) +
            " degrees up.",
        "seat");
  const auto step = [&](const std::optional<Vec3>& p, const std::optional<Vec3>& q, const Vec3& otherwise) -> Vec3 {
    if (p && q && (*p - *q).norm() < 120.0 && (*p - *q).norm() > 1e-6) return (*p - *q).normalized();
    return otherwise;
  };
  const Vec3 meridian = direction_of(a, e + 0.5 * kPi);
  const Vec3 u = step(over, under, meridian), s = step(left, right, meridian.cross(direction_of(a, e)));
  SeatFrame frame;
  Vec3 out = s.cross(u).normalized();
  Vec3 up = (u - u.dot(out) * out).normalized();
  const Vec3 side = up.cross(out);
  const Eigen::AngleAxisd tip_up(-radians(seat.lean_deg), side), tip_side(radians(seat.splay_deg), up);
  out = tip_side * (tip_up * out), up = tip_side * (tip_up * up);
  up = Eigen::AngleAxisd(radians(seat.spin_deg), out) * up;
  frame.out = out, frame.up = up, frame.side = up.cross(out);
  frame.origin = *at + seat.gap_mm * out;
  return frame;
}

}  // namespace awl
