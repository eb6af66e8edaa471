#pragma once
#include <array>

#include "core/stock/offcut.hpp"

namespace awl {

/// From a photograph to the table it shows: a square of known side, its four corners clicked in turn, tells scale and slant.
///
/// Shape:  the projective map that takes the corners to the square. Source: docs/formulas/nesting.md (1).
class PhotoPlane {
 public:
  /// `corners` in pixels, y downwards, one after the other round the square. Errors: out_of_range for a side outside 10 to 2000 mm;
  /// degenerate_shape when the corners are no four corners: three in a line, or crossed.
  static Result<PhotoPlane> of(const std::array<Vec2, 4>& corners, double side_mm);

  /// Millimetres on the table, y upwards, the square's first corner at the origin. Contract: in front of the camera.
  Vec2 on_table(const Vec2& pixel) const;
  std::vector<Vec2> on_table(const std::vector<Vec2>& pixels) const;

 private:
  Eigen::Matrix<double, 3, 3> map_ = Eigen::Matrix<double, 3, 3>::Identity();
};

}  // namespace awl
