#include "core/make/drawn_visor.hpp"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "core/base/numbers.hpp"
#include "core/geom/offset.hpp"

namespace awl {
namespace {

constexpr int kPullSteps = 200;  // of the sheet coming down

PlaneFrame across(const Vec3& pull, const Vec3& origin) {
  PlaneFrame frame;
  Vec3 up = Vec3::UnitY() - pull.y() * pull;
  if (up.norm() < 0.3) up = Vec3::UnitZ() - pull.z() * pull;
  frame.v = up.normalized(), frame.u = frame.v.cross(pull), frame.origin = origin;
  return frame;
}

double girth_of(const std::vector<Vec2>& ring) {
  double sum = 0.0;
  for (std::size_t i = 0; i < ring.size(); ++i) sum += (ring[(i + 1) % ring.size()] - ring[i]).norm();
  return sum;
}

/// Undercuts and draft. Walls count by their area.
void judge_walls(const Mesh& visor, const DrawnOptions& options, DrawnPlan& plan) {
  std::vector<std::pair<double, double>> drafts;  // degrees, area
  double total = 0.0;
  for (const Tri& t : visor.triangles) {
    const Vec3 n = area_vector(visor, t);
    const double area = 0.5 * n.norm(),
                 draft = degrees(std::asin(std::clamp(n.normalized().dot(plan.pull), -1.0, 1.0)));
    drafts.emplace_back(draft, area), total += area;
    if (draft < -0.01) {
      plan.undercut_mm2 += area;
      plan.undercut_at += area / 3.0 * (visor.vertices[t[0]] + visor.vertices[t[1]] + visor.vertices[t[2]]);
    } else if (draft < options.least_draft_deg) {
      plan.steep_mm2 += area;
    }
  }
  if (plan.undercut_mm2 > 0.0) plan.undercut_at /= plan.undercut_mm2;
  std::sort(drafts.begin(), drafts.end());
  double sum = 0.0;
  for (const auto& [draft, area] : drafts)
    if ((sum += area) >= 0.01 * total) {
      plan.least_draft_deg = draft;
      break;
    }
}

/// The inner face, a skirt straight down from its rim, and a foot: closed.
Mesh make_buck(const Mesh& visor, const DrawnOptions& options, const Vec3& pull, double foot) {
  Mesh inner = sheet_offset(visor, std::vector<double>(visor.vertices.size(), -options.sheet_mm));
  const auto loops = border_loops(inner);
  for (const auto& loop : loops) {
    std::vector<int> low;
    for (const int v : loop) {
      low.push_back(static_cast<int>(inner.vertices.size()));
      const Vec3 p = inner.vertices[v];
      inner.vertices.push_back(p + (foot - pull.dot(p)) * pull);
    }
    for (std::size_t i = 0; i < loop.size(); ++i) {
      const std::size_t j = (i + 1) % loop.size();
      // The loop has the surface on its left: seen from outside the wall hangs below it.
      inner.triangles.push_back({loop[j], loop[i], low[i]});
      inner.triangles.push_back({loop[j], low[i], low[j]});
    }
  }
  return capped(inner);
}

/// How thick the sheet is where it comes to lie: from the top of the buck down.
class Draping {
 public:
  Draping(const Mesh& body, const PlaneFrame& frame, const Vec3& pull, double top, double bottom, const Vec2& frame_mm,
      double sheet_mm)
      : pull_(pull), top_(top), bottom_(bottom), at_level_(kPullSteps + 1, sheet_mm) {
    const double step = (top - bottom) / kPullSteps;
    std::vector<double> covered(kPullSteps, 0.0),
        shadow(kPullSteps, 0.0);  // surface that lies between two levels, and seen along the pull
    for (const Tri& t : body.triangles) {
      const Vec3 n = area_vector(body, t);
      if (n.dot(pull) < 0.0) continue;  // the foot, and undercuts: the sheet bridges them
      spread(body, t, 0.5 * n.norm(), 0.5 * n.dot(pull), step, covered, shadow);
    }
    double t = sheet_mm, flat = frame_mm.prod(), free = flat, volume = t * free;
    for (int i = 0; i < kPullSteps; ++i) {
      at_level_[i] = t;
      // What is covered on the way to the next level keeps the thickness the free sheet has now.
      volume = covered[i] < 0.5 * free ? volume - t * covered[i] : volume * std::exp(-covered[i] / free);
      flat = std::max(1.0, flat - shadow[i]);
      free = free_area(body, frame, top - (i + 1) * step, flat, frame_mm);
      t = std::min(t, volume / free);
    }
    at_level_[kPullSteps] = t;
  }

  double at(const Vec3& p) const {
    const double level =
        std::clamp((top_ - pull_.dot(p)) / (top_ - bottom_) * kPullSteps, 0.0, static_cast<double>(kPullSteps));
    const int i = std::min(static_cast<int>(level), kPullSteps - 1);
    return (1.0 - (level - i)) * at_level_[i] + (level - i) * at_level_[i + 1];
  }

