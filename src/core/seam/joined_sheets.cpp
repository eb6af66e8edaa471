#include "core/seam/joined_sheets.hpp"

#include <Eigen/Geometry>
#include <Eigen/SVD>
#include <algorithm>
#include <cmath>

namespace awl {
namespace {

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
  std::vector<std::pair<int, int>> source;
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
      source.emplace_back(p.id.value, static_cast<int>(i));
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

}  // namespace

std::vector<Vec3> JoinedSheets::start() const {
  std::vector<Vec3> places;
  for (const int v : vertex_of) places.push_back(meant[v]);
  return places;
}

std::vector<Vec3> JoinedSheets::whole(const std::vector<Vec3>& places, const std::vector<int>& twin_of) const {
  std::vector<Vec3> all = meant;
  for (std::size_t i = 0; i < vertex_of.size(); ++i) {
    const int v = vertex_of[i];
    all[v] = places[i];
    if (half && twin_of[v] != v) all[twin_of[v]] = Vec3(-places[i].x(), places[i].y(), places[i].z());
  }
  return all;
}

JoinedSheets joined_sheets(const PanelSet& set, double keeps_bend) {
  JoinedSheets joined;
  joined.half = is_mirrored(set.form);
  joined.meant = middle_layer(set);
  Joining joining(set, joined.meant, joined.half);
  joined.hinges = joining.hinges(keeps_bend);
  // Only what the sheets touch is an unknown.
  joined.number.assign(joined.meant.size(), -1);
  for (auto& f : joining.faces)
    for (int& v : f.vertices) {
      if (joined.number[v] < 0)
        joined.number[v] = static_cast<int>(joined.vertex_of.size()), joined.vertex_of.push_back(v);
      v = joined.number[v];
    }
  for (auto& h : joined.hinges)
    for (auto& c : h.corners) c.vertex = joined.number[c.vertex];
  for (const int v : joining.middle()) joined.middle.push_back(joined.number[v]);
  joined.faces = std::move(joining.faces), joined.source = std::move(joining.source);
  return joined;
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

std::vector<double> vertex_areas(const Mesh& mesh) {
  std::vector<double> area(mesh.vertices.size(), 0.0);
  for (const Tri& t : mesh.triangles)
    for (const int v : t) area[v] += area_vector(mesh, t).norm() / 6.0;
  return area;
}

}  // namespace awl
