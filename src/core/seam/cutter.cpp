#include "core/seam/cutter.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>
#include <queue>

namespace awl {
namespace {

constexpr double kSnap = 0.05;

}  // namespace

Cutter::Cutter(Draft draft)
    : draft_(std::move(draft)), original_(draft_.mesh.triangles), round_(draft_.mesh.vertices.size()),
      near_(draft_.mesh) {
  for (int f = 0; f < static_cast<int>(original_.size()); ++f)
    for (const int v : original_[f]) round_[v].push_back(f);
}

Draft Cutter::take() && { return std::move(draft_); }

std::vector<int> Cutter::faces_on(int a, int b) const {
  std::vector<int> both;
  for (const int f : round_[a])
    if (std::find(draft_.mesh.triangles[f].begin(), draft_.mesh.triangles[f].end(), b) !=
        draft_.mesh.triangles[f].end())
      both.push_back(f);
  return both;
}

bool Cutter::on_border(int v) const {
  for (const int f : round_[v])
    for (const int w : draft_.mesh.triangles[f])
      if (w != v && faces_on(v, w).size() == 1) return true;
  return false;
}

bool Cutter::on_seam(int v) const {
  for (const int f : round_[v])
    for (const int w : draft_.mesh.triangles[f])
      if (w != v && draft_.seams.count(edge_of(v, w)) != 0) return true;
  return false;
}

void Cutter::mark(int a, int b) { draft_.seams.try_emplace(edge_of(a, b), label_); }

/// Everything numbered by vertex, as the mean of others.
void Cutter::put(int v, const Weights& from) {
  const auto mean = [&](auto& values) {
    auto sum = values[from[0].first];
    sum.setZero();
    for (const auto& [w, share] : from) sum += share * values[w];
    values[v] = sum;
  };
  if (!draft_.flat.empty()) mean(draft_.flat);
  if (!draft_.home.empty()) mean(draft_.home);
  if (!draft_.sheet_of.empty()) draft_.sheet_of[v] = draft_.sheet_of[from[0].first];
}

int Cutter::add_vertex(const Weights& from) {
  const int v = static_cast<int>(draft_.mesh.vertices.size());
  Vec3 p = Vec3::Zero();
  for (const auto& [w, share] : from) p += share * at(w);
  draft_.mesh.vertices.push_back(p);
  if (!draft_.flat.empty()) draft_.flat.emplace_back();
  if (!draft_.home.empty()) draft_.home.emplace_back();
  if (!draft_.sheet_of.empty()) draft_.sheet_of.push_back(0);
  put(v, from);
  round_.emplace_back();
  return v;
}

int Cutter::split_edge(int a, int b, double t) {
  const auto faces = faces_on(a, b);
  // Both ends on the rim of an opening, and nothing but the rim between them.
  const bool rim = faces.size() == 1 && draft_.opening.count(a) != 0 && draft_.opening.count(b) != 0;
  const int m = add_vertex({{a, 1.0 - t}, {b, t}});
  if (at(a).x() == 0.0 && at(b).x() == 0.0) draft_.mesh.vertices[m].x() = 0.0;
  if (rim) draft_.opening.insert(m);
  for (const int f : faces) {
    Tri half = draft_.mesh.triangles[f];
    std::replace(half.begin(), half.end(), a, m);
    std::replace(draft_.mesh.triangles[f].begin(), draft_.mesh.triangles[f].end(), b, m);
    const int fresh = static_cast<int>(draft_.mesh.triangles.size());
    draft_.mesh.triangles.push_back(half);
    std::erase(round_[b], f);
    round_[b].push_back(fresh);
    for (const int v : half)
      if (v != b && v != m) round_[v].push_back(fresh);
    round_[m].push_back(f), round_[m].push_back(fresh);
  }
  if (const auto seam = draft_.seams.extract(edge_of(a, b)); !seam.empty())
    draft_.seams[edge_of(a, m)] = draft_.seams[edge_of(b, m)] = seam.mapped();
  return m;
}

int Cutter::split_face(int f, const Vec3& weights) {
  const Tri t = draft_.mesh.triangles[f];
  const int m = add_vertex({{t[0], weights[0]}, {t[1], weights[1]}, {t[2], weights[2]}});
  for (int k = 1; k < 3; ++k) {
    const int fresh = static_cast<int>(draft_.mesh.triangles.size());
    draft_.mesh.triangles.push_back({t[k], t[(k + 1) % 3], m});
    for (const int v : draft_.mesh.triangles.back()) round_[v].push_back(fresh);
  }
  draft_.mesh.triangles[f] = {t[0], t[1], m};
  std::erase(round_[t[2]], f);
  round_[m].push_back(f);
  return m;
}

bool Cutter::try_move(int v, const Vec3& to, const Weights& from) {
  if (on_border(v) || on_seam(v)) return false;
  const Vec3 was = at(v);
  std::vector<Vec3> before;
  for (const int f : round_[v]) before.push_back(area_vector(draft_.mesh, draft_.mesh.triangles[f]));
  draft_.mesh.vertices[v] = to;
  for (std::size_t i = 0; i < before.size(); ++i)
    if (area_vector(draft_.mesh, draft_.mesh.triangles[round_[v][i]]).dot(before[i]) < 0.3 * before[i].squaredNorm())
      return draft_.mesh.vertices[v] = was, false;
  put(v, from);
  return true;
}

/// The triangle now standing nearest to a place. The tree knows the mesh as it came; from there it is a short search.
int Cutter::face_at(const Vec3& wanted, Vec3& weights) const {
  const NearestHit hit = near_.to(wanted);
  int face = hit.triangle;
  double best = 1e300;
  std::vector<int> candidates;
  const auto& triangles = draft_.mesh.triangles;
  for (const int v : original_[hit.triangle]) candidates.insert(candidates.end(), round_[v].begin(), round_[v].end());
  for (std::size_t i = 0; i < candidates.size(); ++i) {
    const Tri& t = triangles[candidates[i]];
    const Vec3 w = closest_weights(hit.point, at(t[0]), at(t[1]), at(t[2]));
    const double d = (w[0] * at(t[0]) + w[1] * at(t[1]) + w[2] * at(t[2]) - hit.point).norm();
    if (d < best - 1e-9) best = d, face = candidates[i], weights = w;
    // Widen to triangles that splitting put further away.
    if (i < 200 && i + 1 == candidates.size() && best > 1e-6)
      for (const int v : triangles[face]) candidates.insert(candidates.end(), round_[v].begin(), round_[v].end());
  }
  return face;
}

/// The point as a vertex of the mesh: an old one nearby, one on an edge, or a fresh one inside a triangle.
int Cutter::insert(const Vec3& wanted) {
  Vec3 weights = Vec3::Constant(1.0 / 3.0);
  const int face = face_at(wanted, weights);
  const Tri t = draft_.mesh.triangles[face];
  int most = 0, least = 0;
  for (int k = 1; k < 3; ++k) {
    if (weights[k] > weights[most]) most = k;
    if (weights[k] < weights[least]) least = k;
  }
  const Vec3 point = weights[0] * at(t[0]) + weights[1] * at(t[1]) + weights[2] * at(t[2]);
  if (weights[most] > 1.0 - 2.0 * kSnap)
    return try_move(t[most], point, {{t[0], weights[0]}, {t[1], weights[1]}, {t[2], weights[2]}}), t[most];
  const int a = t[(least + 1) % 3], b = t[(least + 2) % 3];
  if (weights[least] < kSnap)
    return split_edge(a, b, weights[(least + 2) % 3] / (weights[(least + 1) % 3] + weights[(least + 2) % 3]));
  return split_face(face, weights);
}

/// The place as a vertex of a border or seam nearby, if there is one within reach.
std::optional<int> Cutter::land(const Vec3& wanted, const Ends& ends) {
  if (ends.reach_mm <= 0.0) return {};
  double best = ends.reach_mm, share = 0.0;
  int a = -1, b = -1;
  const auto& triangles = draft_.mesh.triangles;
  for (const Tri& t : triangles)
    for (int k = 0; k < 3; ++k) {
      const int v = t[k], w = t[(k + 1) % 3];
      double s = 0.0;
      const double d = (closest_on_stretch(wanted, at(v), at(w), &s) - wanted).norm();
      if (d >= best) continue;
      const bool seam = draft_.seams.count(edge_of(v, w)) != 0,
                 plane = ends.mirror_plane && at(v).x() == 0.0 && at(w).x() == 0.0;
      if (!seam && (plane || faces_on(v, w).size() != 1)) continue;
      best = d, a = v, b = w, share = s;
    }
  if (a < 0) return {};
  if (share < kSnap || share > 1.0 - kSnap) return share < 0.5 ? a : b;
  return split_edge(a, b, share);
}

/// Where the plane towards `to` leaves the ring of `from`, forwards.
std::optional<Cutter::Way> Cutter::way_out(int from, int to, const Vec3& up) const {
  const Vec3 aim = at(to) - at(from), normal = aim.cross(up);
  std::optional<Way> best;
  double best_forward = 0.0;
  for (const int f : round_[from]) {
    const Tri& t = draft_.mesh.triangles[f];
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

Vec3 Cutter::normal_at(int v) const {
  Vec3 n = Vec3::Zero();
  for (const int f : round_[v]) n += area_vector(draft_.mesh, draft_.mesh.triangles[f]);
  return n.normalized();
}

bool Cutter::walk(int from, int to) {
  std::set<int> passed{from};
  const Vec3 end_normal = normal_at(to);
  for (int steps = 0; from != to; ++steps) {
    if (steps > 20000) return false;
    if (!faces_on(from, to).empty()) return mark(from, to), true;
    const auto way = way_out(from, to, normal_at(from) + end_normal);
    if (!way) return false;
    int next = -1;
    if (way->t < kSnap || way->t > 1.0 - kSnap) {
      next = way->t < 0.5 ? way->b : way->c;
      const Vec3 x = at(way->b) + way->t * (at(way->c) - at(way->b));
      if (next != to) try_move(next, x, {{way->b, 1.0 - way->t}, {way->c, way->t}});
    } else {
      next = split_edge(way->b, way->c, way->t);
    }
    if (!passed.insert(next).second) return false;
    mark(from, next);
    from = next;
  }
  return true;
}

bool Cutter::shortest(int from, int to) {
  std::map<int, std::pair<double, int>> reached{{from, {0.0, -1}}};
  std::priority_queue<std::pair<double, int>> open;
  for (open.push({0.0, from}); !open.empty();) {
    const auto [negative, v] = open.top();
    open.pop();
    if (v == to) break;
    if (-negative > reached[v].first) continue;
    for (const int f : round_[v])
      for (const int w : draft_.mesh.triangles[f]) {
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

/// Whether a line comes back to where it began: as near as a hand does, on a way that is long beside the gap.
bool Cutter::closes(const CutLine& line, const Ends& ends) {
  constexpr double kLongBeside = 8.0;
  if (line.size() < 4) return line.size() == 3 && (line.front() - line.back()).norm() < 1e-6;
  double length = 0.0;
  for (std::size_t i = 0; i + 1 < line.size(); ++i) length += (line[i + 1] - line[i]).norm();
  const double gap = (line.front() - line.back()).norm();
  return gap <= std::max(1e-6, ends.reach_mm) && length > kLongBeside * gap;
}

Result<void> Cutter::draw(const CutLine& line, const std::string& name, const Ends& ends) {
  label_ = next_label();
  if (line.size() < 2)
    return fail(Errc::degenerate_shape, "The seam " + name + " has fewer than two points.", "seams/" + name);
  draft_.seam_names.push_back(name);
  // A walk that fails has split edges already: the line is begun again with that stretch led along edges.
  const Draft before = draft_;
  const auto round_before = round_;
  std::set<std::size_t> by_edges;
  while (const auto failed = draw_stretches(line, ends, by_edges)) {
    draft_ = before, round_ = round_before;
    if (!by_edges.insert(*failed).second)
      return fail(Errc::not_a_disk, "The seam " + name + " joins two parts of the mesh that are not connected.",
          "seams/" + name);
  }
  return {};
}

/// Number of the stretch that could not be drawn; none if all were.
std::optional<std::size_t> Cutter::draw_stretches(
    const CutLine& line, const Ends& ends, const std::set<std::size_t>& by_edges) {
  const bool closed = closes(line, ends);
  int first = -1, now = -1;
  for (std::size_t i = 0; i < line.size(); ++i) {
    const bool end = !closed && (i == 0 || i + 1 == line.size());
    int to = -1;
    if (closed && i + 1 == line.size())
      to = first;
    else if (const auto landed = end ? land(line[i], ends) : std::optional<int>{})
      to = *landed;
    else
      to = insert(line[i]);
    if (first < 0) first = to;
    if (now >= 0 && to != now && !(by_edges.count(i) != 0 ? shortest(now, to) : walk(now, to))) return i;
    now = to;
  }
  return {};
}

}  // namespace awl
