#include "core/stock/trace.hpp"

#include <Eigen/Dense>
#include <cmath>

#include "core/base/numbers.hpp"

namespace awl {

Result<PhotoPlane> PhotoPlane::of(const std::array<Vec2, 4>& corners, double side_mm) {
  if (!(side_mm >= 10.0 && side_mm <= 2000.0)) return fail(Errc::out_of_range, "A square of " + fixed(side_mm, 1) + " mm is outside 10 to 2000 mm.", "offcuts/square");
  double turn = 0.0;
  for (int i = 0; i < 4; ++i) {
    const Vec2 a = corners[(i + 1) % 4] - corners[i], b = corners[(i + 2) % 4] - corners[(i + 1) % 4];
    const double cross = a.x() * b.y() - a.y() * b.x();
    if (std::abs(cross) < 1e-3 * a.norm() * b.norm() || a.norm() < 2.0 || cross * turn < 0.0)
      return fail(Errc::degenerate_shape, "These are no four corners of a square: click them one after the other, all the way round.", "offcuts/square");
    turn = cross;
  }
  // In a picture y runs down: clicked clockwise as seen, the square lies the right way up.
  const std::array<Vec2, 4> square = turn > 0.0 ? std::array<Vec2, 4>{Vec2(0, side_mm), Vec2(side_mm, side_mm), Vec2(side_mm, 0), Vec2(0, 0)} : std::array<Vec2, 4>{Vec2(0, 0), Vec2(side_mm, 0), Vec2(side_mm, side_mm), Vec2(0, side_mm)};
  Eigen::Matrix<double, 8, 8> m = Eigen::Matrix<double, 8, 8>::Zero();
  Eigen::Matrix<double, 8, 1> rhs;
  for (int i = 0; i < 4; ++i) {
    const Vec2 &p = corners[i], &q = square[i];
    m.row(2 * i) << p.x(), p.y(), 1.0, 0.0, 0.0, 0.0, -q.x() * p.x(), -q.x() * p.y();
    m.row(2 * i + 1) << 0.0, 0.0, 0.0, p.x(), p.y(), 1.0, -q.y() * p.x(), -q.y() * p.y();
    rhs[2 * i] = q.x(), rhs[2 * i + 1] = q.y();
  }
  const Eigen::Matrix<double, 8, 1> h = m.fullPivLu().solve(rhs);
  PhotoPlane plane;
  plane.map_ << h[0], h[1], h[2], h[3], h[4], h[5], h[6], h[7], 1.0;
  return plane;
}

Vec2 PhotoPlane::on_table(const Vec2& pixel) const {
  const Vec3 p = map_ * Vec3(pixel.x(), pixel.y(), 1.0);
  return p.head<2>() / p.z();
}

std::vector<Vec2> PhotoPlane::on_table(const std::vector<Vec2>& pixels) const {
  std::vector<Vec2> out;
  for (const Vec2& p : pixels) out.push_back(on_table(p));
  return out;
}

}  // namespace awl
