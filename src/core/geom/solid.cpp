#include "core/geom/solid.hpp"

#include <Eigen/Dense>
#include <algorithm>

namespace awl {
namespace {

constexpr double kCrumbMm2 = 0.5;  // left over between shadows of neighbours

}  // namespace

Mesh capped(const Mesh& surface) {
  Mesh solid = surface;
  for (const auto& loop : border_loops(surface)) {
    Vec3 middle = Vec3::Zero();
    for (const int v : loop) middle += surface.vertices[v] / static_cast<double>(loop.size());
    const int hub = static_cast<int>(solid.vertices.size());
    solid.vertices.push_back(middle);
    // The loop has the surface on its left: seen from outside the cap runs the other way.
    for (std::size_t i = 0; i < loop.size(); ++i)
      solid.triangles.push_back({loop[(i + 1) % loop.size()], loop[i], hub});
  }
  return solid;
}

void add_mesh(Mesh& to, const Mesh& more) {
  const int n = static_cast<int>(to.vertices.size());
  to.vertices.insert(to.vertices.end(), more.vertices.begin(), more.vertices.end());
  for (const Tri& t : more.triangles) to.triangles.push_back({t[0] + n, t[1] + n, t[2] + n});
}

Rings section_region(const Mesh& solid, const Plane& plane) {
  const PlaneFrame frame = frame_of(plane);
  Rings curves;
  for (const auto& line : section_lines(solid, plane)) {
    std::vector<Vec2> ring;
    for (const Vec3& p : line) ring.push_back(frame(p));
    if (ring.size() > 1 && (ring.front() - ring.back()).norm() < 1e-9) ring.pop_back();
    if (ring.size() >= 3) curves.push_back(std::move(ring));
  }
  return region_of(curves);
}

Rings silhouette(const Mesh& solid, const PlaneFrame& frame) {
  // Triangles are joined in small heaps first: one sweep over all of them would be far slower.
  constexpr std::size_t kHeap = 64;
  std::vector<Rings> heaps;
  Rings heap;
  for (const Tri& t : solid.triangles) {
    std::vector<Vec2> corners{frame(solid.vertices[t[0]]), frame(solid.vertices[t[1]]), frame(solid.vertices[t[2]])};
    if (signed_area_mm2(corners) < 1e-3)
      continue;  // those that look away lie within the shadow of those that look here
    heap.push_back(std::move(corners));
    if (heap.size() == kHeap) heaps.push_back(united(heap)), heap.clear();
  }
  if (!heap.empty()) heaps.push_back(united(heap));
  while (heaps.size() > 1) {
    std::vector<Rings> next;
    for (std::size_t i = 0; i < heaps.size(); i += 2) {
      if (i + 1 == heaps.size()) {
        next.push_back(std::move(heaps[i]));
        break;
      }
      // A hole's ring keeps its way round: the union of two regions, not of their rings.
      Rings both = std::move(heaps[i]);
      both.insert(both.end(), heaps[i + 1].begin(), heaps[i + 1].end());
      next.push_back(joined_regions(both));
    }
    heaps = std::move(next);
  }
  if (heaps.empty()) return {};
  // Neighbours meet to a thousandth only: what is left between them are crumbs.
  std::erase_if(heaps.front(), [](const auto& ring) { return std::abs(signed_area_mm2(ring)) < kCrumbMm2; });
  return std::move(heaps.front());
}

OwnAxes own_axes(const Mesh& solid) {
  Vec3 middle = Vec3::Zero();
  double area = 0.0;
  for (const Tri& t : solid.triangles) {
    const double w = 0.5 * area_vector(solid, t).norm();
    middle += w / 3.0 * (solid.vertices[t[0]] + solid.vertices[t[1]] + solid.vertices[t[2]]), area += w;
  }
  middle /= std::max(area, 1e-12);
  Eigen::Matrix3d spread = Eigen::Matrix3d::Zero();
  for (const Tri& t : solid.triangles) {
    const double w = 0.5 * area_vector(solid, t).norm();
    // Second moment of a whole triangle, not of its corners alone.
    Vec3 sum = Vec3::Zero();
    for (const int v : t) {
      const Vec3 d = solid.vertices[v] - middle;
      spread += w / 12.0 * d * d.transpose(), sum += d;
    }
    spread += w / 12.0 * sum * sum.transpose();
  }
  const Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d> solver(spread);
  OwnAxes axes;
  axes.along = solver.eigenvectors().col(2);
  if (axes.along.y() < -1e-9 || (std::abs(axes.along.y()) <= 1e-9 && axes.along.z() < 0.0)) axes.along = -axes.along;
  // Of the two others the front is kept as near to the wearer's as can be: templates then show what a maker calls front
  // and side.
  Vec3 front = Vec3::UnitZ() - axes.along.z() * axes.along;
  if (front.norm() < 0.2) front = -Vec3::UnitY() + axes.along.y() * axes.along;
  axes.deep = front.normalized();
  axes.across = axes.along.cross(axes.deep);
  return axes;
}

}  // namespace awl
