#include "core/seam/draw_cut.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>
#include <optional>
#include <queue>

#include "core/geom/nearest.hpp"

namespace awl {
namespace {

constexpr double kSnap = 0.05;

/// A mesh that can be split while it is walked over.
class Cutter {
 public:
  explicit Cutter(const Mesh& mesh) : mesh_(mesh), original_(mesh.triangles), round_(mesh.vertices.size()), near_(mesh) {
    for (int f = 0; f < static_cast<int>(mesh_.triangles.size()); ++f)
      for (const int v : mesh_.triangles[f]) round_[v].push_back(f);
  }

  Result<void> draw(const CutLine& line, int seam) {
    seam_ = seam;
    int first = -1, at = -1;
    for (std::size_t i = 0; i < line.size(); ++i) {
      const bool closing = i + 1 == line.size() && first >= 0 && (line[i] - line[0]).norm() < 1e-6;
      const int to = closing ? first : insert(line[i]);
      if (first < 0) first = to;
      if (at >= 0 && to != at && !walk(at, to) && !shortest(at, to))
        return fail(Errc::not_a_disk, "Cut " + std::to_string(seam + 1) + " joins two parts of the mesh that are not connected.", "cuts/" + std::to_string(seam + 1));
      at = to;
    }
    return {};
  }

  SeamMesh finish(std::size_t cuts) && {
    SeamMesh out;
    out.mesh = std::move(mesh_);
    for (const auto& [edge, id] : seams_) out.seam_of[edge] = SeamId{id};
    for (std::size_t i = 0; i < cuts; ++i) out.seam_names.push_back("cut " + std::to_string(i + 1));
    return out;
  }

 private:
  const Vec3& at(int v) const { return mesh_.vertices[v]; }

  std::vector<int> faces_on(int a, int b) const {
    std::vector<int> both;
    for (const int f : round_[a])
      if (std::find(mesh_.triangles[f].begin(), mesh_.triangles[f].end(), b) != mesh_.triangles[f].end()) both.push_back(f);
    return both;
  }
  bool is_edge(int a, int b) const { return !faces_on(a, b).empty(); }
  bool on_border(int v) const {
    for (const int f : round_[v])
      for (const int w : mesh_.triangles[f])
        if (w != v && faces_on(v, w).size() == 1) return true;
    return false;
  }
  bool on_seam(int v) const {
    for (const int f : round_[v])
      for (const int w : mesh_.triangles[f])
        if (w != v && seams_.count(edge_of(v, w)) != 0) return true;
    return false;
  }

  void mark(int a, int b) { seams_.try_emplace(edge_of(a, b), seam_); }

  int split_edge(int a, int b, double t) {
    const int m = static_cast<int>(mesh_.vertices.size());
    mesh_.vertices.push_back(at(a) + t * (at(b) - at(a)));
    round_.emplace_back();
    for (const int f : faces_on(a, b)) {
      Tri half = mesh_.triangles[f];
      std::replace(half.begin(), half.end(), a, m);
      std::replace(mesh_.triangles[f].begin(), mesh_.triangles[f].end(), b, m);
      const int fresh = static_cast<int>(mesh_.triangles.size());
      mesh_.triangles.push_back(half);
      std::erase(round_[b], f);
      round_[b].push_back(fresh);
      for (const int v : half)
        if (v != b && v != m) round_[v].push_back(fresh);
      round_[m].push_back(f), round_[m].push_back(fresh);
    }
    if (const auto seam = seams_.extract(edge_of(a, b)); !seam.empty()) seams_[edge_of(a, m)] = seams_[edge_of(b, m)] = seam.mapped();
    return m;
  }

  int split_face(int f, const Vec3& p) {
    const int m = static_cast<int>(mesh_.vertices.size());
    mesh_.vertices.push_back(p);
    round_.emplace_back();
    const Tri t = mesh_.triangles[f];
    for (int k = 1; k < 3; ++k) {
      const int fresh = static_cast<int>(mesh_.triangles.size());
      mesh_.triangles.push_back({t[k], t[(k + 1) % 3], m});
      for (const int v : mesh_.triangles.back()) round_[v].push_back(fresh);
    }
    mesh_.triangles[f] = {t[0], t[1], m};
    std::erase(round_[t[2]], f);
    round_[m].push_back(f);
    return m;
  }

  bool try_move(int v, const Vec3& to) {
    if (on_border(v) || on_seam(v)) return false;
    const Vec3 from = at(v);
    std::vector<Vec3> before;
    for (const int f : round_[v]) before.push_back(area_vector(mesh_, mesh_.triangles[f]));
    mesh_.vertices[v] = to;
    for (std::size_t i = 0; i < before.size(); ++i)
      if (area_vector(mesh_, mesh_.triangles[round_[v][i]]).dot(before[i]) < 0.3 * before[i].squaredNorm()) return mesh_.vertices[v] = from, false;
    return true;
  }

