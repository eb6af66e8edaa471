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

Site::Spot Site::spot(const Vec3& near) const {
  constexpr double kEvenedMm = 12.0;  // about a horn's base: workshop value
  const Mesh& mesh = host_ ? host_->mesh() : head_->mesh;
  const NearestHit hit = host_ ? host_->hit(near) : near_head_.to(near);
  const Vec3 own = area_vector(mesh, mesh.triangles[hit.triangle]).normalized();
  Vec3 out = Vec3::Zero();
  for (const Tri& t : mesh.triangles) {
    const Vec3 middle = (mesh.vertices[t[0]] + mesh.vertices[t[1]] + mesh.vertices[t[2]]) / 3.0;
    const Vec3 facing = area_vector(mesh, t);
    if ((middle - hit.point).norm() < kEvenedMm && facing.dot(own) > 0.0) out += facing;
  }
  return {hit.point, out.norm() > 1e-9 ? Vec3(out.normalized()) : own};
}

Seat across(Seat seat) {
  seat.around_deg = -seat.around_deg, seat.spot_across = -seat.spot_across;
  return seat;
}

Seat in_middle(Seat seat) {
  seat.around_deg = std::abs(seat.around_deg) < 90.0 ? 0.0 : 180.0;
  seat.spot_across = seat.splay_deg = 0.0;
  return seat;
}

namespace {

/// How far a host goes to its farther side. Aside is told from the wearer's middle, so that the sign is the side, also
/// on what lies on one side alone.
double reach_aside_mm(const Box& host) { return std::max({-host.low.x(), host.high.x(), 1e-6}); }

}  // namespace

Seat on_spot(Seat seat, const Box& host, const Vec3& place) {
  const Vec3 size = host.size().cwiseMax(1e-6);
  const auto share = [&](int k) { return std::clamp((place[k] - host.low[k]) / size[k], 0.0, 1.0); };
  constexpr double kSteps = 1e4;  // kept so finely
  const auto kept = [](double v) { return std::round(kSteps * v) / kSteps; };
  seat.by = SeatBy::spot;
  seat.spot_across = kept(std::clamp(place.x() / reach_aside_mm(host), -1.0, 1.0));
  seat.spot_up = kept(share(1)), seat.spot_front = kept(share(2));
  return seat;
}

namespace {

void add_angles(Dials& dials, Seat& s) {
  dials.angle("around", s.around_deg, {-180, 180}, "Round the head from the front",
      "Turns the place where it sits towards the wearer's left.");
  dials.angle("up", s.up_deg, {-60, 90}, "Up from the middle of the head", "Ninety degrees is the crown.");
}

void add_spot(Dials& dials, Seat& s) {
  dials.share("spot_across", s.spot_across, {-1, 1}, "Spot: to the left",
      "From the wearer's middle to the farther side of what it sits on; minus is the right.");
  dials.share("spot_up", s.spot_up, {0, 1}, "Spot: up", "From its lowest place to its highest.");
  dials.share("spot_front", s.spot_front, {0, 1}, "Spot: to the front", "From its rearmost place to its foremost.");
}

}  // namespace

std::vector<Dial> hidden_dials_of(Seat& s) {
  Dials dials;
  if (s.by == SeatBy::spot)
    add_angles(dials, s);
  else
    add_spot(dials, s);
  return std::move(dials).all();
}

std::vector<Dial> dials_of(Seat& s) {
  Dials dials;
  dials.group("Where it sits");
  dials.choice("placed", s.by, {"round the head", "on a spot"}, "Placed",
      "A spot goes along with what it sits on: a snout's underside, an arm, a mesh made elsewhere.");
  if (s.by == SeatBy::spot)
    add_spot(dials, s);
  else
    add_angles(dials, s);
  dials.angle("lean", s.lean_deg, {-80, 80}, "Tipped upwards", "When it should not stand straight out of the head.");
  dials.angle("splay", s.splay_deg, {-80, 80}, "Tipped sideways", "Spreads a pair apart, or closes it.");
  dials.angle("spin", s.spin_deg, {-180, 180}, "Turned on its base", "Which way it bends or faces.");
  dials.length("gap", s.gap_mm, {-20, 80}, "Off the surface", "For a pad, a magnet or a washer between.");

  return std::move(dials).all();
}

namespace {

/// A frame tipped, turned and lifted as the seat asks.
SeatFrame tipped(const Vec3& at, Vec3 out, Vec3 up, const Seat& seat) {
  const Vec3 side = up.cross(out);
  const Eigen::AngleAxisd tip_up(-radians(seat.lean_deg), side), tip_side(radians(seat.splay_deg), up);
  out = tip_side * (tip_up * out), up = tip_side * (tip_up * up);
  up = Eigen::AngleAxisd(radians(seat.spin_deg), out) * up;
  return {at + seat.gap_mm * out, out, up, up.cross(out)};
}

SeatFrame spot_frame(const Site& site, const Seat& seat) {
  constexpr double kLevel = 0.95;  // beyond it up has no meaning on the surface
  const Box box = site.box();
  const Vec3 size = box.size();
  const Vec3 wanted(seat.spot_across * reach_aside_mm(box), box.low.y() + seat.spot_up * size.y(),
      box.low.z() + seat.spot_front * size.z());
  Site::Spot spot = site.spot(wanted);
  if (seat.spot_across == 0.0 && box.low.x() < 0.0 && box.high.x() > 0.0)
    spot.at.x() = spot.out.x() = 0.0, spot.out.normalize();
  const Vec3 upright = std::abs(spot.out.y()) > kLevel ? Vec3(-Vec3::UnitZ()) : Vec3::UnitY();
  const Vec3 up = (upright - upright.dot(spot.out) * spot.out).normalized();
  return tipped(spot.at, spot.out, up, seat);
}

}  // namespace

Result<SeatFrame> seat_frame(const Site& site, const Seat& seat) {
  if (seat.by == SeatBy::spot) return spot_frame(site, seat);
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
  const Vec3 out = s.cross(u).normalized();
  return tipped(*at, out, (u - u.dot(out) * out).normalized(), seat);
}

}  // namespace awl
