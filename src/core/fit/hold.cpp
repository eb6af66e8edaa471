#include "core/fit/hold.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/geom/section.hpp"

namespace awl {
namespace {

constexpr double kMu0 = 4e-7 * kPi, kLeastGapMm = 0.01;

struct Grade {
  const char* name;
  double remanence_t;
};
constexpr Grade kGrades[] = {{"N35", 1.19}, {"N38", 1.24}, {"N42", 1.30}, {"N45", 1.35}, {"N48", 1.39}, {"N52", 1.45}};

/// Gauss-Legendre nodes and weights on [0, 1] by Newton steps on the Legendre polynomial.
struct Gauss {
  static constexpr int kNodes = 32;
  std::array<double, kNodes> x, w;
  Gauss() {
    for (int i = 0; i < kNodes; ++i) {
      double t = std::cos(kPi * (i + 0.75) / (kNodes + 0.5)), slope = 1.0;
      for (int step = 0; step < 60; ++step) {
        double p0 = 1.0, p1 = t;
        for (int n = 2; n <= kNodes; ++n) {
          const double p2 = ((2.0 * n - 1.0) * t * p1 - (n - 1.0) * p0) / n;
          p0 = p1, p1 = p2;
        }
        slope = kNodes * (t * p1 - p0) / (t * t - 1.0);
        const double by = p1 / slope;
        t -= by;
        if (std::abs(by) < 1e-15) break;
      }
      x[i] = 0.5 * (1.0 - t);
      w[i] = 1.0 / ((1.0 - t * t) * slope * slope);
    }
  }
};

/// G of eq. (2): the mutual pull of two charged discs' rims, by f = pi s^3 since it is sharp near 0.
double mutual(double a, double r1, double r2) {
  static const Gauss gauss;
  double sum = 0.0;
  for (int i = 0; i < Gauss::kNodes; ++i) {
    const double s = gauss.x[i], f = kPi * s * s * s;
    const double apart = std::sqrt(a * a + r1 * r1 + r2 * r2 - 2.0 * r1 * r2 * std::cos(f));
    sum += gauss.w[i] * 3.0 * kPi * s * s * std::cos(f) * std::log(a + apart);
  }
  return -sum / kPi;
}

}  // namespace

Result<double> remanence_t(const std::string& grade) {
  std::string known;
  for (const Grade& g : kGrades) {
    if (grade == g.name) return g.remanence_t;
    known += (known.empty() ? "" : ", ") + std::string(g.name);
  }
  return fail(Errc::unknown_name, "There is no magnet grade " + in_quotes(grade) + "; there are " + known + ".");
}

Result<Magnet> magnet_from(const std::string& words) {
  Words in(words);
  const auto wide = in.number();
  if (wide && in.next() == "x") {
    const auto thick = in.number();
    const auto grade = thick ? remanence_t(std::string(in.next())) : Result<double>(1.3);
    if (!grade) return fail(grade);
    if (thick && *wide >= 2.0 && *wide <= 60.0 && *thick >= 0.5 && *thick <= 30.0)
      return Magnet{0.5 * *wide, *thick, *grade};
  }
  return fail(Errc::out_of_range,
      "A magnet is written like 10 x 3 N42, 2 to 60 mm wide and 0.5 to 30 mm thick, not " + in_quotes(words) + ".");
}

double magnet_pull_n(const Magnet& one, const Magnet& other, double gap_mm) {
  const double x = std::max(gap_mm, kLeastGapMm), r1 = one.radius_mm, r2 = other.radius_mm;
  const double g = mutual(x, r1, r2) - mutual(x + one.thick_mm, r1, r2) - mutual(x + other.thick_mm, r1, r2) +
      mutual(x + one.thick_mm + other.thick_mm, r1, r2);
  return kPi * one.remanence_t * other.remanence_t * r1 * r2 * 1e-6 / kMu0 * g;  // (1)
}

double magnet_on_steel_n(const Magnet& one, double gap_mm) { return magnet_pull_n(one, one, 2.0 * gap_mm); }

double needed_n(const HoldNeed& need, const FitRules& rules) {
  const double load = rules.hold.shake_g * need.mass_g * 1e-3 * kGravity;
  const double tilts = need.half_base_mm > 0.0 ? load * need.arm_mm / need.half_base_mm : load;
  return rules.hold.safety * std::max({load, tilts, load / rules.hold.slide});
}

int magnets_needed(double needed, double pull_n, const FitRules& rules) {
  constexpr int kMost = 12;
  const double each = rules.hold.magnet_share * pull_n;
  if (each <= 0.0) return 0;
  const int count = std::max(2, static_cast<int>(std::ceil(needed / each - 1e-9)));
  return count > kMost ? 0 : count;
}

std::optional<double> gap_allowed_mm(
    const Magnet& one, const Magnet& other, int count, double needed, const FitRules& rules) {
  const auto holds = [&](double gap) {
    return count * rules.hold.magnet_share * magnet_pull_n(one, other, gap) >= needed;
  };
  if (!holds(kLeastGapMm)) return std::nullopt;
  double low = kLeastGapMm, high = 60.0;
  for (int i = 0; i < 40; ++i) (holds(0.5 * (low + high)) ? low : high) = 0.5 * (low + high);
  return low;
}

double cord_mm(const Lacing& l) {
  const double n = l.pairs;
  return l.way == LacingWay::crossed
      ? l.width_mm + 2.0 * (n - 1.0) * std::hypot(l.width_mm, l.pitch_mm) + 2.0 * l.tails_mm
      : n * l.width_mm + 2.0 * (n - 1.0) * l.pitch_mm + 2.0 * l.tails_mm;
}

ElasticCut elastic_cut(const Elastic& elastic, double radius_mm, const FitRules& rules) {
  const double stretch = elastic.face ? rules.hold.elastic_face_stretch : rules.hold.elastic_stretch;
  ElasticCut cut;
  cut.cut_mm = elastic.path_mm / (1.0 + stretch) + elastic.tabs_mm;
  cut.pull_n = rules.hold.elastic_n_mm * elastic.width_mm * stretch;
  cut.presses_kpa = 1000.0 * cut.pull_n / std::max(1.0, radius_mm * elastic.width_mm);
  cut.too_tight = cut.presses_kpa > rules.hold.skin_kpa;
  return cut;
}

std::vector<Vec3> chin_strap(const FitHead& head) {
  const auto &left = head.at(Landmark::tragion_l), &right = head.at(Landmark::tragion_r),
             &jaw = head.at(Landmark::submandibular);
  if (!left || !right || !jaw) return {};
  const Plane plane = plane_through(*left, *jaw, *right);
  const PlaneFrame frame = frame_of(plane);
  std::vector<Vec3> places;
  std::vector<Vec2> points;
  for (const auto& line : section_lines(head.folded(), plane))
    for (const Vec3& p : line) places.push_back(p), points.push_back(frame(p));
  const auto hull = convex_hull(points);
  if (hull.size() < 3) return {};
  // The hull from where it is nearest to one ear flap to the other, on the jaw's side.
  const auto nearest = [&](const Vec3& to) {
    std::size_t best = 0;
    for (std::size_t i = 1; i < hull.size(); ++i)
      if ((points[hull[i]] - frame(to)).norm() < (points[hull[best]] - frame(to)).norm()) best = i;
    return best;
  };
  const std::size_t n = hull.size(), a = nearest(*left), b = nearest(*right), j = nearest(*jaw);
  const bool between = (j + n - a) % n <= (b + n - a) % n;
  const std::size_t from = between ? a : b, to = between ? b : a;
  std::vector<Vec3> way;
  for (std::size_t i = from; i != to; i = (i + 1) % n) way.push_back(places[hull[i]]);
  way.push_back(places[hull[to]]);
  return way;
}

std::optional<double> chin_strap_mm(const FitHead& head) {
  const auto way = chin_strap(head);
  if (way.empty()) return std::nullopt;
  double sum = 0.0;
  for (std::size_t i = 0; i + 1 < way.size(); ++i) sum += (way[i + 1] - way[i]).norm();
  return sum;
}

double band_holds_n(double tension_n, bool on_hair, const FitRules& rules) {
  return kTwoPi * (on_hair ? rules.hold.friction_hair : rules.hold.friction_skin) * tension_n;
}

}  // namespace awl
