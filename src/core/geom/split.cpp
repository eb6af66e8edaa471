#include "core/geom/split.hpp"

#include <algorithm>
#include <cmath>
#include <map>

#include "core/base/parallel.hpp"

namespace awl {
namespace {

using Function = std::function<double(const Vec3&)>;

/// Parameter of the zero between two places of opposite sign (false position with halving).
double zero_between(const Function& f, const Vec3& a, const Vec3& b, double fa, double fb) {
  double low = 0.0, high = 1.0, t = 0.5;
  for (int i = 0; i < 40 && high - low > 1e-9; ++i) {
    t = i % 3 == 2 ? 0.5 * (low + high) : low + (high - low) * fa / (fa - fb);
    const double ft = f(a + t * (b - a));
    if (std::abs(ft) < 1e-10) break;
    if ((ft < 0.0) == (fa < 0.0))
      low = t, fa = ft;
    else
      high = t, fb = ft;
  }
  return t;
}

class Splitter {
 public:
  Splitter(Mesh& mesh, const Function& f, EdgeLabels& held, double snap)
      : mesh_(mesh), f_(f), held_(held), snap_(snap) {}

  Split run() {
    values_.resize(mesh_.vertices.size());
    parallel_each(values_.size(), [&](std::size_t v) { values_[v] = clean(f_(mesh_.vertices[v])); });
    for (const auto& [edge, label] : held_) held_ends_.insert(edge.first), held_ends_.insert(edge.second);
    const Topology topo = topology_of(mesh_);
    for (const auto& e : topo.edges)
      if (e.right < 0) border_.insert(edge_of(e.a, e.b)), held_ends_.insert(e.a), held_ends_.insert(e.b);
    snap_vertices(topo);
    split_triangles();
    return collect();
  }

 private:
  static double clean(double value) { return std::abs(value) < 1e-9 ? 0.0 : value; }
  bool crosses(int a, int b) const {
    return (values_[a] < 0.0 && values_[b] > 0.0) || (values_[a] > 0.0 && values_[b] < 0.0);
  }
  bool keeps_course(int a, int b) const { return held_.count(edge_of(a, b)) != 0 || border_.count(edge_of(a, b)) != 0; }

  /// A move must not turn a triangle over, nor leave one lying wholly on the curve.
  bool may_move(const Topology& topo, int v, const Vec3& to) const {
    for (const int f : topo.faces_round[v]) {
      const Tri& t = mesh_.triangles[f];
      int zeros = 0;
      for (const int w : t) zeros += w == v || values_[w] == 0.0 ? 1 : 0;
      if (zeros == 3) return false;
      const Vec3 before = area_vector(mesh_, t);
      Mesh after{{mesh_.vertices[t[0]], mesh_.vertices[t[1]], mesh_.vertices[t[2]]}, {}};
      for (int k = 0; k < 3; ++k)
        if (t[k] == v) after.vertices[k] = to;
      const Vec3 turned = area_vector(after, {0, 1, 2});
      if (turned.dot(before) < 0.3 * before.squaredNorm()) return false;
    }
    return true;
  }

  void snap_vertices(const Topology& topo) {
    for (const auto& e : topo.edges) {
      if (!crosses(e.a, e.b)) continue;
      const double t = zero_between(f_, mesh_.vertices[e.a], mesh_.vertices[e.b], values_[e.a], values_[e.b]);
      const int v = t < 0.5 ? e.a : e.b;
      if (std::min(t, 1.0 - t) > snap_) continue;
      if (held_ends_.count(v) != 0 && !keeps_course(e.a, e.b)) continue;
      if (held_degree(topo, v) > 2) continue;
      const Vec3 to = mesh_.vertices[e.a] + t * (mesh_.vertices[e.b] - mesh_.vertices[e.a]);
      if (!may_move(topo, v, to)) continue;
      mesh_.vertices[v] = to;
      places_.push_back({v, e.a, e.b, t});
      values_[v] = 0.0;
    }
  }

  /// Corners of held curves (three or more held edges) must not move at all.
  int held_degree(const Topology& topo, int v) const {
    std::set<int> along;
    for (const int f : topo.faces_round[v])
      for (const int w : mesh_.triangles[f])
        if (w != v && keeps_course(v, w)) along.insert(w);
    return static_cast<int>(along.size());
  }

