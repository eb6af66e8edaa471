#include "core/geom/remesh.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>
#include <set>

#include "core/base/parallel.hpp"

namespace awl {
namespace {

class Remesher {
 public:
  Remesher(Mesh mesh, const RemeshGoal& goal) : mesh_(std::move(mesh)), goal_(goal) {}

  Mesh run() {
    for (int pass = 0; pass < goal_.passes; ++pass) {
      for (int round = 0; round < 8 && split_round(); ++round) {
      }
      for (int round = 0; round < 12 && collapse_round(); ++round) {
      }
      flip_and_smooth();
    }
    for (int round = 0; round < goal_.smoothings; ++round) flip_and_smooth();
    return std::move(mesh_);
  }

 private:
  const Vec3& at(int v) const { return mesh_.vertices[v]; }
  double length(const Topology::Edge& e) const { return (at(e.a) - at(e.b)).norm(); }
  double wanted(const Topology::Edge& e) const { return goal_.edge_mm(0.5 * (at(e.a) + at(e.b))); }
  int opposite(int f, const Topology::Edge& e) const {
    for (const int v : mesh_.triangles[f])
      if (v != e.a && v != e.b) return v;
    return -1;
  }

  void find_borders() {
    border_.assign(mesh_.vertices.size(), 0);
    for (const auto& e : topo_.edges)
      if (e.right < 0) border_[e.a] = border_[e.b] = 1;
  }

  int kind(int v) const { return goal_.border_kind ? goal_.border_kind(at(v)) : 0; }

  /// A border vertex where borders of two kinds meet.
  bool is_corner(int v) const {
    if (!goal_.border_kind) return false;
    for (const int f : topo_.faces_round[v])
      for (const int e : topo_.edges_of[f]) {
        const auto& edge = topo_.edges[e];
        if (edge.right < 0 && (edge.a == v || edge.b == v) && kind(edge.a == v ? edge.b : edge.a) != kind(v))
          return true;
      }
    return false;
  }

  /// Edge numbers for which `score` is positive, largest score first.
  template <class Score>
  std::vector<int> ranked(Score score) const {
    std::vector<std::pair<double, int>> found;
    for (int e = 0; e < static_cast<int>(topo_.edges.size()); ++e)
      if (const double s = score(topo_.edges[e]); s > 0.0) found.push_back({-s, e});
    std::sort(found.begin(), found.end());
    std::vector<int> order;
    for (const auto& [s, e] : found) order.push_back(e);
    return order;
  }

  bool split_round() {
    topo_ = topology_of(mesh_);
    std::vector<char> touched(mesh_.triangles.size(), 0);
    bool any = false;
    for (const int e : ranked([&](const auto& edge) { return length(edge) - 4.0 / 3.0 * wanted(edge); })) {
      const auto edge = topo_.edges[e];
      if (touched[edge.left] || (edge.right >= 0 && touched[edge.right])) continue;
      const int fresh = static_cast<int>(mesh_.vertices.size());
      mesh_.vertices.push_back(goal_.project(0.5 * (at(edge.a) + at(edge.b)), edge.right < 0));
      for (const int f : {edge.left, edge.right}) {
        if (f < 0) continue;
        touched[f] = 1;
        Tri half = mesh_.triangles[f];
        std::replace(half.begin(), half.end(), edge.a, fresh);
        std::replace(mesh_.triangles[f].begin(), mesh_.triangles[f].end(), edge.b, fresh);
        mesh_.triangles.push_back(half);
      }
      any = true;
    }
    return any;
  }

  /// Notes the neighbours of a vertex; `noted` then tells of any whether it is one.
  void note_ring(int v) {
    noted_.resize(mesh_.vertices.size(), 0);
    ++note_;
    for (const int f : topo_.faces_round[v])
      for (const int w : mesh_.triangles[f]) noted_[w] = note_;
    noted_[v] = 0;
  }
  bool noted(int v) const { return noted_[v] == note_; }

  /// How many neighbours two vertices have in common.
  int in_common(int v, int w) {
    note_ring(v);
    int count = 0;
    for (const int f : topo_.faces_round[w])
      for (const int u : mesh_.triangles[f])
        if (noted(u)) noted_[u] = 0, ++count;
    return count - 1;  // w itself is one of v's
  }

  /// Topology stays a surface, normals do not turn, no edge becomes too long.
  bool may_collapse(int gone, int kept, const Topology::Edge& edge) {
    if (border_[gone] && (!(border_[kept] && edge.right < 0) || is_corner(gone))) return false;
    for (const int f : topo_.faces_round[gone]) {
      Tri t = mesh_.triangles[f];
      if (std::find(t.begin(), t.end(), kept) != t.end()) continue;
      for (const int w : t)
        if (w != gone && (at(w) - at(kept)).norm() > 1.3 * goal_.edge_mm(0.5 * (at(w) + at(kept)))) return false;
      const Vec3 before = area_vector(mesh_, t);
      std::replace(t.begin(), t.end(), gone, kept);
      const Vec3 after = area_vector(mesh_, t);
      if (after.dot(before) < 0.5 * after.norm() * before.norm() || after.norm() < 1e-6) return false;
    }
    return in_common(gone, kept) == (edge.right < 0 ? 1 : 2);
  }

