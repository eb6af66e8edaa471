#include "core/geom/curve.hpp"

#include <algorithm>
#include <cmath>
#include <optional>

namespace awl {
namespace {

constexpr double kSamePlaceMm = 1e-7;
constexpr int kMostHalvings = 12;

// Abscissae and weights of Gauss and Legendre on (-1, 1), the positive half.
constexpr std::array<double, 4> kGaussAt{
    0.1834346424956498, 0.5255324099163290, 0.7966664774136267, 0.9602898564975363};
constexpr std::array<double, 4> kGaussWeight{
    0.3626837833783620, 0.3137066458778873, 0.2223810344533745, 0.1012285362903763};

double cross(const Vec2& a, const Vec2& b) { return a.x() * b.y() - a.y() * b.x(); }

/// How far a cubic's middle third points stand off its chord bounds how far it does itself.
double off_chord_mm(const Cubic& c) {
  const Vec2 chord = c.p[3] - c.p[0];
  const double length = chord.norm();
  if (length < kSamePlaceMm) return std::max((c.p[1] - c.p[0]).norm(), (c.p[2] - c.p[0]).norm());
  const double one = cross(chord, c.p[1] - c.p[0]) / length, other = cross(chord, c.p[2] - c.p[0]) / length;
  const double share = one * other > 0.0 ? 0.75 : 4.0 / 9.0;
  const double across = share * std::max(std::abs(one), std::abs(other));
  // What runs back past an end of the chord is off it too.
  double beyond = 0.0;
  for (const int k : {1, 2}) {
    const double t = chord.dot(c.p[k] - c.p[0]) / length;
    beyond = std::max({beyond, -t, t - length});
  }
  return std::max(across, beyond);
}

struct Arcs {
  Vec2 joint;
  double bulge_one = 0.0, bulge_two = 0.0;
};

double bulge_between(const Vec2& from, const Vec2& along, const Vec2& to) {
  const Vec2 chord = to - from;
  return std::tan(0.5 * std::atan2(cross(along, chord), along.dot(chord)));
}

/// Two arcs from end to end of a cubic in its end directions, their tangents equally long.
std::optional<Arcs> biarc_of(const Cubic& c) {
  const Vec2 chord = c.p[3] - c.p[0], t1 = c.along(0.0), t2 = c.along(1.0), sum = t1 + t2;
  // |chord - d (t1 + t2)| = 2 d
  const double a = sum.squaredNorm() - 4.0, b = -2.0 * chord.dot(sum), k = chord.squaredNorm();
  double d;
  if (std::abs(a) < 1e-9) {
    if (std::abs(b) < 1e-12) return std::nullopt;
    d = -k / b;
  } else {
    const double under = b * b - 4.0 * a * k;
    if (under < 0.0) return std::nullopt;
    d = (-b - std::sqrt(under)) / (2.0 * a);  // a is negative: the positive root
  }
  if (!(d > 0.0) || d > 4.0 * chord.norm()) return std::nullopt;
  const Vec2 joint = 0.5 * ((c.p[0] + d * t1) + (c.p[3] - d * t2));
  return Arcs{joint, bulge_between(c.p[0], t1, joint), -bulge_between(c.p[3], -t2, joint)};
}

/// How far a place lies off an arc's circle, or off its chord where it is straight.
double off_arc_mm(const Vec2& from, const Vec2& to, double bulge, const Vec2& p) {
  const Vec2 chord = to - from;
  const double length = chord.norm();
  if (length < kSamePlaceMm) return (p - from).norm();
  const Vec2 left(-chord.y() / length, chord.x() / length);
  if (std::abs(bulge) < 1e-7) return std::abs(left.dot(p - from));
  const double radius = 0.25 * length * (bulge + 1.0 / bulge);  // + with its centre on the left
  const Vec2 centre = 0.5 * (from + to) + 0.25 * length * (1.0 / bulge - bulge) * left;
  return std::abs((p - centre).norm() - std::abs(radius));
}

void add_arcs(const Cubic& c, double off_mm, int halvings, std::vector<ArcStep>& steps) {
  if ((c.p[3] - c.p[0]).norm() < kSamePlaceMm && length_mm(c) < off_mm) return;
  if (off_chord_mm(c) < 1e-6) return steps.push_back({c.p[3], 0.0});
  constexpr double kFullArc = 1.0;  // half a circle
  if (const auto arcs = biarc_of(c);
      arcs && std::abs(arcs->bulge_one) < kFullArc && std::abs(arcs->bulge_two) < kFullArc) {
    double worst = 0.0;
    const Vec2 across = arcs->joint - c.p[0];
    for (int k = 1; k < 16; ++k) {
      const Vec2 p = c.at(k / 16.0);
      const double first = off_arc_mm(c.p[0], arcs->joint, arcs->bulge_one, p),
                   second = off_arc_mm(arcs->joint, c.p[3], arcs->bulge_two, p);
      worst = std::max(worst, across.dot(p - arcs->joint) < 0.0 ? first : second);
    }
    if (worst <= off_mm) {
      steps.push_back({arcs->joint, arcs->bulge_one});
      steps.push_back({c.p[3], arcs->bulge_two});
      return;
    }
  }
  if (halvings == 0) return steps.push_back({c.p[3], 0.0});
  add_arcs(c.part(0.0, 0.5), off_mm, halvings - 1, steps);
  add_arcs(c.part(0.5, 1.0), off_mm, halvings - 1, steps);
}

/// The parameter at which so much of a cubic's length is behind.
double parameter_at(const Cubic& c, double mm, double whole) {
  double low = 0.0, high = 1.0, t = std::clamp(mm / std::max(whole, 1e-12), 0.0, 1.0);
  for (int i = 0; i < 40; ++i) {
    const double over = length_mm(c, 0.0, t) - mm;
    (over > 0.0 ? high : low) = t;
    if (std::abs(over) < 1e-7) break;
    const double speed = c.change(t).norm();
    t = speed > 1e-9 ? t - over / speed : 0.5 * (low + high);
    if (!(t > low) || !(t < high)) t = 0.5 * (low + high);
  }
  return t;
}

}  // namespace

Vec2 Cubic::at(double t) const {
  const double s = 1.0 - t;
  return s * s * s * p[0] + 3.0 * s * s * t * p[1] + 3.0 * s * t * t * p[2] + t * t * t * p[3];
}

Vec2 Cubic::change(double t) const {
  const double s = 1.0 - t;
  return 3.0 * (s * s * (p[1] - p[0]) + 2.0 * s * t * (p[2] - p[1]) + t * t * (p[3] - p[2]));
}

Vec2 Cubic::along(double t) const {
  Vec2 d = change(t);
  if (d.norm() < kSamePlaceMm) d = t < 0.5 ? Vec2(p[2] - p[0]) : Vec2(p[3] - p[1]);
  if (d.norm() < kSamePlaceMm) d = p[3] - p[0];
  return d.norm() < kSamePlaceMm ? Vec2(Vec2::UnitX()) : Vec2(d.normalized());
}

Cubic Cubic::part(double from, double to) const {
  const double third = (to - from) / 3.0;
  const Vec2 a = at(from), b = at(to);
  return {{a, a + third * change(from), b - third * change(to), b}};
}

Cubic straight(const Vec2& from, const Vec2& to) {
  return {{from, from + (to - from) / 3.0, to - (to - from) / 3.0, to}};
}

Curve reversed(const Curve& curve) {
  Curve back;
  for (auto c = curve.rbegin(); c != curve.rend(); ++c) back.push_back({{c->p[3], c->p[2], c->p[1], c->p[0]}});
  return back;
}

double length_mm(const Cubic& cubic, double from, double to) {
  const double half = 0.5 * (to - from), middle = 0.5 * (from + to);
  double sum = 0.0;
  for (std::size_t i = 0; i < kGaussAt.size(); ++i)
    sum += kGaussWeight[i] *
        (cubic.change(middle - half * kGaussAt[i]).norm() + cubic.change(middle + half * kGaussAt[i]).norm());
  return half * sum;
}

double length_and_change(const Cubic& cubic, double from, double to, std::array<Vec2, 4>& by) {
  by.fill(Vec2::Zero());
  const double half = 0.5 * (to - from), middle = 0.5 * (from + to);
  double sum = 0.0;
  for (std::size_t i = 0; i < kGaussAt.size(); ++i)
    for (const double side : {-1.0, 1.0}) {
      const double t = middle + side * half * kGaussAt[i], s = 1.0 - t, w = half * kGaussWeight[i];
      const Vec2 d = cubic.change(t);
      const double speed = d.norm();
      sum += w * speed;
      if (speed < 1e-12) continue;
      const std::array<double, 4> b{-3.0 * s * s, 3.0 * s * s - 6.0 * s * t, 6.0 * s * t - 3.0 * t * t, 3.0 * t * t};
      for (std::size_t k = 0; k < 4; ++k) by[k] += w * b[k] / speed * d;
    }
  return sum;
}

double length_mm(const Curve& curve) {
  double sum = 0.0;
  for (const Cubic& c : curve) sum += length_mm(c);
  return sum;
}

OnCurve at_length(const Curve& curve, double mm) {
  if (curve.empty()) return {};
  for (const Cubic& c : curve) {
    const double whole = length_mm(c);
    if (mm <= whole || &c == &curve.back()) {
      const double t = parameter_at(c, std::clamp(mm, 0.0, whole), whole);
      return {c.at(t), c.along(t)};
    }
    mm -= whole;
  }
  return {};
}

std::vector<Vec2> points_of(const Curve& curve, double off_mm, double longest_mm, std::vector<double>* lengths) {
  std::vector<Vec2> points;
  if (lengths != nullptr) lengths->clear();
  if (curve.empty()) return points;
  double behind = 0.0;
  const auto put = [&](const Vec2& p, double mm) {
    points.push_back(p);
    if (lengths != nullptr) lengths->push_back(mm);
  };
  put(curve.front().p[0], 0.0);
  for (const Cubic& c : curve) {
    const double whole = length_mm(c);
    // A chord over one of n equal parts stands off by an n-th squared of what the whole one does, and turns count too.
    int parts = std::max(1, static_cast<int>(std::ceil(whole / longest_mm)));
    for (; parts < 400; ++parts) {
      double worst = 0.0;
      for (int k = 0; k < parts; ++k)
        worst = std::max(worst, off_chord_mm(c.part(k / double(parts), (k + 1) / double(parts))));
      if (worst <= off_mm) break;
    }
    for (int k = 1; k <= parts; ++k) {
      const double t = k / static_cast<double>(parts);
      put(k == parts ? c.p[3] : c.at(t), behind + (k == parts ? whole : length_mm(c, 0.0, t)));
    }
    behind += whole;
  }
  return points;
}

std::vector<ArcStep> arcs_of(const Curve& curve, double off_mm) {
  std::vector<ArcStep> steps;
  for (const Cubic& c : curve) add_arcs(c, off_mm, kMostHalvings, steps);
  return steps;
}

}  // namespace awl
