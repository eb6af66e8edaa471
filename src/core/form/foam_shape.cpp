#include "core/form/foam_shape.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/geom/mending/even.hpp"
#include "core/geom/low_pass.hpp"
#include "core/geom/nearest.hpp"

namespace awl {
namespace {

// Workshop values.
constexpr double kCrumbShare = 0.01;

constexpr double kHoleRimEdges = 12.0, kHoleRimMm = 70.0;
constexpr double kSpikeRimMm = 150.0;
constexpr double kShrunkTo = 0.2;  // a triangle that loses four fifths of its area shows what cannot be shown
constexpr int kSpikeRounds = 2;
constexpr std::size_t kMostTold = 12;

Mesh only(const Mesh& mesh, const std::vector<char>& stays) {
  std::vector<int> faces, old;
  for (std::size_t f = 0; f < mesh.triangles.size(); ++f)
    if (stays[f]) faces.push_back(static_cast<int>(f));
  return part_of(mesh, faces, old);
}

Mesh without_crumbs(const Mesh& mesh, int& dropped) {
  const auto part = connected_parts(mesh, [](int, int) { return true; });
  const int count = part.empty() ? 0 : 1 + *std::max_element(part.begin(), part.end());
  std::vector<double> area(static_cast<std::size_t>(count), 0.0);
  double all = 0.0;
  for (std::size_t f = 0; f < part.size(); ++f) {
    const double a = 0.5 * area_vector(mesh, mesh.triangles[f]).norm();
    area[part[f]] += a;
    all += a;
  }
  std::vector<char> stays(part.size(), 1);
  for (std::size_t f = 0; f < part.size(); ++f) stays[f] = area[part[f]] >= kCrumbShare * all;
  dropped = static_cast<int>(std::count_if(area.begin(), area.end(), [&](double a) { return a < kCrumbShare * all; }));
  return dropped > 0 ? only(mesh, stays) : mesh;
}

/// Grows a set of triangles by rings of those that share a corner.
void grow(const Mesh& mesh, std::vector<char>& set, int rings) {
  for (int r = 0; r < rings; ++r) {
    std::vector<char> touched(mesh.vertices.size(), 0);
    for (std::size_t f = 0; f < set.size(); ++f)
      if (set[f])
        for (const int v : mesh.triangles[f]) touched[v] = 1;
    for (std::size_t f = 0; f < set.size(); ++f)
      for (const int v : mesh.triangles[f])
        if (touched[v]) set[f] = 1;
  }
}

class Shaper {
 public:
  Shaper(const FoamShapeOptions& options, const Progress& progress) : options_(options), progress_(progress) {}

  Result<FoamShape> run(const Mesh& raw) {
    FoamShape shape;
    Mesh mesh = without_crumbs(raw, shape.shells_dropped);
    const double edge = even_edge_mm(mesh, options_.triangles);
    if (auto filled = with_holes_filled(mesh, std::min(kHoleRimEdges * edge, kHoleRimMm)); filled.holes > 0) {
      shape.holes_filled = filled.holes;
      mesh = std::move(filled.mesh);
    }
    if (auto done = even(mesh, 0.1); !done) return fail(done);
    for (int round = 0; options_.thickness_mm > 0.0; ++round) {
      const Mesh before = mesh;
      mesh = low_passed(mesh, options_.thickness_mm);
      const bool taken = round < kSpikeRounds && take_spikes(before, mesh, shape);
      if (shape.thin_all_over) mesh = before;
      if (!taken) {
        if (!shape.thin_all_over) tell_details(before, mesh, shape);
        break;
      }
      if (auto done = even(mesh, 0.3 + 0.2 * round); !done) return fail(done);
    }
    if (auto done = even(mesh, 0.8); !done) return fail(done);
    shape.mesh = std::move(mesh);
    if (options_.thickness_mm > 0.0 && !shape.thin_all_over) tell_lost(raw, shape);
    return shape;
  }

 private:
  Result<void> even(Mesh& mesh, double share) {
    if (!progress_.keep_going(share)) return fail(Errc::cancelled, "Stopped; nothing was changed.");
    auto made = evened_to(mesh, options_.triangles);
    if (!made) return fail(made);
    mesh = std::move(*made);
    return {};
  }

  /// Takes off what shrank to nothing and closes what that leaves open. Answers whether anything went.
  bool take_spikes(const Mesh& before, Mesh& mesh, FoamShape& shape) const {
    std::vector<char> gone(mesh.triangles.size(), 0);
    bool any = false;
    for (std::size_t f = 0; f < gone.size(); ++f) {
      const double was = area_vector(before, before.triangles[f]).norm();
      gone[f] = area_vector(mesh, mesh.triangles[f]).norm() < kShrunkTo * was;
      any = any || gone[f];
    }
    if (!any) return false;
    grow(mesh, gone, 2);
    double all = 0.0, lost = 0.0;
    for (std::size_t f = 0; f < gone.size(); ++f) {
      const double a = area_vector(before, before.triangles[f]).norm();
      all += a;
      lost += gone[f] ? a : 0.0;
    }
    if (lost > 0.5 * all) {
      shape.thin_all_over = true;
      return false;
    }
    tell_spikes(before, gone, shape);
    std::vector<char> stays(gone.size());
    for (std::size_t f = 0; f < gone.size(); ++f) stays[f] = !gone[f];
    int dropped = 0;
    Mesh left = without_crumbs(only(mesh, stays), dropped);
    if (left.triangles.empty()) return false;
    mesh = with_holes_filled(left, kSpikeRimMm).mesh;
    return true;
  }

