#include "core/form/wrap_edges.hpp"

#include <algorithm>
#include <cmath>
#include <optional>

#include "core/base/numbers.hpp"
#include "core/form/closing.hpp"
#include "core/form/wrap.hpp"

namespace awl {
namespace {

using L = Landmark;
constexpr double kSurelyMm = 12.0;  // farther outside than any edge of a shell is long
constexpr double kRoundMm = 85.0;   // millimetres to a radian of azimuth on the template

Vec3 place_at(double around_rad, double y_mm, double radius_mm) {
  return {radius_mm * std::sin(around_rad), y_mm, radius_mm * std::cos(around_rad) - 5.0};
}

/// Values at every 30 degrees of a half circle, the same on its way back.
std::vector<double> both_ways(const EdgePoints& half) {
  std::vector<double> whole(half.begin(), half.end());
  for (int i = kEdgePoints - 2; i > 0; --i) whole.push_back(half[i]);
  return whole;
}

/// From the top by way of the side to the bottom, and the same on the other side; angle 0 is the side, up is positive.
double middle_rim(const MiddleRimPoints& p, double angle_rad) {
  return round_value({p[2], p[1], p[0], p[1], p[2], p[3], p[4], p[3]}, angle_rad);
}

/// How far an edge is moved in at this place round it.
double moved_in(const WrapSpec& s, double round_rad, bool left) {
  double mm = round_value(both_ways(s.edge_mm), round_rad);
  if (!left || !s.is_one_sided()) return mm;
  // Both sides meet in the middle, in front and behind.
  EdgePoints apart = s.left_mm;
  apart.front() = apart.back() = 0.0;
  if (s.one_sided) mm += round_value(both_ways(apart), round_rad);
  return mm + s.left_up_mm * smoothstep(0.05, 0.7, std::min(round_rad, kPi - round_rad));
}

/// Height of a lower edge that runs round the head: `front`, `side` and `back` are its heights there.
double edge_height(const Vec3& p, double front, double side, double back) {
  const double a = azimuth(p);
  const double mean = 0.5 * (front + back), second = 0.5 * (mean - side);
  return 0.5 * (mean + side) + 0.5 * (front - back) * std::cos(a) + second * std::cos(2.0 * a);
}

struct FaceOpening {
  double top_mm, bottom_mm, half_angle_rad;
  bool closed;  ///< below its middle it closes again
  double middle_mm() const { return 0.5 * (top_mm + bottom_mm); }
};

std::optional<FaceOpening> face_opening(const WrapSpec& s) {
  if (s.edge == WrapEdge::open_face)
    return FaceOpening{template_place(L::glabella).y() + 14 + s.face_wider_mm, template_place(L::pogonion).y(),
        0.88 + s.face_wider_mm / kRoundMm, false};
  if (s.edge == WrapEdge::full_cowl)
    return FaceOpening{template_place(L::glabella).y() + 14 + s.face_wider_mm,
        template_place(L::stomion).y() - 13 - s.face_wider_mm, 0.68 + s.face_wider_mm / kRoundMm, true};
  return {};
}

/// Positive outside a face opening that is an upright superellipse of azimuth and height, its rim moved point by point.
double outside_face(const Vec3& p, const FaceOpening& f, const MiddleRimPoints& moved) {
  const double half_height = 0.5 * (f.top_mm - f.bottom_mm), up = p.y() - f.middle_mm();
  const double u = azimuth(p) / f.half_angle_rad,
               w = f.closed ? std::abs(up) / half_height : std::max(0.0, up) / half_height;
  const double radius = std::pow(std::pow(u, 2.6) + std::pow(w, 2.6), 1.0 / 2.6);
  return (radius - 1.0) * std::min(kRoundMm * f.half_angle_rad, half_height) -
      middle_rim(moved, std::atan2(up, kRoundMm * azimuth(p)));
}

/// Middle of a mask's rim, round which its grips stand.
double mask_middle_mm(const WrapSpec& s) {
  return s.edge == WrapEdge::half_mask ? template_place(L::sellion).y() : template_place(L::pronasale).y();
}

double keep_mask(const Vec3& p, const WrapSpec& s, bool left) {
  const double round = azimuth(p);
  const bool half = s.edge == WrapEdge::half_mask;
  const double lower = half ? p.y() - s.edge_up_mm -
          (template_place(L::subnasale).y() + s.front_up_mm + (30.0 + s.side_up_mm) * smoothstep(0.1, 0.75, round))
                            : p.y() - s.edge_up_mm -
          (template_place(L::menton).y() + 4 + s.front_up_mm + (46.0 + s.side_up_mm) * smoothstep(0.35, 1.15, round));
  const double upper = half ? template_place(L::glabella).y() + 24 - 6.0 * round - p.y()
                            : template_place(L::glabella).y() + 44 - 8.0 * round - p.y();
  const double side = ((half ? 1.22 : 1.32) - round) * 90.0 + s.back_up_mm;
  return smooth_min(smooth_min(lower, upper, half ? 14.0 : 26.0), side, half ? 22.0 : 26.0) -
      moved_in(s, angle_round(s, p), left);
}

bool is_mask(const WrapSpec& s) { return s.edge == WrapEdge::half_mask || s.edge == WrapEdge::full_mask; }

/// Above the lower edge of this side; about millimetres.
double above_lower_edge(const Vec3& p, const WrapSpec& s, bool left) {
  const auto at = [&](double front, double side, double back) {
    return p.y() - s.edge_up_mm - edge_height(p, front + s.front_up_mm, side + s.side_up_mm, back + s.back_up_mm) -
        moved_in(s, azimuth(p), left);
  };
  const double jaw = template_place(L::gonion_l).y() - 10, throat = template_place(L::larynx).y(),
               nape = template_place(L::nape).y();
  switch (s.edge) {
    case WrapEdge::skull_cap:
      return at(template_place(L::glabella).y() + 26, template_place(L::ear_top_l).y() + 12,
          template_place(L::inion).y() + 14);
    case WrapEdge::open_face:
      return at(jaw - 4, jaw, nape - 8);
    case WrapEdge::full_cowl:
      return at(throat - 10, throat - 6, nape - 62);
    case WrapEdge::neck_piece:
      return at(throat - 22, throat - 20, nape - 74);
    default:
      return keep_mask(p, s, left);
  }
}

/// An opening seen along an axis (2: from the front, 0: from the side), and its rim.
struct Hole {
  std::string dial;
  Vec3 at;
  int axis;
  double wide_mm, tall_mm, tilt_deg;
  std::vector<double> rim;  ///< eight values, from its outer (of the ear: front) end upwards
  bool open() const { return wide_mm > 0.0 && tall_mm > 0.0; }
  /// Its rim is nowhere farther from its middle than this; the curve through the points may swing a little beyond them.
  double reach_mm() const {
    return 0.53 * std::max(wide_mm, tall_mm) + 1.25 * std::max(0.0, *std::max_element(rim.begin(), rim.end()));
  }
};

std::vector<Hole> holes_of(const WrapSpec& s) {
  const auto& m = s.mouth_mm;
  return {{"eye", template_place(L::pupil_l) + Vec3(s.eye_aside_mm, s.eye_higher_mm, 0), 2, s.eye_wide_mm,
              s.eye_tall_mm, s.eye_tilt_deg, {s.eye_mm.begin(), s.eye_mm.end()}},
      {"mouth", template_place(L::stomion), 2, s.mouth_wide_mm, s.mouth_tall_mm, 0.0,
          {m[2], m[1], m[0], m[1], m[2], m[3], m[4], m[3]}},
      {"ear", template_place(L::tragion_l) + Vec3(0, 2, -12), 0, s.ear_hole_mm, s.ear_hole_mm, 0.0,
          {s.ear_mm.begin(), s.ear_mm.end()}}};
}

/// How far the rim is from its middle in a direction: that of a superellipse, moved point by point.
double rim_mm(const Hole& h, double angle_rad) {
  const double u = std::cos(angle_rad) / (0.5 * h.wide_mm), v = std::sin(angle_rad) / (0.5 * h.tall_mm);
  const double plain = 1.0 / std::pow(std::pow(std::abs(u), 2.4) + std::pow(std::abs(v), 2.4), 1.0 / 2.4);
  return std::max(1.0, plain + round_value(h.rim, angle_rad));
}

double outside_hole(const Vec3& p, const Hole& h) {
  if (!h.open() || (h.axis == 2 && p.z() < 20.0) || (h.axis == 0 && p.x() < 30.0)) return 1e3;
  const double u = h.axis == 2 ? p.x() - h.at.x() : p.z() - h.at.z(), v = p.y() - h.at.y(), tilt = radians(h.tilt_deg);
  const double a = std::cos(tilt) * u + std::sin(tilt) * v, b = std::cos(tilt) * v - std::sin(tilt) * u;
  const double off = std::hypot(a, b), reach = h.reach_mm();
  if (off > reach + kSurelyMm) return off - reach;
  return off - rim_mm(h, std::atan2(b, a));
}

}  // namespace

double azimuth(const Vec3& p) { return std::atan2(std::abs(p.x()), p.z() + 5.0); }

double round_value(const std::vector<double>& values, double angle_rad) {
  const int n = static_cast<int>(values.size());
  const double at = std::fmod(std::fmod(angle_rad, kTwoPi) + kTwoPi, kTwoPi) / kTwoPi * n;
  const int i = static_cast<int>(at) % n;
  const double t = at - std::floor(at);
  const double a = values[(i + n - 1) % n], b = values[i], c = values[(i + 1) % n], d = values[(i + 2) % n];
  return b + 0.5 * t * (c - a + t * (2.0 * a - 5.0 * b + 4.0 * c - d + t * (3.0 * (b - c) + d - a)));
}

double angle_round(const WrapSpec& s, const Vec3& p) {
  if (!is_mask(s)) return azimuth(p);
  return std::atan2(kRoundMm * azimuth(p), mask_middle_mm(s) - p.y());
}

double covered(const WrapSpec& s, const Vec3& p, bool left) {
  const double lower = above_lower_edge(p, s, left);
  if (s.edge == WrapEdge::open_face) return smooth_min(lower, outside_face(p, *face_opening(s), s.face_mm), 24.0);
  if (s.edge == WrapEdge::full_cowl) return std::min(lower, outside_face(p, *face_opening(s), s.face_mm));
  if (s.edge != WrapEdge::neck_piece) return lower;
  return std::min(lower,
      edge_height(p, template_place(L::submandibular).y() - 8, template_place(L::gonion_l).y() - 14,
          template_place(L::nape).y() + 18) -
          p.y());
}

bool is_on_lower_edge(const WrapSpec& s, const Vec3& p) {
  constexpr double kNearMm = 3.0;
  return std::abs(above_lower_edge(p, s, false)) < kNearMm ||
      (s.is_one_sided() && std::abs(above_lower_edge(p, s, true)) < kNearMm);
}

double covered_by_either(const WrapSpec& s, const Vec3& p) {
  const double right = covered(s, p, false);
  return s.is_one_sided() ? std::max(right, covered(s, p, true)) : right;
}

std::function<double(const Vec3&)> openings_of(const WrapSpec& s) {
  return [holes = holes_of(s)](const Vec3& p) {
    const Vec3 q(std::abs(p.x()), p.y(), p.z());
    double least = 1e3;
    for (const Hole& h : holes) least = std::min(least, outside_hole(q, h));
    return least;
  };
}

double outside_openings(const WrapSpec& s, const Vec3& p) { return openings_of(s)(p); }

std::vector<EdgeGrip> edge_grips(const WrapSpec& s) {
  std::vector<EdgeGrip> grips;
  const auto at_edge = [&](const std::string& dial, int i, double side) {
    const double a = kPi * i / (kEdgePoints - 1);
    // Looked for where a mask's rim is this far round its middle, of anything else at the lower edge this far round the
    // head.
    Vec3 near = is_mask(s) ? place_at(1.1 * std::sin(a), mask_middle_mm(s) - 80.0 * std::cos(a), 95.0)
                           : place_at(a, -60.0, 90.0);
    near.x() *= side;
    const Vec3 along =
        is_mask(s) ? Vec3(-side * 0.8 * std::sin(a), std::cos(a), 0.6 * std::sin(a)).normalized() : Vec3::UnitY();
    grips.push_back({dial + std::to_string(i + 1), near, along, true});
  };
  for (int i = 0; i < kEdgePoints; ++i) at_edge("edge", i, s.one_sided ? -1.0 : 1.0);
  if (s.one_sided)
    for (int i = 1; i + 1 < kEdgePoints; ++i) at_edge("left", i, 1.0);
  if (const auto face = face_opening(s)) {
    const int count = face->closed ? kMiddleRimPoints : 3;
    for (int i = 0; i < count; ++i) {
      const double a = 0.5 * kPi - 0.25 * kPi * i, half = 0.5 * (face->top_mm - face->bottom_mm);
      grips.push_back({"face" + std::to_string(i + 1),
          place_at(face->half_angle_rad * std::cos(a), face->middle_mm() + half * std::sin(a), 98.0),
          Vec3(std::cos(a), std::sin(a), 0), false});
    }
  }
  for (const Hole& h : holes_of(s)) {
    if (!h.open()) continue;
    const bool middle = h.dial == "mouth";
    for (int i = 0; i < (middle ? kMiddleRimPoints : kRimPoints); ++i) {
      const double a = middle ? 0.5 * kPi - 0.25 * kPi * i : 0.25 * kPi * i, r = rim_mm(h, a),
                   turn = a + radians(h.tilt_deg);
      const Vec3 out = h.axis == 2 ? Vec3(std::cos(turn), std::sin(turn), 0) : Vec3(0, std::sin(turn), std::cos(turn));
      grips.push_back({h.dial + std::to_string(i + 1), h.at + r * out, out, false});
    }
  }
  return grips;
}

}  // namespace awl
