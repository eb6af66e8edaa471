#include "core/geom/mending/even.hpp"

#include <CGAL/Polygon_mesh_processing/border.h>
#include <CGAL/Polygon_mesh_processing/detect_features.h>
#include <CGAL/Polygon_mesh_processing/remesh.h>
#include <CGAL/Polygon_mesh_processing/repair_degeneracies.h>
#include <CGAL/Polygon_mesh_processing/triangulate_hole.h>

#include <algorithm>
#include <cmath>

#include "core/geom/mending/cgal_mesh.hpp"

namespace awl {

namespace PMP = CGAL::Polygon_mesh_processing;
namespace params = CGAL::parameters;

namespace {

Result<Mesh> evened_once(const Mesh& mesh, const EvenGoal& goal) {
  CgalSurface surface = surface_of(mesh);
  PMP::remove_degenerate_faces(surface);
  if (surface.number_of_faces() == 0) return fail(Errc::degenerate_shape, "Nothing is left of this mesh once evened.");
  auto sharp = surface.add_property_map<CgalSurface::Edge_index, bool>("e:sharp", false).first;
  PMP::detect_sharp_edges(surface, goal.sharp_deg, sharp);
  for (const auto e : surface.edges())
    if (surface.is_border(e)) sharp[e] = true;
  // What is to be kept may not be longer than what is asked for, or the rest is made to fit it.
  std::vector<CgalSurface::Edge_index> kept;
  for (const auto e : surface.edges())
    if (sharp[e]) kept.push_back(e);
  PMP::split_long_edges(kept, 4.0 / 3.0 * goal.edge_mm, surface, params::edge_is_constrained_map(sharp));
  PMP::isotropic_remeshing(surface.faces(), goal.edge_mm, surface,
      params::number_of_iterations(static_cast<unsigned>(goal.rounds))
          .protect_constraints(false)
          .edge_is_constrained_map(sharp)
          .relax_constraints(true)
          .number_of_relaxation_steps(2));
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
    if (!even || !has_dust(*even, goal.edge_mm) || kept.sharp_deg >= 180.0) return even;
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
