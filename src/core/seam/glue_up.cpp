#include "core/seam/glue_up.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/geom/nearest.hpp"
#include "core/seam/shell_energy.hpp"

namespace awl {
namespace {

constexpr double kPointReachMm = 24.0, kPointLeastMm = 7.0;  // the ring a meeting point is held against
constexpr double kEdgeReachMm = 14.0;                        // free edges curl; puckers are looked for inside of them

double cot(const Vec2& a, const Vec2& b) { return a.dot(b) / std::max(std::abs(a.x() * b.y() - a.y() * b.x()), 1e-12); }

/// One side of a form's edge: a flat triangle, the corner opposite, and the cotangents at the edge's lower and higher
/// vertex.
struct Side {
  int opposite = -1;
  bool mirrored = false;
  Vec3 ahead = Vec3::Zero();  ///< normal of the panel at that corner; zero where it lies on the panel's border
  double cot_low = 0.0, cot_high = 0.0, area_mm2 = 0.0, thickness_mm = 0.0;
  bool forward = false;  ///< its triangle runs from the lower vertex to the higher one
};

/// A panel set as sheets to be joined. `half`: the left half of a mirrored one stands for both.
class Joining {
 public:
  Joining(const PanelSet& set, const std::vector<Vec3>& meant, bool half) : set_(set), meant_(meant), half_(half) {
    for (const Panel& p : set.panels) take(p);
  }

  std::vector<ShellEnergy::Face> faces;
  std::vector<int> middle() const {
    std::vector<int> on;
    for (int v = 0; half_ && v < static_cast<int>(meant_.size()); ++v)
      if (set_.form.twin_of[v] == v && used_.count(v) != 0) on.push_back(v);
    return on;
  }

  std::vector<ShellEnergy::Hinge> hinges(double keeps_bend) const {
    std::vector<ShellEnergy::Hinge> all;
    for (const auto& [edge, sides] : sides_) {
      std::vector<Side> both = sides;
      bool across = false;
      if (half_ && both.size() == 1 && set_.form.twin_of[edge.first] == edge.first &&
          set_.form.twin_of[edge.second] == edge.second && inner_.count(edge) != 0) {
        both.push_back(both[0]), both[1].mirrored = true, both[1].forward = !both[0].forward, both[1].ahead.x() *= -1.0,
                                 across = true;
      }
      if (both.size() != 2 || both[0].forward == both[1].forward) continue;
      all.push_back(hinge_of(edge, both[0].forward ? both[0] : both[1], both[0].forward ? both[1] : both[0], keeps_bend,
          across ? 0.5 : 1.0));
    }
    return all;
  }

 private:
  void take(const Panel& p) {
    const int half_of = static_cast<int>(set_.form.mesh.triangles.size()) / 2;
    auto ahead = vertex_normals(p.solid);
    for (const BorderEdge& e : p.border) {
      ahead[e.a] = Vec3::Zero();
      if (e.seam.valid()) seams_.insert(edge_of(p.vertex_of[e.a], p.vertex_of[e.b]));
    }
    for (std::size_t i = 0; i < p.faces.size(); ++i) {
      const Tri& t = p.solid.triangles[i];
      std::array<int, 3> v{};
      for (int k = 0; k < 3; ++k) v[k] = p.vertex_of[t[k]];
      for (int k = 0; k < 3; ++k)
        if (const auto edge = edge_of(v[k], v[(k + 1) % 3]); ++count_[edge] == 2) inner_.insert(edge);
      if (half_ && p.faces[i] >= half_of) continue;
      const Vec2 flat[3] = {p.flat[t[0]], p.flat[t[1]], p.flat[t[2]]};
      const auto rest = frame_of_triangle(
          Vec3(flat[0].x(), flat[0].y(), 0), Vec3(flat[1].x(), flat[1].y(), 0), Vec3(flat[2].x(), flat[2].y(), 0));
      faces.push_back({v, rest, p.thickness_mm});
      for (int k = 0; k < 3; ++k) {
        used_.insert(v[k]);
        const int a = k, b = (k + 1) % 3, c = (k + 2) % 3;
        const double at_a = cot(flat[b] - flat[a], flat[c] - flat[a]), at_b = cot(flat[a] - flat[b], flat[c] - flat[b]);
        const bool forward = v[a] < v[b];
        sides_[edge_of(v[a], v[b])].push_back({v[c], false, ahead[t[c]], forward ? at_a : at_b, forward ? at_b : at_a,
            rest.area_mm2, p.thickness_mm, forward});
      }
    }
  }