  /// The point as a vertex of the mesh: an old one nearby, one on an edge, or a fresh one inside a triangle.
  int insert(const Vec3& wanted) {
    // The tree knows the mesh as it came; among the triangles now standing there, take the nearest.
    const NearestHit hit = near_.to(wanted);
    int face = hit.triangle;
    double best = 1e300;
    Vec3 weights = hit.weights;
    std::vector<int> candidates;
    for (const int v : original(hit.triangle))
      candidates.insert(candidates.end(), round_[v].begin(), round_[v].end());
    for (std::size_t i = 0; i < candidates.size(); ++i) {
      const Tri& t = mesh_.triangles[candidates[i]];
      const Vec3 w = closest_weights(hit.point, at(t[0]), at(t[1]), at(t[2]));
      const double d = (w[0] * at(t[0]) + w[1] * at(t[1]) + w[2] * at(t[2]) - hit.point).norm();
      if (d < best - 1e-9) best = d, face = candidates[i], weights = w;
      // Widen to triangles that splitting put further away.
      if (i < 200 && i + 1 == candidates.size() && best > 1e-6)
        for (const int v : mesh_.triangles[face]) candidates.insert(candidates.end(), round_[v].begin(), round_[v].end());
    }
    const Tri t = mesh_.triangles[face];
    int most = 0, least = 0;
    for (int k = 1; k < 3; ++k) {
      if (weights[k] > weights[most]) most = k;
      if (weights[k] < weights[least]) least = k;
    }
    const Vec3 point = weights[0] * at(t[0]) + weights[1] * at(t[1]) + weights[2] * at(t[2]);
    if (weights[most] > 1.0 - 2.0 * kSnap) return try_move(t[most], point), t[most];
    const int a = t[(least + 1) % 3], b = t[(least + 2) % 3];
    if (weights[least] < kSnap) return split_edge(a, b, weights[(least + 2) % 3] / (weights[(least + 1) % 3] + weights[(least + 2) % 3]));
    return split_face(face, point);
  }

  const Tri& original(int face) const { return original_[face]; }

  struct Way { int b = -1, c = -1; double t = 0.0; };

  /// Where the plane towards `to` leaves the ring of `from`, forwards.
  std::optional<Way> way_out(int from, int to, const Vec3& up) const {
    const Vec3 aim = at(to) - at(from), normal = aim.cross(up);
    std::optional<Way> best;
    double best_forward = 0.0;
    for (const int f : round_[from]) {
      const Tri& t = mesh_.triangles[f];
      const int k = t[0] == from ? 0 : t[1] == from ? 1 : 2;
      const int b = t[(k + 1) % 3], c = t[(k + 2) % 3];
      const double sb = normal.dot(at(b) - at(from)), sc = normal.dot(at(c) - at(from));
      if ((sb > 0.0) == (sc > 0.0) && sb != 0.0 && sc != 0.0) continue;
      const double s = std::abs(sb - sc) < 1e-15 ? 0.5 : sb / (sb - sc);
      const Vec3 x = at(b) + s * (at(c) - at(b)) - at(from);
      const double forward = x.dot(aim) / std::max(x.norm(), 1e-12);
      if (forward > best_forward) best_forward = forward, best = Way{b, c, s};
    }
    return best;
  }

  bool walk(int from, int to) {
    const Mesh mesh_before = mesh_;
    const auto round_before = round_;
    const auto seams_before = seams_;
    if (walk_straight(from, to)) return true;
    mesh_ = mesh_before, round_ = round_before, seams_ = seams_before;
    return false;
  }

  Vec3 normal_at(int v) const {
    Vec3 n = Vec3::Zero();
    for (const int f : round_[v]) n += area_vector(mesh_, mesh_.triangles[f]);
    return n.normalized();
  }

  bool walk_straight(int from, int to) {
    std::set<int> passed{from};
    const Vec3 end_normal = normal_at(to);
    for (int steps = 0; from != to; ++steps) {
      if (steps > 20000) return false;
      if (is_edge(from, to)) return mark(from, to), true;
      const auto way = way_out(from, to, normal_at(from) + end_normal);
      if (!way) return false;
      int next = -1;
      const Vec3 x = at(way->b) + way->t * (at(way->c) - at(way->b));
      if (way->t < kSnap || way->t > 1.0 - kSnap) {
        next = way->t < 0.5 ? way->b : way->c;
        if (next != to) try_move(next, x);
      } else {
        next = split_edge(way->b, way->c, way->t);
      }
      if (!passed.insert(next).second) return false;
      mark(from, next);
      from = next;
    }
    return true;
  }

  bool shortest(int from, int to) {
    std::map<int, std::pair<double, int>> reached{{from, {0.0, -1}}};
    std::priority_queue<std::pair<double, int>> open;
    for (open.push({0.0, from}); !open.empty();) {
      const auto [negative, v] = open.top();
      open.pop();
      if (v == to) break;
      if (-negative > reached[v].first) continue;
      for (const int f : round_[v])
        for (const int w : mesh_.triangles[f]) {
          const double d = reached[v].first + (at(w) - at(v)).norm();
          const auto it = reached.find(w);
          if (w == v || (it != reached.end() && it->second.first <= d)) continue;
          reached[w] = {d, v};
          open.push({-d, w});
        }
    }
    if (reached.count(to) == 0) return false;
    for (int v = to; reached[v].second >= 0; v = reached[v].second) mark(v, reached[v].second);
    return true;
  }

  Mesh mesh_;
  std::vector<Tri> original_;  ///< triangles as they came, for the tree's answers
  std::vector<std::vector<int>> round_;
  std::map<std::pair<int, int>, int> seams_;
  Nearest near_;
  int seam_ = 0;
};

}  // namespace

Result<SeamMesh> draw_cuts(const Mesh& mesh, const std::vector<CutLine>& cuts) {
  for (const auto& e : topology_of(mesh).edges)
    if (e.more > 0) return fail(Errc::bad_file, "The mesh is no surface: one of its edges belongs to " + std::to_string(e.more + 2) + " triangles.");
  Cutter cutter(mesh);
  for (std::size_t i = 0; i < cuts.size(); ++i) {
    if (cuts[i].size() < 2) return fail(Errc::degenerate_shape, "Cut " + std::to_string(i + 1) + " has fewer than two points.", "cuts/" + std::to_string(i + 1));
    if (auto drawn = cutter.draw(cuts[i], static_cast<int>(i)); !drawn) return tl::make_unexpected(drawn.error());
  }
  return std::move(cutter).finish(cuts.size());
}

}  // namespace awl
