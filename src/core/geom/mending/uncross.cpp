#include <CGAL/Exact_predicates_inexact_constructions_kernel.h>
#include <CGAL/Polygon_mesh_processing/repair_self_intersections.h>
#include <CGAL/Polygon_mesh_processing/self_intersections.h>
#include <CGAL/Surface_mesh.h>

#include "core/geom/mending/cgal_mesh.hpp"
#include "core/geom/crossing.hpp"
#include "core/geom/mending/mend.hpp"

namespace awl {

namespace PMP = CGAL::Polygon_mesh_processing;

bool cuts_itself(const Mesh& mesh) { return PMP::does_self_intersect(surface_of(mesh)); }

Result<Mesh> without_self_cuts(const Mesh& mesh) {
  CgalSurface surface = surface_of(mesh);
  if (!PMP::does_self_intersect(surface)) return mesh;
  PMP::experimental::remove_self_intersections(surface, CGAL::parameters::preserve_genus(false));
  surface.collect_garbage();
  if (surface.number_of_faces() == 0 || PMP::does_self_intersect(surface))
    return fail(Errc::no_solution,
        "It still cuts through itself after trying; mend it where it was made, or cut that part away.", "import/file");
  return plain(surface);
}

}  // namespace awl
