#include "core/chain/difference.hpp"

#include <algorithm>
#include <cmath>

namespace awl {

Result<Difference> difference_between(const Derived& former, const Derived& present) {
  for (const Derived* d : {&former, &present})
    if (!d->panels || !d->pieces)
      return fail(Errc::empty_input,
          d->error ? "It cannot be compared: " + d->error->text : "There are no pieces to compare yet.", "versions");
  Difference difference;
  difference.pieces = changes_between(*former.pieces, *present.pieces);
  const Mesh was = sheet_face(former.panels->form.mesh, former.panels->spans, true),
             is = sheet_face(present.panels->form.mesh, present.panels->spans, true);
  const Nearest surface(was);
  const auto normals = vertex_normals(was);
  for (const Vec3& p : is.vertices) {
    const NearestHit hit = surface.to(p);
    const Vec3 away = p - hit.point;
    difference.off_mm.push_back(std::copysign(away.norm(), away.dot(value_at(hit, was, normals))));
    difference.most_mm = std::max(difference.most_mm, away.norm());
  }
  return difference;
}

}  // namespace awl
