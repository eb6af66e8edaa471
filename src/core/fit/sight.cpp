#include "core/fit/sight.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/parallel.hpp"
#include "core/fit/eye_rays.hpp"
#include "core/fit/sight_words.hpp"

namespace awl {
namespace {

constexpr int kSub = 4;  // a cell at an edge is asked so often each way

/// Fills a field on the grid, cells at its edges in finer parts.
class FieldMaker {
 public:
  FieldMaker(const SightGrid& grid, const EyeRays& rays, bool ahead) : grid_(grid), rays_(rays), ahead_(ahead) {}

  EyeField run(bool refine) {
    field_.open.assign(grid_.size(), 0);
    field_.through.assign(grid_.size(), 0.0f);
    for_rings([&](int r) {
      const auto& ring = grid_.rings()[r];
      for (int i = 0; i < ring.count; ++i) {
        const Vec3 d = grid_.direction(r, i);
        if (!rays_.bare(ahead_, d)) continue;
        field_.open[ring.first + i] = 1;
        field_.through[ring.first + i] = static_cast<float>(rays_.through(ahead_, d));
      }
    });
    bare_sr_.assign(grid_.rings().size(), 0.0);
    kept_sr_ = bare_sr_;
    for_rings([&](int r) { sum(r, refine); });
    for (std::size_t r = 0; r < bare_sr_.size(); ++r) field_.unaided_sr += bare_sr_[r], field_.kept_sr += kept_sr_[r];
    return std::move(field_);
  }

 private:
  void for_rings(const std::function<void(int)>& job) {
    constexpr int kAtOnce = 12;
    const int rings = static_cast<int>(grid_.rings().size());
    parallel_for((rings + kAtOnce - 1) / kAtOnce, [&](int block) {
      for (int r = block * kAtOnce; r < std::min(rings, (block + 1) * kAtOnce); ++r) job(r);
    });
  }

  bool differs(int cell, int other) const {
    return field_.open[cell] != field_.open[other] || std::abs(field_.through[cell] - field_.through[other]) > 0.02f;
  }

  /// Whether a cell's neighbours see something else than it does.
  bool at_edge(int r, int i) const {
    const auto& ring = grid_.rings()[r];
    const int cell = ring.first + i;
    if (differs(cell, ring.first + (i + 1) % ring.count) ||
        differs(cell, ring.first + (i + ring.count - 1) % ring.count))
      return true;
    for (const int to : {r - 1, r + 1}) {
      if (to < 0 || to >= static_cast<int>(grid_.rings().size())) continue;
      const auto& other = grid_.rings()[to];
      for (const double side : {0.1, 0.9}) {
        const int k = static_cast<int>((i + side) / ring.count * other.count);
        if (differs(cell, other.first + std::min(k, other.count - 1))) return true;
      }
    }
    return false;
  }

  void sum(int r, bool refine) {
    const auto& ring = grid_.rings()[r];
    for (int i = 0; i < ring.count; ++i) {
      const int cell = ring.first + i;
      if (!refine || !at_edge(r, i)) {
        bare_sr_[r] += ring.weight_sr * field_.open[cell];
        kept_sr_[r] += ring.weight_sr * field_.through[cell];
        continue;
      }
      const double low = std::sin(radians(ring.low_deg)), high = std::sin(radians(ring.high_deg));
      for (int y = 0; y < kSub; ++y)
        for (int x = 0; x < kSub; ++x) {
          const double sine = low + (y + 0.5) / kSub * (high - low), cosine = std::sqrt(1.0 - sine * sine);
          const double az = kTwoPi * (i + (x + 0.5) / kSub) / ring.count - kPi;
          const Vec3 d(cosine * std::sin(az), sine, cosine * std::cos(az));
          if (!rays_.bare(ahead_, d)) continue;
          const double part = ring.weight_sr / (kSub * kSub);
          bare_sr_[r] += part;
          kept_sr_[r] += part * rays_.through(ahead_, d);
        }
    }
  }

