#include "core/seam/parting/opening.hpp"

#include <Eigen/Geometry>

#include <algorithm>
#include <cmath>
#include <queue>

#include "core/base/parallel.hpp"
#include "core/geom/split.hpp"

namespace awl::parting {
namespace {

constexpr int kRays = 24, kKept = 4, kOpenSteps = 8;
constexpr double kOffLine = 6.0;
constexpr double kSmallPartMm2 = 400.0, kSmallPartWorth = 1.0;
constexpr double kPanelWorth = 0.8, kRestWorth = 0.3, kUselessWorth = 3.0;

double penalty(double p99, double tolerance) {
  return p99 <= tolerance ? 0.0 : 1.2 + 2.5 * std::min(1.5, p99 / tolerance - 1.0);
}

/// A cut that is tried: edges of the surface, what comes of it.
struct Trial {
  std::set<int> edges;
  bool dart = false;
  std::vector<std::vector<int>> faces;
  double screen = 1e300, score = 1e300;
  std::vector<Judged> judged;
};

class Opener {
 public:
  Opener(Patchwork& work, int patch, double tolerance)
      : work_(work), faces_(work.patches.at(patch).faces), tolerance_(tolerance), copy_(work.copy_of(faces_)) {
    std::vector<Vec2> flat;
    const Judged judged = judge_finish(copy_, kOpenSteps, &flat);
    before_ = judged.bad ? 1.0 : judged.rigid;
    if (flat.empty()) {
      // No layout: its own places, seen along its mean normal, serve to aim by.
      Vec3 n = Vec3::Zero();
      for (const Tri& t : copy_.mesh.triangles) n += area_vector(copy_.mesh, t);
      n.normalize();
      const Vec3 u = n.unitOrthogonal(), v = n.cross(u);
      for (const Vec3& p : copy_.mesh.vertices) flat.emplace_back(u.dot(p), v.dot(p));
    }
    flat_ = std::move(flat);
    for (std::size_t f = 0; f < copy_.mesh.triangles.size(); ++f)
      for (int k = 0; k < 3; ++k) {
        const int a = copy_.mesh.triangles[f][k], b = copy_.mesh.triangles[f][(k + 1) % 3];
        next_[a].push_back(b);
        next_[b].push_back(a);
        if (const auto [at, fresh] = once_.try_emplace(edge_of(a, b), 1); !fresh) ++at->second;
      }
    for (const auto& [edge, count] : once_)
      if (count == 1) border_.insert(edge.first), border_.insert(edge.second);
  }

  std::vector<Trial> trials(bool darts, const std::optional<Lap>& lap) const {
    const auto given = std::find(copy_.vertex_of.begin(), copy_.vertex_of.end(), lap ? lap->corner : -1);
    const int hot =
        lap && given != copy_.vertex_of.end() ? static_cast<int>(given - copy_.vertex_of.begin()) : hot_vertex();
    std::vector<std::vector<int>> rays;
    for (int k = 0; k < kRays; ++k) {
      const double a = 6.283185307179586 * k / kRays;
      rays.push_back(ray(hot, Vec2(std::cos(a), std::sin(a))));
    }
    std::vector<Trial> list;
    const auto add = [&](const std::vector<const std::vector<int>*>& ways, bool dart) {
      Trial t;
      t.dart = dart;
      for (const auto* way : ways) {
        if (way->empty()) return;
        for (std::size_t i = 0; i + 1 < way->size(); ++i) {
          const int e = surface_edge((*way)[i], (*way)[i + 1]);
          if (e >= 0) t.edges.insert(e);
        }
      }
      if (!t.edges.empty()) list.push_back(std::move(t));
    };
    const bool hot_on_border = border_.count(hot) != 0;
    for (int k = 0; k < kRays; ++k) {
      const auto n = static_cast<std::size_t>(k);
      if (darts || hot_on_border) add({&rays[n]}, true);
      if (k < kRays / 2 && !hot_on_border) add({&rays[n], &rays[n + kRays / 2]}, false);
    }
    return list;
  }

