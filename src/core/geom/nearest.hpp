#pragma once
#include <memory>
#include <optional>

#include "core/geom/mesh.hpp"

namespace awl {

/// The closest place on a surface.
struct NearestHit {
  Vec3 point = Vec3::Zero();
  int triangle = -1;
  Vec3 weights = Vec3::Zero();  ///< barycentric, of the triangle's corners
  double signed_mm = 0.0;       ///< distance, negative inside a closed surface
};

/// Where a ray meets a surface.
struct RayHit {
  double along_mm = 0.0;
  int triangle = -1;
};

/// Answers "how far is the surface from here" and "what does this ray hit" for one mesh.
///
/// Ownership: keeps its own copy of the mesh, a tree of boxes and, once a ray was shot, one of Embree's. Copies share
/// them, and so does who asks again about a mesh that was asked about lately. Safe to ask from several threads.
/// Accuracy: trees are single precision, the closest place is exact in double.
class Nearest {
 public:
  explicit Nearest(const Mesh& mesh);
  const Mesh& mesh() const;
  /// How many trees were built since the program started: a gesture should build none.
  static int trees_built();

  NearestHit to(const Vec3& p) const;
  /// The same where the surface is as near as `mm`: the sooner told the less that is.
  std::optional<NearestHit> within(const Vec3& p, double mm) const;
  std::optional<RayHit> first_hit(const Vec3& from, const Vec3& direction, double from_mm = 1e-4) const;
  bool blocked(const Vec3& from, const Vec3& direction, double within_mm) const;

 private:
  struct Tree;
  class Kept;
  NearestHit with_sign(const Vec3& p, const struct ClosestTriangle& found) const;
  std::shared_ptr<const Tree> tree_;
};

/// What is numbered by vertex, at the place of a hit.
template <class Value>
Value value_at(const NearestHit& hit, const Mesh& mesh, const std::vector<Value>& values) {
  const Tri& t = mesh.triangles[hit.triangle];
  return hit.weights[0] * values[t[0]] + hit.weights[1] * values[t[1]] + hit.weights[2] * values[t[2]];
}

/// Closest point of the stretch from a to b; `share`, if given, becomes how far along it lies.
Vec3 closest_on_stretch(const Vec3& p, const Vec3& a, const Vec3& b, double* share = nullptr);

}  // namespace awl
