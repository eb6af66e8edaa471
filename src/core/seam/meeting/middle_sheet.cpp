#include "core/seam/meeting/middle_sheet.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/geom/offset.hpp"
#include "core/seam/meeting/rim_tilt.hpp"

namespace awl {
namespace {

std::array<double, 3> key_of(const Vec3& p) { return {p.x(), p.y(), p.z()}; }

/// Out of the surface past its rim, at every corner of a stretch of it, evened along it; unit.
std::vector<Vec3> outwards(const Mesh& mesh, const std::vector<int>& chain, bool closed) {
  constexpr int kRounds = 3;
  const std::size_t n = chain.size();
  const auto normals = vertex_normals(mesh);
  std::vector<Vec3> out(n, Vec3::Zero());
  for (std::size_t i = 0; i + (closed ? 0 : 1) < n; ++i) {
    const int a = chain[i], b = chain[(i + 1) % n];
    const Vec3 along = mesh.vertices[b] - mesh.vertices[a], aside = along.cross(normals[a] + normals[b]);
    out[i] += aside, out[(i + 1) % n] += aside;
  }
  for (int round = 0; round < kRounds; ++round) {
    auto next = out;
    for (std::size_t i = 0; i < n; ++i) {
      if (!closed && (i == 0 || i + 1 == n)) continue;
      next[i] = 0.5 * out[i] + 0.25 * (out[(i + n - 1) % n] + out[(i + 1) % n]);
    }
    out = next;
  }
  for (Vec3& d : out) d = d.norm() > 1e-12 ? Vec3(d.normalized()) : Vec3(Vec3::UnitY());
  return out;
}

double mean_step(const Mesh& mesh, const std::vector<int>& chain) {
  double sum = 0.0;
  for (std::size_t i = 0; i + 1 < chain.size(); ++i)
    sum += (mesh.vertices[chain[i + 1]] - mesh.vertices[chain[i]]).norm();
  return sum / std::max<double>(1.0, static_cast<double>(chain.size()) - 1.0);
}

/// How one row of a skirt follows another: triangles between two rows of corners, the first with the surface on its
/// left.
void add_row(std::vector<Tri>& triangles, const std::vector<int>& row, const std::vector<int>& next, bool closed) {
  for (std::size_t i = 0; i + (closed ? 0 : 1) < row.size(); ++i) {
    const std::size_t j = (i + 1) % row.size();
    triangles.push_back({row[j], row[i], next[i]});
    triangles.push_back({row[j], next[i], next[j]});
  }
}

int rows_of(double long_mm, double step_mm) {
  constexpr double kLeastMm = 3.0, kMostMm = 9.0;
  return std::max(1, static_cast<int>(std::ceil(long_mm / std::clamp(step_mm, kLeastMm, kMostMm))));
}

}  // namespace

Mesh carried_on(const Mesh& mesh, double mm) {
  constexpr double kSmallGirthMm = 220.0;
  Mesh more = mesh;
  for (const auto& loop : border_loops(mesh)) {
    double girth = 0.0;
    Vec3 middle = Vec3::Zero();
    for (std::size_t i = 0; i < loop.size(); ++i) {
      girth += (mesh.vertices[loop[(i + 1) % loop.size()]] - mesh.vertices[loop[i]]).norm();
      middle += mesh.vertices[loop[i]] / static_cast<double>(loop.size());
    }
    if (girth < kSmallGirthMm) {
      const int hub = static_cast<int>(more.vertices.size());
      more.vertices.push_back(middle);
      for (std::size_t i = 0; i < loop.size(); ++i)
        more.triangles.push_back({loop[(i + 1) % loop.size()], loop[i], hub});
      continue;
    }
    const auto out = outwards(mesh, loop, true);
    const int rows = rows_of(mm, mean_step(mesh, loop));
    std::vector<int> row = loop;
    for (int k = 1; k <= rows; ++k) {
      std::vector<int> next;
      for (std::size_t i = 0; i < loop.size(); ++i) {
        next.push_back(static_cast<int>(more.vertices.size()));
        more.vertices.push_back(mesh.vertices[loop[i]] + mm * k / rows * out[i]);
      }
      add_row(more.triangles, row, next, true);
      row = std::move(next);
    }
  }
  return more;
}

MiddleSheet::MiddleSheet(const MeetSide& side, bool halved) : side_(side) {
  const SeamMesh& form = *side.form;
  const Mesh middle = middle_of(side);
  draft.mirrored = halved && is_mirrored(form), draft.outside = side.outside;
  std::vector<int> faces(form.mesh.triangles.size() / (draft.mirrored ? 2 : 1)), old;
  for (std::size_t f = 0; f < faces.size(); ++f) faces[f] = static_cast<int>(f);
  form_ = part_of(form.mesh, faces, old);
  draft.mesh.triangles = form_.triangles;
  std::vector<int> now(form.mesh.vertices.size(), -1);
  for (std::size_t v = 0; v < old.size(); ++v) {
    const int w = old[v];
    now[w] = static_cast<int>(v);
    draft.mesh.vertices.push_back(middle.vertices[w]);
    if (draft.mirrored && form.twin_of[w] == w) draft.mesh.vertices.back().x() = form_.vertices[v].x() = 0.0;
    home_.push_back(form.home.empty() ? form.mesh.vertices[w] : form.home[w]);
    if (!form.flat.empty()) flat_.push_back(form.flat[w]);
    if (!form.sheet_of.empty()) sheet_.push_back(form.sheet_of[w]);
    if (form.opening.count(w) != 0) draft.opening.insert(static_cast<int>(v));
    before_.insert(key_of(draft.mesh.vertices.back()));
  }
  for (const auto& [edge, tilt] : form.rim_tilt) {
    const auto [a, b] = edge;
    if (now[a] < 0 || now[b] < 0) continue;
    const auto p = key_of(draft.mesh.vertices[now[a]]), q = key_of(draft.mesh.vertices[now[b]]);
    tilts_[std::minmax(p, q)] = tilt;
  }
  draft.home = form_.vertices;
  draft.seam_names = form.seam_names;
  for (std::size_t s = 0; s < form.seam_names.size(); ++s) image_.push_back(static_cast<int>(s));
  for (const auto& [edge, id] : form.seam_of) {
    if (now[edge.first] >= 0 && now[edge.second] >= 0)
      draft.seams[edge_of(now[edge.first], now[edge.second])] = id.value;
    if (draft.mirrored)
      if (const SeamId twin = form.seam_at(form.twin_of[edge.first], form.twin_of[edge.second]); twin.valid())
        image_[id.value] = twin.value;
  }
}

double MiddleSheet::to_middle_mm() const {
  if (!side_.form->flat.empty() || !side_.form->sheets.empty()) return 0.0;
  return (side_.outside ? -0.5 : 0.5) * side_.thickness_mm;
}

Mesh MiddleSheet::both(const Mesh& half) const { return draft.mirrored ? mirror_half(half).mesh : half; }

Mesh MiddleSheet::face(bool outer) const {
  const Mesh middle = whole();
  if (to_middle_mm() == 0.0) return middle;
  const double by = (outer ? 0.5 : -0.5) * side_.thickness_mm;
  return sheet_offset(middle, std::vector<double>(middle.vertices.size(), by));
}

std::vector<std::pair<std::vector<int>, bool>> MiddleSheet::rims() const {
  std::vector<std::pair<std::vector<int>, bool>> all;
  for (auto loop : border_loops(draft.mesh)) {
    const std::size_t n = loop.size();
    const auto middle = [&](std::size_t i) { return in_mirror(loop[i % n]) && in_mirror(loop[(i + 1) % n]); };
    std::size_t first = 0;
    while (first < n && !middle(first)) ++first;
    if (first == n) {
      all.push_back({std::move(loop), true});
      continue;
    }
    std::vector<int> chain;
    for (std::size_t k = 1; k <= n; ++k) {
      const std::size_t i = (first + k) % n;
      if (middle(i)) {
        if (!chain.empty()) chain.push_back(loop[i]), all.push_back({chain, false});
        chain.clear();
      } else {
        chain.push_back(loop[i]);
      }
    }
  }
  return all;
}

void MiddleSheet::add_skirt(const std::vector<int>& chain, bool closed, double long_mm) {
  auto out = outwards(draft.mesh, chain, closed);
  const Topology topo = topology_of(draft.mesh);
  const std::set<int> on_rim(chain.begin(), chain.end());
  // How the form's own frame goes on: as it did towards the rim.
  struct Going {
    Vec3 home = Vec3::Zero();
    Vec2 flat = Vec2::Zero();
    int seam = -1;
  };
  std::vector<Going> going(chain.size());
  for (std::size_t i = 0; i < chain.size(); ++i) {
    const int v = chain[i];
    if (in_mirror(v)) out[i].x() = 0.0, out[i].normalize();
    Vec3 from = Vec3::Zero(), from_home = Vec3::Zero();
    Vec2 from_flat = Vec2::Zero();
    int count = 0;
    for (const int f : topo.faces_round[v])
      for (const int w : draft.mesh.triangles[f]) {
        if (const auto it = draft.seams.find(edge_of(v, w)); it != draft.seams.end() && on_rim.count(w) == 0)
          going[i].seam = it->second;
        if (on_rim.count(w) != 0) continue;
        from += draft.mesh.vertices[w], from_home += home_[w], ++count;
        if (!flat_.empty()) from_flat += flat_[w];
      }
    if (count == 0) continue;
    const double along = std::max(1.0, (draft.mesh.vertices[v] - from / count).dot(out[i]));
    going[i].home = (home_[v] - from_home / count) / along;
    if (!flat_.empty()) going[i].flat = (flat_[v] - from_flat / count) / along;
    if (in_mirror(v)) going[i].home.x() = 0.0;
  }
  const int rows = rows_of(long_mm, mean_step(draft.mesh, chain));
  std::vector<int> row = chain;
  for (int k = 1; k <= rows; ++k) {
    const double far = long_mm * k / rows;
    std::vector<int> next;
    for (std::size_t i = 0; i < chain.size(); ++i) {
      const int v = chain[i], fresh = static_cast<int>(draft.mesh.vertices.size());
      next.push_back(fresh);
      draft.mesh.vertices.push_back(draft.mesh.vertices[v] + far * out[i]);
      draft.home.push_back(draft.home[v] + far * out[i]);
      home_.push_back(home_[v] + far * going[i].home);
      if (!flat_.empty()) flat_.push_back(flat_[v] + far * going[i].flat);
      if (!sheet_.empty()) sheet_.push_back(sheet_[v]);
      if (going[i].seam >= 0) draft.seams[edge_of(row[i], fresh)] = going[i].seam;
    }
    add_row(draft.mesh.triangles, row, next, closed);
    row = std::move(next);
  }
  form_ = {draft.home, draft.mesh.triangles};
}

double MiddleSheet::carry_on(const OpenField& field, double reach_mm) {
  constexpr double kProbeMm = 4.0, kTowards = 0.25, kBelowMm = 14.0;
  double farthest = 0.0;
  for (const auto& [chain, closed] : rims()) {
    const auto open = std::count_if(chain.begin(), chain.end(), [&](int v) { return draft.opening.count(v) != 0; });
    if (2 * open > static_cast<long>(chain.size())) continue;
    const auto out = outwards(draft.mesh, chain, closed);
    double towards = 0.0, far = -1e300, below = 1e300;
    for (std::size_t i = 0; i < chain.size(); ++i) {
      const Vec3& p = draft.mesh.vertices[chain[i]];
      const double above = field(p);
      far = std::max(far, above), below = std::min(below, above);
      towards += (above - field(p + kProbeMm * out[i])) / (kProbeMm * static_cast<double>(chain.size()));
    }
    if (towards < kTowards || far < -0.5 * kBelowMm) continue;
    farthest = std::max(farthest, far);
    if (far > reach_mm) continue;
    add_skirt(chain, closed, std::max(0.0, far) / std::max(towards, 0.5) + kBelowMm);
  }
  return farthest;
}

void MiddleSheet::cut(const std::function<double(const Vec3&)>& f) {
  trim(draft, f);
  keep_parts(draft, [&](const Vec3& p) { return before_.count(key_of(p)) != 0; });
}

void MiddleSheet::drop_crumbs(double share) {
  const auto part = connected_parts(draft.mesh, [](int, int) { return true; });
  std::map<int, double> area;
  for (std::size_t f = 0; f < part.size(); ++f)
    area[part[f]] += area_vector(draft.mesh, draft.mesh.triangles[f]).norm();
  double most = 0.0;
  for (const auto& [id, twice] : area) most = std::max(most, twice);
  std::set<std::array<double, 3>> kept;
  for (std::size_t f = 0; f < part.size(); ++f)
    if (area[part[f]] >= share * most)
      for (const int v : draft.mesh.triangles[f]) kept.insert(key_of(draft.mesh.vertices[v]));
  keep_parts(draft, [&](const Vec3& p) { return kept.count(key_of(p)) != 0; });
}

void MiddleSheet::settle() {
  const Nearest near(form_);
  std::vector<Vec3> home;
  std::vector<Vec2> flat;
  std::vector<int> sheet;
  for (std::size_t v = 0; v < draft.home.size(); ++v) {
    const NearestHit hit = near.to(draft.home[v]);
    home.push_back(value_at(hit, form_, home_));
    if (in_mirror(static_cast<int>(v))) home.back().x() = 0.0;
    if (!flat_.empty()) flat.push_back(value_at(hit, form_, flat_));
    if (!sheet_.empty()) sheet.push_back(sheet_[form_.triangles[hit.triangle][0]]);
  }
  home_ = std::move(home), flat_ = std::move(flat), sheet_ = std::move(sheet);
  form_ = {draft.home, draft.mesh.triangles};
}

void MiddleSheet::move(const std::vector<Vec3>& by) {
  settle();
  for (std::size_t v = 0; v < by.size(); ++v) draft.mesh.vertices[v] += by[v], draft.home[v] += by[v];
  form_.vertices = draft.home;
}

std::vector<int> MiddleSheet::split_rim(int a, int b, const std::vector<Vec3>& at) {
  auto& triangles = draft.mesh.triangles;
  std::size_t f = 0;
  int apex = -1;
  for (; f < triangles.size() && apex < 0; ++f)
    for (int k = 0; k < 3; ++k)
      if (triangles[f][k] == a && triangles[f][(k + 1) % 3] == b) apex = triangles[f][(k + 2) % 3];
  expects(apex >= 0, "MiddleSheet::split_rim: no rim runs between these corners");
  --f;
  const Vec3 p = draft.mesh.vertices[a], q = draft.mesh.vertices[b];
  std::vector<int> fresh;
  for (const Vec3& place : at) {
    const double t = std::clamp((place - p).dot(q - p) / std::max((q - p).squaredNorm(), 1e-12), 0.0, 1.0);
    fresh.push_back(static_cast<int>(draft.mesh.vertices.size()));
    draft.mesh.vertices.push_back(place);
    draft.home.push_back((1.0 - t) * draft.home[a] + t * draft.home[b] + place - (p + t * (q - p)));
  }
  std::vector<int> row{a};
  row.insert(row.end(), fresh.begin(), fresh.end());
  row.push_back(b);
  triangles[f] = {row[0], row[1], apex};
  for (std::size_t i = 1; i + 1 < row.size(); ++i) triangles.push_back({row[i], row[i + 1], apex});
  return fresh;
}

void MiddleSheet::take_in(const MiddleSheet& other, const std::map<int, int>& same, const std::string& seam) {
  constexpr double kApartMm = 1000.0;  // between the frames of both
  settle();
  MiddleSheet more = other;
  more.settle();
  double top = 0.0, foot = 0.0;
  for (const Vec3& h : home_) top = std::max(top, h.y());
  for (const Vec3& h : more.home_) foot = std::min(foot, h.y());
  const Vec3 up(0.0, kApartMm * (1.0 + std::ceil((top - foot) / kApartMm)), 0.0);
  const int labels = static_cast<int>(draft.seam_names.size());
  const auto normals = vertex_normals(more.draft.mesh);
  std::vector<int> now(more.draft.mesh.vertices.size());
  for (std::size_t v = 0; v < now.size(); ++v) {
    if (const auto it = same.find(static_cast<int>(v)); it != same.end()) {
      now[v] = it->second;
      continue;
    }
    now[v] = static_cast<int>(draft.mesh.vertices.size());
    draft.mesh.vertices.push_back(more.draft.mesh.vertices[v]);
    draft.home.push_back(more.draft.mesh.vertices[v] - to_middle_mm() * normals[v]);
    home_.push_back(more.home_[v] + up);
  }
  for (const Tri& t : more.draft.mesh.triangles) draft.mesh.triangles.push_back({now[t[0]], now[t[1]], now[t[2]]});
  for (const auto& [edge, label] : more.draft.seams)
    draft.seams.try_emplace(edge_of(now[edge.first], now[edge.second]), label + labels);
  for (const int v : more.draft.opening) draft.opening.insert(now[v]);
  for (const std::string& name : more.draft.seam_names) draft.seam_names.push_back(more.side_.name + " " + name);
  for (const int image : more.image_) image_.push_back(image + labels);
  // Where they meet: edges of both whose ends are the same.
  const bool crosses = !draft.mirrored ||
      std::any_of(same.begin(), same.end(), [&](const auto& pair) { return in_mirror(pair.second); });
  const int label = draft.seam(seam + (crosses ? "" : " left"));
  image_.push_back(crosses ? label : draft.seam(seam + " right"));
  if (!crosses) image_.push_back(label);
  tilts_.insert(more.tilts_.begin(), more.tilts_.end());
  for (const auto& e : topology_of(more.draft.mesh).edges)
    if (e.right < 0 && same.count(e.a) != 0 && same.count(e.b) != 0 && !(more.in_mirror(e.a) && more.in_mirror(e.b)))
      draft.seams[edge_of(now[e.a], now[e.b])] = label;
  form_ = {draft.home, draft.mesh.triangles};
}

SeamMesh MiddleSheet::form() const {
  SeamMesh whole;
  const std::size_t n = draft.mesh.vertices.size();
  std::vector<Vec3> at = draft.home;
  Mesh middle = draft.mesh;
  if (draft.mirrored) {
    Mirrored mirrored = mirror_half(draft.mesh);
    middle = std::move(mirrored.mesh), whole.twin_of = std::move(mirrored.twin_of);
    at.resize(middle.vertices.size());
    for (std::size_t v = 0; v < n; ++v)
      at[whole.twin_of[v]] = Vec3(-at[v].x(), at[v].y(), at[v].z()), at[v] = draft.home[v];
  }
  whole.mesh = {std::move(at), middle.triangles};
  if (to_middle_mm() != 0.0) whole.middle = std::move(middle.vertices);
  const Nearest near(form_);
  const auto put = [&](auto& values, std::size_t v, auto value, auto mirror) {
    values[v] = value;
    if (draft.mirrored && whole.twin_of[v] != static_cast<int>(v)) values[whole.twin_of[v]] = mirror;
  };
  const std::size_t all = whole.mesh.vertices.size();
  whole.home.resize(all);
  if (!flat_.empty()) whole.flat.resize(all);
  if (!sheet_.empty()) whole.sheet_of.resize(all);
  for (std::size_t v = 0; v < n; ++v) {
    const NearestHit hit = near.to(draft.home[v]);
    Vec3 home = value_at(hit, form_, home_);
    if (in_mirror(static_cast<int>(v))) home.x() = 0.0;
    put(whole.home, v, home, Vec3(-home.x(), home.y(), home.z()));
    if (!flat_.empty()) {
      const Vec2 flat = value_at(hit, form_, flat_);
      put(whole.flat, v, flat, Vec2(-flat.x(), flat.y()));
    }
    if (!sheet_.empty())
      put(whole.sheet_of, v, sheet_[form_.triangles[hit.triangle][0]], sheet_[form_.triangles[hit.triangle][0]]);
  }
  whole.sheets = side_.form->sheets;
  whole.seam_names = draft.seam_names;
  for (const auto& [edge, label] : draft.seams) {
    whole.seam_of[edge] = SeamId{label};
    if (draft.mirrored)
      whole.seam_of.try_emplace(edge_of(whole.twin_of[edge.first], whole.twin_of[edge.second]), SeamId{image_[label]});
  }
  if (!tilts_.empty())
    for (const auto& e : topology_of(draft.mesh).edges) {
      if (e.right >= 0) continue;
      const auto p = key_of(draft.mesh.vertices[e.a]), q = key_of(draft.mesh.vertices[e.b]);
      const auto held = tilts_.find(std::minmax(p, q));
      if (held == tilts_.end()) continue;
      whole.rim_tilt[edge_of(e.a, e.b)] = held->second;
      if (draft.mirrored) whole.rim_tilt[edge_of(whole.twin_of[e.a], whole.twin_of[e.b])] = held->second;
    }
  for (const int v : draft.opening) {
    whole.opening.insert(v);
    if (draft.mirrored) whole.opening.insert(whole.twin_of[v]);
  }
  separate_chains(whole);
  return whole;
}

}  // namespace awl
