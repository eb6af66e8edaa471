#include "core/head/compare.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/parallel.hpp"
#include "core/geom/nearest.hpp"

namespace awl {

DistanceMap distance_map(const Mesh& mesh, const Mesh& other) {
  DistanceMap map;
  const int count = static_cast<int>(mesh.vertices.size());
  map.mm.resize(mesh.vertices.size());
  const Nearest near(other);
  constexpr int kParts = 16;
  parallel_for(kParts, [&](int part) {
    for (int v = count * part / kParts; v < count * (part + 1) / kParts; ++v)
      map.mm[v] = near.to(mesh.vertices[v]).signed_mm;
  });
  std::vector<double> sizes;
  for (int v = 0; v < count; ++v) {
    map.mean_mm += map.mm[v] / count;
    sizes.push_back(std::abs(map.mm[v]));
    if (map.furthest < 0 || sizes.back() > std::abs(map.mm[map.furthest])) map.furthest = v;
  }
  if (count == 0) return map;
  map.most_mm = map.mm[map.furthest];
  const auto at = sizes.begin() + count * 95 / 100;
  std::nth_element(sizes.begin(), at, sizes.end());
  map.p95_mm = *at;
  return map;
}

DistanceMap left_against_right(const Headform& head) {
  Mesh image = head.mesh;
  for (Vec3& p : image.vertices) p.x() = -p.x();
  for (Tri& t : image.triangles) std::swap(t[1], t[2]);
  return distance_map(head.mesh, image);
}

std::string spoken_place(const Headform& head, const Vec3& place) {
  int best = 0;
  for (int i = 1; i < kLandmarkCount; ++i)
    if ((head.landmarks[i] - place).squaredNorm() < (head.landmarks[best] - place).squaredNorm()) best = i;
  const std::string name = name_of(static_cast<Landmark>(best));
  if (std::abs(head.landmarks[best].x()) < 5.0) return name;
  return (place.x() > 0.0 ? "left " : "right ") + name;
}

}  // namespace awl
