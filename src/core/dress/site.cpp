#include "core/dress/site.hpp"

#include <algorithm>
#include <cmath>
#include <map>

#include "core/geom/section.hpp"

namespace awl {
namespace {

double mean_edge(const Mesh& mesh) {
  double sum = 0.0;
  for (const Tri& t : mesh.triangles)
    for (int k = 0; k < 3; ++k) sum += (mesh.vertices[t[k]] - mesh.vertices[t[(k + 1) % 3]]).norm();
  return mesh.triangles.empty() ? 5.0 : sum / (3.0 * static_cast<double>(mesh.triangles.size()));
}

double mean_y(const std::vector<Vec3>& line) {
  double sum = 0.0;
  for (const Vec3& p : line) sum += p.y() / static_cast<double>(line.size());
  return sum;
}

/// Turned so that it begins at its front: in the middle, furthest forward.
void begin_at_front(std::vector<Vec3>& loop) {
  const auto first = std::max_element(loop.begin(), loop.end(),
      [](const Vec3& a, const Vec3& b) { return a.z() - 0.01 * std::abs(a.x()) < b.z() - 0.01 * std::abs(b.x()); });
  std::rotate(loop.begin(), first, loop.end());
}

std::vector<SiteLine> rims_of_face(const Mesh& outer) {
  std::vector<SiteLine> rims;
  for (const auto& loop : border_loops(outer)) {
    SiteLine rim;
    rim.closed = true;
    for (const int v : loop) rim.at.push_back(outer.vertices[v]);
    begin_at_front(rim.at);
    rims.push_back(std::move(rim));
  }
  std::stable_sort(rims.begin(), rims.end(), [](const SiteLine& a, const SiteLine& b) {
    const double ya = mean_y(a.at), yb = mean_y(b.at);
    // Openings at one height go by side, the wearer's left first.
    return std::abs(ya - yb) > 1.0 ? ya < yb : a.at.front().x() > b.at.front().x() + 1.0;
  });
  for (std::size_t i = 0; i < rims.size(); ++i) rims[i].name = "rim " + std::to_string(i + 1);
  return rims;
}

/// Edges joined end to end, each used once; at a branching the straightest goes on.
std::vector<std::vector<int>> chains_of(const std::vector<std::pair<int, int>>& edges, const std::vector<Vec3>& at) {
  std::map<int, std::vector<int>> next;
  for (const auto& [a, b] : edges) next[a].push_back(b), next[b].push_back(a);
  std::set<std::pair<int, int>> used;
  const auto key = [](int a, int b) { return std::pair{std::min(a, b), std::max(a, b)}; };
  std::vector<std::vector<int>> all;
  const auto walk = [&](int start, int to) {
    std::vector<int> chain{start};
    for (int now = start; to >= 0;) {
      used.insert(key(now, to));
      const Vec3 before = (at[to] - at[now]).normalized();
      chain.push_back(to), now = to, to = -1;
      double best = -0.2;
      for (const int w : next[now])
        if (const double straight = before.dot((at[w] - at[now]).normalized());
            used.count(key(now, w)) == 0 && straight > best)
          best = straight, to = w;
    }
    all.push_back(std::move(chain));
  };
  for (const auto& [v, to] : next)
    if (to.size() != 2)
      for (const int w : to)
        if (used.count(key(v, w)) == 0) walk(v, w);
  for (const auto& [a, b] : edges)
    if (used.count(key(a, b)) == 0) walk(a, b);
  return all;
}

/// The middles of level lines of a sweep's own frame, a plain cylinder about the upright axis: of the wearer's left
/// one.
std::vector<Vec3> spine_by_home(const SeamMesh& form, const Mesh& outer) {
  const bool pair = is_mirrored(form);
  constexpr int kLevels = 60;
  std::vector<double> heights;
  double low = 1e300, high = -1e300;
  for (const Vec3& h : form.home) heights.push_back(h.y()), low = std::min(low, h.y()), high = std::max(high, h.y());
  std::vector<Vec3> spine;
  for (int i = 0; i <= kLevels; ++i) {
    const double level = low + (high - low) * (0.002 + 0.996 * i / kLevels);
    std::vector<double> above;
    for (const double h : heights) above.push_back(h - level);
    double longest = 0.0;
    Vec3 middle = Vec3::Zero();
    for (const auto& line : zero_lines(outer, above)) {
      Vec3 sum = Vec3::Zero();
      double length = 0.0;
      for (std::size_t k = 0; k + 1 < line.size(); ++k) {
        const double step = (line[k + 1] - line[k]).norm();
        sum += 0.5 * step * (line[k] + line[k + 1]), length += step;
      }
      if (length <= longest || length <= 0.0 || (pair && sum.x() / length < -1.0)) continue;
      longest = length, middle = sum / length;
    }
    if (longest > 0.0) spine.push_back(middle);
  }
  return spine;
}

}  // namespace

double length_of(const std::vector<Vec3>& line, bool closed) {
  double sum = 0.0;
  for (std::size_t i = 0; i + (closed ? 0 : 1) < line.size(); ++i)
    sum += (line[(i + 1) % line.size()] - line[i]).norm();
  return sum;
}

std::vector<SiteLine> seam_lines(const SeamMesh& form, const Mesh& outer) {
  std::map<int, std::vector<std::pair<int, int>>> by_seam;
  for (const auto& [edge, id] : form.seam_of) by_seam[id.value].push_back(edge);
  std::vector<SiteLine> all;
  for (const auto& [id, edges] : by_seam)
    for (const auto& chain : chains_of(edges, outer.vertices)) {
      SiteLine line;
      line.name = form.seam_names[id];
      line.closed = chain.size() > 3 && chain.front() == chain.back();
      for (std::size_t i = 0; i + (line.closed ? 1 : 0) < chain.size(); ++i)
        line.at.push_back(outer.vertices[chain[i]]);
      if (line.closed) begin_at_front(line.at);
      all.push_back(std::move(line));
    }
  return all;
}

DressSite::DressSite(const Source& source)
    : part(source.part), name(source.name), thickness_mm(source.span.thickness_mm), mirrored(is_mirrored(*source.form)),
      outer(sheet_face(*source.form, source.span, true)), inner(sheet_face(*source.form, source.span, false)),
      normals(vertex_normals(outer)), edge_mm(mean_edge(outer)), rims(rims_of_face(outer)),
      seams(seam_lines(*source.form, outer)), form_(source.form->mesh), near_(outer),
      places_(
          source.form->home.empty() ? nullptr : std::make_shared<const Places>(source.form->mesh, source.form->home)) {
  for (const FeatureLine& f : source.features) {
    SiteLine line{f.name, {}, false};
    for (const Vec3& p : f.line) line.at.push_back(near_.to(p).point);
    if (line.at.size() > 3 && (line.at.front() - line.at.back()).norm() < 1e-6) line.closed = true, line.at.pop_back();
    if (line.at.size() > 1) features.push_back(std::move(line));
  }
  if (!source.sweep || source.form->home.empty()) return;
  spine = spine_by_home(*source.form, outer);
  if (spine.size() < 2) return;
  const double length = length_of(spine, false);
  double low = 1e300, high = -1e300;
  for (const Vec3& h : source.form->home) low = std::min(low, h.y()), high = std::max(high, h.y());
  for (const Vec3& h : source.form->home) along.push_back(length * (h.y() - low) / std::max(high - low, 1e-9));
}

DressSite DressSite::of_mesh(const SeamMesh& mesh) {
  Source source;
  source.part = 1, source.name = "mesh", source.form = &mesh;
  source.span = span_of(mesh, "mesh", true, 0.0);
  return DressSite(source);
}

Vec3 DressSite::at_home(const Vec3& on_outer) const {
  if (!places_) return on_outer;
  return places_->at_home(value_at(near_.to(on_outer), outer, form_.vertices));
}

Vec3 DressSite::from_home(const Vec3& home) const {
  if (!places_) return near_.to(home).point;
  return near_.to(places_->on_form(home)).point;
}

}  // namespace awl
