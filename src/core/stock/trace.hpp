#pragma once
#include <array>
#include <optional>

#include "core/geom/grey_picture.hpp"
#include "core/stock/offcut.hpp"

namespace awl {

/// From a photograph to the table it shows: a square of known side, its four corners clicked in turn, tells scale and
/// slant.
///
/// Shape:  the projective map that takes the corners to the square. Source: docs/formulas/nesting.md (1).
class PhotoPlane {
 public:
  /// `corners` in pixels, y downwards, one after the other round the square. Errors: out_of_range for a side outside 10
  /// to 2000 mm; degenerate_shape when the corners are no four corners: three in a line, or crossed.
  static Result<PhotoPlane> of(const std::array<Vec2, 4>& corners, double side_mm);

  /// Millimetres on the table, y upwards, the square's first corner at the origin. Contract: in front of the camera.
  Vec2 on_table(const Vec2& pixel) const;
  std::vector<Vec2> on_table(const std::vector<Vec2>& pixels) const;

 private:
  Eigen::Matrix<double, 3, 3> map_ = Eigen::Matrix<double, 3, 3>::Identity();
};

/// The sharp corner near a place, to a fraction of a pixel: the point all edges round it run through, least squares
/// weighted by how sharp they are. Nothing within `reach_px`, no edges, or edges of one direction only: none. Source:
/// foerstner1987; docs/formulas/nesting.md (2).
std::optional<Vec2> corner_near(const GreyPicture& picture, const Vec2& place, double reach_px);

/// How far off the worst of some places on the table may be if each corner of the square slips by `slip_px` both ways,
/// millimetres: the root of the sum of the squares of what each slip does.
double slip_mm(const std::array<Vec2, 4>& corners, double side_mm, const std::vector<Vec2>& pixels, double slip_px);

}  // namespace awl
