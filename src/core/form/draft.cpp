#include "core/form/draft.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <map>

#include "core/base/numbers.hpp"
#include "core/base/result.hpp"

namespace awl {
namespace {

/// Keeps the listed triangles and carries everything that is numbered by vertex along.
void keep_triangles(Draft& draft, const std::vector<int>& triangles) {
  std::vector<int> old;
  Mesh part = part_of(draft.mesh, triangles, old);
  std::vector<int> fresh(draft.mesh.vertices.size(), -1);
  for (std::size_t v = 0; v < old.size(); ++v) fresh[old[v]] = static_cast<int>(v);
  std::set<std::pair<int, int>> edges;
  for (const Tri& t : part.triangles)
    for (int k = 0; k < 3; ++k) edges.insert(edge_of(t[k], t[(k + 1) % 3]));
  EdgeLabels seams;
  for (const auto& [edge, label] : draft.seams) {
    const auto moved = edge_of(fresh[edge.first], fresh[edge.second]);
    if (moved.first >= 0 && edges.count(moved) != 0) seams[moved] = label;
  }
  std::set<int> opening;
  for (const int v : draft.opening)
    if (fresh[v] >= 0) opening.insert(fresh[v]);
  std::vector<Vec2> flat;
  if (!draft.flat.empty())
    for (const int v : old) flat.push_back(draft.flat[v]);
  std::vector<Vec3> home;
  if (!draft.home.empty())
    for (const int v : old) home.push_back(draft.home[v]);
  draft.home = std::move(home);
  std::vector<int> sheet_of;
  if (!draft.sheet_of.empty())
    for (const int v : old) sheet_of.push_back(draft.sheet_of[v]);
  draft.sheet_of = std::move(sheet_of);
  draft.mesh = std::move(part), draft.seams = std::move(seams), draft.opening = std::move(opening),
  draft.flat = std::move(flat);
}

std::set<int> ring_of(const Mesh& mesh, const Topology& topo, int v) {
  std::set<int> ring;
  for (const int f : topo.faces_round[v]) ring.insert(mesh.triangles[f].begin(), mesh.triangles[f].end());
  ring.erase(v);
  return ring;
}

/// Whether the border edge from `gone` to `kept` may shrink to a point: both ends share no neighbour but the corner
/// across, and what is left round them looks the way it did.
bool may_join(const Mesh& mesh, const Topology& topo, int gone, int kept) {
  const auto a = ring_of(mesh, topo, gone), b = ring_of(mesh, topo, kept);
  if (std::count_if(a.begin(), a.end(), [&](int v) { return b.count(v) != 0; }) != 1) return false;
  Vec3 facing = Vec3::Zero();
  for (const int end : {gone, kept})
    for (const int f : topo.faces_round[end]) facing += area_vector(mesh, mesh.triangles[f]);
  return std::all_of(topo.faces_round[gone].begin(), topo.faces_round[gone].end(), [&](int f) {
    Tri t = mesh.triangles[f];
    if (std::count(t.begin(), t.end(), kept) != 0) return true;
    std::replace(t.begin(), t.end(), gone, kept);
    return area_vector(mesh, t).dot(facing) > 0.0;
  });
}

/// `gone` becomes `kept` in all that is numbered by vertex; its triangle on the border is left with two equal corners.
void join(Draft& draft, const Topology& topo, int gone, int kept) {
  for (const int f : topo.faces_round[gone])
    std::replace(draft.mesh.triangles[f].begin(), draft.mesh.triangles[f].end(), gone, kept);
  EdgeLabels moved;
  for (const int v : ring_of(draft.mesh, topo, gone))
    if (const auto held = draft.seams.extract(edge_of(gone, v)); !held.empty()) moved[edge_of(kept, v)] = held.mapped();
  draft.seams.merge(moved);
  if (draft.opening.erase(gone) != 0) draft.opening.insert(kept);
}

}  // namespace

void join_close_corners(Draft& draft, double mm) {
  expects(draft.flat.empty() && draft.sheet_of.empty(), "join_close_corners: a surface that knows no sheet");
  for (bool again = true; again;) {
    again = false;
    const Topology topo = topology_of(draft.mesh);
    std::vector<char> touched(draft.mesh.vertices.size(), 0);
    std::map<int, int> ends;  // how many seams reach a vertex: the one more reach stays where it is
    for (const auto& [edge, label] : draft.seams) ++ends[edge.first], ++ends[edge.second];
    for (const Topology::Edge& e : topo.edges) {
      if (e.right >= 0 || touched[e.a] || touched[e.b] ||
          (draft.mesh.vertices[e.a] - draft.mesh.vertices[e.b]).norm() >= mm)
        continue;
      int gone = e.a, kept = e.b;
      if (ends[gone] > ends[kept]) std::swap(gone, kept);
      if (!may_join(draft.mesh, topo, gone, kept)) continue;
      for (const int end : {gone, kept})
        for (const int v : ring_of(draft.mesh, topo, end)) touched[v] = 1;
      join(draft, topo, gone, kept);
      again = true;
    }
    std::vector<int> kept;
    for (int f = 0; f < static_cast<int>(draft.mesh.triangles.size()); ++f) {
      const Tri& t = draft.mesh.triangles[f];
      if (t[0] != t[1] && t[1] != t[2] && t[2] != t[0]) kept.push_back(f);
    }
    if (again) keep_triangles(draft, kept);
  }
}

void clip_teeth(Draft& draft, double mm, double most_deg) {
  expects(draft.flat.empty() && draft.sheet_of.empty(), "clip_teeth: a surface that knows no sheet");
  const double blunt = std::cos(radians(most_deg));
  for (bool again = true; again;) {
    std::vector<int> round(draft.mesh.vertices.size(), 0), kept;
    for (const Tri& t : draft.mesh.triangles)
      for (const int v : t) ++round[v];
    std::set<int> seamed;
    for (const auto& [edge, label] : draft.seams) seamed.insert(edge.first), seamed.insert(edge.second);
    const auto is_tooth = [&](const Tri& t) {
      for (int k = 0; k < 3; ++k) {
        if (round[t[k]] != 1 || seamed.count(t[k]) != 0) continue;
        const Vec3 a = draft.mesh.vertices[t[(k + 1) % 3]] - draft.mesh.vertices[t[k]],
                   b = draft.mesh.vertices[t[(k + 2) % 3]] - draft.mesh.vertices[t[k]];
        if (a.dot(b) > blunt * a.norm() * b.norm() && a.cross(b).norm() < mm * (b - a).norm()) return true;
      }
      return false;
    };
    for (int f = 0; f < static_cast<int>(draft.mesh.triangles.size()); ++f)
      if (!is_tooth(draft.mesh.triangles[f])) kept.push_back(f);
    again = kept.size() < draft.mesh.triangles.size() && !kept.empty();
    if (again) keep_triangles(draft, kept);
  }
}

void append(Draft& draft, const Draft& other) {
  const int v0 = static_cast<int>(draft.mesh.vertices.size()), s0 = static_cast<int>(draft.seam_names.size());
  draft.mesh.vertices.insert(draft.mesh.vertices.end(), other.mesh.vertices.begin(), other.mesh.vertices.end());
  for (const Tri& t : other.mesh.triangles) draft.mesh.triangles.push_back({t[0] + v0, t[1] + v0, t[2] + v0});
  for (const auto& [edge, label] : other.seams) draft.seams[{edge.first + v0, edge.second + v0}] = label + s0;
  for (const int v : other.opening) draft.opening.insert(v + v0);
  draft.seam_names.insert(draft.seam_names.end(), other.seam_names.begin(), other.seam_names.end());
  draft.flat.insert(draft.flat.end(), other.flat.begin(), other.flat.end());
  draft.home.insert(draft.home.end(), other.home.begin(), other.home.end());
  const int sheets = static_cast<int>(draft.sheets.size());
  draft.sheets.insert(draft.sheets.end(), other.sheets.begin(), other.sheets.end());
  for (const int s : other.sheet_of) draft.sheet_of.push_back(s + sheets);
  draft.features.insert(draft.features.end(), other.features.begin(), other.features.end());
  draft.handles.insert(draft.handles.end(), other.handles.begin(), other.handles.end());
}

void reflect(Draft& draft) {
  const auto turn = [](std::vector<Vec3>& places) {
    for (Vec3& p : places) p.x() = -p.x();
  };
  for (Mesh* mesh : {&draft.mesh, &draft.worn_on}) {
    turn(mesh->vertices);
    for (Tri& t : mesh->triangles) std::swap(t[1], t[2]);
  }
  turn(draft.home);
  for (Vec2& p : draft.flat) p.x() = -p.x();
  for (FeatureLine& f : draft.features) turn(f.line);
  for (Handle& h : draft.handles) h.at.x() = -h.at.x(), h.along.x() = -h.along.x();
}

void drop_unused(Draft& draft) {
  std::vector<int> all(draft.mesh.triangles.size());
  for (std::size_t i = 0; i < all.size(); ++i) all[i] = static_cast<int>(i);
  keep_triangles(draft, all);
}

Split split_draft(Draft& draft, const std::function<double(const Vec3&)>& f, double snap) {
  Split split = split_along(draft.mesh, f, draft.seams, snap);
  if (draft.home.empty()) return split;
  draft.home.resize(draft.mesh.vertices.size());
  for (const auto& p : split.places) draft.home[p.vertex] = (1.0 - p.t) * draft.home[p.a] + p.t * draft.home[p.b];
  return split;
}

void trim(Draft& draft, const std::function<double(const Vec3&)>& f) {
  const Split split = split_draft(draft, f, 0.1);
  std::vector<int> kept;
  for (int i = 0; i < static_cast<int>(draft.mesh.triangles.size()); ++i) {
    const Tri& t = draft.mesh.triangles[i];
    // By its corners off the curve: a large triangle's middle may lie on the other side of a curved edge.
    double side = 0.0;
    for (const int v : t) side += split.values[v];
    if (side == 0.0)
      side = f((draft.mesh.vertices[t[0]] + draft.mesh.vertices[t[1]] + draft.mesh.vertices[t[2]]) / 3.0);
    if (side >= 0.0) kept.push_back(i);
  }
  keep_triangles(draft, kept);
}

void keep_parts(Draft& draft, const std::function<bool(const Vec3&)>& wanted) {
  if (draft.mesh.triangles.empty()) return;
  const auto part = connected_parts(draft.mesh, [](int, int) { return true; });
  std::vector<char> good(static_cast<std::size_t>(*std::max_element(part.begin(), part.end())) + 1, 0);
  for (std::size_t f = 0; f < part.size(); ++f)
    for (const int v : draft.mesh.triangles[f])
      if (wanted(draft.mesh.vertices[v])) good[part[f]] = 1;
  std::vector<int> kept;
  for (std::size_t f = 0; f < part.size(); ++f)
    if (good[part[f]]) kept.push_back(static_cast<int>(f));
  keep_triangles(draft, kept);
}

}  // namespace awl
