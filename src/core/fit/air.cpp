#include "core/fit/air.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>
#include <deque>
#include <map>
#include <set>

#include "core/base/numbers.hpp"
#include "core/fit/going_on.hpp"

namespace awl {
namespace {

constexpr double kVoxelMm = 6.0, kStartMm = 9.0;
constexpr int kRays = 64;

/// Directions evenly over the sphere.
std::vector<Vec3> all_round() {
  std::vector<Vec3> all;
  const double golden = kPi * (3.0 - std::sqrt(5.0));
  for (int i = 0; i < kRays; ++i) {
    const double y = 1.0 - 2.0 * (i + 0.5) / kRays, r = std::sqrt(1.0 - y * y);
    all.push_back({r * std::cos(golden * i), y, r * std::sin(golden * i)});
  }
  return all;
}

/// Air before nose and mouth that most directions are shut to.
std::optional<double> dead_space(const FitHead& head, const std::vector<FitPart>& parts, const FitRules::Air& rules) {
  const auto& nose = head.at(Landmark::subnasale);
  if (!nose || parts.empty()) return std::nullopt;
  static const auto directions = all_round();
  const Vec3 start = *nose + kStartMm * Vec3::UnitZ();
  const auto solid = [&](const Vec3& p) {
    if (head.near().to(p).signed_mm < 0.0) return true;
    return std::any_of(parts.begin(), parts.end(),
        [&](const FitPart& part) { return part.closed && part.near->to(p).signed_mm < 0.0; });
  };
  const auto shut = [&](const Vec3& p) {
    int stopped = 0;
    for (const Vec3& d : directions) {
      bool hit = head.near().blocked(p, d, 1e4);
      for (std::size_t i = 0; i < parts.size() && !hit; ++i) hit = parts[i].near->blocked(p, d, 1e4);
      stopped += hit;
    }
    return stopped >= rules.dead_shut * kRays;
  };
  using Cell = std::array<int, 3>;
  std::set<Cell> seen{{0, 0, 0}};
  std::deque<Cell> todo{{0, 0, 0}};
  int count = 0;
  while (!todo.empty()) {
    const Cell c = todo.front();
    todo.pop_front();
    const Vec3 at = start + kVoxelMm * Vec3(c[0], c[1], c[2]);
    if ((at - start).norm() > rules.dead_near_mm || solid(at) || !shut(at)) continue;
    ++count;
    for (int k = 0; k < 3; ++k)
      for (const int by : {-1, 1}) {
        Cell next = c;
        next[k] += by;
        // Not through a sheet.
        const Vec3 way = by * Vec3::Unit(k);
        if (!std::any_of(parts.begin(), parts.end(),
                [&](const FitPart& part) { return part.near->blocked(at, way, kVoxelMm); }) &&
            seen.insert(next).second)
          todo.push_back(next);
      }
  }
  if (count == 0) return std::nullopt;
  return count * std::pow(kVoxelMm, 3) / 1000.0;
}

std::string zone_of(const FitHead& head, const Vec3& at, bool entry) {
  if (entry) return "below";
  const Vec3 r = at - head.between_ears();
  if (r.y() > 95.0) return "above";
  if (r.z() > 45.0) return "before the face";
  return r.z() < -45.0 ? "behind" : "at the sides";
}

}  // namespace

Air air_of(const FitHead& head, const std::vector<FitPart>& parts, const FitRules& rules) {
  Air air;
  std::map<std::string, double> by_zone;
  double high_open = 0.0;
  for (const FitPart& part : parts) {
    const auto entry = entry_of(part.inner, head.mid_neck());
    for (const auto& loop : border_loops(part.inner)) {
      Vec3 middle = Vec3::Zero(), area = Vec3::Zero();
      for (const int v : loop) middle += part.inner.vertices[v] / static_cast<double>(loop.size());
      for (std::size_t i = 0; i < loop.size(); ++i)
        area += 0.5 *
            (part.inner.vertices[loop[i]] - middle).cross(part.inner.vertices[loop[(i + 1) % loop.size()]] - middle);
      const bool is_entry = entry && (entry->middle - middle).norm() < 1e-6;
      const double open = area.norm() * (part.look.kind == ThroughLook::Kind::none ? 1.0 : part.look.share);
      by_zone[zone_of(head, middle, is_entry)] += open;
      if (!is_entry && middle.y() > head.between_ears().y() + 30.0) high_open += open;
      if (!is_entry) air.open_mm2 += open;
    }
    if (part.look.kind == ThroughLook::Kind::none) continue;
    for (const Landmark l : {Landmark::subnasale, Landmark::stomion})
      if (head.at(l) && part.look.kind != ThroughLook::Kind::woven && part.look.kind != ThroughLook::Kind::holes &&
          part.near->blocked(*head.at(l), Vec3::UnitZ(), rules.air.fog_near_mm))
        air.fogs = true;
  }
  if (high_open >= rules.air.fog_open_mm2) air.fogs = false;
  for (const auto& [zone, mm2] : by_zone) air.openings.push_back({zone, mm2});
  std::sort(air.openings.begin(), air.openings.end(), [](const auto& a, const auto& b) { return a.mm2 > b.mm2; });
  air.dead_ml = dead_space(head, parts, rules.air);
  // The scalp: what of the head above the ears looks up and out.
  double whole = 0.0, covered = 0.0;
  const double above = head.between_ears().y() + 40.0;
  for (std::size_t f = 0; f < head.mesh().triangles.size(); f += 3) {
    const Tri& t = head.mesh().triangles[f];
    const Vec3 middle = (head.mesh().vertices[t[0]] + head.mesh().vertices[t[1]] + head.mesh().vertices[t[2]]) / 3.0;
    if (middle.y() < above) continue;
    const Vec3 n = area_vector(head.mesh(), t);
    whole += n.norm();
    if (std::any_of(parts.begin(), parts.end(), [&](const FitPart& p) { return p.near->blocked(middle, n, 120.0); }))
      covered += n.norm();
  }
  air.covered_share = whole > 0.0 ? covered / whole : 0.0;
  return air;
}

}  // namespace awl