  /// What a cut comes to by the rigid map; false if a part of it would be no disk, or would still lie over itself.
  bool screen(Trial& trial, const Patchwork& work, const std::optional<Lap>& lap) const {
    std::set<int> left(faces_.begin(), faces_.end());
    while (!left.empty()) {
      std::vector<int> own{*left.begin()};
      left.erase(left.begin());
      for (std::size_t i = 0; i < own.size(); ++i)
        for (const int e : work.topo.edges_of[own[i]]) {
          if (work.cut[e] || trial.edges.count(e) != 0) continue;
          const int next = work.topo.edges[e].left == own[i] ? work.topo.edges[e].right : work.topo.edges[e].left;
          if (next >= 0 && left.erase(next) > 0) own.push_back(next);
        }
      std::sort(own.begin(), own.end());
      trial.faces.push_back(std::move(own));
    }
    const auto holds = [](const std::vector<int>& faces, int f) {
      return std::binary_search(faces.begin(), faces.end(), f);
    };
    if (lap && std::any_of(trial.faces.begin(), trial.faces.end(), [&](const auto& faces) {
          return holds(faces, lap->here) && holds(faces, lap->there);
        }))
      return false;
    trial.screen = 0.0;
    double rest = 0.0, worst = 0.0;
    for (const auto& faces : trial.faces) {
      const Judged j = judge_rigid(work.copy_of(faces, {}, trial.edges), tolerance_ / 0.66);
      if (j.rigid > 1e8) return false;
      const double strain = j.bad ? 1.0 : 0.62 * j.rigid;
      worst = std::max(worst, strain);
      rest += penalty(strain, tolerance_);
    }
    trial.screen = score_of(trial, worst, rest);
    return true;
  }

  void finish(Trial& trial, const Patchwork& work) const {
    double rest = 0.0, worst = 0.0;
    for (const auto& faces : trial.faces) {
      trial.judged.push_back(judge_finish(work.copy_of(faces, {}, trial.edges), kOpenSteps));
      const double strain = trial.judged.back().bad ? 1.0 : trial.judged.back().rigid;
      worst = std::max(worst, strain);
      rest += penalty(strain, tolerance_);
    }
    trial.score = score_of(trial, worst, rest);
  }

  double before() const { return before_; }

 private:
  double score_of(const Trial& trial, double worst, double rest) const {
    double score = penalty(worst, tolerance_) + kPanelWorth * static_cast<double>(trial.faces.size() - 1) +
        kRestWorth * (rest - penalty(worst, tolerance_)) + 0.5 * worst;
    if (trial.dart && worst > 0.8 * before_ && worst > tolerance_) score += kUselessWorth;
    for (const auto& faces : trial.faces) {
      double area = 0.0;
      for (const int f : faces) area += work_.area(f);
      if (area < kSmallPartMm2) score += kSmallPartWorth;
    }
    return score;
  }

  int hot_vertex() const {
    const auto strains = triangle_strains(copy_.mesh, flat_);
    std::vector<int> order(strains.size());
    for (std::size_t i = 0; i < order.size(); ++i) order[i] = static_cast<int>(i);
    std::sort(order.begin(), order.end(), [&](int a, int b) {
      return std::pair(-std::abs(strains[static_cast<std::size_t>(a)]), a) <
          std::pair(-std::abs(strains[static_cast<std::size_t>(b)]), b);
    });
    const double top = std::abs(strains[static_cast<std::size_t>(order[order.size() / 50])]);
    const auto middle = [&](int f) -> Vec2 {
      const Tri& t = copy_.mesh.triangles[static_cast<std::size_t>(f)];
      return (flat_[t[0]] + flat_[t[1]] + flat_[t[2]]) / 3.0;
    };
    double reach = 0.0;
    for (const Vec2& p : flat_) reach = std::max(reach, (p - flat_.front()).norm());
    const Vec2 worst = middle(order[order.size() / 50]);
    Vec2 sum = Vec2::Zero();
    double weight = 0.0;
    for (const int f : order) {
      if (std::abs(strains[static_cast<std::size_t>(f)]) < 0.8 * top) break;
      if ((middle(f) - worst).norm() > 0.25 * reach) continue;
      const double a = area_vector(copy_.mesh, copy_.mesh.triangles[static_cast<std::size_t>(f)]).norm();
      sum += a * middle(f);
      weight += a;
    }
    const Vec2 at = weight > 0.0 ? Vec2(sum / weight) : worst;
    int best = 0;
    for (std::size_t v = 0; v < flat_.size(); ++v)
      if ((flat_[v] - at).squaredNorm() < (flat_[static_cast<std::size_t>(best)] - at).squaredNorm())
        best = static_cast<int>(v);
    return best;
  }

