#pragma once
#include <functional>
#include <optional>

#include "core/base/progress.hpp"
#include "core/base/result.hpp"
#include "core/geom/mesh.hpp"

namespace awl {

/// A box of cubic cells; the first corner is exactly `low`.
struct Grid {
  Vec3 low = Vec3::Zero();
  double cell_mm = 2.0;
  std::array<int, 3> cells{0, 0, 0};
};
Grid grid_over(const Vec3& low, const Vec3& high, double cell_mm);

/// Surface where `field` is zero, inside where it is negative, by marching tetrahedra (six to a cell).
///
/// Shape:  where the surface leaves the grid it has a border lying exactly on the grid's side.
/// Cost:   one call of `field` per grid corner.
/// Errors: cancelled.
Result<Mesh> iso_surface(
    const Grid& grid, const std::function<double(const Vec3&)>& field, const Progress& progress = {});

/// The same for a field that changes by no more than its argument moves (a distance): only blocks of cells near the
/// surface are looked at closely, on all cores. Contract: both functions may be called from several threads.
///
/// Shape:  where `wanted` is negative at the middle of a block nothing is made; the surface ends there with a border.
/// Cost:   about one call for each corner within two cells of the surface, and for those a band adds.
Result<Mesh> distance_surface(const Grid& grid, const std::function<double(const Vec3&)>& distance,
    const Progress& progress = {}, const std::function<double(const Vec3&)>& wanted = {},
    class DistanceBand* band = nullptr);

/// What distance_surface learnt of its field near the surface, between the corners by linear interpolation.
class DistanceBand {
 public:
  /// Nothing outside the band. Accuracy: cell^2 / (8 R) where the surface has the radius R.
  std::optional<double> at(const Vec3& p) const;
  /// Nearest place of the surface by two Newton steps; nothing if it leaves the band. With `keep_x` the x coordinate
  /// stays.
  std::optional<Vec3> onto(Vec3 p, bool keep_x) const;

 private:
  friend Result<Mesh> distance_surface(const Grid&, const std::function<double(const Vec3&)>&, const Progress&,
      const std::function<double(const Vec3&)>&, DistanceBand*);
  Grid grid_;
  std::vector<float> values_;
  std::vector<char> exact_;
};

}  // namespace awl