  int middle(int a, int b) {
    const auto [it, fresh] = middles_.try_emplace(edge_of(a, b), static_cast<int>(mesh_.vertices.size()));
    if (!fresh) return it->second;
    const double t = zero_between(f_, mesh_.vertices[a], mesh_.vertices[b], values_[a], values_[b]);
    mesh_.vertices.push_back(mesh_.vertices[a] + t * (mesh_.vertices[b] - mesh_.vertices[a]));
    values_.push_back(0.0);
    places_.push_back({it->second, a, b, t});
    if (border_.erase(edge_of(a, b)) != 0)
      border_.insert(edge_of(a, it->second)), border_.insert(edge_of(b, it->second));
    if (const auto label = held_.extract(edge_of(a, b)); !label.empty())
      held_[edge_of(a, it->second)] = held_[edge_of(b, it->second)] = label.mapped();
    return it->second;
  }

  void split_triangles() {
    const std::size_t count = mesh_.triangles.size();
    for (std::size_t f = 0; f < count; ++f) {
      const Tri t = mesh_.triangles[f];
      int cuts = 0, lone = -1, cut = -1;
      for (int k = 0; k < 3; ++k)
        if (crosses(t[k], t[(k + 1) % 3])) ++cuts, cut = k;
      if (cuts == 0) continue;
      if (cuts == 1) {
        const int a = t[cut], b = t[(cut + 1) % 3], c = t[(cut + 2) % 3], m = middle(a, b);
        mesh_.triangles[f] = {a, m, c};
        mesh_.triangles.push_back({m, b, c});
        continue;
      }
      for (int k = 0; k < 3; ++k)
        if (crosses(t[k], t[(k + 1) % 3]) && crosses(t[k], t[(k + 2) % 3])) lone = k;
      const int a = t[lone], b = t[(lone + 1) % 3], c = t[(lone + 2) % 3];
      const int ab = middle(a, b), ca = middle(c, a);
      mesh_.triangles[f] = {a, ab, ca};
      const bool short_first = (mesh_.vertices[ab] - mesh_.vertices[c]).squaredNorm() <
          (mesh_.vertices[ca] - mesh_.vertices[b]).squaredNorm();
      if (short_first)
        mesh_.triangles.push_back({ab, b, c}), mesh_.triangles.push_back({ab, c, ca});
      else
        mesh_.triangles.push_back({ab, b, ca}), mesh_.triangles.push_back({b, c, ca});
    }
  }

  Split collect() const {
    Split split;
    split.places = places_, split.values = values_;
    for (const double value : values_) split.on_curve.push_back(value == 0.0 ? 1 : 0);
    for (const Tri& t : mesh_.triangles)
      for (int k = 0; k < 3; ++k)
        if (values_[t[k]] == 0.0 && values_[t[(k + 1) % 3]] == 0.0) split.curve.insert(edge_of(t[k], t[(k + 1) % 3]));
    return split;
  }

  Mesh& mesh_;
  const Function& f_;
  EdgeLabels& held_;
  double snap_;
  EdgeSet border_;
  std::set<int> held_ends_;
  std::vector<double> values_;
  std::map<std::pair<int, int>, int> middles_;
  std::vector<Split::Place> places_;
};

}  // namespace

Split split_along(Mesh& mesh, const Function& f, EdgeLabels& held, double snap) {
  return Splitter(mesh, f, held, snap).run();
}

Mesh keep_where(const Mesh& mesh, const Function& f, EdgeLabels& held) {
  std::vector<int> kept;
  for (int i = 0; i < static_cast<int>(mesh.triangles.size()); ++i) {
    const Tri& t = mesh.triangles[i];
    if (f((mesh.vertices[t[0]] + mesh.vertices[t[1]] + mesh.vertices[t[2]]) / 3.0) >= 0.0) kept.push_back(i);
  }
  std::vector<int> old;
  Mesh part = part_of(mesh, kept, old);
  std::vector<int> fresh(mesh.vertices.size(), -1);
  for (std::size_t v = 0; v < old.size(); ++v) fresh[old[v]] = static_cast<int>(v);
  EdgeLabels moved;
  for (const auto& [edge, label] : held)
    if (fresh[edge.first] >= 0 && fresh[edge.second] >= 0)
      moved[edge_of(fresh[edge.first], fresh[edge.second])] = label;
  held = std::move(moved);
  return part;
}

EdgeLabels mirror_line(const Mesh& half) {
  EdgeLabels line;
  for (const auto& e : topology_of(half).edges)
    if (e.right < 0 && half.vertices[e.a].x() == 0.0 && half.vertices[e.b].x() == 0.0) line[edge_of(e.a, e.b)] = 0;
  return line;
}

}  // namespace awl
