#include "core/form/closing.hpp"

#include <algorithm>
#include <cmath>
#include <map>

#include "core/base/numbers.hpp"
#include "core/base/parallel.hpp"
#include "core/geom/iso_surface.hpp"
#include "core/geom/nearest.hpp"
#include "core/geom/remesh.hpp"

namespace awl {
namespace {

Vec3 in_plane(Vec3 p, bool on_border) {
  if (on_border) p.x() = 0.0;
  return p;
}

/// A half, and beyond the mirror plane what touches it: seen from x >= 0 it is as near as the whole, and faces alike.
Mesh with_mirrored_fringe(const Mesh& half) {
  Mesh both = half;
  std::map<int, int> twin_of;
  const auto twin = [&](int v) {
    if (half.vertices[v].x() == 0.0) return v;
    const auto [it, fresh] = twin_of.try_emplace(v, static_cast<int>(both.vertices.size()));
    if (fresh) both.vertices.push_back(Vec3(-half.vertices[v].x(), half.vertices[v].y(), half.vertices[v].z()));
    return it->second;
  };
  for (const Tri& t : half.triangles)
    if (std::any_of(t.begin(), t.end(), [&](int v) { return half.vertices[v].x() == 0.0; }))
      both.triangles.push_back({twin(t[0]), twin(t[2]), twin(t[1])});
  return both;
}

/// Closest points of the far surface carried back by `back_mm` along their own direction.
Vec3 stand_off(const Nearest& from, Vec3 p, double back_mm, bool on_border) {
  for (int i = 0; i < (on_border ? 3 : 1); ++i) {
    const NearestHit hit = from.to(p);
    const Vec3 away = p - hit.point;
    if (away.norm() > 1e-9) p = hit.point + back_mm * away.normalized();
    p = in_plane(p, on_border);
  }
  return p;
}

/// The uniform umbrella of a surface known by its half: the mean of a place's neighbours less the place itself.
class Umbrella {
 public:
  explicit Umbrella(const Mesh& half)
      : neighbours_(half.vertices.size(),
            [edges = topology_of(half).edges](const auto& put) {
              for (const auto& e : edges) put(e.a, e.b), put(e.b, e.a);
            }),
        in_plane_(half.vertices.size()) {
    for (std::size_t v = 0; v < in_plane_.size(); ++v) in_plane_[v] = half.vertices[v].x() == 0.0;
  }

  std::vector<Vec3> of(const std::vector<Vec3>& what) const {
    std::vector<Vec3> umbrellas(what.size());
    parallel_each(what.size(), [&](std::size_t v) {
      Vec3 sum = Vec3::Zero();
      int count = 0;
      for (const int w : neighbours_[v]) {
        // Seen from the mirror plane a neighbour off it stands there twice.
        const int times = in_plane_[v] && !in_plane_[w] ? 2 : 1;
        sum += times * what[w], count += times;
      }
      umbrellas[v] = sum / std::max(count, 1) - what[v];
      if (in_plane_[v]) umbrellas[v].x() = 0.0;
    });
    return umbrellas;
  }

 private:
  Rows neighbours_;
  std::vector<char> in_plane_;
};

/// Keeps places off a head; asks only where the last answer no longer tells.
class KeepOff {
 public:
  KeepOff(const Nearest& head, double ease_mm, std::size_t count)
      : head_(head), ease_mm_(ease_mm), asked_(count, Vec3::Zero()), free_mm_(count, -1.0) {}

  /// Where a place goes that may be too near. From several threads, not for one number at once.
  Vec3 lifted(std::size_t number, const Vec3& p) {
    constexpr double kFarMm = 2.0;
    if ((p - asked_[number]).norm() < free_mm_[number]) return p;
    const auto hit = head_.within(p, ease_mm_ + kFarMm);
    asked_[number] = p, free_mm_[number] = hit ? std::abs(hit->signed_mm) - ease_mm_ : kFarMm;
    if (!hit || hit->signed_mm >= ease_mm_ || hit->signed_mm <= 0.0) return p;
    return p + (ease_mm_ - hit->signed_mm) * (p - hit->point).normalized();
  }

