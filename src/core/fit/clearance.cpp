#include "core/fit/clearance.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/parallel.hpp"
#include "core/geom/polygon.hpp"

namespace awl {
namespace {

/// The part of a triangle's area where a value given at its corners lies below a limit.
double area_below(double area, std::array<double, 3> v, double limit) {
  std::sort(v.begin(), v.end());
  if (v[0] >= limit) return 0.0;
  if (v[2] < limit) return area;
  if (v[1] >= limit) return area * (limit - v[0]) / (v[1] - v[0]) * (limit - v[0]) / (v[2] - v[0]);
  return area * (1.0 - (v[2] - limit) / (v[2] - v[0]) * (v[2] - limit) / (v[2] - v[1]));
}

class Finder {
 public:
  Finder(const FitHead& head, const FitPart& part, const FitRules& rules, const ClearanceOptions& options)
      : head_(head), mesh_(part.inner), rules_(rules), options_(options) {
    found_.part = part.part, found_.name = part.name;
  }

  PartClearance run() {
    const int n = static_cast<int>(mesh_.vertices.size());
    found_.room_mm.assign(n, 0.0);
    constexpr int kAtOnce = 256;
    parallel_for((n + kAtOnce - 1) / kAtOnce, [&](int block) {
      for (int v = block * kAtOnce; v < std::min(n, (block + 1) * kAtOnce); ++v)
        found_.room_mm[v] = head_.near().to(mesh_.vertices[v]).signed_mm - options_.layers_mm;
    });
    found_.least_mm = 1e300;
    for (const double room : found_.room_mm) found_.least_mm = std::min(found_.least_mm, room);
    if (n == 0) found_.least_mm = 0.0;
    pressing();
    contacts();
    gapes();
    return std::move(found_);
  }

 private:
  std::array<double, 3> rooms(const Tri& t) const {
    return {found_.room_mm[t[0]], found_.room_mm[t[1]], found_.room_mm[t[2]]};
  }

  /// Squeezed, and with the ears out of the way, since those are told of by themselves.
  void pressing() {
    std::vector<double> deep(mesh_.vertices.size());
    int most = -1;
    for (std::size_t v = 0; v < deep.size(); ++v) {
      // Only where the inside is near at all: the grid is rougher than the exact distance.
      deep[v] = found_.room_mm[v] > 0.0
          ? -found_.room_mm[v]
          : rules_.going_on.squeezed * options_.layers_mm - head_.folded_mm(mesh_.vertices[v]);
      if (most < 0 || deep[v] > deep[most]) most = static_cast<int>(v);
    }
    if (most < 0 || deep[most] <= 0.0) return;
    found_.pressing_mm = deep[most];
    found_.pressing_at = head_.nearest_place(mesh_.vertices[most]);
    for (const Tri& t : mesh_.triangles)
      found_.pressing_mm2 += area_below(
          0.5 * area_vector(mesh_, t).norm(), {-deep[t[0]], -deep[t[1]], -deep[t[2]]}, -rules_.going_on.press_skin_mm);
  }

  void contacts() {
    std::vector<int> touching;
    for (int f = 0; f < static_cast<int>(mesh_.triangles.size()); ++f) {
      const auto r = rooms(mesh_.triangles[f]);
      if (std::min({r[0], r[1], r[2]}) < options_.touch_mm) touching.push_back(f);
    }
    if (touching.empty()) return;
    std::vector<int> vertex_of;
    const Mesh part = part_of(mesh_, touching, vertex_of);
    const auto label = connected_parts(part, [](int, int) { return true; });
    const int count = *std::max_element(label.begin(), label.end()) + 1;
    std::vector<Contact> all(count);
    for (Contact& c : all) c.deepest_mm = 1e300;
    for (std::size_t f = 0; f < part.triangles.size(); ++f) {
      Contact& c = all[label[f]];
      const Tri& t = part.triangles[f];
      std::array<double, 3> r;
      for (int k = 0; k < 3; ++k) {
        r[k] = found_.room_mm[vertex_of[t[k]]];
        if (r[k] < c.deepest_mm) c.deepest_mm = r[k], c.at = part.vertices[t[k]];
      }
      c.area_mm2 += area_below(0.5 * area_vector(part, t).norm(), r, options_.touch_mm);
    }
    for (Contact& c : all) {
      c.place = head_.nearest_place(c.at);
      if (c.area_mm2 >= kLeastMm2) found_.contacts.push_back(std::move(c));
    }
    std::sort(found_.contacts.begin(), found_.contacts.end(),
        [](const Contact& a, const Contact& b) { return a.area_mm2 > b.area_mm2; });
  }