  /// The chain of edges that goes from a corner to the border nearest to a straight line.
  std::vector<int> ray(int from, const Vec2& along) const {
    std::map<int, double> far{{from, 0.0}};
    std::map<int, int> before;
    std::priority_queue<std::pair<double, int>, std::vector<std::pair<double, int>>, std::greater<>> queue;
    queue.push({0.0, from});
    const Vec2 start = flat_[static_cast<std::size_t>(from)];
    while (!queue.empty()) {
      const auto [cost, v] = queue.top();
      queue.pop();
      if (cost > far.at(v)) continue;
      if (v != from && border_.count(v) != 0) {
        std::vector<int> way{v};
        while (way.back() != from) way.push_back(before.at(way.back()));
        return way;
      }
      for (const int w : next_.at(v)) {
        const Vec2 p = flat_[static_cast<std::size_t>(w)] - start;
        if (border_.count(v) != 0 && border_.count(w) != 0 && once_.at(edge_of(v, w)) == 1) continue;
        const double off = std::abs(p.x() * along.y() - p.y() * along.x()), on = p.dot(along);
        const double length = (flat_[static_cast<std::size_t>(w)] - flat_[static_cast<std::size_t>(v)]).norm();
        const double d =
            cost + length * (1.0 + kOffLine * (off + std::max(0.0, -2.0 * on)) / (0.3 * p.norm() + length));
        if (const auto at = far.find(w); at != far.end() && at->second <= d) continue;
        far[w] = d;
        before[w] = v;
        queue.push({d, w});
      }
    }
    return {};
  }

  int surface_edge(int a, int b) const {
    const int va = copy_.vertex_of[static_cast<std::size_t>(a)], vb = copy_.vertex_of[static_cast<std::size_t>(b)];
    for (const int f : work_.topo.faces_round[static_cast<std::size_t>(va)])
      for (const int e : work_.topo.edges_of[static_cast<std::size_t>(f)])
        if (const auto& edge = work_.topo.edges[static_cast<std::size_t>(e)];
            (edge.a == va && edge.b == vb) || (edge.a == vb && edge.b == va))
          return work_.cut[static_cast<std::size_t>(e)] ? -1 : e;
    return -1;
  }

  Patchwork& work_;
  std::vector<int> faces_;
  double tolerance_, before_ = 1.0;
  LocalCopy copy_;
  std::vector<Vec2> flat_;
  std::map<int, std::vector<int>> next_;
  std::map<std::pair<int, int>, int> once_;
  std::set<int> border_;
};

}  // namespace

std::vector<int> open_hot(Patchwork& work, int patch, double tolerance, bool darts, const std::optional<Lap>& lap) {
  if (work.patches.at(patch).faces.size() < 4) return {};
  const Opener opener(work, patch, tolerance);
  std::vector<Trial> trials = opener.trials(darts, lap);
  parallel_for(static_cast<int>(trials.size()), [&](int i) {
    Trial& t = trials[static_cast<std::size_t>(i)];
    if (!opener.screen(t, work, lap)) t.screen = 1e300;
  });
  std::stable_sort(trials.begin(), trials.end(), [](const Trial& a, const Trial& b) { return a.screen < b.screen; });
  std::vector<Trial> kept;
  int taken[2] = {0, 0};
  for (Trial& t : trials)
    if (t.screen < 1e299 && taken[t.dart ? 1 : 0]++ < kKept) kept.push_back(std::move(t));
  parallel_for(static_cast<int>(kept.size()), [&](int i) { opener.finish(kept[static_cast<std::size_t>(i)], work); });
  const auto best =
      std::min_element(kept.begin(), kept.end(), [](const Trial& a, const Trial& b) { return a.score < b.score; });
  if (best == kept.end()) return lap ? open_hot(work, patch, tolerance, darts) : std::vector<int>{};
  for (const int e : best->edges) work.cut[e] = 1;
  work.patches.erase(patch);
  std::vector<int> made;
  for (std::size_t k = 0; k < best->faces.size(); ++k) {
    made.push_back(work.set_patch(best->faces[k]));
    Patch& p = work.patches.at(made.back());
    p.rigid = best->judged[k].rigid / 0.66;
    p.finish = best->judged[k].rigid;
    p.bad = best->judged[k].bad;
  }
  return made;
}

}  // namespace awl::parting
