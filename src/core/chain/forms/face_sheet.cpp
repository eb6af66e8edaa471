#include "core/chain/forms/face_sheet.hpp"

#include <cmath>

#include "core/chain/shop.hpp"
#include "core/seam/flatten.hpp"

namespace awl {
namespace {

/// Turns the flat patch so that the middle line runs up, with the place below the brows in the origin; of a patch that
/// does not reach there the place nearest to it.
void set_upright(FaceSheet& sheet, const Vec3& middle) {
  const auto nearest = [&](const Vec3& place) {
    int best = 0;
    for (int v = 1; v < static_cast<int>(sheet.flat.size()); ++v)
      if ((sheet.mesh.vertices[v] - place).squaredNorm() < (sheet.mesh.vertices[best] - place).squaredNorm()) best = v;
    return best;
  };
  const int at = nearest(middle);
  int low = at, top = nearest(middle + Vec3(0, 45, 0));
  if (top == at) {  // all of it lies above that place, or below: the other end of its middle line tells
    const auto far = [&](int v) { return (sheet.mesh.vertices[v] - sheet.mesh.vertices[at]).norm(); };
    for (int v = 0; v < static_cast<int>(sheet.flat.size()); ++v)
      if (std::abs(sheet.mesh.vertices[v].x()) < 1.0 && far(v) > far(top)) top = v;
    if (sheet.mesh.vertices[at].y() < middle.y()) std::swap(low, top);
  }
  const Vec2 origin = sheet.flat[at], up = (sheet.flat[top] - sheet.flat[low]).normalized();
  for (Vec2& p : sheet.flat)
    p = Vec2(up.y() * (p.x() - origin.x()) - up.x() * (p.y() - origin.y()), up.dot(p - origin));
}

}  // namespace

Result<FaceSheet> FaceSheetStep::run(Shop& shop, const Inputs& in, const Progress&) {
  const Headform& head = *in.worn.head;
  const auto patch = shop.wraps().face_patch(in.reach.middle_y_mm, in.reach.side_mm, in.reach.tall_mm);
  if (!patch) return fail(patch);
  const Mirrored both = mirror_half(patch->half);
  FaceSheet sheet;
  sheet.mesh = both.mesh;
  sheet.mesh.vertices = shop.wraps().riders(both.mesh.vertices, both.twin_of).carried(head.coefficients);
  if (auto settled = settle_on_head(sheet.mesh, head.mesh, in.ease_mm); !settled) return fail(settled);
  auto flattener = Flattener::of(sheet.mesh);
  if (!flattener) return fail(flattener);
  if (auto flat = flattener->flatten({}); !flat) return fail(flat);
  sheet.flat = flattener->uv();
  set_upright(sheet, head.at(Landmark::sellion));
  return sheet;
}

FaceSheetMaker face_maker(Shop& shop, const WornHead& worn) {
  return [&shop, worn](double ease_mm, const FaceReach& reach) -> Result<FaceSheet> {
    const auto sheet = shop.make<FaceSheetStep>({worn, ease_mm, reach});
    if (!sheet) return fail(sheet);
    return **sheet;
  };
}

Result<PlateLayout> plate_layout(Shop& shop, const PlateSpec& spec, const Site& site, const WornHead& worn) {
  using L = Landmark;
  const auto map = plate_map(spec, site, face_maker(shop, worn));
  if (!map) return fail(map);
  PlateLayout layout;
  layout.scale = map->scale;
  layout.holes = holes_on_sheet(spec, *map, *worn.head);
  if (!spec.follows_face) return layout;
  for (const L l : {L::pupil_l, L::pupil_r, L::pronasale, L::alare_l, L::alare_r, L::cheilion_l, L::cheilion_r,
           L::stomion, L::pogonion, L::menton, L::gonion_l, L::gonion_r, L::zygion_l, L::zygion_r, L::glabella})
    layout.marks.push_back({name_of(l), map->under(worn.head->at(l))});
  return layout;
}

}  // namespace awl
