#include "core/fit/rooms.hpp"

#include <algorithm>

#include "core/fit/going_on.hpp"
#include "core/geom/solid.hpp"

namespace awl {
namespace {

constexpr double kTempleWideMm = 4.0, kTempleTallMm = 6.0, kTempleLongMm = 110.0, kApartMm = 6.0;

Mesh box(const Vec3& middle, const Vec3& size) {
  Mesh mesh;
  for (int i = 0; i < 8; ++i)
    mesh.vertices.push_back(middle +
        0.5 *
            Vec3((i & 1) != 0 ? size.x() : -size.x(), (i & 2) != 0 ? size.y() : -size.y(),
                (i & 4) != 0 ? size.z() : -size.z()));
  mesh.triangles = {{0, 2, 1}, {1, 2, 3}, {4, 5, 6}, {5, 7, 6}, {0, 1, 4}, {1, 5, 4}, {2, 6, 3}, {3, 6, 7}, {0, 4, 2},
      {2, 4, 6}, {1, 3, 5}, {3, 7, 5}};
  return mesh;
}

}  // namespace

Mesh body_of(const Room& room) {
  Mesh body = box(room.at_mm, room.size_mm);
  if (room.kind != RoomKind::glasses) return body;
  for (const double side : {1.0, -1.0})
    add_mesh(body,
        box(room.at_mm +
                Vec3(side * 0.5 * (room.size_mm.x() - kTempleWideMm), 0.25 * room.size_mm.y(),
                    -0.5 * (room.size_mm.z() + kTempleLongMm)),
            {kTempleWideMm, kTempleTallMm, kTempleLongMm}));
  return body;
}

RoomCheck check_room(const FitHead& head, const std::vector<FitPart>& parts, const Room& room, const FitRules& rules) {
  RoomCheck check;
  check.room = room.id;
  check.skin_mm = check.shell_mm = 1e300;
  // Glasses rest on nose and ears: only their front is held against the skin.
  const bool rests = room.kind == RoomKind::glasses || room.kind == RoomKind::padding;
  for (const Vec3& p : spread_points(body_of(room), kApartMm)) {
    check.skin_mm = std::min(check.skin_mm, head.near().to(p).signed_mm);
    for (const FitPart& part : parts) {
      const double off = part.near->to(p).signed_mm;
      if (off < check.shell_mm) check.shell_mm = off, check.shell = part.name;
    }
  }
  const double least = rules.clearance.room_mm;
  check.fits = check.shell_mm >= least && (rests ? check.skin_mm > -15.0 : check.skin_mm >= least);
  return check;
}

}  // namespace awl
