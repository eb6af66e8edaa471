#pragma once
#include "core/geom/nearest.hpp"

namespace awl {

/// How far a place is above a surface that need not be closed: negative below it. Past its border nobody is below a
/// sheet, whichever way its edge happens to face. Ownership: as of Nearest.
class OpenField {
 public:
  explicit OpenField(const Mesh& mesh);

  NearestHit hit(const Vec3& p) const { return near_.to(p); }
  std::optional<RayHit> first_hit(const Vec3& from, const Vec3& direction) const {
    return near_.first_hit(from, direction);
  }
  /// Whether the nearest place lies on the border.
  bool past(const NearestHit& hit) const;
  double operator()(const Vec3& p) const;
  const Mesh& mesh() const { return *mesh_; }

 private:
  std::shared_ptr<const Mesh> mesh_;
  std::shared_ptr<const std::vector<char>> border_;  ///< per vertex
  Nearest near_;
};

}  // namespace awl
