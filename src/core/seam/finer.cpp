#include "core/seam/finer.hpp"

namespace awl {
namespace {

using Halves = std::map<std::pair<int, int>, int>;  // edge -> the vertex in its middle

/// Every triangle in four, the one at a corner after that corner's place, the middle one last.
std::vector<Tri> quartered(const std::vector<Tri>& triangles, int vertices, Halves& halves) {
  std::vector<Tri> all;
  for (const Tri& t : triangles) {
    int half[3];
    for (int k = 0; k < 3; ++k)
      half[k] =
          halves.try_emplace(edge_of(t[k], t[(k + 1) % 3]), vertices + static_cast<int>(halves.size())).first->second;
    for (int k = 0; k < 3; ++k) all.push_back({t[k], half[k], half[(k + 2) % 3]});
    all.push_back({half[0], half[1], half[2]});
  }
  return all;
}

/// The middle of the cubic from a to b that leaves and arrives at right angles to the normals.
Vec3 curved_middle(const Vec3& a, const Vec3& b, const Vec3& normal_a, const Vec3& normal_b) {
  const Vec3 along = b - a;
  const Vec3 first = a + (along - along.dot(normal_a) * normal_a) / 3.0,
             second = b - (along - along.dot(normal_b) * normal_b) / 3.0;
  return (a + 3.0 * first + 3.0 * second + b) / 8.0;
}

/// Normals of the whole form at its sheet's middle: those of borders, which two panels share.
std::vector<Vec3> common_normals(const PanelSet& set) {
  Mesh middle = set.form.mesh;
  for (const Panel& p : set.panels)
    for (std::size_t v = 0; v < p.vertex_of.size(); ++v) middle.vertices[p.vertex_of[v]] = p.solid.vertices[v];
  return vertex_normals(middle);
}

Panel finer_panel(const Panel& coarse, const Halves& form_halves, const std::vector<Vec3>& common) {
  Panel p = coarse;
  Halves halves;
  p.solid.triangles = quartered(coarse.solid.triangles, static_cast<int>(coarse.solid.vertices.size()), halves);
  p.faces.clear();
  for (const int f : coarse.faces)
    for (int k = 0; k < 4; ++k) p.faces.push_back(4 * f + k);
  std::set<std::pair<int, int>> rim;
  for (const BorderEdge& e : coarse.border) rim.insert(edge_of(e.a, e.b));
  const auto own = vertex_normals(coarse.solid);
  const std::size_t n = coarse.solid.vertices.size();
  p.solid.vertices.resize(n + halves.size()), p.flat.resize(n + halves.size()), p.vertex_of.resize(n + halves.size());
  p.before.clear(), p.face_strain.clear();
  for (const auto& [edge, v] : halves) {
    const auto [a, b] = edge;
    const int ga = coarse.vertex_of[a], gb = coarse.vertex_of[b];
    const bool shared = rim.count(edge) != 0;
    p.solid.vertices[v] = curved_middle(
        coarse.solid.vertices[a], coarse.solid.vertices[b], shared ? common[ga] : own[a], shared ? common[gb] : own[b]);
    p.flat[v] = 0.5 * (coarse.flat[a] + coarse.flat[b]);
    p.vertex_of[v] = form_halves.at(edge_of(ga, gb));
  }
  p.border.clear();
  for (const BorderEdge& e : coarse.border) {
    const int middle = halves.at(edge_of(e.a, e.b));
    p.border.push_back({e.a, middle, e.seam, e.turn_rad});
    p.border.push_back({middle, e.b, e.seam, e.turn_rad});
  }
  for (std::vector<int>& hole : p.holes) {
    std::vector<int> loop;
    for (std::size_t i = 0; i < hole.size(); ++i) {
      loop.push_back(hole[i]);
      if (const auto at = halves.find(edge_of(hole[i], hole[(i + 1) % hole.size()])); at != halves.end())
        loop.push_back(at->second);
    }
    hole = std::move(loop);
  }
  return p;
}

}  // namespace

PanelSet finer(const PanelSet& coarse) {
  PanelSet set = coarse;
  SeamMesh& form = set.form;
  Halves halves;
  const int n = static_cast<int>(coarse.form.mesh.vertices.size());
  form.mesh.triangles = quartered(coarse.form.mesh.triangles, n, halves);
  form.mesh.vertices.resize(static_cast<std::size_t>(n) + halves.size());
  for (const auto& [edge, v] : halves)
    form.mesh.vertices[v] = 0.5 * (coarse.form.mesh.vertices[edge.first] + coarse.form.mesh.vertices[edge.second]);
  if (!form.twin_of.empty()) {
    form.twin_of.resize(form.mesh.vertices.size());
    for (const auto& [edge, v] : halves)
      form.twin_of[v] = halves.at(edge_of(coarse.form.twin_of[edge.first], coarse.form.twin_of[edge.second]));
  }
  form.seam_of.clear();
  for (const auto& [edge, id] : coarse.form.seam_of)
    if (const auto at = halves.find(edge); at != halves.end())
      form.seam_of[edge_of(edge.first, at->second)] = form.seam_of[edge_of(at->second, edge.second)] = id;
  form.flat.clear(), form.home.clear();
  if (!form.sheet_of.empty()) {
    form.sheet_of.resize(form.mesh.vertices.size());
    for (const auto& [edge, v] : halves) form.sheet_of[v] = coarse.form.sheet_of[edge.first];
  }
  const auto common = common_normals(coarse);
  for (Panel& p : set.panels) p = finer_panel(p, halves, common);
  for (FormSpan& span : set.spans) {
    span.triangles *= 4,
        span.vertices = static_cast<int>(form.mesh.vertices.size()) / static_cast<int>(set.spans.size());
    span.own_mm.clear();
  }
  return set;
}

std::vector<Vec3> finer_moves(const PanelSet& coarse, const PanelSet& fine, const std::vector<Vec3>& moves) {
  std::vector<Vec3> all = moves;
  all.resize(fine.form.mesh.vertices.size(), Vec3::Zero());
  for (std::size_t f = 0; f < coarse.form.mesh.triangles.size(); ++f) {
    const Tri& t = coarse.form.mesh.triangles[f];
    for (std::size_t k = 0; k < 3; ++k)
      all[fine.form.mesh.triangles[4 * f + k][1]] = 0.5 * (moves[t[k]] + moves[t[(k + 1) % 3]]);
  }
  return all;
}

}  // namespace awl