 private:
  /// Free sheet at a level: a slanting band from the line it touches up to the frame, as wide as its mean gap.
  double free_area(const Mesh& body, const PlaneFrame& frame, double z, double flat, const Vec2& frame_mm) const {
    Plane plane;
    plane.normal = pull_, plane.origin = frame.origin + (z - pull_.dot(frame.origin)) * pull_;
    double rim = 0.0;
    for (const auto& ring : section_region(body, plane))
      if (signed_area_mm2(ring) > 0.0) rim += girth_of(ring);
    const double gap = std::max(1.0, 2.0 * flat / (rim + 2.0 * frame_mm.sum()));
    return flat * std::hypot(1.0, (top_ - z) / gap);
  }

  /// A triangle's area on the levels it spans, evenly.
  void spread(const Mesh& body, const Tri& t, double area, double seen, double step, std::vector<double>& covered,
      std::vector<double>& shadow) const {
    double high = -1e300, low = 1e300;
    for (const int v : t)
      high = std::max(high, pull_.dot(body.vertices[v])), low = std::min(low, pull_.dot(body.vertices[v]));
    const int first = std::clamp(static_cast<int>((top_ - high) / step), 0, kPullSteps - 1),
              last = std::clamp(static_cast<int>((top_ - low) / step), first, kPullSteps - 1);
    for (int i = first; i <= last; ++i) covered[i] += area / (last - first + 1), shadow[i] += seen / (last - first + 1);
  }

  Vec3 pull_;
  double top_, bottom_;
  std::vector<double> at_level_;
};

}  // namespace

Result<DrawnPlan> plan_drawing(const Mesh& visor, const DrawnOptions& options) {
  if (border_loops(visor).empty())
    return fail(Errc::degenerate_shape,
        "A form that is closed all round cannot be drawn over a buck: cut it open first.", "way");
  DrawnPlan plan;
  plan.pull = options.pull.normalized();
  const PlaneFrame frame = across(plan.pull, Vec3::Zero());
  double top = -1e300, bottom = 1e300;
  Vec2 low = Vec2::Constant(1e300), high = -low;
  for (const Vec3& p : visor.vertices) {
    top = std::max(top, plan.pull.dot(p)), bottom = std::min(bottom, plan.pull.dot(p));
    low = low.cwiseMin(frame(p)), high = high.cwiseMax(frame(p));
  }
  if ((high - low).minCoeff() < 5.0)
    return fail(Errc::degenerate_shape,
        "Seen along the pull the form is only " + fixed((high - low).minCoeff(), 1) + " mm wide: choose another side.",
        "way");
  plan.depth_mm = top - bottom;
  judge_walls(visor, options, plan);
  const double foot = bottom - options.sheet_mm - options.skirt_mm;  // the buck lies a sheet further in
  plan.buck = make_buck(visor, options, plan.pull, foot);
  plan.buck_high_mm = top - foot;
  // Room beside the buck for the sheet to come down in: a third of its height, at least 20 mm (workshop value).
  const double room = std::max(20.0, plan.buck_high_mm / 3.0);
  plan.frame_mm = (high - low) + Vec2::Constant(2.0 * room);
  plan.blank_mm = plan.frame_mm + Vec2::Constant(2.0 * options.clamp_mm);
  PlaneFrame middle = frame;
  const Vec2 centre = 0.5 * (low + high);
  middle.origin = centre.x() * frame.u + centre.y() * frame.v;
  double buck_top = -1e300;
  for (const Vec3& p : plan.buck.vertices) buck_top = std::max(buck_top, plan.pull.dot(p));
  const Draping draping(plan.buck, middle, plan.pull, buck_top, foot, plan.frame_mm, options.sheet_mm);
  plan.thinnest_mm = options.sheet_mm;
  for (const Vec3& p : visor.vertices) {
    plan.thickness_mm.push_back(draping.at(p));
    if (plan.thickness_mm.back() < plan.thinnest_mm) plan.thinnest_mm = plan.thickness_mm.back(), plan.thinnest_at = p;
  }
  plan.mean_mm = std::accumulate(plan.thickness_mm.begin(), plan.thickness_mm.end(), 0.0) /
      static_cast<double>(plan.thickness_mm.size());
  plan.trim_line = silhouette(capped(visor), middle);
  return plan;
}

Piece drawn_blank(const DrawnPlan& plan, const std::string& name, const std::string& stuff, double sheet_mm) {
  const Vec2 half = 0.5 * plan.blank_mm, held = 0.5 * plan.frame_mm;
  Piece piece = plate_piece(
      name + ", blank", 1, {-half, Vec2(half.x(), -half.y()), half, Vec2(-half.x(), half.y())}, {}, sheet_mm);
  piece.guides.push_back({-held, Vec2(held.x(), -held.y()), held, Vec2(-held.x(), held.y()), -held});
  for (const auto& ring : plan.trim_line) {
    std::vector<Vec2> line = thinned(ring, 0.05);
    line.push_back(line.front());
    piece.guides.push_back(std::move(line));
  }
  piece.stuff = stuff, piece.face_up = "towards the front";
  piece.notes = {"outer broken line: the frame", "inner: edge of the visor, as it will stand"};
  return piece;
}

}  // namespace awl
