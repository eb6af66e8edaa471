#include "core/seam/parting/patchwork.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>
#include <numeric>

#include "core/geom/split.hpp"
#include "core/seam/flatten.hpp"
#include "core/seam/rigid_map.hpp"

namespace awl::parting {
namespace {

constexpr double kFoldRad = 0.70;  // 40 degrees: a fold in thick foam is a seam

/// Union-find with halving.
class Classes {
 public:
  explicit Classes(std::size_t n) : up_(n) { std::iota(up_.begin(), up_.end(), 0); }
  int of(int i) {
    while (up_[i] != i) i = up_[i] = up_[up_[i]];
    return i;
  }
  void join(int a, int b) { up_[of(a)] = of(b); }

 private:
  std::vector<int> up_;
};

std::vector<Vec2> outline_of(const Mesh& mesh, const std::vector<Vec2>& uv) {
  std::vector<Vec2> outline;
  const auto loops = border_loops(mesh);
  if (loops.size() == 1)
    for (const int v : loops[0]) outline.push_back(uv[v]);
  return outline;
}

bool lies_well(const Mesh& mesh, const std::vector<Vec2>& uv) {
  for (const Vec2& p : uv)
    if (!p.allFinite()) return false;
  if (count_flips(mesh, uv) > 0) return false;
  const auto outline = outline_of(mesh, uv);
  return !outline.empty() && !crosses_itself(outline);
}

}  // namespace

Patchwork::Patchwork(Mesh surface, bool mirrored, const std::function<double(const Vec3&)>& weight)
    : mesh(std::move(surface)), topo(topology_of(mesh)), half_(mirrored) {
  cut.assign(topo.edges.size(), 0);
  mirror.assign(topo.edges.size(), 0);
  edges_round_.resize(mesh.vertices.size());
  for (std::size_t e = 0; e < topo.edges.size(); ++e) {
    const auto& edge = topo.edges[e];
    edges_round_[edge.a].push_back(static_cast<int>(e));
    edges_round_[edge.b].push_back(static_cast<int>(e));
    if (edge.right >= 0) continue;
    cut[e] = 1;
    mirror[e] = half_ && mesh.vertices[edge.a].x() == 0.0 && mesh.vertices[edge.b].x() == 0.0;
  }
  if (weight)
    for (const auto& e : topo.edges) weight_.push_back(weight(0.5 * (mesh.vertices[e.a] + mesh.vertices[e.b])));
  for (const Tri& t : mesh.triangles) {
    area_.push_back(0.5 * area_vector(mesh, t).norm());
    area_sum_ += area_.back();
  }
  patch_of.assign(mesh.triangles.size(), 0);
}

double Patchwork::turn(int edge) const {
  const auto& e = topo.edges[edge];
  const Vec3 n = area_vector(mesh, mesh.triangles[e.left]).normalized();
  Vec3 m = n;
  if (e.right >= 0)
    m = area_vector(mesh, mesh.triangles[e.right]).normalized();
  else if (mirror[edge])
    m.x() = -m.x();
  else
    return 0.0;
  return std::atan2(n.cross(m).norm(), n.dot(m));
}

LocalCopy Patchwork::copy_of(
    const std::vector<int>& faces, const std::set<int>& uncut, const std::set<int>& more_cut) const {
  const int n = static_cast<int>(faces.size());
  std::vector<int> local(mesh.triangles.size(), -1);
  for (int i = 0; i < n; ++i) local[faces[i]] = i;
  const auto open = [&](int e) { return (!cut[e] || uncut.count(e) != 0) && more_cut.count(e) == 0; };
  bool sewn = false;
  if (half_)
    for (const int f : faces)
      for (const int e : topo.edges_of[f]) sewn = sewn || (mirror[e] && open(e));
  const int copies = sewn ? 2 : 1;
  Classes corner(static_cast<std::size_t>(3 * n * copies)), face(static_cast<std::size_t>(n * copies));
  int joined = 0;
  const auto corner_at = [&](int f, int v) {
    const Tri& t = mesh.triangles[f];
    return 3 * local[f] + (t[0] == v ? 0 : t[1] == v ? 1 : 2);
  };
  for (int i = 0; i < n; ++i)
    for (const int e : topo.edges_of[faces[i]]) {
      const auto& edge = topo.edges[e];
      if (!open(e)) continue;
      if (mirror[e]) {
        for (const int v : {edge.a, edge.b}) corner.join(corner_at(faces[i], v), 3 * n + corner_at(faces[i], v));
        face.join(i, n + i);
        ++joined;
        continue;
      }
      if (edge.left != faces[i] || edge.right < 0 || local[edge.right] < 0) continue;
      for (int c = 0; c < copies; ++c) {
        for (const int v : {edge.a, edge.b})
          corner.join(3 * n * c + corner_at(edge.left, v), 3 * n * c + corner_at(edge.right, v));
        face.join(n * c + i, n * c + local[edge.right]);
        ++joined;
      }
    }
  LocalCopy copy;
  std::vector<int> number(static_cast<std::size_t>(3 * n * copies), -1);
  copy.mesh.triangles.reserve(static_cast<std::size_t>(n * copies));
  for (int c = 0; c < copies; ++c)
    for (int i = 0; i < n; ++i) {
      Tri t{};
      for (int k = 0; k < 3; ++k) {
        const int own = corner.of(3 * (n * c + i) + k);
        if (number[own] < 0) {
          number[own] = static_cast<int>(copy.vertex_of.size());
          copy.vertex_of.push_back(mesh.triangles[faces[i]][k]);
          Vec3 p = mesh.vertices[copy.vertex_of.back()];
          if (c == 1) p.x() = -p.x();
          copy.mesh.vertices.push_back(p);
        }
        t[c == 1 && k > 0 ? 3 - k : k] = number[own];
      }
      copy.mesh.triangles.push_back(t);
    }
  const int f = n * copies, v = static_cast<int>(copy.vertex_of.size());
  bool whole = n > 0;
  for (int i = 1; i < f; ++i) whole = whole && face.of(i) == face.of(0);
  copy.disk = whole && v - (3 * f - joined) + f == 1;
  return copy;
}

int Patchwork::set_patch(std::vector<int> faces) {
  const int id = fresh();
  Patch patch;
  for (const int f : faces) {
    patch.area_mm2 += area_[f];
    patch_of[f] = id;
    if (half_)
      for (const int e : topo.edges_of[f]) patch.sewn = patch.sewn || (mirror[e] && !cut[e]);
  }
  patch.faces = std::move(faces);
  patches[id] = std::move(patch);
  return id;
}

std::vector<int> Patchwork::patches_from(const std::vector<int>& faces) {
  std::set<int> left(faces.begin(), faces.end());
  std::vector<int> made;
  while (!left.empty()) {
    std::vector<int> own{*left.begin()};
    left.erase(left.begin());
    for (std::size_t i = 0; i < own.size(); ++i)
      for (const int e : topo.edges_of[own[i]]) {
        if (cut[e]) continue;
        const int next = topo.edges[e].left == own[i] ? topo.edges[e].right : topo.edges[e].left;
        if (next >= 0 && left.erase(next) > 0) own.push_back(next);
      }
    std::sort(own.begin(), own.end());
    made.push_back(set_patch(std::move(own)));
  }
  return made;
}

int Patchwork::cut_degree(int vertex) const {
  int degree = 0;
  for (const int e : edges_round_[vertex]) degree += cut[e] ? 1 : 0;
  return degree;
}

std::vector<Arc> Patchwork::arcs(int one, int other) const {
  std::set<int> common;
  for (const int f : patches.at(one).faces)
    for (const int e : topo.edges_of[f]) {
      if (!cut[e]) continue;
      const auto& edge = topo.edges[e];
      if (other == 0 ? mirror[e] != 0 : edge.right >= 0 && patch_of[edge.left == f ? edge.right : edge.left] == other)
        common.insert(e);
    }
  std::vector<Arc> found;
  while (!common.empty()) {
    std::vector<int> run{*common.begin()};
    common.erase(common.begin());
    for (const bool forward : {true, false}) {
      int v = forward ? topo.edges[run.front()].b : topo.edges[run.front()].a;
      for (bool on = true; on && cut_degree(v) == 2;) {
        on = false;
        for (const int e : edges_round_[v])
          if (common.erase(e) > 0) {
            if (forward)
              run.push_back(e);
            else
              run.insert(run.begin(), e);
            v = topo.edges[e].a == v ? topo.edges[e].b : topo.edges[e].a;
            on = true;
            break;
          }
      }
    }
    Arc arc{one, other, std::move(run)};
    for (const int e : arc.edges) {
      arc.length_mm += edge_mm(e);
      arc.cost_mm += edge_mm(e) * weight(e);
      if (turn(e) > kFoldRad) arc.folded_mm += edge_mm(e);
    }
    found.push_back(std::move(arc));
  }
  std::sort(found.begin(), found.end(),
      [](const Arc& a, const Arc& b) { return std::pair(-a.length_mm, a.edges) < std::pair(-b.length_mm, b.edges); });
  return found;
}

std::set<std::pair<int, int>> Patchwork::neighbours() const {
  std::set<std::pair<int, int>> pairs;
  for (std::size_t e = 0; e < topo.edges.size(); ++e) {
    const auto& edge = topo.edges[e];
    if (!cut[e]) continue;
    if (mirror[e]) {
      if (sews) pairs.insert({0, patch_of[edge.left]});
    } else if (edge.right >= 0 && patch_of[edge.left] != patch_of[edge.right])
      pairs.insert(edge_of(patch_of[edge.left], patch_of[edge.right]));
  }
  return pairs;
}

int Patchwork::join(const Arc& arc) {
  for (const int e : arc.edges) cut[e] = 0;
  std::vector<int> faces = patches.at(arc.one).faces;
  if (arc.other != 0) {
    const auto& more = patches.at(arc.other).faces;
    faces.insert(faces.end(), more.begin(), more.end());
    patches.erase(arc.other);
  }
  patches.erase(arc.one);
  std::sort(faces.begin(), faces.end());
  return set_patch(std::move(faces));
}

double Patchwork::seam_mm() const {
  double mm = 0.0;
  for (std::size_t e = 0; e < topo.edges.size(); ++e)
    if (cut[e] && !is_free_border(static_cast<int>(e)))
      mm += (half_ && !mirror[e] ? 2.0 : 1.0) * edge_mm(static_cast<int>(e)) * weight(static_cast<int>(e));
  return mm;
}

int Patchwork::panels() const {
  int count = 0;
  for (const auto& [id, patch] : patches) count += half_ && !patch.sewn ? 2 : 1;
  return count;
}

void Patchwork::moved(const std::vector<int>& vertices) {
  std::set<int> faces;
  for (const int v : vertices) faces.insert(topo.faces_round[v].begin(), topo.faces_round[v].end());
  for (const int f : faces) {
    const double now = 0.5 * area_vector(mesh, mesh.triangles[f]).norm();
    area_sum_ += now - area_[f];
    area_[f] = now;
  }
}

Judged judge_rigid(const LocalCopy& copy, double limit) {
  if (!copy.disk) return {};
  std::vector<TriangleFrame> frames;
  frames.reserve(copy.mesh.triangles.size());
  for (const Tri& t : copy.mesh.triangles)
    frames.push_back(frame_of_triangle(copy.mesh.vertices[t[0]], copy.mesh.vertices[t[1]], copy.mesh.vertices[t[2]]));
  for (const TriangleFrame& f : frames)
    if (!(f.area_mm2 > 1e-9)) return {};
  RigidMap map(copy.mesh, frames);
  if (!map.is_solvable()) return {};
  auto uv = map.unrolled();
  Judged judged;
  for (const auto& [rounds, hopeless] : {std::pair{3, 5.0}, {5, 3.0}, {12, 1e9}}) {
    map.improve(uv, rounds);
    judged.rigid = summarise(copy.mesh, uv).p99;
    if (judged.rigid > hopeless * limit) return judged;
  }
  judged.bad = !lies_well(copy.mesh, uv);
  return judged;
}

Judged judge_finish(const LocalCopy& copy, int steps, std::vector<Vec2>* flat) {
  if (!copy.disk) return {};
  auto flattener = Flattener::of(copy.mesh);
  if (!flattener) return {};
  FlattenOptions options;
  options.newton_steps = steps;
  if (!flattener->flatten(options)) return {};
  Judged judged{summarise(copy.mesh, flattener->uv()).p99, !lies_well(copy.mesh, flattener->uv())};
  if (flat != nullptr) *flat = flattener->uv();
  return judged;
}

}  // namespace awl::parting