  static void tell_spikes(const Mesh& before, const std::vector<char>& gone, FoamShape& shape) {
    std::vector<int> faces, old;
    for (std::size_t f = 0; f < gone.size(); ++f)
      if (gone[f]) faces.push_back(static_cast<int>(f));
    const Mesh off = part_of(before, faces, old);
    const auto part = connected_parts(off, [](int, int) { return true; });
    const int count = part.empty() ? 0 : 1 + *std::max_element(part.begin(), part.end());
    std::vector<TooFine> spikes(static_cast<std::size_t>(count));
    std::vector<Box> box(spikes.size());
    std::vector<double> area(spikes.size(), 0.0);
    for (std::size_t f = 0; f < part.size(); ++f) {
      for (const int v : off.triangles[f]) box[part[f]].include(off.vertices[v]);
      area[part[f]] += 0.5 * area_vector(off, off.triangles[f]).norm();
    }
    for (std::size_t k = 0; k < spikes.size(); ++k) {
      spikes[k].kind = TooFine::Kind::spike;
      spikes[k].at = 0.5 * (box[k].low + box[k].high);
      spikes[k].length_mm = box[k].size().maxCoeff();
      spikes[k].thickness_mm = area[k] / (3.14159265358979323846 * std::max(1.0, spikes[k].length_mm));
      shape.told.push_back(spikes[k]);
    }
  }

  /// Places that were moved by more than the sheet is thick, the farthest of a neighbourhood each.
  void tell_details(const Mesh& before, const Mesh& after, FoamShape& shape) const {
    std::vector<std::pair<double, int>> moved;
    for (std::size_t v = 0; v < after.vertices.size(); ++v) {
      const double mm = (after.vertices[v] - before.vertices[v]).norm();
      shape.most_moved_mm = std::max(shape.most_moved_mm, mm);
      if (mm > options_.thickness_mm) moved.push_back({mm, static_cast<int>(v)});
    }
    std::sort(moved.rbegin(), moved.rend());
    for (const auto& [mm, v] : moved) {
      const Vec3& at = before.vertices[v];
      const bool near = std::any_of(shape.told.begin(), shape.told.end(),
          [&](const TooFine& t) { return (t.at - at).norm() < 8.0 * options_.thickness_mm; });
      if (!near) shape.told.push_back({TooFine::Kind::detail, at, 0.0, mm});
    }
  }

  /// What was lost on the way without being seen there: needles finer than the triangles.
  void tell_lost(const Mesh& raw, FoamShape& shape) const {
    const Nearest surface(shape.mesh);
    std::vector<std::pair<double, int>> lost;
    for (std::size_t v = 0; v < raw.vertices.size(); ++v)
      if (const double mm = std::abs(surface.to(raw.vertices[v]).signed_mm); mm > 2.0 * options_.thickness_mm)
        lost.push_back({mm, static_cast<int>(v)});
    std::sort(lost.rbegin(), lost.rend());
    for (const auto& [mm, v] : lost) {
      const Vec3& at = raw.vertices[v];
      const bool near = std::any_of(shape.told.begin(), shape.told.end(),
          [&](const TooFine& t) { return (t.at - at).norm() < std::max(8.0 * options_.thickness_mm, t.length_mm); });
      if (near) continue;
      shape.most_moved_mm = std::max(shape.most_moved_mm, mm);
      if (mm > 4.0 * options_.thickness_mm)
        shape.told.push_back({TooFine::Kind::spike, at, mm, 0.0});
      else
        shape.told.push_back({TooFine::Kind::detail, at, 0.0, mm});
    }
  }

  const FoamShapeOptions& options_;
  const Progress& progress_;
};

std::string place_words(const Vec3& p) {
  return "(" + fixed(p.x(), 0) + ", " + fixed(p.y(), 0) + ", " + fixed(p.z(), 0) + ")";
}

}  // namespace

std::vector<std::string> FoamShape::words() const {
  std::vector<std::string> say;
  if (thin_all_over) {
    say.push_back(
        "It is thin all over: most of it is thinner than the sheet. Make it larger, of thinner sheet, or carve it.");
    return say;
  }
  if (shells_dropped > 0)
    say.push_back(std::to_string(shells_dropped) + (shells_dropped == 1 ? " small shell was" : " small shells were") +
        " left out.");
  if (holes_filled > 0)
    say.push_back(
        std::to_string(holes_filled) + (holes_filled == 1 ? " small hole was" : " small holes were") + " closed.");
  std::size_t spikes = 0, details = 0;
  for (const TooFine& t : told) {
    if (t.kind == TooFine::Kind::detail) {
      ++details;
    } else if (++spikes <= kMostTold) {
      say.push_back("A spike of about " + fixed(t.length_mm, 0) + " mm" +
          (t.thickness_mm > 0.0 ? ", " + fixed(t.thickness_mm, 0) + " mm thick," : std::string()) + " at " +
          place_words(t.at) +
          " is thinner than foam can be: carve it of solid foam, or bend it of wire, its ends turned in and bound.");
    }
  }
  if (spikes > kMostTold) say.push_back("And " + std::to_string(spikes - kMostTold) + " more spikes.");
  if (details > 0)
    say.push_back(std::to_string(details) + (details == 1 ? " place is" : " places are") +
        " finer than the sheet is thick and came out rounder, by " + fixed(most_moved_mm, 0) +
        " mm at most: add them as details.");
  return say;
}

Result<FoamShape> foam_shape(const Mesh& mesh, const FoamShapeOptions& options, const Progress& progress) {
  return Shaper(options, progress).run(mesh);
}

}  // namespace awl