 private:
  const Nearest& head_;
  double ease_mm_;
  std::vector<Vec3> asked_;
  std::vector<double> free_mm_;  ///< nothing is too near within so far of where was asked
};

/// Bends the shell as little as it can while it stays `ease_mm` off the head.
Mesh faired_half(Mesh half, const Nearest& near_head, const CardField& cards, const ClosingOptions& options) {
  auto& places = half.vertices;
  const Umbrella umbrella(half);
  KeepOff keep_off(near_head, options.ease_mm, places.size());
  std::vector<double> give(places.size(), 0.4);
  if (!cards.empty())
    parallel_each(give.size(), [&](std::size_t v) { give[v] *= smoothstep(12.0, 45.0, cards(places[v])); });
  for (int round = 0; round < options.fairing_rounds; ++round) {
    const auto second = umbrella.of(umbrella.of(places));
    parallel_each(places.size(), [&](std::size_t v) {
      if (give[v] == 0.0) return;
      const bool in_middle = places[v].x() == 0.0;
      places[v] = in_plane(keep_off.lifted(v, places[v] - give[v] * second[v]), in_middle);
    });
  }
  return half;
}

}  // namespace

Result<Mesh> closing_shell_half(
    const Nearest& near_head, const CardField& cards, const ClosingOptions& options, const Progress& progress) {
  const double r = options.tightness_mm, c = options.ease_mm;
  if (c < 0.0 || c >= r)
    return fail(Errc::out_of_range,
        "The ease of " + fixed(c, 1) + " mm must be 0 or more and below the tape tightness of " + fixed(r, 0) + " mm.");
  Box box = box_of(near_head.mesh().vertices);
  if (!cards.empty()) box.include(cards.box().low), box.include(cards.box().high);
  const Vec3 margin = Vec3::Constant(r + 3.0 * options.cell_mm);
  const auto grid_of = [&](double cell_mm) {
    return grid_over({0.0, box.low.y() - margin.y(), box.low.z() - margin.z()}, box.high + margin, cell_mm);
  };

  const auto padded = [&](const Vec3& p) {
    const double d = near_head.to(p).signed_mm;
    return cards.empty() ? d : std::min(d, cards(p) + c);
  };
  const auto wide_half = distance_surface(
      grid_of(options.far_cell_mm > 0.0 ? options.far_cell_mm : options.cell_mm),
      [&](const Vec3& p) { return padded(p) - r; }, progress.span(0.0, 0.4));
  if (!wide_half) return wide_half;
  const Nearest near_wide(with_mirrored_fringe(*wide_half));
  DistanceBand band;
  auto shell = distance_surface(
      grid_of(options.cell_mm), [&](const Vec3& p) { return near_wide.to(p).signed_mm + (r - c); },
      progress.span(0.4, 0.6), options.wanted, &band);
  if (!shell) return shell;
  if (!progress.keep_going(0.6)) return fail(Errc::cancelled, "Stopped.");

  RemeshGoal goal;
  goal.passes = options.passes;
  goal.edge_mm = [&](const Vec3&) { return options.edge_mm; };
  const auto ragged = [](const Vec3& p, bool on_border) { return on_border && p.x() > 1e-6; };
  const auto exactly = [&](const Vec3& p, bool on_border) {
    return ragged(p, on_border) ? p : stand_off(near_wide, p, r - c, on_border);
  };
  goal.border_kind = [](const Vec3& p) { return p.x() > 1e-6 ? 1 : 0; };
  // On the way the band of the grid is near enough; in the end every place is brought exactly onto the tape.
  goal.project = [&](const Vec3& p, bool on_border) {
    if (ragged(p, on_border)) return p;
    const auto there = band.onto(p, on_border);
    return there ? in_plane(*there, on_border) : exactly(p, on_border);
  };
  Mesh even = remesh(std::move(*shell), goal);
  const std::size_t n = even.vertices.size();
  std::vector<char> border(n, 0);
  for (const auto& loop : border_loops(even))
    for (const int v : loop) border[v] = 1;
  parallel_each(n, [&](std::size_t v) { even.vertices[v] = exactly(even.vertices[v], border[v] != 0); });
  return faired_half(std::move(even), near_head, cards, options);
}

Result<Mesh> closing_shell_half(const Mesh& head, const ClosingOptions& options, const Progress& progress) {
  return closing_shell_half(Nearest(head), CardField({}), options, progress);
}

}  // namespace awl