  Vec3 place(int v, bool mirrored) const {
    return mirrored ? Vec3(-meant_[v].x(), meant_[v].y(), meant_[v].z()) : meant_[v];
  }

  /// Within a panel a sheet rests flat but for the share of its bend it keeps; at a seam it rests as far turned as the
  /// blade was tilted for, which is how far the two panels turn from each other.
  ShellEnergy::Hinge hinge_of(
      const std::pair<int, int>& edge, const Side& left, const Side& right, double keeps_bend, double share) const {
    const double h = 0.5 * (left.thickness_mm + right.thickness_mm);
    ShellEnergy::Hinge hinge;
    hinge.corners = {
        {{edge.first, false}, {edge.second, false}, {left.opposite, left.mirrored}, {right.opposite, right.mirrored}}};
    hinge.weights = {left.cot_high + right.cot_high, left.cot_low + right.cot_low, -left.cot_low - left.cot_high,
        -right.cot_low - right.cot_high};
    hinge.stiffness = share * ShellEnergy::bending_stiffness(h, left.area_mm2 + right.area_mm2);
    const Vec3 a = meant_[edge.first], b = meant_[edge.second], along = (b - a).normalized();
    const Vec3 n1 = (b - a).cross(place(left.opposite, left.mirrored) - a).normalized(),
               n2 = (a - b).cross(place(right.opposite, right.mirrored) - b).normalized();
    const double angle = std::atan2(n1.cross(n2).dot(along), n1.dot(n2));  // + ridge
    double at_seam = 0.0;
    if (seams_.count(edge) != 0) {
      // Of the angle between two facets a part is the panels' own bend: a facet looks as the panel does half way to its
      // corner.
      const auto bend = [&](const Vec3& facet, const Vec3& on) {
        return on.isZero() ? 0.0 : std::atan2(facet.cross(on).dot(along), facet.dot(on));
      };
      at_seam =
          std::clamp(angle - bend(n2, right.ahead) + bend(n1, left.ahead), std::min(angle, 0.0), std::max(angle, 0.0));
    }
    hinge.rest_mm = 2.0 * (b - a).norm() * std::abs(std::sin(0.5 * (at_seam + keeps_bend * (angle - at_seam))));
    return hinge;
  }

