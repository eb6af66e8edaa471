#include "core/geom/triangulate.hpp"

#include <CGAL/Constrained_Delaunay_triangulation_2.h>
#include <CGAL/Delaunay_mesh_face_base_2.h>
#include <CGAL/Delaunay_mesh_size_criteria_2.h>
#include <CGAL/Delaunay_mesh_vertex_base_2.h>
#include <CGAL/Delaunay_mesher_2.h>
#include <CGAL/Exact_predicates_inexact_constructions_kernel.h>

#include <algorithm>
#include <cmath>
#include <map>

#include "core/geom/polygon.hpp"

namespace awl {
namespace {

using Kernel = CGAL::Exact_predicates_inexact_constructions_kernel;
using VertexBase = CGAL::Delaunay_mesh_vertex_base_2<Kernel>;
using FaceBase = CGAL::Delaunay_mesh_face_base_2<Kernel>;
using Triangulation =
    CGAL::Constrained_Delaunay_triangulation_2<Kernel, CGAL::Triangulation_data_structure_2<VertexBase, FaceBase>>;
using Criteria = CGAL::Delaunay_mesh_size_criteria_2<Triangulation>;

bool segments_cross(const Vec2& a, const Vec2& b, const Vec2& c, const Vec2& d) {
  const auto side = [](const Vec2& p, const Vec2& q, const Vec2& r) {
    return (q.x() - p.x()) * (r.y() - p.y()) - (q.y() - p.y()) * (r.x() - p.x());
  };
  return side(a, b, c) * side(a, b, d) < 0.0 && side(c, d, a) * side(c, d, b) < 0.0;
}

/// All edges of all rings against each other; neighbours share a corner and are let be.
bool any_crossing(const std::vector<std::vector<Vec2>>& rings) {
  struct Edge {
    Vec2 a, b;
  };
  std::vector<Edge> edges;
  for (const auto& ring : rings)
    for (std::size_t i = 0; i < ring.size(); ++i) edges.push_back({ring[i], ring[(i + 1) % ring.size()]});
  for (std::size_t i = 0; i < edges.size(); ++i)
    for (std::size_t j = i + 1; j < edges.size(); ++j)
      if (segments_cross(edges[i].a, edges[i].b, edges[j].a, edges[j].b)) return true;
  return false;
}

Vec2 tangent_between(const Vec2& a, const Vec2& b, const Vec2& c) {
  const double ab = std::sqrt(std::max((b - a).norm(), 1e-9)), bc = std::sqrt(std::max((c - b).norm(), 1e-9));
  return (b - a) / ab - (c - a) / (ab + bc) + (c - b) / bc;
}

}  // namespace

Result<FlatMesh> triangulate(
    const std::vector<Vec2>& outline, const std::vector<std::vector<Vec2>>& holes, double edge_mm) {
  if (outline.size() < 3 || std::abs(signed_area_mm2(outline)) < 1.0)
    return fail(Errc::degenerate_shape, "An outline needs three corners and some area.");
  std::vector<std::vector<Vec2>> rings{outline};
  rings.insert(rings.end(), holes.begin(), holes.end());
  if (any_crossing(rings))
    return fail(Errc::degenerate_shape, "The outline crosses itself or one of its holes; move its points apart.");
  Triangulation cdt;
  for (const auto& ring : rings) {
    std::vector<Triangulation::Vertex_handle> corners;
    for (const Vec2& p : ring) corners.push_back(cdt.insert({p.x(), p.y()}));
    for (std::size_t i = 0; i < corners.size(); ++i)
      if (corners[i] != corners[(i + 1) % corners.size()])
        cdt.insert_constraint(corners[i], corners[(i + 1) % corners.size()]);
  }
  std::vector<Triangulation::Point> seeds;
  for (const auto& hole : holes) {
    const Vec2 c = polygon_centre(hole);
    seeds.emplace_back(c.x(), c.y());
  }
  CGAL::refine_Delaunay_mesh_2(cdt, seeds.begin(), seeds.end(), Criteria(0.117, edge_mm));
  FlatMesh mesh;
  std::map<Triangulation::Vertex_handle, int> number;
  for (auto v = cdt.finite_vertices_begin(); v != cdt.finite_vertices_end(); ++v) {
    number[v] = static_cast<int>(mesh.vertices.size());
    mesh.vertices.emplace_back(v->point().x(), v->point().y());
  }
  for (auto f = cdt.finite_faces_begin(); f != cdt.finite_faces_end(); ++f)
    if (f->is_in_domain()) mesh.triangles.push_back({number[f->vertex(0)], number[f->vertex(1)], number[f->vertex(2)]});
  if (mesh.triangles.empty()) return fail(Errc::degenerate_shape, "Nothing is left of the outline beside its holes.");
  return mesh;
}

std::vector<Vec2> smooth_curve(const std::vector<CurvePoint>& points, bool closed, double step_mm) {
  const int n = static_cast<int>(points.size()), spans = closed ? n : n - 1;
  std::vector<Vec2> curve;
  const auto at = [&](int i) { return points[static_cast<std::size_t>((i % n + n) % n)]; };
  const auto has = [&](int i) { return closed || (i >= 0 && i < n); };
  for (int i = 0; i < spans; ++i) {
    const Vec2 a = at(i).at, b = at(i + 1).at, chord = b - a;
    const double root = std::sqrt(std::max(chord.norm(), 1e-9));
    const Vec2 start = at(i).corner || !has(i - 1) ? Vec2(chord / root) : tangent_between(at(i - 1).at, a, b);
    const Vec2 end = at(i + 1).corner || !has(i + 2) ? Vec2(chord / root) : tangent_between(a, b, at(i + 2).at);
    const int steps = std::max(1, static_cast<int>(std::ceil(chord.norm() / step_mm)));
    for (int k = 0; k < steps; ++k) {
      const double t = static_cast<double>(k) / steps, t2 = t * t, t3 = t2 * t;
      curve.push_back((2 * t3 - 3 * t2 + 1) * a + (t3 - 2 * t2 + t) * root * start + (-2 * t3 + 3 * t2) * b +
          (t3 - t2) * root * end);
    }
  }
  if (!closed && n > 0) curve.push_back(points.back().at);
  return curve;
}

}  // namespace awl
