#include "core/form/picture_outline.hpp"

#include <algorithm>
#include <cmath>
#include <map>

#include "core/base/numbers.hpp"
#include "core/geom/polygon.hpp"

namespace awl {
namespace {

constexpr int kGreyLevels = 256;

/// The level that parts values best in two heaps. Contract: values in 0..1.
double parting_level(const std::vector<float>& values) {
  std::array<double, kGreyLevels> count{};
  double all = 0.0, sum = 0.0;
  for (const float v : values) {
    const int level = std::clamp(static_cast<int>(v * (kGreyLevels - 1)), 0, kGreyLevels - 1);
    count[level] += 1.0, all += 1.0, sum += level;
  }
  double below = 0.0, below_sum = 0.0, best = -1.0, at = 0.5;
  for (int level = 0; level + 1 < kGreyLevels; ++level) {
    below += count[level], below_sum += level * count[level];
    if (below == 0.0 || below == all) continue;
    const double apart = below_sum / below - (sum - below_sum) / (all - below);
    const double between = below * (all - below) * apart * apart;
    if (between > best) best = between, at = (level + 0.5) / (kGreyLevels - 1);
  }
  return at;
}

/// How far every pixel is from the ground: the middle value along the picture's edge.
std::vector<float> off_ground(const GreyPicture& p) {
  std::vector<float> edge;
  for (int x = 0; x < p.width; ++x) edge.push_back(p.at(x, 0)), edge.push_back(p.at(x, p.height - 1));
  for (int y = 0; y < p.height; ++y) edge.push_back(p.at(0, y)), edge.push_back(p.at(p.width - 1, y));
  std::nth_element(edge.begin(), edge.begin() + static_cast<long>(edge.size() / 2), edge.end());
  const float ground = edge[edge.size() / 2];
  std::vector<float> off = p.grey;
  for (float& v : off) v = std::min(1.0f, std::abs(v - ground) / 255.0f);
  return off;
}

/// All closed lines where a grid of values is at a level, values above it on the left; outside the grid nothing is.
Rings level_lines(const std::vector<float>& values, int width, int height, double level) {
  const auto at = [&](int x, int y) {
    return x < 0 || y < 0 || x >= width || y >= height
        ? 0.0
        : static_cast<double>(values[y * static_cast<std::size_t>(width) + x]);
  };
  // Places on grid edges, numbered by the edge's lower end and whether it runs across.
  using Place = std::pair<std::pair<int, int>, bool>;
  std::map<Place, Place> next;
  std::map<Place, Vec2> where;
  for (int y = -1; y < height; ++y)
    for (int x = -1; x < width; ++x) {
      const double v[4] = {at(x, y), at(x + 1, y), at(x + 1, y + 1), at(x, y + 1)};
      int code = 0;
      for (int k = 0; k < 4; ++k) code |= v[k] > level ? 1 << k : 0;
      if (code == 0 || code == 15) continue;
      const auto share = [&](double a, double b) { return (level - a) / (b - a); };
      const Place side[4] = {{{x, y}, true}, {{x + 1, y}, false}, {{x, y + 1}, true}, {{x, y}, false}};
      const auto put = [&](int from, int to) {
        for (const int k : {from, to}) {
          Vec2 p(x, y);
          if (k == 0) p += Vec2(share(v[0], v[1]), 0);
          if (k == 1) p += Vec2(1, share(v[1], v[2]));
          if (k == 2) p += Vec2(share(v[3], v[2]), 1);
          if (k == 3) p += Vec2(0, share(v[0], v[3]));
          where[side[k]] = p;
        }
        next[side[from]] = side[to];
      };
      // Along each line what is above lies on one hand throughout.
      static constexpr int kRuns[16][4] = {{-1, -1, -1, -1}, {0, 3, -1, -1}, {1, 0, -1, -1}, {1, 3, -1, -1},
          {2, 1, -1, -1}, {0, 3, 2, 1}, {2, 0, -1, -1}, {2, 3, -1, -1}, {3, 2, -1, -1}, {0, 2, -1, -1}, {1, 0, 3, 2},
          {1, 2, -1, -1}, {3, 1, -1, -1}, {0, 1, -1, -1}, {3, 0, -1, -1}, {-1, -1, -1, -1}};
      for (int k = 0; k < 4 && kRuns[code][k] >= 0; k += 2) put(kRuns[code][k], kRuns[code][k + 1]);
    }
  Rings rings;
  while (!next.empty()) {
    std::vector<Vec2> ring;
    auto it = next.begin();
    while (it != next.end()) {
      ring.push_back(where.at(it->first));
      const Place to = it->second;
      next.erase(it);
      it = next.find(to);
    }
    rings.push_back(std::move(ring));
  }
  return rings;
}

/// Marks the corners of a stretch of a ring that no line within `off` of it can do without.
void mark_corners(
    const std::vector<Vec2>& ring, std::size_t from, std::size_t to, double off, std::vector<char>& kept) {
  const Vec2 &a = ring[from % ring.size()], &b = ring[to % ring.size()];
  std::size_t worst = from;
  double most = off;
  for (std::size_t i = from + 1; i < to; ++i) {
    const Vec2 along = b - a, p = ring[i % ring.size()] - a;
    const double t = std::clamp(p.dot(along) / std::max(along.squaredNorm(), 1e-12), 0.0, 1.0);
    if (const double far = (p - t * along).norm(); far > most) most = far, worst = i;
  }
  if (worst == from) return;
  kept[worst % ring.size()] = 1;
  mark_corners(ring, from, worst, off, kept);
  mark_corners(ring, worst, to, off, kept);
}

/// A closed line with as few corners as stay within `off` of it (Douglas and Peucker, from its two farthest places).
std::vector<Vec2> simplified_ring(const std::vector<Vec2>& ring, double off) {
  std::size_t far = 0;
  for (std::size_t i = 0; i < ring.size(); ++i)
    if ((ring[i] - ring[0]).norm() > (ring[far] - ring[0]).norm()) far = i;
  std::vector<char> kept(ring.size(), 0);
  kept[0] = kept[far] = 1;
  mark_corners(ring, 0, far, off, kept);
  mark_corners(ring, far, ring.size(), off, kept);
  std::vector<Vec2> line;
  for (std::size_t i = 0; i < ring.size(); ++i)
    if (kept[i] != 0) line.push_back(ring[i]);
  return line;
}

/// Where two lines cross that are joined by a short one: pixels cut every corner off.
std::vector<Vec2> sharpened(std::vector<Vec2> line, double shortest) {
  for (std::size_t i = 0; i < line.size() && line.size() > 4;) {
    const std::size_t n = line.size();
    const Vec2 &a = line[(i + n - 1) % n], &p = line[i], &q = line[(i + 1) % n], &b = line[(i + 2) % n];
    const Vec2 u = p - a, v = q - b, w = q - p;
    const double cross = u.x() * v.y() - u.y() * v.x();
    if (w.norm() >= shortest || std::abs(cross) < 0.2 * u.norm() * v.norm()) {
      ++i;
      continue;
    }
    const Vec2 meet = p + (w.x() * v.y() - w.y() * v.x()) / cross * u;
    if ((meet - p).norm() > 2.0 * shortest) {
      ++i;
      continue;
    }
    line[i] = meet;
    line.erase(line.begin() + static_cast<long>((i + 1) % n));
    if (i + 1 == n) --i;
  }
  return line;
}

}  // namespace

Result<std::vector<CurvePoint>> picture_outline(const GreyPicture& picture, double tall_mm) {
  constexpr int kLeastPixels = 8;
  constexpr double kThinShare = 0.006, kBevelShare = 0.02, kCornerDeg = 50.0, kLeastShare = 0.002;
  if (picture.width < kLeastPixels || picture.height < kLeastPixels)
    return fail(Errc::out_of_range,
        "A picture of " + std::to_string(picture.width) + " x " + std::to_string(picture.height) +
            " pixels is too small to find an outline in; " + std::to_string(kLeastPixels) + " both ways are the least.",
        "body/outline");
  const auto off = off_ground(picture);
  const float most = *std::max_element(off.begin(), off.end());
  const auto nothing = [] {
    return fail(Errc::empty_input,
        "There is nothing on this picture that stands out of its ground. Take one dark thing on a light ground, or one "
        "cut out.",
        "body/outline");
  };
  if (most < 0.05f) return nothing();
  auto rings = level_lines(off, picture.width, picture.height, parting_level(off));
  const auto largest = std::max_element(rings.begin(), rings.end(),
      [](const auto& a, const auto& b) { return std::abs(signed_area_mm2(a)) < std::abs(signed_area_mm2(b)); });
  if (largest == rings.end() || std::abs(signed_area_mm2(*largest)) < kLeastShare * picture.width * picture.height)
    return nothing();
  std::vector<Vec2> line;
  for (const Vec2& p : *largest) line.emplace_back(p.x(), -p.y());
  if (signed_area_mm2(line) < 0.0) std::reverse(line.begin(), line.end());
  Vec2 low = line[0], high = line[0];
  for (const Vec2& p : line) low = low.cwiseMin(p), high = high.cwiseMax(p);
  line = sharpened(simplified_ring(line, kThinShare * (high - low).maxCoeff()), kBevelShare * (high - low).maxCoeff());
  const double scale = tall_mm / std::max(1.0, high.y() - low.y());
  std::vector<CurvePoint> outline;
  for (std::size_t i = 0; i < line.size(); ++i) {
    const Vec2 in = line[i] - line[(i + line.size() - 1) % line.size()], out = line[(i + 1) % line.size()] - line[i];
    const double turn = std::atan2(in.x() * out.y() - in.y() * out.x(), in.dot(out));
    outline.push_back({scale * (line[i] - 0.5 * (low + high)), std::abs(degrees(turn)) > kCornerDeg});
  }
  if (outline.size() < 3) return nothing();
  return outline;
}

std::vector<CurvePoint> profile_of(const std::vector<CurvePoint>& outline) {
  constexpr int kHeights = 24;
  double low = 1e300, high = -1e300;
  for (const CurvePoint& p : outline) low = std::min(low, p.at.y()), high = std::max(high, p.at.y());
  std::vector<CurvePoint> profile;
  for (int i = 0; i <= kHeights; ++i) {
    // The ends themselves are a point each: measured a hair inside of them.
    const double y = low + (high - low) * std::clamp(static_cast<double>(i) / kHeights, 0.004, 0.996);
    double left = 1e300, right = -1e300;
    for (std::size_t k = 0; k < outline.size(); ++k) {
      const Vec2 &a = outline[k].at, &b = outline[(k + 1) % outline.size()].at;
      if ((a.y() < y) == (b.y() < y)) continue;
      const double x = a.x() + (y - a.y()) / (b.y() - a.y()) * (b.x() - a.x());
      left = std::min(left, x), right = std::max(right, x);
    }
    if (right > left) profile.push_back({Vec2(0.5 * (right - left), low + (high - low) * i / kHeights), false});
  }
  return profile;
}

}  // namespace awl