  const PanelSet& set_;
  const std::vector<Vec3>& meant_;
  bool half_;
  std::map<std::pair<int, int>, std::vector<Side>> sides_;
  std::map<std::pair<int, int>, int> count_;
  std::set<std::pair<int, int>> inner_, seams_;
  std::set<int> used_;
};

std::vector<Vec3> middle_layer(const PanelSet& set) {
  std::vector<Vec3> places = set.form.mesh.vertices;
  for (const Panel& p : set.panels)
    for (std::size_t v = 0; v < p.vertex_of.size(); ++v) places[p.vertex_of[v]] = p.solid.vertices[v];
  return places;
}

/// Both meant to be the same vertex for vertex: laid over it without stretching, each vertex by its area.
void lay_over(std::vector<Vec3>& places, const std::vector<Vec3>& meant, const std::vector<double>& area) {
  Vec3 from = Vec3::Zero(), to = Vec3::Zero();
  double all = 0.0;
  for (std::size_t v = 0; v < places.size(); ++v) from += area[v] * places[v], to += area[v] * meant[v], all += area[v];
  from /= all, to /= all;
  Eigen::Matrix3d spread = Eigen::Matrix3d::Zero();
  for (std::size_t v = 0; v < places.size(); ++v) spread += area[v] * (meant[v] - to) * (places[v] - from).transpose();
  const Eigen::JacobiSVD<Eigen::Matrix3d> svd(spread, Eigen::ComputeFullU | Eigen::ComputeFullV);
  const double sign = (svd.matrixU() * svd.matrixV().transpose()).determinant() < 0.0 ? -1.0 : 1.0;
  const Eigen::Matrix3d turn =
      svd.matrixU() * Vec3(1, 1, sign).asDiagonal() * svd.matrixV().transpose();  // umeyama1991
  for (Vec3& p : places) p = turn * (p - from) + to;
}

void measure_off(GluedUp& glued, const Mesh& form, const std::vector<double>& area) {
  const Nearest surface(form);
  std::vector<std::pair<double, double>> by_size;
  double all = 0.0;
  for (std::size_t v = 0; v < glued.places.size(); ++v) {
    if (area[v] <= 0.0) {
      glued.off_mm.push_back(0.0);
      continue;
    }
    const NearestHit hit = surface.to(glued.places[v]);
    const Vec3 away = glued.places[v] - hit.point;
    const double off = std::copysign(away.norm(), away.dot(area_vector(form, form.triangles[hit.triangle])));
    glued.off_mm.push_back(off);
    by_size.push_back({std::abs(off), area[v]}), all += area[v];
    glued.mean_mm += area[v] * std::abs(off);
    if (glued.worst < 0 || std::abs(off) > glued.most_mm)
      glued.most_mm = std::abs(off), glued.worst = static_cast<int>(v);
  }
  glued.mean_mm /= std::max(all, 1e-9);
  std::sort(by_size.begin(), by_size.end());
  double sum = 0.0;
  for (const auto& [off, a] : by_size)
    if ((sum += a) <= 0.95 * all) glued.p95_mm = off;
}

/// How far a vertex stands out over the ring round it.
double stands_out_mm(const std::vector<Vec3>& places, const std::vector<int>& ring, int v, const Vec3& normal) {
  Vec3 mean = Vec3::Zero();
  for (const int r : ring) mean += places[r] / static_cast<double>(ring.size());
  return (places[v] - mean).dot(normal);
}

void find_points(GluedUp& glued, const PanelSet& set, const Mesh& form, const Topology& topo) {
  std::map<int, int> seams_at;
  for (const auto& [edge, id] : set.form.seam_of) ++seams_at[edge.first], ++seams_at[edge.second];
  std::set<int> rim;
  for (std::size_t e = 0; e < topo.edges.size(); ++e)
    if (topo.is_border(static_cast<int>(e))) rim.insert(topo.edges[e].a), rim.insert(topo.edges[e].b);
  const auto before = vertex_normals(form), after = vertex_normals({glued.places, form.triangles});
  for (const auto& [v, count] : seams_at) {
    if (count == 2 || rim.count(v) != 0) continue;
    std::vector<int> ring;
    for (int w = 0; w < static_cast<int>(glued.meant.size()); ++w) {
      const double mm = (glued.meant[w] - glued.meant[v]).norm();
      if (mm > kPointLeastMm && mm < kPointReachMm && before[w].dot(before[v]) > 0.3) ring.push_back(w);
    }
    if (ring.size() < 6) continue;
    glued.points.push_back({glued.meant[v],
        stands_out_mm(glued.places, ring, v, after[v]) - stands_out_mm(glued.meant, ring, v, before[v]), count == 1});
  }
  std::stable_sort(glued.points.begin(), glued.points.end(),
      [](const auto& a, const auto& b) { return std::abs(a.out_mm) > std::abs(b.out_mm); });
}

void measure_rims(GluedUp& glued, const Mesh& form) {
  for (const auto& loop : border_loops(form)) {
    GluedRim rim;
    Box meant, made;
    for (std::size_t i = 0; i < loop.size(); ++i) {
      const int a = loop[i], b = loop[(i + 1) % loop.size()];
      rim.girth_mm += (glued.meant[a] - glued.meant[b]).norm(),
          rim.glued_girth_mm += (glued.places[a] - glued.places[b]).norm();
      rim.at += glued.meant[a] / static_cast<double>(loop.size());
      meant.include(glued.meant[a]), made.include(glued.places[a]);
    }
    rim.breadth_mm = meant.size().x(), rim.glued_breadth_mm = made.size().x();
    glued.rims.push_back(rim);
  }
}

void find_pucker(GluedUp& glued, const Mesh& form, const Topology& topo) {
  std::vector<Vec3> rim;
  for (const auto& e : topo.edges)
    if (e.right < 0) rim.push_back(0.5 * (glued.meant[e.a] + glued.meant[e.b]));
  const Mesh made{glued.places, form.triangles};
  for (const Tri& t : form.triangles) {
    const Vec3 meant = area_vector(form, t), is = area_vector(made, t);
    if (meant.norm() < 2.0) continue;  // slivers lean as they like
    const double deg = 57.29578 * std::acos(std::clamp(meant.normalized().dot(is.normalized()), -1.0, 1.0));
    if (deg <= glued.pucker_deg) continue;
    const Vec3 at = (form.vertices[t[0]] + form.vertices[t[1]] + form.vertices[t[2]]) / 3.0;
    if (std::any_of(rim.begin(), rim.end(), [&](const Vec3& r) { return (r - at).norm() < kEdgeReachMm; })) continue;
    glued.pucker_deg = deg, glued.pucker_at = at;
  }
}

}  // namespace

Result<GluedUp> glue_up(const PanelSet& set, const GlueUpOptions& options, const Progress& progress) {
  if (set.panels.empty()) return fail(Errc::empty_input, "There is no piece to glue.", "panels");
  GluedUp glued;
  glued.meant = middle_layer(set);
  const bool half = is_mirrored(set.form);
  Joining joining(set, glued.meant, half);
  auto hinges = joining.hinges(options.keeps_bend);
  // Only what the sheets touch is an unknown.
  std::vector<int> number(glued.meant.size(), -1), old;
  for (auto& f : joining.faces)
    for (int& v : f.vertices) {
      if (number[v] < 0) number[v] = static_cast<int>(old.size()), old.push_back(v);
      v = number[v];
    }
  for (auto& h : hinges)
    for (auto& c : h.corners) c.vertex = number[c.vertex];
  std::vector<int> middle;
  for (const int v : joining.middle()) middle.push_back(number[v]);
  std::vector<Vec3> places;
  for (const int v : old) places.push_back(glued.meant[v]);
  ShellEnergy energy(static_cast<int>(old.size()), std::move(joining.faces), std::move(hinges), options.squeeze);
  energy.hold_in_middle(std::move(middle));
  const auto outcome = energy.minimise(places, options.most_steps, options.still_mm, progress.span(0.0, 0.95));
  if (outcome.cancelled) return fail(Errc::cancelled, "Stopped.");
  glued.steps = outcome.steps, glued.at_rest = outcome.last_step_mm < options.still_mm;
  glued.places = glued.meant;
  for (std::size_t i = 0; i < old.size(); ++i) {
    glued.places[old[i]] = places[i];
    if (half && set.form.twin_of[old[i]] != old[i])
      glued.places[set.form.twin_of[old[i]]] = Vec3(-places[i].x(), places[i].y(), places[i].z());
  }
  const Mesh form{glued.meant, set.form.mesh.triangles};
  std::vector<double> area(glued.meant.size(), 0.0);
  for (const Tri& t : form.triangles)
    for (const int v : t) area[v] += area_vector(form, t).norm() / 6.0;
  lay_over(glued.places, glued.meant, area);
  measure_off(glued, form, area);
  const Topology topo = topology_of(form);
  find_points(glued, set, form, topo);
  measure_rims(glued, form);
  find_pucker(glued, form, topo);
  return glued;
}

}  // namespace awl
