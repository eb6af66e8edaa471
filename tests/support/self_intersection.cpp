#include "support/self_intersection.hpp"

#include <CGAL/Exact_predicates_inexact_constructions_kernel.h>
#include <CGAL/Polygon_mesh_processing/self_intersections.h>
#include <CGAL/Surface_mesh.h>

namespace awl::test {

bool crosses_itself(const Mesh& mesh) {
  using Kernel = CGAL::Exact_predicates_inexact_constructions_kernel;
  using Surface = CGAL::Surface_mesh<Kernel::Point_3>;
  Surface surface;
  std::vector<Surface::Vertex_index> at;
  for (const Vec3& p : mesh.vertices) at.push_back(surface.add_vertex({p.x(), p.y(), p.z()}));
  for (const Tri& t : mesh.triangles)
    if (surface.add_face(at[t[0]], at[t[1]], at[t[2]]) == Surface::null_face()) return true;
  return CGAL::Polygon_mesh_processing::does_self_intersect(surface);
}

}  // namespace awl::test
