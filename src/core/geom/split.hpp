#pragma once
#include <functional>
#include <map>
#include <set>

#include "core/geom/mesh.hpp"

namespace awl {

using EdgeSet = std::set<std::pair<int, int>>;          ///< edges as (smaller, larger) vertex
using EdgeLabels = std::map<std::pair<int, int>, int>;  ///< edges and the curve each belongs to
inline std::pair<int, int> edge_of(int a, int b) { return a < b ? std::pair{a, b} : std::pair{b, a}; }

/// What splitting along a curve did.
struct Split {
  std::vector<char> on_curve;  ///< per vertex: 1 where the function is zero
  std::vector<double> values;  ///< per vertex, the function there
  EdgeSet curve;               ///< edges that now run along the zero curve
  /// A vertex that was moved or made: between a and b, `t` of the way.
  struct Place {
    int vertex, a, b;
    double t;
  };
  std::vector<Place> places;  ///< moved ones first, then new ones in the order of their numbers
};

/// Cuts the triangles along `f` = 0, so that the curve becomes a chain of edges; nothing is removed.
///
/// Crossings are found on the true function, not on its linear interpolation, and a vertex nearer than `snap` of an
/// edge to the curve is moved onto it. `f` may be called from several threads. `held` edges (a mirror plane, an earlier
/// seam) keep their course: their vertices move only along them, and where one is split both halves inherit its label.
Split split_along(Mesh& mesh, const std::function<double(const Vec3&)>& f, EdgeLabels& held, double snap = 0.2);

/// Drops every triangle whose centre has f < 0 and the vertices no longer used. `held` is renumbered.
Mesh keep_where(const Mesh& mesh, const std::function<double(const Vec3&)>& f, EdgeLabels& held);

/// Border edges with both ends in x = 0, labelled 0: the mirror line of a half.
EdgeLabels mirror_line(const Mesh& half);

}  // namespace awl
