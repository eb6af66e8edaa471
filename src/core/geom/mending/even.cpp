#include "core/geom/mending/even.hpp"

#include <CGAL/Polygon_mesh_processing/border.h>
#include <CGAL/Polygon_mesh_processing/detect_features.h>
#include <CGAL/Polygon_mesh_processing/measure.h>
#include <CGAL/Polygon_mesh_processing/remesh.h>
#include <CGAL/Polygon_mesh_processing/repair_degeneracies.h>
#include <CGAL/Polygon_mesh_processing/triangulate_hole.h>

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <queue>
#include <stdexcept>

#include "core/base/numbers.hpp"
#include "core/geom/mending/cgal_mesh.hpp"

namespace awl {

namespace PMP = CGAL::Polygon_mesh_processing;
namespace params = CGAL::parameters;

namespace {

using Sharp = CgalSurface::Property_map<CgalSurface::Edge_index, bool>;

constexpr double kLongest = 4.0 / 3.0;  // an edge of so many times the wanted length is halved (botsch2004)

/// Halves edges longer than that, the longest of all first, and those that come of it too. Halved in another order, a
/// triangle as thin as it is long becomes a fan of as many edges, all of them as long.
void halve_long_edges(CgalSurface& surface, double most_mm, Sharp sharp) {
  const auto squared = [&](CgalSurface::Edge_index e) {
    return CGAL::squared_distance(surface.point(surface.vertex(e, 0)), surface.point(surface.vertex(e, 1)));
  };
  std::priority_queue<std::pair<double, CgalSurface::Edge_index>> longest;
  const auto ask = [&](CgalSurface::Edge_index e) {
    if (const double length = squared(e); length > most_mm * most_mm) longest.emplace(length, e);
  };
  for (const auto e : surface.edges()) ask(e);
  while (!longest.empty()) {
    const auto [length, e] = longest.top();
    longest.pop();
    const auto second = surface.halfedge(e);
    const auto middle = CGAL::midpoint(surface.point(surface.source(second)), surface.point(surface.target(second)));
    const auto first = CGAL::Euler::split_edge(second, surface);
    surface.point(surface.target(first)) = middle;
    sharp[surface.edge(first)] = sharp[e];
    ask(e), ask(surface.edge(first));
    for (const auto into : {first, surface.prev(surface.opposite(first))}) {
      if (surface.is_border(into)) continue;
      const auto across = CGAL::Euler::split_face(into, surface.next(surface.next(into)), surface);
      sharp[surface.edge(across)] = false;
      ask(surface.edge(across));
    }
  }
}

void halve_kept_edges(CgalSurface& surface, double most_mm, Sharp sharp) {
  std::vector<CgalSurface::Edge_index> kept;
  for (const auto e : surface.edges())
    if (sharp[e]) kept.push_back(e);
  PMP::split_long_edges(kept, most_mm, surface, params::edge_is_constrained_map(sharp));
}

/// What halving the long edges of a mesh makes of it.
struct Halving {
  double pieces = 0.0;      ///< triangles, halved from the longest edge on
  double fan_pieces = 0.0;  ///< where those that are kept are halved first
  double longest_mm = 0.0;
  Vec3 end = Vec3::Zero();  ///< of the longest edge
};

Halving halving_of(const Mesh& mesh, double edge_mm) {
  Halving h;
  for (const Tri& t : mesh.triangles) {
    double lengths[3];
    for (int k = 0; k < 3; ++k) {
      const Vec3 &a = mesh.vertices[t[k]], &b = mesh.vertices[t[(k + 1) % 3]];
      lengths[k] = (a - b).norm();
      if (lengths[k] > h.longest_mm) h.longest_mm = lengths[k], h.end = a.squaredNorm() > b.squaredNorm() ? a : b;
    }
    std::sort(std::begin(lengths), std::end(lengths));
    if (lengths[2] < kLongest * edge_mm) continue;
    h.pieces += 0.5 * area_vector(mesh, t).norm() / (edge_mm * edge_mm) + 2.0 * lengths[2] / edge_mm;
    h.fan_pieces += 0.5 * lengths[1] * lengths[2] / (edge_mm * edge_mm);
  }
  return h;
}

Result<void> can_be_halved(const Halving& h, double edge_mm) {
  constexpr double kMostPieces = 100'000, kMostTimes = 1000.0;
  if (h.pieces <= kMostPieces && h.longest_mm <= kMostTimes * edge_mm) return {};
  return fail(Errc::too_large,
      "An edge of this mesh, " + fixed(h.longest_mm, 0) + " mm long, ends at " + fixed(h.end.x(), 0) + ", " +
          fixed(h.end.y(), 0) + ", " + fixed(h.end.z(), 0) + " mm. In triangles of " + fixed(edge_mm, 0) +
          " mm edges are up to " + fixed(kMostTimes * edge_mm, 0) + " mm long, and there are up to " +
          fixed(kMostPieces, 0) + " of them. Perhaps that corner is not meant.");
}

/// The corners of a surface, with every look at them counted: of some spoilt meshes CGAL's remeshing does not end.
struct CountedCorners {
  using key_type = CgalSurface::Vertex_index;
  using value_type = CgalKernel::Point_3;
  using reference = const value_type&;
  using category = boost::read_write_property_map_tag;

  CgalSurface* surface;
  std::int64_t* looks_left;

