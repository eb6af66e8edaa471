#include "core/seam/parting/straighten.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>
#include <queue>

#include "core/geom/split.hpp"

namespace awl::parting {
namespace {

constexpr double kBandEdges = 4.0, kBandShare = 0.12;
constexpr double kHollowWorth = 0.65, kHollowRad = 0.6, kRidgeWorth = 0.4, kRidgeRad = 0.8;
constexpr double kWorthIt = 0.995;
constexpr double kTurnedCos = 0.34;  // 70 degrees

/// Greatest flow from source to sink; what the source still reaches afterwards is one side of the least cut.
class LeastCut {
 public:
  explicit LeastCut(int nodes) : out_(static_cast<std::size_t>(nodes)) {}
  void link(int a, int b, double both_ways) { add(a, b, both_ways, both_ways); }
  void tie(int a, int b) { add(a, b, 1e12, 0.0); }

  /// Answers, by node, whether it stays with the source.
  std::vector<char> cut(int source, int sink) {
    while (levels(source, sink)) {
      next_.assign(out_.size(), 0);
      while (push(source, sink, 1e12) > 1e-9) {
      }
    }
    std::vector<char> with_source(out_.size());
    for (std::size_t v = 0; v < out_.size(); ++v) with_source[v] = level_[v] >= 0;
    return with_source;
  }