  void gapes() {
    const double limit = rules_.clearance.gape_mm;
    for (const auto& loop : border_loops(mesh_)) {
      const int n = static_cast<int>(loop.size());
      int start = 0;
      while (start < n && found_.room_mm[loop[start]] > limit) ++start;
      if (start == n) start = 0;
      Gape gape;
      for (int i = 0; i <= n; ++i) {
        const int v = loop[(start + i) % n], next = loop[(start + i + 1) % n];
        if (i < n && found_.room_mm[v] > limit) {
          gape.long_mm += (mesh_.vertices[next] - mesh_.vertices[v]).norm();
          if (found_.room_mm[v] > gape.widest_mm) gape.widest_mm = found_.room_mm[v], gape.at = mesh_.vertices[v];
          continue;
        }
        if (gape.long_mm > rules_.clearance.gape_run_mm) {
          gape.place = head_.nearest_place(gape.at);
          found_.gapes.push_back(gape);
        }
        gape = {};
      }
    }
    std::sort(found_.gapes.begin(), found_.gapes.end(),
        [](const Gape& a, const Gape& b) { return a.widest_mm > b.widest_mm; });
  }

  static constexpr double kLeastMm2 = 5.0;
  const FitHead& head_;
  const Mesh& mesh_;
  const FitRules& rules_;
  const ClearanceOptions& options_;
  PartClearance found_;
};

/// How far an ear stands off the skin behind it, and the shadow it throws sideways.
struct EarShape {
  double off_mm = 0.0;
  Rings shadow;  ///< x forward, y up
};

/// What stands off the folded head is more than a folded ear's thickness off the skin.
EarShape shape_of_ear(const FitHead& head, bool left) {
  constexpr double kCountsMm = 0.2;
  EarShape ear;
  Rings triangles;
  for (const Tri& t : head.mesh().triangles) {
    bool stands = true;
    for (const int v : t) {
      const double off = (head.mesh().vertices[v] - head.folded().vertices[v]).norm();
      stands = stands && off > kCountsMm && (head.mesh().vertices[v].x() > 0.0) == left;
      if ((head.mesh().vertices[v].x() > 0.0) == left) ear.off_mm = std::max(ear.off_mm, off);
    }
    if (!stands) continue;
    std::vector<Vec2> ring;
    for (const int v : t) {
      const Vec3& p = head.mesh().vertices[v];
      ring.push_back({p.z(), p.y()});
    }
    if (signed_area_mm2(ring) < 0.0) std::reverse(ring.begin(), ring.end());
    triangles.push_back(std::move(ring));
  }
  ear.shadow = united(triangles);
  return ear;
}

}  // namespace

PartClearance clearance_inside(
    const FitHead& head, const FitPart& part, const FitRules& rules, const ClearanceOptions& options) {
  return Finder(head, part, rules, options).run();
}

std::vector<EarRoom> ear_rooms(const FitHead& head, const std::vector<FitPart>& parts, const FitRules& rules) {
  constexpr double kCloseMm = 8.0, kReachMm = 90.0, kCountsMm = 2.0;
  std::vector<EarRoom> rooms;
  if (head.folded() == head.mesh()) return rooms;
  for (const bool left : {true, false}) {
    const EarShape shape = shape_of_ear(head, left);
    if (shape.shadow.empty()) continue;
    EarRoom ear;
    ear.left = left, ear.stands_off_mm = shape.off_mm + rules.clearance.ear_folded_mm;
    // From the skin behind each place of the ear outwards to whatever covers it.
    const double free = rules.clearance.ear_free_mm, folded = rules.clearance.ear_folded_mm;
    ear.room_mm = 1e300;
    double lacks = -1e300;
    for (std::size_t v = 0; v < head.mesh().vertices.size(); ++v) {
      const Vec3 &skin = head.folded().vertices[v], off = head.mesh().vertices[v] - skin;
      if (off.norm() < kCountsMm || (skin.x() > 0.0) != left) continue;
      for (const FitPart& p : parts) {
        const auto hit = p.near->first_hit(skin, off);
        if (!hit || hit->along_mm > kReachMm) continue;
        const double room = hit->along_mm + folded - p.layers_mm;
        ear.room_mm = std::min(ear.room_mm, room);
        lacks = std::max(lacks, off.norm() + folded + free - room);
      }
    }
    using State = EarRoom::State;
    ear.state = ear.room_mm > 1e299 ? State::uncovered
        : lacks <= 0.0              ? State::free
        : ear.room_mm >= folded     ? State::folded
                                    : State::pushes;
    ear.by_mm = ear.state == State::folded ? lacks - free : ear.state == State::pushes ? folded - ear.room_mm : 0.0;
    if (ear.state == State::folded && ear.by_mm <= 0.5) ear.state = State::free;
    // A hole along the ear's own outline: a margin round it, hollows closed.
    const Rings wide =
        offset_region(offset_region(shape.shadow, rules.clearance.relief_margin_mm + kCloseMm), -kCloseMm);
    for (const auto& ring : wide)
      if (signed_area_mm2(ring) > signed_area_mm2(ear.relief)) ear.relief = ring;
    Vec2 low = Vec2::Constant(1e300), high = -low;
    for (const Vec2& p : ear.relief) low = low.cwiseMin(p), high = high.cwiseMax(p);
    if (!ear.relief.empty()) {
      ear.relief_wide_mm = high.x() - low.x(), ear.relief_tall_mm = high.y() - low.y();
      ear.relief_mm2 = signed_area_mm2(ear.relief);
    }
    rooms.push_back(std::move(ear));
  }
  return rooms;
}

}  // namespace awl