  const SightGrid& grid_;
  const EyeRays& rays_;
  bool ahead_;
  EyeField field_;
  std::vector<double> bare_sr_, kept_sr_;
};

/// What one millimetre of edge adds: along every stretch that limits the view ds |n.u| / r^2. A ray just inside it
/// passes, one just outside does not. Source: docs/formulas/fit-sight.md eq. (7).
void add_edge_gain(Eye& eye, const EyeRays& rays, const std::vector<FitPart>& parts) {
  constexpr double kBesideMm = 0.8;
  for (const FitPart& part : parts)
    for (const RimStretch& rim : part.rims) {
      const Vec3 along = rim.b - rim.a, middle = 0.5 * (rim.a + rim.b), view = middle - rays.entrance();
      const double length = along.norm(), r = view.norm();
      if (length < 1e-9 || r < 5.0) continue;
      const Vec3 u = view / r, aside = rim.normal.cross(along / length);
      if (!rays.in_field(true, u)) continue;
      const auto passes = [&](double by) {
        const Vec3 d = (middle + by * aside - rays.entrance()).normalized();
        return rays.bare(true, d) && rays.through(true, d) > 0.02;
      };
      if (passes(kBesideMm) == passes(-kBesideMm)) continue;
      const double gain = length * std::abs(rim.normal.dot(u)) / (r * r);
      eye.edge_gain_sr_mm += gain;
      const double x = u.x() * rays.outwards(), y = u.y();
      const int side = std::abs(y) > std::abs(x) ? (y > 0.0 ? 0 : 2) : (x > 0.0 ? 1 : 3);
      eye.gain_by_side[side] += gain;
    }
}

}  // namespace

SightGrid::SightGrid(double step_deg) : step_(step_deg) {
  const int bands = static_cast<int>(std::lround(180.0 / step_deg));
  for (int b = 0; b < bands; ++b) {
    Ring ring;
    ring.low_deg = -90.0 + b * step_deg, ring.high_deg = ring.low_deg + step_deg;
    const double low = std::sin(radians(ring.low_deg)), high = std::sin(radians(ring.high_deg));
    ring.mid_deg = degrees(std::asin(0.5 * (low + high)));
    ring.count = std::max(1, static_cast<int>(std::lround(360.0 / step_deg * std::cos(radians(ring.mid_deg)))));
    ring.weight_sr = kTwoPi * (high - low) / ring.count;
    ring.first = size_;
    size_ += ring.count;
    rings_.push_back(ring);
  }
}

int SightGrid::ring_of(double elevation_deg) const {
  return std::clamp(static_cast<int>((elevation_deg + 90.0) / step_), 0, static_cast<int>(rings_.size()) - 1);
}

Vec3 SightGrid::direction(int ring, double index) const {
  const Ring& r = rings_[ring];
  const double el = radians(r.mid_deg), az = kTwoPi * (index + 0.5) / r.count - kPi;
  return {std::cos(el) * std::sin(az), std::sin(el), std::cos(el) * std::cos(az)};
}

double SightGrid::azimuth_deg(int ring, int index) const { return 360.0 * (index + 0.5) / rings_[ring].count - 180.0; }

int SightGrid::cell(const Vec3& direction) const {
  const Vec3 d = direction.normalized();
  const Ring& r = rings_[ring_of(degrees(std::asin(std::clamp(d.y(), -1.0, 1.0))))];
  const double turn = (std::atan2(d.x(), d.z()) + kPi) / kTwoPi;
  return r.first + std::clamp(static_cast<int>(turn * r.count), 0, r.count - 1);
}

double field_limit_deg(const FitRules::Sight& rules, bool ahead, double meridian_rad) {
  const double c = std::cos(meridian_rad), s = std::sin(meridian_rad);
  const double wide = ahead ? (c > 0.0 ? rules.ahead_temporal_deg : rules.ahead_nasal_deg) : rules.looked_side_deg;
  const double tall = ahead ? (s > 0.0 ? rules.ahead_up_deg : rules.ahead_down_deg)
                            : (s > 0.0 ? rules.looked_up_deg : rules.looked_down_deg);
  return 1.0 / std::hypot(c / wide, s / tall);
}

std::optional<Sight> sight_of(
    const FitHead& head, const std::vector<FitPart>& parts, const FitRules& rules, const SightOptions& options) {
  const auto &left = head.at(Landmark::pupil_l), &right = head.at(Landmark::pupil_r);
  if (!left || !right) return std::nullopt;
  Sight sight;
  sight.grid = SightGrid(options.step_deg);
  sight.eye_height_mm = options.eye_height_mm;
  sight.least_through = rules.sight.least_through;
  for (int e = 0; e < 2; ++e) {
    Eye& eye = sight.eyes[e];
    eye.pupil = e == 0 ? *left : *right;
    const EyeRays rays(head, parts, rules.sight, eye.pupil);
    eye.ahead = FieldMaker(sight.grid, rays, true).run(options.refine);
    eye.looked = FieldMaker(sight.grid, rays, false).run(false);
    add_edge_gain(eye, rays, parts);
  }
  tell_sight(sight, rules, options);
  return sight;
}

}  // namespace awl
