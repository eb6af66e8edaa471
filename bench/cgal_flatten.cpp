#include "bench/cgal_flatten.hpp"

#include <CGAL/Polygon_mesh_processing/measure.h>
#include <CGAL/Simple_cartesian.h>
#include <CGAL/Surface_mesh.h>
#include <CGAL/Surface_mesh_parameterization/ARAP_parameterizer_3.h>
#include <CGAL/Surface_mesh_parameterization/parameterize.h>

namespace awl::bench {

std::vector<Vec2> cgal_as_rigid_as_possible(const Mesh& panel) {
  using Kernel = CGAL::Simple_cartesian<double>;
  using Surface = CGAL::Surface_mesh<Kernel::Point_3>;
  namespace smp = CGAL::Surface_mesh_parameterization;
  Surface surface;
  std::vector<Surface::Vertex_index> v;
  for (const Vec3& p : panel.vertices) v.push_back(surface.add_vertex({p.x(), p.y(), p.z()}));
  for (const Tri& t : panel.triangles) surface.add_face(v[t[0]], v[t[1]], v[t[2]]);
  const auto border = CGAL::Polygon_mesh_processing::longest_border(surface).first;
  auto uv = surface.add_property_map<Surface::Vertex_index, Kernel::Point_2>("v:uv").first;
  smp::ARAP_parameterizer_3<Surface> parameterizer;
  smp::parameterize(surface, parameterizer, border, uv);
  std::vector<Vec2> out;
  for (const auto index : v) out.push_back({uv[index].x(), uv[index].y()});
  return out;
}

}  // namespace awl::bench