  friend reference get(const CountedCorners& corners, key_type v) {
    if (--*corners.looks_left < 0) throw std::length_error(std::string());
    return corners.surface->point(v);
  }
  friend void put(const CountedCorners& corners, key_type v, const value_type& p) { corners.surface->point(v) = p; }
};

/// Errors: degenerate_shape if CGAL finds no way or no end; the surface is of no use then.
Result<void> remesh(CgalSurface& surface, const EvenGoal& goal, Sharp sharp) {
  constexpr double kLooks = 300.0;  // a round and triangle; sound meshes take up to 70, spoilt ones seldom more
  double area = 0.0;
  for (const auto f : surface.faces()) area += PMP::face_area(f, surface);
  const double triangles = static_cast<double>(surface.number_of_faces()) + area / (0.4 * goal.edge_mm * goal.edge_mm);
  std::int64_t looks_left = static_cast<std::int64_t>(kLooks * (goal.rounds + 1) * (triangles + 100.0));
  try {
    PMP::isotropic_remeshing(surface.faces(), goal.edge_mm, surface,
        params::number_of_iterations(static_cast<unsigned>(goal.rounds))
            .protect_constraints(false)
            .edge_is_constrained_map(sharp)
            .vertex_point_map(CountedCorners{&surface, &looks_left})
            .relax_constraints(true)
            .number_of_relaxation_steps(2));
  } catch (const std::logic_error&) {  // length_error above, and what it throws where its own books do not agree
    return fail(Errc::degenerate_shape,
        "This mesh cannot be laid in even triangles of " + fixed(goal.edge_mm, 0) +
            " mm: somewhere it runs into itself or has no width.");
  }
  return {};
}

Result<Mesh> evened_once(const Mesh& mesh, const EvenGoal& goal) {
  const Halving halving = halving_of(mesh, goal.edge_mm);
  if (const auto can = can_be_halved(halving, goal.edge_mm); !can) return fail(can);
  CgalSurface surface = surface_of(mesh);
  PMP::remove_degenerate_faces(surface);
  if (surface.number_of_faces() == 0) return fail(Errc::degenerate_shape, "Nothing is left of this mesh once evened.");
  auto sharp = surface.add_property_map<CgalSurface::Edge_index, bool>("e:sharp", false).first;
  PMP::detect_sharp_edges(surface, goal.sharp_deg, sharp);
  for (const auto e : surface.edges())
    if (surface.is_border(e)) sharp[e] = true;
  // What is to be kept may not be longer than what is asked for, or the rest is made to fit it.
  constexpr double kManyInFans = 100'000;
  if (halving.fan_pieces > kManyInFans)
    halve_long_edges(surface, kLongest * goal.edge_mm, sharp);
  else
    halve_kept_edges(surface, kLongest * goal.edge_mm, sharp);
  if (const auto done = remesh(surface, goal, sharp); !done) return fail(done);
  PMP::remove_degenerate_faces(surface);
  surface.collect_garbage();
  if (surface.number_of_faces() == 0) return fail(Errc::degenerate_shape, "Nothing is left of this mesh once evened.");
  return plain(surface);
}

/// Whether corners ran into each other.
bool has_dust(const Mesh& mesh, double edge_mm) {
  constexpr double kDustShare = 1e-6;
  return std::any_of(mesh.triangles.begin(), mesh.triangles.end(),
      [&](const Tri& t) { return area_vector(mesh, t).norm() < kDustShare * edge_mm * edge_mm; });
}

}  // namespace

Result<Mesh> evened(const Mesh& mesh, const EvenGoal& goal) {
  // Between needles any edge is sharp: what slides along such edges runs into itself. Then only sharper ones are kept.
  EvenGoal kept = goal;
  for (const double sharper_deg : {90.0, 135.0, 180.0}) {
    auto even = evened_once(mesh, kept);
    const bool runs_into_itself = even ? has_dust(*even, goal.edge_mm) : even.error().code == Errc::degenerate_shape;
    if (!runs_into_itself || kept.sharp_deg >= 180.0) return even;
    kept.sharp_deg = std::max(sharper_deg, kept.sharp_deg);
  }
  return evened_once(mesh, kept);
}

double even_edge_mm(const Mesh& mesh, int triangles) {
  constexpr double kLeastEdgeMm = 2.0, kMostEdgeMm = 20.0;
  return std::clamp(std::sqrt(4.0 * area_mm2(mesh) / (std::sqrt(3.0) * triangles)), kLeastEdgeMm, kMostEdgeMm);
}

Result<Mesh> evened_to(const Mesh& mesh, int triangles, bool half) {
  constexpr double kInPlaneMm = 1e-3;
  EvenGoal goal;
  goal.edge_mm = even_edge_mm(mesh, triangles);
  auto even = evened(mesh, goal);
  if (!even || !half) return even;
  const Topology topo = topology_of(*even);
  for (const auto& e : topo.edges)
    for (const int v : {e.a, e.b})
      if (e.right < 0 && std::abs(even->vertices[v].x()) < kInPlaneMm) even->vertices[v].x() = 0.0;
  return even;
}

Filled with_holes_filled(const Mesh& mesh, double most_rim_mm) {
  CgalSurface surface = surface_of(mesh);
  std::vector<CgalSurface::Halfedge_index> rims;
  PMP::extract_boundary_cycles(surface, std::back_inserter(rims));
  Filled filled;
  for (const auto h : rims) {
    double round = 0.0;
    for (const auto e : CGAL::halfedges_around_face(h, surface))
      round += std::sqrt(CGAL::squared_distance(surface.point(surface.source(e)), surface.point(surface.target(e))));
    if (round >= most_rim_mm) continue;
    std::vector<CgalSurface::Face_index> faces;
    std::vector<CgalSurface::Vertex_index> vertices;
    PMP::triangulate_and_refine_hole(surface, h, std::back_inserter(faces), std::back_inserter(vertices));
    if (!faces.empty()) ++filled.holes;
  }
  surface.collect_garbage();
  filled.mesh = filled.holes > 0 ? plain(surface) : mesh;
  return filled;
}

}  // namespace awl