 private:
  struct Link {
    int to, back;
    double room;
  };
  void add(int a, int b, double there, double back) {
    out_[static_cast<std::size_t>(a)].push_back({b, static_cast<int>(out_[static_cast<std::size_t>(b)].size()), there});
    out_[static_cast<std::size_t>(b)].push_back(
        {a, static_cast<int>(out_[static_cast<std::size_t>(a)].size()) - 1, back});
  }
  bool levels(int source, int sink) {
    level_.assign(out_.size(), -1);
    level_[static_cast<std::size_t>(source)] = 0;
    std::queue<int> queue;
    queue.push(source);
    while (!queue.empty()) {
      const int v = queue.front();
      queue.pop();
      for (const Link& l : out_[static_cast<std::size_t>(v)])
        if (l.room > 1e-9 && level_[static_cast<std::size_t>(l.to)] < 0) {
          level_[static_cast<std::size_t>(l.to)] = level_[static_cast<std::size_t>(v)] + 1;
          queue.push(l.to);
        }
    }
    return level_[static_cast<std::size_t>(sink)] >= 0;
  }
  double push(int v, int sink, double most) {
    if (v == sink) return most;
    const auto at = static_cast<std::size_t>(v);
    for (std::size_t& i = next_[at]; i < out_[at].size(); ++i) {
      Link& l = out_[at][i];
      if (l.room <= 1e-9 || level_[static_cast<std::size_t>(l.to)] != level_[at] + 1) continue;
      const double pushed = push(l.to, sink, std::min(most, l.room));
      if (pushed > 1e-9) {
        l.room -= pushed;
        out_[static_cast<std::size_t>(l.to)][static_cast<std::size_t>(l.back)].room += pushed;
        return pushed;
      }
    }
    return 0.0;
  }
  std::vector<std::vector<Link>> out_;
  std::vector<int> level_;
  std::vector<std::size_t> next_;
};

/// What an edge costs as a seam: less in hollows and along ridges.
double seam_cost(const Patchwork& work, int edge) {
  const auto& e = work.topo.edges[edge];
  const double turn = work.turn(edge);
  const Tri& t = work.mesh.triangles[e.right];
  const Vec3& across = work.mesh.vertices[t[0] + t[1] + t[2] - e.a - e.b];
  const bool hollow = (across - work.mesh.vertices[e.a]).dot(area_vector(work.mesh, work.mesh.triangles[e.left])) > 0.0;
  const double worth =
      hollow ? kHollowWorth * std::min(1.0, turn / kHollowRad) : kRidgeWorth * std::min(1.0, turn / kRidgeRad);
  return work.edge_mm(edge) * work.weight(edge) * (1.0 - worth);
}

bool has_slit(const Patchwork& work, int face) {
  for (const int e : work.topo.edges_of[face]) {
    const auto& edge = work.topo.edges[e];
    if (work.cut[e] && edge.right >= 0 && work.patch_of[edge.left] == work.patch_of[edge.right]) return true;
  }
  return false;
}

/// Faces of both patches by their distance in triangles from the common border, as far as the band goes.
std::map<int, int> band_of(const Patchwork& work, int one, int other, int deep) {
  std::map<int, int> depth;
  std::vector<int> queue;
  for (const int f : work.patches.at(one).faces)
    for (const int e : work.topo.edges_of[f]) {
      const auto& edge = work.topo.edges[e];
      const int next = edge.left == f ? edge.right : edge.left;
      if (next < 0 || work.patch_of[next] != other) continue;
      for (const int g : {f, next})
        if (depth.emplace(g, 0).second) queue.push_back(g);
    }
  for (std::size_t i = 0; i < queue.size(); ++i) {
    const int f = queue[i], d = depth.at(f);
    if (d >= deep) continue;
    for (const int e : work.topo.edges_of[f]) {
      const auto& edge = work.topo.edges[e];
      const int next = edge.left == f ? edge.right : edge.left;
      if (next < 0 || work.patch_of[next] != work.patch_of[f] || work.cut[e]) continue;
      if (depth.emplace(next, d + 1).second) queue.push_back(next);
    }
  }
  return depth;
}

double common_cost(const Patchwork& work, int one, int other) {
  double cost = 0.0;
  for (const int f : work.patches.at(one).faces)
    for (const int e : work.topo.edges_of[f]) {
      const auto& edge = work.topo.edges[e];
      const int next = edge.left == f ? edge.right : edge.left;
      if (next >= 0 && work.patch_of[next] == other) cost += seam_cost(work, e);
    }
  return cost;
}

/// New owners of the faces of a band; empty if nothing is gained.
std::map<int, int> better_border(const Patchwork& work, int one, int other, double mean_edge_mm) {
  const double mean = 0.5 * (work.patches.at(one).area_mm2 + work.patches.at(other).area_mm2);
  const int deep =
      static_cast<int>(std::max(kBandEdges * mean_edge_mm, kBandShare * std::sqrt(mean)) / (0.58 * mean_edge_mm));
  const auto depth = band_of(work, one, other, deep);
  std::map<int, int> node;
  for (const auto& [f, d] : depth) node.emplace(f, static_cast<int>(node.size()) + 2);
  LeastCut flow(static_cast<int>(node.size()) + 2);
  double before = 0.0;
  for (const auto& [f, d] : depth) {
    bool held = d >= deep || has_slit(work, f);
    for (const int e : work.topo.edges_of[f]) {
      const auto& edge = work.topo.edges[e];
      const int next = edge.left == f ? edge.right : edge.left;
      if (next < 0 || node.count(next) == 0) {
        // Beyond the band lies more of the same patch: it stays with it.
        held = held || (next >= 0 && !work.cut[e]) || (work.mirror[e] && !work.cut[e]);
        continue;
      }
      if (edge.left != f) continue;
      const double cost = seam_cost(work, e);
      flow.link(node.at(f), node.at(next), cost);
      if (work.patch_of[f] != work.patch_of[next]) before += cost;
    }
    if (held) {
      if (work.patch_of[f] == one)
        flow.tie(0, node.at(f));
      else
        flow.tie(node.at(f), 1);
    }
  }
  const auto with_one = flow.cut(0, 1);
  std::map<int, int> owner;
  double after = 0.0;
  for (const auto& [f, at] : node) owner[f] = with_one[static_cast<std::size_t>(at)] ? one : other;
  for (const auto& [f, to] : owner)
    for (const int e : work.topo.edges_of[f]) {
      const auto& edge = work.topo.edges[e];
      if (edge.left != f || edge.right < 0) continue;
      const auto next = owner.find(edge.right);
      if (next != owner.end() && next->second != to) after += seam_cost(work, e);
    }
  if (after > kWorthIt * before) owner.clear();
  return owner;
}

/// The two patches with a better border between them; false if that would spoil one.
bool take(Patchwork& work, int one, int other, const std::map<int, int>& owner, double limit, std::set<int>& changed) {
  std::vector<int> faces[2];
  for (const int id : {one, other})
    for (const int f : work.patches.at(id).faces) {
      const auto at = owner.find(f);
      faces[(at != owner.end() ? at->second : id) == one ? 0 : 1].push_back(f);
    }
  if (faces[0].empty() || faces[1].empty()) return false;
  const Patch was[2] = {work.patches.at(one), work.patches.at(other)};
  std::vector<std::pair<int, char>> before;
  for (const auto& [f, to] : owner)
    for (const int e : work.topo.edges_of[f]) {
      const auto& edge = work.topo.edges[e];
      const int next = edge.left == f ? edge.right : edge.left;
      const auto at = next >= 0 ? owner.find(next) : owner.end();
      if (at == owner.end() || edge.left != f) continue;
      const bool was_border = work.patch_of[f] != work.patch_of[next], is_border = to != at->second;
      if (was_border == is_border) continue;
      before.push_back({e, work.cut[e]});
      work.cut[e] = is_border;
    }
  Judged judged[2];
  bool good = true;
  for (int k = 0; k < 2 && good; ++k) {
    judged[k] = judge_rigid(work.copy_of(faces[k]), limit);
    good = !judged[k].bad && judged[k].rigid <= std::min(1.5 * limit, std::max(limit, was[k].rigid));
  }
  if (!good) {
    for (const auto& [e, cut] : before) work.cut[e] = cut;
    return false;
  }
  for (int k = 0; k < 2; ++k) {
    const int old = k == 0 ? one : other;
    work.patches.erase(old);
    changed.erase(old);
    std::sort(faces[k].begin(), faces[k].end());
    const int made = work.set_patch(std::move(faces[k]));
    work.patches.at(made).rigid = judged[k].rigid;
    work.patches.at(made).bad = false;
    changed.insert(made);
  }
  return true;
}

}  // namespace

std::vector<int> straighten(Patchwork& work, const std::set<int>& patches, double limit) {
  double mm = 0.0;
  for (std::size_t e = 0; e < work.topo.edges.size(); ++e) mm += work.edge_mm(static_cast<int>(e));
  mm /= static_cast<double>(std::max<std::size_t>(1, work.topo.edges.size()));
  std::set<int> among = patches, changed;
  std::vector<std::pair<double, std::pair<int, int>>> pairs;
  for (const auto& [a, b] : work.neighbours())
    if (a != 0 && among.count(a) != 0 && among.count(b) != 0) pairs.push_back({-common_cost(work, a, b), {a, b}});
  std::sort(pairs.begin(), pairs.end());
  std::map<int, int> now;  // old number to the one it has by now
  const auto current = [&](int id) {
    for (auto at = now.find(id); at != now.end(); at = now.find(id)) id = at->second;
    return id;
  };
  for (const auto& [cost, pair] : pairs) {
    const int one = current(pair.first), other = current(pair.second);
    const auto owner = better_border(work, one, other, mm);
    if (owner.empty()) continue;
    const int before = work.fresh();
    if (!take(work, one, other, owner, limit, changed)) continue;
    now[one] = before + 1;
    now[other] = before + 2;
  }
  return {changed.begin(), changed.end()};
}

std::vector<int> slide(Patchwork& work, const Nearest& surface, const std::set<int>& patches, int rounds) {
  std::set<int> vertices;
  for (const int id : patches)
    for (const int f : work.patches.at(id).faces)
      for (const int v : work.mesh.triangles[f]) vertices.insert(v);
  // What lies on a border to others, on a rim or on a crease holds.
  std::vector<char> held(work.mesh.vertices.size(), 0), plane(work.mesh.vertices.size(), 0);
  std::vector<std::vector<int>> cut_next(work.mesh.vertices.size()), next(work.mesh.vertices.size());
  constexpr double kCreaseRad = 0.785;
  for (std::size_t e = 0; e < work.topo.edges.size(); ++e) {
    const auto& edge = work.topo.edges[e];
    const bool rim = work.is_free_border(static_cast<int>(e));
    const bool crease = !rim && edge.right >= 0 && work.turn(static_cast<int>(e)) > kCreaseRad;
    for (const int v : {edge.a, edge.b}) {
      held[v] = held[v] || rim || crease;
      plane[v] = plane[v] || work.mirror[e];
    }
    next[edge.a].push_back(edge.b);
    next[edge.b].push_back(edge.a);
    if (work.cut[e]) cut_next[edge.a].push_back(edge.b), cut_next[edge.b].push_back(edge.a);
  }
  for (const int v : vertices)
    for (const int f : work.topo.faces_round[v])
      if (patches.count(work.patch_of[f]) == 0) held[v] = 1;
  std::vector<int> free;
  for (const int v : vertices)
    if (!held[v]) free.push_back(v);
  std::vector<Vec3> normal(work.mesh.triangles.size());
  for (const int v : free)
    for (const int f : work.topo.faces_round[v]) normal[f] = area_vector(work.mesh, work.mesh.triangles[f]);
  for (int round = 0; round < rounds; ++round) {
    std::vector<Vec3> to;
    to.reserve(free.size());
    for (const int v : free) {
      const Vec3& p = work.mesh.vertices[v];
      const auto& along = plane[v] ? next[v] : cut_next[v];
      Vec3 mean = Vec3::Zero();
      int count = 0;
      const bool on_cut = !cut_next[v].empty();
      for (const int w : on_cut ? along : next[v])
        if (!plane[v] || plane[w]) mean += work.mesh.vertices[w], ++count;
      if (count == 0 || (on_cut && !plane[v] && cut_next[v].size() == 1)) {
        to.push_back(p);
        continue;
      }
      const double share = on_cut && !plane[v] && cut_next[v].size() > 2 ? 0.3 : 0.5;
      Vec3 q = surface.to((1.0 - share) * p + share / count * mean).point;
      if (plane[v]) q.x() = 0.0;
      to.push_back(q);
    }
    for (std::size_t i = 0; i < free.size(); ++i) {
      const int v = free[i];
      const Vec3 was = work.mesh.vertices[v];
      work.mesh.vertices[v] = to[i];
      for (const int f : work.topo.faces_round[v]) {
        const Vec3 n = area_vector(work.mesh, work.mesh.triangles[f]);
        if (n.dot(normal[f]) < kTurnedCos * n.norm() * normal[f].norm() || n.norm() < 0.05 * normal[f].norm()) {
          work.mesh.vertices[v] = was;
          break;
        }
      }
    }
  }
  work.moved(free);
  std::vector<int> made;
  for (const int id : patches) {
    auto faces = work.patches.at(id).faces;
    work.patches.erase(id);
    made.push_back(work.set_patch(std::move(faces)));
  }
  return made;
}

}  // namespace awl::parting
