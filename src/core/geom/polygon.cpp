#include "core/geom/polygon.hpp"

#include <algorithm>
#include <clipper.hpp>
#include <cmath>

namespace awl {

bool inside(const std::vector<Vec2>& outline, const Vec2& p) {
  bool in = false;
  for (std::size_t i = 0, j = outline.size() - 1; i < outline.size(); j = i++) {
    const Vec2 &a = outline[i], &b = outline[j];
    if ((a.y() > p.y()) != (b.y() > p.y()) && p.x() < (b.x() - a.x()) * (p.y() - a.y()) / (b.y() - a.y()) + a.x())
      in = !in;
  }
  return in;
}

double distance_to_outline(const std::vector<Vec2>& outline, const Vec2& p) {
  double best = 1e300;
  for (std::size_t i = 0; i < outline.size(); ++i) {
    const Vec2 &a = outline[i], d = outline[(i + 1) % outline.size()] - a;
    const double t = std::clamp((p - a).dot(d) / std::max(d.squaredNorm(), 1e-12), 0.0, 1.0);
    best = std::min(best, (p - a - t * d).squaredNorm());
  }
  return std::sqrt(best);
}

Roomiest roomiest_place(const std::vector<Vec2>& outline, const std::vector<std::vector<Vec2>>& holes) {
  Vec2 low = outline[0], high = low;
  for (const Vec2& p : outline) low = low.cwiseMin(p), high = high.cwiseMax(p);
  const auto room_at = [&](const Vec2& p) {
    if (!inside(outline, p)) return 0.0;
    double d = distance_to_outline(outline, p);
    for (const auto& hole : holes) d = inside(hole, p) ? 0.0 : std::min(d, distance_to_outline(hole, p));
    return d;
  };
  Vec2 best = 0.5 * (low + high), asked = best;
  double room = -1.0, there = 1e300, reach = 0.5 * std::max((high - low).x(), (high - low).y());
  for (int round = 0; round < 4; ++round, reach *= 0.25) {
    const Vec2 centre = best;
    for (int i = -8; i <= 8; ++i)
      for (int j = -8; j <= 8; ++j) {
        const Vec2 p = centre + reach / 8.0 * Vec2(i, j);
        if (there + (p - asked).norm() <= room) continue;  // room grows no faster than one walks
        asked = p, there = room_at(p);
        if (there > room && there > 0.0) room = there, best = p;
      }
  }
  return {best, std::max(room, 0.0)};
}

double signed_area_mm2(const std::vector<Vec2>& outline) {
  double sum = 0.0;
  for (std::size_t i = 0; i < outline.size(); ++i) {
    const Vec2 &a = outline[i], &b = outline[(i + 1) % outline.size()];
    sum += 0.5 * (a.x() * b.y() - a.y() * b.x());
  }
  return sum;
}

Vec2 polygon_centre(const std::vector<Vec2>& outline) {
  Vec2 sum = Vec2::Zero();
  double twice = 0.0;
  for (std::size_t i = 0; i < outline.size(); ++i) {
    const Vec2 &a = outline[i], &b = outline[(i + 1) % outline.size()];
    const double cross = a.x() * b.y() - a.y() * b.x();
    sum += cross * (a + b), twice += cross;
  }
  return sum / (3.0 * twice);
}

namespace {

constexpr double kUnits = 1000.0;

ClipperLib::Path path_of(const std::vector<Vec2>& ring) {
  ClipperLib::Path path;
  for (const Vec2& p : ring) path.push_back({std::llround(p.x() * kUnits), std::llround(p.y() * kUnits)});
  return path;
}

std::vector<Vec2> ring_of(const ClipperLib::Path& path) {
  std::vector<Vec2> ring;
  for (const auto& p : path) ring.push_back(Vec2(static_cast<double>(p.X), static_cast<double>(p.Y)) / kUnits);
  return ring;
}

}  // namespace

std::vector<std::vector<Vec2>> offset_polygon(const std::vector<Vec2>& outline, double by_mm) {
  ClipperLib::ClipperOffset offset(2.0, 0.1 * kUnits);
  offset.AddPath(path_of(outline), ClipperLib::jtRound, ClipperLib::etClosedPolygon);
  ClipperLib::Paths out;
  offset.Execute(out, by_mm * kUnits);
  std::vector<std::vector<Vec2>> result;
  for (const auto& ring : out) result.push_back(ring_of(ring));
  return result;
}

std::vector<Vec2> without(const std::vector<Vec2>& outline, const std::vector<std::vector<Vec2>>& cut) {
  ClipperLib::Clipper clipper;
  clipper.AddPath(path_of(outline), ClipperLib::ptSubject, true);
  for (const auto& ring : cut) clipper.AddPath(path_of(ring), ClipperLib::ptClip, true);
  ClipperLib::Paths out;
  clipper.Execute(ClipperLib::ctDifference, out, ClipperLib::pftNonZero, ClipperLib::pftNonZero);
  std::vector<Vec2> best;
  for (const auto& path : out)
    if (auto ring = ring_of(path); best.empty() || signed_area_mm2(ring) > signed_area_mm2(best))
      best = std::move(ring);
  return best.empty() || signed_area_mm2(best) <= 0.0 ? std::vector<Vec2>{} : best;
}

namespace {

ClipperLib::Paths paths_of(const Rings& rings) {
  ClipperLib::Paths paths;
  for (const auto& ring : rings) paths.push_back(path_of(ring));
  return paths;
}

Rings rings_of(const ClipperLib::Paths& paths) {
  Rings rings;
  for (const auto& path : paths)
    if (path.size() >= 3) rings.push_back(ring_of(path));
  return rings;
}

Rings clipped(ClipperLib::ClipType type, const ClipperLib::Paths& subject, const ClipperLib::Paths& clip,
    ClipperLib::PolyFillType fill) {
  ClipperLib::Clipper clipper;
  clipper.AddPaths(subject, ClipperLib::ptSubject, true);
  if (!clip.empty()) clipper.AddPaths(clip, ClipperLib::ptClip, true);
  ClipperLib::Paths out;
  clipper.Execute(type, out, fill, fill);
  return rings_of(out);
}

}  // namespace

Rings region_of(const Rings& curves) {
  return clipped(ClipperLib::ctUnion, paths_of(curves), {}, ClipperLib::pftEvenOdd);
}

Rings united(const Rings& outlines) {
  auto paths = paths_of(outlines);
  for (auto& path : paths)
    if (!ClipperLib::Orientation(path)) ClipperLib::ReversePath(path);
  return clipped(ClipperLib::ctUnion, paths, {}, ClipperLib::pftNonZero);
}

Rings joined_regions(const Rings& rings) {
  return clipped(ClipperLib::ctUnion, paths_of(rings), {}, ClipperLib::pftNonZero);
}

Rings common(const Rings& a, const Rings& b) {
  if (a.empty() || b.empty()) return {};
  return clipped(ClipperLib::ctIntersection, paths_of(a), paths_of(b), ClipperLib::pftEvenOdd);
}

Rings offset_region(const Rings& region, double by_mm) {
  ClipperLib::ClipperOffset offset(2.0, 0.1 * kUnits);
  offset.AddPaths(paths_of(region), ClipperLib::jtRound, ClipperLib::etClosedPolygon);
  ClipperLib::Paths out;
  offset.Execute(out, by_mm * kUnits);
  return rings_of(out);
}

double region_area_mm2(const Rings& region) {
  double sum = 0.0;
  for (const auto& ring : region) sum += signed_area_mm2(ring);
  return sum;
}

std::vector<Vec2> thinned(const std::vector<Vec2>& outline, double mm) {
  ClipperLib::Path out;
  ClipperLib::CleanPolygon(path_of(outline), out, mm * kUnits);
  return out.size() >= 3 ? ring_of(out) : outline;
}

}  // namespace awl