  bool collapse_round() {
    topo_ = topology_of(mesh_);
    find_borders();
    std::vector<char> locked(mesh_.vertices.size(), 0), dead(mesh_.triangles.size(), 0);
    bool any = false;
    for (const int e : ranked([&](const auto& edge) { return 0.8 * wanted(edge) - length(edge); })) {
      const auto& edge = topo_.edges[e];
      if (locked[edge.a] || locked[edge.b]) continue;
      int gone = edge.a, kept = edge.b;
      if (border_[gone] && !border_[kept]) std::swap(gone, kept);
      if (!may_collapse(gone, kept, edge)) {
        std::swap(gone, kept);
        if (!may_collapse(gone, kept, edge)) continue;
      }
      for (const int f : topo_.faces_round[gone]) {
        Tri& t = mesh_.triangles[f];
        for (const int w : t) locked[w] = 1;
        if (std::find(t.begin(), t.end(), kept) != t.end()) dead[f] = 1;
        std::replace(t.begin(), t.end(), gone, kept);
      }
      any = true;
    }
    if (any) compact(dead);
    return any;
  }

  void compact(const std::vector<char>& dead) {
    std::vector<int> alive;
    for (int f = 0; f < static_cast<int>(dead.size()); ++f)
      if (!dead[f]) alive.push_back(f);
    std::vector<int> old;
    mesh_ = part_of(mesh_, alive, old);
  }

  /// Of the smallest angle, which lies between the two longest sides; `across` is the triangle's area vector.
  double smallest_sine(int a, int b, int c, const Vec3& across) const {
    const double ab = (at(a) - at(b)).squaredNorm(), bc = (at(b) - at(c)).squaredNorm(),
                 ca = (at(c) - at(a)).squaredNorm();
    const double longest_two = std::max({ab * bc, bc * ca, ca * ab});
    return longest_two > 0.0 ? std::sqrt(across.squaredNorm() / longest_two) : 0.0;
  }

  void flip_round() {
    topo_ = topology_of(mesh_);
    std::vector<char> touched(mesh_.triangles.size(), 0);
    std::set<std::pair<int, int>> made;
    for (const auto& edge : topo_.edges) {
      if (edge.right < 0 || touched[edge.left] || touched[edge.right]) continue;
      int a = edge.a, b = edge.b;
      const Tri& t = mesh_.triangles[edge.left];
      if (!((t[0] == a && t[1] == b) || (t[1] == a && t[2] == b) || (t[2] == a && t[0] == b))) std::swap(a, b);
      const int c = opposite(edge.left, edge), d = opposite(edge.right, edge);
      const Vec3 n1 = area_vector(mesh_, {a, b, c}), n2 = area_vector(mesh_, {b, a, d});
      const Vec3 m1 = area_vector(mesh_, {c, d, b}), m2 = area_vector(mesh_, {d, c, a});
      if (n1.dot(n2) < 0.7 * n1.norm() * n2.norm() || m1.dot(m2) < 0.7 * m1.norm() * m2.norm() || m1.dot(n1) <= 0 ||
          m2.dot(n1) <= 0)
        continue;
      const double before = std::min(smallest_sine(a, b, c, n1), smallest_sine(b, a, d, n2));
      const double after = std::min(smallest_sine(c, d, b, m1), smallest_sine(d, c, a, m2));
      if (after <= before || std::asin(std::min(1.0, after)) <= std::asin(std::min(1.0, before)) + 1e-4) continue;
      note_ring(c);
      if (noted(d) || made.count({std::min(c, d), std::max(c, d)}) != 0) continue;
      mesh_.triangles[edge.left] = {c, d, b};
      mesh_.triangles[edge.right] = {d, c, a};
      touched[edge.left] = touched[edge.right] = 1;
      made.insert({std::min(c, d), std::max(c, d)});
    }
  }

  Vec3 border_middle(int v) const {
    Vec3 sum = Vec3::Zero();
    int count = 0;
    for (const int f : topo_.faces_round[v])
      for (const int e : topo_.edges_of[f]) {
        const auto& edge = topo_.edges[e];
        if (edge.right >= 0 || (edge.a != v && edge.b != v)) continue;
        sum += at(edge.a == v ? edge.b : edge.a), ++count;
      }
    return count == 2 ? Vec3(0.5 * at(v) + 0.25 * sum) : at(v);
  }

  void smooth_round() {
    topo_ = topology_of(mesh_);
    find_borders();
    const auto normals = vertex_normals(mesh_);
    std::vector<Vec3> moved(mesh_.vertices.size());
    const auto move = [&](int v) {
      if (border_[v]) {
        moved[v] = is_corner(v) ? at(v) : goal_.project(border_middle(v), true);
        return;
      }
      Vec3 sum = Vec3::Zero();
      double weight = 0.0;
      for (const int f : topo_.faces_round[v]) {
        const Tri& t = mesh_.triangles[f];
        const Vec3 centre = (at(t[0]) + at(t[1]) + at(t[2])) / 3.0;
        const double h = goal_.edge_mm(centre), w = area_vector(mesh_, t).norm() / (h * h * h);
        sum += w * centre, weight += w;
      }
      Vec3 step = sum / weight - at(v);
      step -= normals[v].dot(step) * normals[v];
      moved[v] = goal_.project(at(v) + 0.8 * step, false);
    };
    parallel_each(moved.size(), [&](std::size_t v) { move(static_cast<int>(v)); });
    mesh_.vertices = std::move(moved);
  }

  void flip_and_smooth() {
    flip_round();
    flip_round();
    smooth_round();
  }

  Mesh mesh_;
  const RemeshGoal& goal_;
  Topology topo_;
  std::vector<char> border_;
  std::vector<int> noted_;  ///< by vertex: the last note of whose ring it was part
  int note_ = 0;
};

}  // namespace

Mesh remesh(Mesh mesh, const RemeshGoal& goal) { return Remesher(std::move(mesh), goal).run(); }

}  // namespace awl
