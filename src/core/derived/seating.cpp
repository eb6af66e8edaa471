#include "core/derived/seating.hpp"

#include "core/base/numbers.hpp"
#include "core/geom/nearest.hpp"
#include "core/geom/offset.hpp"

namespace awl {
namespace {

constexpr double kPointedWithinMm = 12.0;  // the stand shows the foam's outside: no farther from a face than foam

/// What a part may sit on: a part's number, 0 for the head, and its face.
struct Host {
  int part = 0;
  Mesh face;
};

std::vector<Host> hosts_before(const Part& part, const Build& build, const Derived& derived) {
  std::vector<Host> hosts{{0, derived.head->mesh}};
  for (const Part& other : build.parts) {
    if (other.id == part.id) break;
    if (const PartForm* form = derived.form ? derived.form->shape_of(other.id) : nullptr)
      hosts.push_back({other.id, outer_face(*form)});
  }
  return hosts;
}

}  // namespace

Mesh outer_face(const PartForm& form) {
  return form.outside ? form.surface.mesh : offset_by_planes(form.surface.mesh, form.thickness_mm);
}

Part seated_on(Part part, int host, const Box& box, const Vec3& place) {
  if (Seat* seat = seat_of(part)) *seat = on_spot(*seat, box, place);
  return sat_on(std::move(part), host);
}

Result<int> host_at(const Part& part, const Build& build, const Derived& derived, const Vec3& place) {
  const std::string where = "parts/" + std::to_string(part.id);
  if (!derived.head) return fail(Errc::empty_input, "There is no head to sit on yet.", where);
  Part copy = part;
  if (seat_of(copy) == nullptr)
    return fail(Errc::unknown_name,
        "The " + part.name +
            " lies where its own measures put it; horns, ears, plates and bodies can be set on a spot.",
        where);
  int nearest = 0;
  double least = 1e300;
  for (const Host& host : hosts_before(part, build, derived)) {
    const double mm = std::abs(Nearest(host.face).to(place).signed_mm);
    if (mm < least - 1e-9) least = mm, nearest = host.part;
  }
  if (least > kPointedWithinMm)
    return fail(Errc::out_of_range,
        "That place is " + fixed(least, 0) + " mm from the head and from every part made before the " + part.name +
            "; it can sit on those alone.",
        where);
  return nearest;
}

}  // namespace awl
