#include "core/seam/panels.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>
#include <mutex>
#include <numeric>

#include "core/base/numbers.hpp"
#include "core/base/parallel.hpp"
#include "core/geom/offset.hpp"
#include "core/seam/panel_names.hpp"

namespace awl {
namespace {

/// Numbers 0..n-1 joined into groups.
class Groups {
 public:
  explicit Groups(int n) : parent_(n) { std::iota(parent_.begin(), parent_.end(), 0); }
  int find(int i) {
    while (parent_[i] != i) i = parent_[i] = parent_[parent_[i]];
    return i;
  }
  void join(int a, int b) { parent_[find(a)] = find(b); }

 private:
  std::vector<int> parent_;
};

int corner_at(const Tri& t, int v) { return t[0] == v ? 0 : t[1] == v ? 1 : 2; }

/// A copy of the panel's triangles in which both sides of a slit have vertices of their own.
void take_faces(Panel& panel, const SeamMesh& form, const Mesh& middle, const Topology& topo) {
  const int n = static_cast<int>(panel.faces.size());
  std::map<int, int> local_face;
  for (int i = 0; i < n; ++i) local_face[panel.faces[i]] = i;
  Groups corners(3 * n);
  for (int i = 0; i < n; ++i)
    for (const int e : topo.edges_of[panel.faces[i]]) {
      const auto& edge = topo.edges[e];
      const auto other = local_face.find(edge.left == panel.faces[i] ? edge.right : edge.left);
      if (other == local_face.end() || form.seam_at(edge.a, edge.b).valid()) continue;
      for (const int v : {edge.a, edge.b})
        corners.join(3 * i + corner_at(form.mesh.triangles[panel.faces[i]], v),
            3 * other->second + corner_at(form.mesh.triangles[other->first], v));
    }
  std::map<int, int> number;
  for (int i = 0; i < n; ++i) {
    Tri t{};
    for (int k = 0; k < 3; ++k) {
      const auto [it, fresh] = number.try_emplace(corners.find(3 * i + k), static_cast<int>(panel.vertex_of.size()));
      if (fresh) {
        panel.vertex_of.push_back(form.mesh.triangles[panel.faces[i]][k]);
        panel.solid.vertices.push_back(middle.vertices[panel.vertex_of.back()]);
      }
      t[k] = it->second;
    }
    panel.solid.triangles.push_back(t);
  }
}

void find_border(Panel& panel, const SeamMesh& form) {
  auto loops = border_loops(panel.solid);
  panel.border.clear(), panel.holes.clear();
  if (loops.empty()) return;
  const auto length = [&](const std::vector<int>& ring) {
    double sum = 0.0;
    for (std::size_t i = 0; i < ring.size(); ++i)
      sum += (panel.solid.vertices[ring[(i + 1) % ring.size()]] - panel.solid.vertices[ring[i]]).norm();
    return sum;
  };
  std::stable_sort(loops.begin(), loops.end(), [&](const auto& a, const auto& b) { return length(a) > length(b); });
  const auto is_opening = [&](const std::vector<int>& ring) {
    return std::all_of(ring.begin(), ring.end(), [&](int v) { return form.opening.count(panel.vertex_of[v]) != 0; });
  };
  for (std::size_t k = 1; k < loops.size(); ++k)
    if (is_opening(loops[k])) panel.holes.push_back(loops[k]);
  if (panel.holes.size() + 1 != loops.size()) return;
  const auto& loop = loops[0];
  for (std::size_t i = 0; i < loop.size(); ++i) {
    const int a = loop[i], b = loop[(i + 1) % loop.size()];
    panel.border.push_back({a, b, form.seam_at(panel.vertex_of[a], panel.vertex_of[b]), 0.0});
  }
}

/// Of each part its image under the mirror; itself where it lies on both sides. Empty for a form that is not exactly
/// mirrored.
std::vector<int> image_parts(const SeamMesh& form, const std::vector<int>& part, int count) {
  if (!is_mirrored(form)) return {};
  const std::size_t half = part.size() / 2;
  std::vector<int> image(count, -1);
  for (std::size_t f = 0; f < half; ++f) image[part[f]] = part[f + half], image[part[f + half]] = part[f];
  for (std::size_t f = 0; f < half; ++f)
    if (part[f] == part[f + half]) image[part[f]] = part[f];
  return image;
}

/// Panels too small to cut are given to the neighbour they share most seam with, not over a fold if they run on into
/// another one. On a mirrored form both sides alike: what lies
/// across the middle only to what does so too, or it stays.
void absorb_slivers(SeamMesh& form, double least_mm2) {
  constexpr double kFoldCosine = 0.77;  // turned by more than about 40 degrees: workshop value
  const auto joined = [&](int a, int b) { return !form.seam_at(a, b).valid(); };
  for (int round = 0; round < 8; ++round) {
    const auto part = connected_parts(form.mesh, joined);
    std::vector<double> area(*std::max_element(part.begin(), part.end()) + 1, 0.0);
    for (std::size_t f = 0; f < part.size(); ++f)
      area[part[f]] += 0.5 * area_vector(form.mesh, form.mesh.triangles[f]).norm();
    const auto image = image_parts(form, part, static_cast<int>(area.size()));
    const Topology topo = topology_of(form.mesh);
    std::vector<char> stays(area.size(), 0);
    if (!image.empty()) {
      std::vector<char> beside_middle(area.size(), 0);
      for (const auto& e : topo.edges)
        if (e.right >= 0 && part[e.left] != part[e.right])
          for (const auto& [a, b] : {std::pair(e.left, e.right), std::pair(e.right, e.left)})
            if (image[part[b]] == part[b]) beside_middle[part[a]] = 1;
      for (std::size_t p = 0; p < area.size(); ++p) stays[p] = image[p] == static_cast<int>(p) && !beside_middle[p];
    }
    int least = -1;
    for (int p = 0; p < static_cast<int>(area.size()); ++p)
      if (!stays[p] && (least < 0 || area[p] < area[least])) least = p;
    if (least < 0 || area.size() < 2 || area[least] > least_mm2) return;
    struct Shared {
      double mm = 0.0, flat_mm = 0.0;
    };  // flat: times the cosine of its turn
    std::map<int, Shared> shared;
    const auto across = [&](const Topology::Edge& e) { return part[e.left] == least ? part[e.right] : part[e.left]; };
    const auto touches = [&](const Topology::Edge& e) {
      return e.right >= 0 && (part[e.left] == least) != (part[e.right] == least);
    };
    for (const auto& e : topo.edges) {
      if (!touches(e)) continue;
      const double mm = (form.mesh.vertices[e.a] - form.mesh.vertices[e.b]).norm();
      const Vec3 left = area_vector(form.mesh, form.mesh.triangles[e.left]).normalized(),
                 right = area_vector(form.mesh, form.mesh.triangles[e.right]).normalized();
      Shared& with = shared[across(e)];
      with.mm += mm, with.flat_mm += mm * left.dot(right);
    }
    if (!image.empty() && image[least] == least)
      std::erase_if(shared, [&](const auto& s) { return image[s.first] != s.first; });
    else if (!image.empty() && shared.size() > 1)
      shared.erase(image[least]);
    if (shared.empty()) return;
    // Not over a fold, as from a crown to its brim, while there is a neighbour it runs on into.
    const auto folded = [](const std::pair<const int, Shared>& s) {
      return s.second.flat_mm < kFoldCosine * s.second.mm;
    };
    if (!std::all_of(shared.begin(), shared.end(), folded)) std::erase_if(shared, folded);
    const int heir = std::max_element(shared.begin(), shared.end(), [](const auto& x, const auto& y) {
      return x.second.mm < y.second.mm;
    })->first;
    for (const auto& e : topo.edges)
      if (touches(e) && across(e) == heir) {
        form.seam_of.erase(edge_of(e.a, e.b));
        if (!image.empty()) form.seam_of.erase(edge_of(form.twin_of[e.a], form.twin_of[e.b]));
      }
  }
}

/// Seams that were taken out whole are forgotten, the others keep their order.
void forget_empty_seams(SeamMesh& form) {
  std::map<SeamId, SeamId> renewed;
  for (const auto& [edge, id] : form.seam_of) renewed[id] = {};
  std::vector<std::string> names;
  for (auto& [id, fresh] : renewed) {
    fresh = SeamId{static_cast<int>(names.size())};
    names.push_back(form.seam_names[id.value]);
  }
  for (auto& [edge, id] : form.seam_of) id = renewed.at(id);
  form.seam_names = std::move(names);
}

std::vector<Panel> split_panels(const SeamMesh& form, const Mesh& middle) {
  const auto part = connected_parts(form.mesh, [&](int a, int b) { return !form.seam_at(a, b).valid(); });
  std::vector<Panel> panels(part.empty() ? 0 : *std::max_element(part.begin(), part.end()) + 1);
  for (int f = 0; f < static_cast<int>(part.size()); ++f) panels[part[f]].faces.push_back(f);
  const Topology topo = topology_of(form.mesh);
  for (int i = 0; i < static_cast<int>(panels.size()); ++i) {
    panels[i].id = PanelId{i};
    take_faces(panels[i], form, middle, topo);
    find_border(panels[i], form);
  }
  return panels;
}

/// Marks the right-hand panel of each mirrored pair and rebuilds it as the exact image of the left one.
void pair_mirrored(std::vector<Panel>& panels, const SeamMesh& form) {
  const int half = static_cast<int>(form.mesh.triangles.size()) / 2;
  std::vector<int> panel_of(form.mesh.triangles.size());
  for (const Panel& p : panels)
    for (const int f : p.faces) panel_of[f] = p.id.value;
  for (Panel& left : panels) {
    if (left.faces[0] >= half) continue;
    Panel& right = panels[panel_of[left.faces[0] + half]];
    if (right.id == left.id) continue;
    if (left.faces.size() != right.faces.size() || std::any_of(left.faces.begin(), left.faces.end(), [&](int f) {
          return f >= half || panel_of[f + half] != right.id.value;
        }))
      continue;
    right.mirror_of = left.id;
    right.faces.clear();
    for (const int f : left.faces) right.faces.push_back(f + half);
    right.solid = left.solid;
    right.vertex_of = left.vertex_of;
    for (Vec3& p : right.solid.vertices) p.x() = -p.x();
    for (Tri& t : right.solid.triangles) std::swap(t[1], t[2]);
    for (int& v : right.vertex_of) v = form.twin_of[v];
    find_border(right, form);
  }
}

void copy_mirrored(std::vector<Panel>& panels) {
  for (Panel& right : panels) {
    if (!right.mirror_of) continue;
    right.flat = panels[right.mirror_of->value].flat;
    for (Vec2& p : right.flat) p.x() = -p.x();
  }
}

/// Turns the flat panel so that the wearer's up points to +y, and puts its middle at the origin.
void stand_upright(Panel& panel) {
  double s = 0.0, c = 0.0, area = 0.0;
  Vec2 middle = Vec2::Zero();
  for (const Tri& t : panel.solid.triangles) {
    const TriangleFrame frame =
        frame_of_triangle(panel.solid.vertices[t[0]], panel.solid.vertices[t[1]], panel.solid.vertices[t[2]]);
    Eigen::Matrix2d j = Eigen::Matrix2d::Zero();
    for (int k = 0; k < 3; ++k) j += panel.flat[t[k]] * frame.gradients.col(k).transpose();
    const Vec3 e1 = (panel.solid.vertices[t[1]] - panel.solid.vertices[t[0]]).normalized();
    const Vec3 n = area_vector(panel.solid, t).normalized();
    const Vec2 up = j * Vec2(e1.y(), n.cross(e1).y());
    s += frame.area_mm2 * up.x(), c += frame.area_mm2 * up.y(), area += frame.area_mm2;
    middle += frame.area_mm2 / 3.0 * (panel.flat[t[0]] + panel.flat[t[1]] + panel.flat[t[2]]);
  }
  const double angle = std::atan2(s, c);
  const Eigen::Matrix2d turn = Eigen::Rotation2Dd(angle).toRotationMatrix();
  for (Vec2& p : panel.flat) p = turn * (p - middle / area);
}

using SeamSides =
    std::map<std::pair<int, int>, std::vector<std::pair<int, int>>>;  // form edge -> (panel, border index)

SeamSides sides_of(const std::vector<Panel>& panels) {
  SeamSides sides;
  for (const Panel& p : panels)
    for (int i = 0; i < static_cast<int>(p.border.size()); ++i)
      if (p.border[i].seam.valid())
        sides[edge_of(p.vertex_of[p.border[i].a], p.vertex_of[p.border[i].b])].push_back({p.id.value, i});
  return sides;
}

double flat_length(const Panel& p, const BorderEdge& e) { return (p.flat[e.a] - p.flat[e.b]).norm(); }

std::vector<std::vector<EdgeTarget>> mean_targets(const std::vector<Panel>& panels, const SeamSides& sides) {
  std::vector<std::vector<EdgeTarget>> targets(panels.size());
  for (const auto& [edge, both] : sides) {
    double sum = 0.0;
    for (const auto& [p, i] : both) sum += flat_length(panels[p], panels[p].border[i]);
    for (const auto& [p, i] : both)
      targets[p].push_back({panels[p].border[i].a, panels[p].border[i].b, sum / static_cast<double>(both.size())});
  }
  return targets;
}

void measure_turns(std::vector<Panel>& panels, const SeamSides& sides) {
  std::vector<std::vector<Vec3>> normals;
  for (const Panel& p : panels) normals.push_back(vertex_normals(p.solid));
  const auto across = [&](int p, const BorderEdge& e, const Vec3& along) {
    const Vec3 n = normals[p][e.a] + normals[p][e.b];
    return Vec3(n - n.dot(along) * along).normalized();
  };
  for (const auto& [edge, both] : sides) {
    if (both.size() != 2) continue;
    Panel &p = panels[both[0].first], &q = panels[both[1].first];
    BorderEdge &e = p.border[both[0].second], &o = q.border[both[1].second];
    const Vec3 along = (p.solid.vertices[e.b] - p.solid.vertices[e.a]).normalized();
    const Vec3 n1 = across(p.id.value, e, along), n2 = across(q.id.value, o, along);
    e.turn_rad = o.turn_rad = std::atan2(n1.cross(n2).dot(along), n1.dot(n2));
  }
}

/// Free edges that are cut to another part turn by twice the blade's tilt, as seams do.
void take_rim_tilts(std::vector<Panel>& panels, const SeamMesh& form) {
  for (Panel& p : panels)
    for (BorderEdge& e : p.border) {
      if (e.seam.valid()) continue;
      const auto it = form.rim_tilt.find(edge_of(p.vertex_of[e.a], p.vertex_of[e.b]));
      e.turn_rad = it == form.rim_tilt.end() ? 0.0 : 2.0 * it->second;
    }
}

std::vector<Seam> list_seams(const std::vector<Panel>& panels, const SeamMesh& form, const SeamSides& sides) {
  std::vector<Seam> seams(form.seam_names.size());
  for (std::size_t i = 0; i < seams.size(); ++i)
    seams[i].id = SeamId{static_cast<int>(i)}, seams[i].name = form.seam_names[i];
  for (const auto& [edge, both] : sides) {
    const BorderEdge& first = panels[both[0].first].border[both[0].second];
    Seam& seam = seams[first.seam.value];
    const double length =
        (panels[both[0].first].solid.vertices[first.a] - panels[both[0].first].solid.vertices[first.b]).norm();
    seam.length_3d_mm += length;
    seam.mean_turn_rad += length * first.turn_rad;
    if (std::abs(first.turn_rad) > std::abs(seam.most_turn_rad)) seam.most_turn_rad = first.turn_rad;
    for (std::size_t k = 0; k < both.size() && k < 2; ++k) {
      seam.panels[k] = PanelId{both[k].first};
      seam.side_mm[k] += flat_length(panels[both[k].first], panels[both[k].first].border[both[k].second]);
    }
  }
  for (Seam& seam : seams) seam.mean_turn_rad /= std::max(seam.length_3d_mm, 1e-9);
  return seams;
}

void measure(Panel& panel) {
  panel.strain = summarise(panel.solid, panel.flat);
  panel.face_strain = triangle_strains(panel.solid, panel.flat);
  panel.flipped = count_flips(panel.solid, panel.flat);
  std::vector<Vec2> outline;
  for (const BorderEdge& e : panel.border) outline.push_back(panel.flat[e.a]);
  panel.overlaps = crosses_itself(outline);
}

/// Flattens all left-hand panels, then pulls seams to equal lengths.
Result<void> lay_flat(std::vector<Panel>& panels, const PanelOptions& options, const Progress& progress) {
  const int n = static_cast<int>(panels.size());
  std::vector<std::optional<Flattener>> flatteners(n);
  std::vector<std::optional<Error>> errors(n);
  std::mutex asking;
  std::atomic<int> done{0};
  const Progress shared([&](double) {
    const std::lock_guard lock(asking);
    return progress.keep_going(0.9 * done / (2.0 * n));
  });
  const auto each = [&](const std::function<Result<void>(int)>& job) {
    parallel_for(n, [&](int i) {
      if (!panels[i].mirror_of)
        if (auto result = job(i); !result) errors[i] = result.error();
      ++done;
    });
  };
  each([&](int i) -> Result<void> {
    auto flattener = Flattener::of(panels[i].solid, static_cast<int>(panels[i].holes.size()));
    if (!flattener) return fail(flattener);
    flatteners[i] = std::move(*flattener);
    FlattenOptions own = options.flatten;
    // What is matched to its neighbours later on is finished then, and no further before.
    const bool matched = options.match_seams &&
        std::any_of(panels[i].border.begin(), panels[i].border.end(), [](const auto& e) { return e.seam.valid(); });
    if (matched) own.finish_p = std::min(own.finish_p, kMatchedP);
    auto flat = flatteners[i]->flatten(own, shared);
    panels[i].flat = flatteners[i]->uv();
    return flat;
  });
  const auto first_error = [&]() -> Result<void> {
    for (int i = 0; i < n; ++i)
      if (errors[i]) return errors[i]->where = "panels/" + panels[i].name, fail(*errors[i]);
    return {};
  };
  if (auto good = first_error(); !good || !options.match_seams) return copy_mirrored(panels), good;
  copy_mirrored(panels);
  const auto targets = mean_targets(panels, sides_of(panels));
  each([&](int i) -> Result<void> {
    auto matched = flatteners[i]->match_edges(targets[i], options.flatten, shared);
    panels[i].flat = flatteners[i]->uv();
    return matched;
  });
  copy_mirrored(panels);
  return first_error();
}

/// A ring cut open once that turns by more than a full turn when laid flat, as a brim curled up at its sides does: it
/// is cut across the middle line too. False where there is none, or no middle line that would part it.
bool halve_rings(SeamMesh& form, const std::vector<Panel>& panels) {
  if (!is_mirrored(form)) return false;
  const std::size_t before = form.seam_of.size();
  for (const Panel& p : panels) {
    if (!p.overlaps || p.mirror_of) continue;
    std::map<std::pair<int, int>, int> own;  // the form's edges it has on both sides
    for (const BorderEdge& e : p.border)
      if (e.seam.valid()) ++own[edge_of(p.vertex_of[e.a], p.vertex_of[e.b])];
    const auto slit = std::find_if(own.begin(), own.end(), [](const auto& e) { return e.second == 2; });
    if (slit == own.end()) continue;
    const std::string name = form.seam_names[form.seam_at(slit->first.first, slit->first.second).value];
    const SeamId fresh{static_cast<int>(form.seam_names.size())};
    const std::size_t cut = form.seam_of.size();
    for (const Tri& t : p.solid.triangles)
      for (int k = 0; k < 3; ++k) {
        const int a = p.vertex_of[t[k]], b = p.vertex_of[t[(k + 1) % 3]];
        if (form.twin_of[a] == a && form.twin_of[b] == b) form.seam_of.try_emplace(edge_of(a, b), fresh);
      }
    if (form.seam_of.size() > cut) form.seam_names.push_back(name + ", part 2");
  }
  return form.seam_of.size() > before;
}

/// Plates lie as they were drawn.
void take_drawn(std::vector<Panel>& panels, const SeamMesh& form) {
  for (Panel& p : panels) {
    p.given_flat = true;
    p.flat.clear();
    for (const int v : p.vertex_of) p.flat.push_back(form.flat[v]);
  }
}

}  // namespace

FormSpan span_of(const SeamMesh& form, const std::string& name, bool outside, double thickness_mm) {
  FormSpan span{name, static_cast<int>(form.mesh.vertices.size()), static_cast<int>(form.mesh.triangles.size()),
      outside, thickness_mm, {}};
  if (!form.sheet_of.empty())
    for (int v = 0; v < span.vertices; ++v) span.own_mm.push_back(form.thickness_at(v, thickness_mm));
  return span;
}

Mesh sheet_face(const Mesh& mesh, const std::vector<FormSpan>& spans, bool outer) {
  std::vector<double> by;
  for (const FormSpan& span : spans)
    for (int v = 0; v < span.vertices; ++v)
      by.push_back(span.outside == outer ? 0.0 : outer ? span.thickness_at(v) : -span.thickness_at(v));
  return sheet_offset(mesh, by);
}

void lean_rims(const SeamMesh& form, Mesh& outer, Mesh& inner) {
  constexpr double kMostLean = 1.7;  // of half the thickness: about 60 degrees
  if (form.rim_tilt.empty()) return;
  std::vector<Vec3> lean(outer.vertices.size(), Vec3::Zero());
  std::vector<int> count(outer.vertices.size(), 0);
  for (const auto& loop : border_loops(form.mesh))
    for (std::size_t i = 0; i < loop.size(); ++i) {
      const int a = loop[i], b = loop[(i + 1) % loop.size()];
      const auto tilt = form.rim_tilt.find(edge_of(a, b));
      if (tilt == form.rim_tilt.end()) continue;
      const Vec3 through = outer.vertices[a] - inner.vertices[a] + outer.vertices[b] - inner.vertices[b];
      const Vec3 out = (form.mesh.vertices[b] - form.mesh.vertices[a]).cross(through);
      if (out.norm() < 1e-9) continue;
      const double by = 0.25 * through.norm() * std::clamp(std::tan(tilt->second), -kMostLean, kMostLean);
      for (const int v : {a, b}) lean[v] += by * out.normalized(), ++count[v];
    }
  for (std::size_t v = 0; v < lean.size(); ++v)
    if (count[v] > 0) outer.vertices[v] += lean[v] / count[v], inner.vertices[v] -= lean[v] / count[v];
}

Mesh sheet_face(const SeamMesh& form, const FormSpan& span, bool outer) {
  const auto plain = [&](bool of_outer) {
    if (form.middle.empty()) return sheet_face(form.mesh, {span}, of_outer);
    std::vector<double> by;
    for (int v = 0; v < span.vertices; ++v) by.push_back((of_outer ? 0.5 : -0.5) * span.thickness_at(v));
    return sheet_offset({form.middle, form.mesh.triangles}, by);
  };
  Mesh face = plain(outer);
  if (form.rim_tilt.empty()) return face;
  Mesh other = plain(!outer);
  outer ? lean_rims(form, face, other) : lean_rims(form, other, face);
  return face;
}

Mesh sheet_solid(const Mesh& mesh, const std::vector<FormSpan>& spans) {
  Mesh solid;
  int v0 = 0, f0 = 0;
  for (const FormSpan& span : spans) {
    Mesh part{{mesh.vertices.begin() + v0, mesh.vertices.begin() + v0 + span.vertices},
        {mesh.triangles.begin() + f0, mesh.triangles.begin() + f0 + span.triangles}};
    for (Tri& t : part.triangles)
      for (int& v : t) v -= v0;
    const Mesh body = solid_between(sheet_face(part, {span}, true), sheet_face(part, {span}, false));
    const int at = static_cast<int>(solid.vertices.size());
    solid.vertices.insert(solid.vertices.end(), body.vertices.begin(), body.vertices.end());
    for (const Tri& t : body.triangles) solid.triangles.push_back({t[0] + at, t[1] + at, t[2] + at});
    v0 += span.vertices, f0 += span.triangles;
  }
  return solid;
}

SeamMesh join_forms(const std::vector<const SeamMesh*>& parts) {
  SeamMesh all;
  const bool mirrored = std::all_of(parts.begin(), parts.end(), [](const SeamMesh* p) { return !p->twin_of.empty(); });
  for (const SeamMesh* part : parts) {
    const int v0 = static_cast<int>(all.mesh.vertices.size()), s0 = static_cast<int>(all.seam_names.size());
    all.mesh.vertices.insert(all.mesh.vertices.end(), part->mesh.vertices.begin(), part->mesh.vertices.end());
    for (const Tri& t : part->mesh.triangles) all.mesh.triangles.push_back({t[0] + v0, t[1] + v0, t[2] + v0});
    for (const auto& [edge, id] : part->seam_of)
      all.seam_of[{edge.first + v0, edge.second + v0}] = SeamId{id.value + s0};
    all.seam_names.insert(all.seam_names.end(), part->seam_names.begin(), part->seam_names.end());
    for (const int v : part->opening) all.opening.insert(v + v0);
    for (const auto& [edge, tilt] : part->rim_tilt) all.rim_tilt[{edge.first + v0, edge.second + v0}] = tilt;
    if (mirrored)
      for (const int v : part->twin_of) all.twin_of.push_back(v + v0);
  }
  return all;
}

PanelSet join_panels(const std::vector<std::shared_ptr<const PanelSet>>& parts) {
  if (parts.size() == 1) return *parts[0];
  PanelSet all;
  std::vector<const SeamMesh*> forms;
  for (const auto& part : parts) forms.push_back(&part->form);
  all.form = join_forms(forms);
  int v0 = 0, f0 = 0;
  for (const auto& part : parts) {
    const int p0 = static_cast<int>(all.panels.size()), s0 = static_cast<int>(all.seams.size());
    const std::string& of = part->spans.front().name;
    for (Panel p : part->panels) {
      p.id.value += p0, p.part = static_cast<int>(all.spans.size());
      if (p.mirror_of) p.mirror_of->value += p0;
      for (int& v : p.vertex_of) v += v0;
      for (int& f : p.faces) f += f0;
      for (BorderEdge& e : p.border)
        if (e.seam.valid()) e.seam.value += s0;
      p.name = part->panels.size() == 1 ? of : of + ", " + p.name;
      all.panels.push_back(std::move(p));
    }
    for (Seam s : part->seams) {
      s.id.value += s0;
      for (PanelId& p : s.panels)
        if (p.valid()) p.value += p0;
      s.name = of + ", " + s.name;
      all.seams.push_back(std::move(s));
    }
    v0 += static_cast<int>(part->form.mesh.vertices.size()), f0 += static_cast<int>(part->form.mesh.triangles.size());
    all.spans.insert(all.spans.end(), part->spans.begin(), part->spans.end());
  }
  letter_seams(all.seams);
  return all;
}

double PanelSet::seam_total_mm() const {
  double sum = 0.0;
  for (const Seam& s : seams) sum += s.length_3d_mm;
  return sum;
}

std::string letter_of(int index) {
  std::string text(1, static_cast<char>('A' + index % 26));
  return index < 26 ? text : letter_of(index / 26 - 1) + text;
}

Result<PanelSet> make_panels(SeamMesh form, const PanelOptions& options, const Progress& progress) {
  // Where two drawn lines cross at a slant they may enclose a crumb that nobody drew.
  constexpr double kCrumbMm2 = 2.0;
  const double least_mm2 = form.twin_of.empty() ? kCrumbMm2 : options.least_mm2;
  if (least_mm2 > 0.0 && form.flat.empty()) absorb_slivers(form, least_mm2), forget_empty_seams(form);
  PanelSet set;
  const bool drawn_flat = !form.flat.empty();
  std::vector<double> half_mm;
  for (int v = 0; v < static_cast<int>(form.mesh.vertices.size()); ++v)
    half_mm.push_back((options.form_is_outside ? -0.5 : 0.5) * form.thickness_at(v, options.thickness_mm));
  const Mesh middle = !form.middle.empty()         ? Mesh{form.middle, form.mesh.triangles}
      : !drawn_flat && options.thickness_mm != 0.0 ? sheet_offset(form.mesh, half_mm)
                                                   : form.mesh;
  set.panels = split_panels(form, middle);
  for (Panel& p : set.panels) {
    p.thickness_mm = form.thickness_at(p.vertex_of[0], options.thickness_mm);
    if (!form.sheet_of.empty()) p.bevel_deg = form.sheets[form.sheet_of[p.vertex_of[0]]].bevel_deg;
  }
  if (is_mirrored(form)) pair_mirrored(set.panels, form);
  name_panels(set.panels, !form.twin_of.empty());
  if (drawn_flat)
    take_drawn(set.panels, form);
  else if (auto flat = lay_flat(set.panels, options, progress.span(0.05, 0.95)); !flat)
    return fail(flat);
  for (Panel& p : set.panels)
    if (!p.mirror_of && !drawn_flat) stand_upright(p);
  copy_mirrored(set.panels);
  for (Panel& p : set.panels) measure(p);
  if (!drawn_flat && halve_rings(form, set.panels)) return make_panels(std::move(form), options, progress);
  const SeamSides sides = sides_of(set.panels);
  measure_turns(set.panels, sides);
  take_rim_tilts(set.panels, form);
  set.seams = list_seams(set.panels, form, sides);
  letter_seams(set.seams);
  set.spans = {span_of(form, options.name, options.form_is_outside, options.thickness_mm)};
  set.form = std::move(form);
  return set;
}

PanelSet with_rim_tilts(PanelSet set, const std::map<std::pair<int, int>, double>& rim_tilt) {
  set.form.rim_tilt = rim_tilt;
  take_rim_tilts(set.panels, set.form);
  return set;
}

}  // namespace awl
