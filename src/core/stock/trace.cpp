#include "core/stock/trace.hpp"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"

namespace awl {

Result<PhotoPlane> PhotoPlane::of(const std::array<Vec2, 4>& corners, double side_mm) {
  if (!(side_mm >= 10.0 && side_mm <= 2000.0))
    return fail(
        Errc::out_of_range, "A square of " + fixed(side_mm, 1) + " mm is outside 10 to 2000 mm.", "offcuts/square");
  double turn = 0.0;
  for (int i = 0; i < 4; ++i) {
    const Vec2 a = corners[(i + 1) % 4] - corners[i], b = corners[(i + 2) % 4] - corners[(i + 1) % 4];
    const double cross = a.x() * b.y() - a.y() * b.x();
    if (std::abs(cross) < 1e-3 * a.norm() * b.norm() || a.norm() < 2.0 || cross * turn < 0.0)
      return fail(Errc::degenerate_shape,
          "These are no four corners of a square: click them one after the other, all the way round.",
          "offcuts/square");
    turn = cross;
  }
  // In a picture y runs down: clicked clockwise as seen, the square lies the right way up.
  const std::array<Vec2, 4> square = turn > 0.0
      ? std::array<Vec2, 4>{Vec2(0, side_mm), Vec2(side_mm, side_mm), Vec2(side_mm, 0), Vec2(0, 0)}
      : std::array<Vec2, 4>{Vec2(0, 0), Vec2(side_mm, 0), Vec2(side_mm, side_mm), Vec2(0, side_mm)};
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

namespace {

/// Grey levels a pixel, by the 3 x 3 weights that turn least with an edge's direction (scharr2000): plain differences
/// across an edge lean by some degrees, which moves a corner by half a pixel.
Vec2 slope_at(const GreyPicture& g, int x, int y) {
  const auto across = [&](int row) { return g.at(x + 1, row) - g.at(x - 1, row); };
  const auto down = [&](int column) { return g.at(column, y + 1) - g.at(column, y - 1); };
  return Vec2(3.0 * across(y - 1) + 10.0 * across(y) + 3.0 * across(y + 1),
             3.0 * down(x - 1) + 10.0 * down(x) + 3.0 * down(x + 1)) /
      32.0;
}

}  // namespace

std::optional<Vec2> corner_near(const GreyPicture& picture, const Vec2& place, double reach_px) {
  constexpr double kLeastWindowPx = 8.0, kStill = 0.01, kFaint = 25.0, kOneWay = 0.05,
                   kRoundPx = 1.0;  // grey levels of 255; share of the weaker direction
  Vec2 at = place;
  for (double window = std::max(kLeastWindowPx, 0.7 * reach_px);; window = std::max(kLeastWindowPx, 0.5 * window)) {
    const bool last = window <= kLeastWindowPx;
    for (int round = 0; round < (last ? 12 : 4); ++round) {
      Eigen::Matrix2d edges = Eigen::Matrix2d::Zero();
      Vec2 through = Vec2::Zero();
      double sharpest = 0.0;
      for (int y = std::max(1, static_cast<int>(at.y() - window));
           y < std::min(picture.height - 1, static_cast<int>(at.y() + window) + 1); ++y)
        for (int x = std::max(1, static_cast<int>(at.x() - window));
             x < std::min(picture.width - 1, static_cast<int>(at.x() + window) + 1); ++x) {
          const Vec2 p(x + 0.5, y + 0.5), slope = slope_at(picture, x, y);
          const double off = (p - at).norm();
          if (off < kRoundPx) continue;  // in a picture every corner is a little round: its very tip draws inwards
          const Eigen::Matrix2d one = bell(off, 0.5 * window) * slope * slope.transpose();
          edges += one, through += one * p;
          sharpest = std::max(sharpest, slope.norm());
        }
      const double trace = edges.trace(),
                   weaker = 0.5 * (trace - std::sqrt(std::max(0.0, trace * trace - 4.0 * edges.determinant())));
      if (sharpest < kFaint || weaker < kOneWay * trace) return std::nullopt;
      const Vec2 next = edges.inverse() * through;
      if ((next - place).norm() > reach_px) return std::nullopt;
      const double moved = (next - at).norm();
      at = next;
      if (moved < kStill) break;
    }
    if (last) return at;
  }
}

double slip_mm(const std::array<Vec2, 4>& corners, double side_mm, const std::vector<Vec2>& pixels, double slip_px) {
  const auto meant = PhotoPlane::of(corners, side_mm);
  if (!meant) return 0.0;
  std::vector<double> squares(pixels.size(), 0.0);
  for (int k = 0; k < 8; ++k) {
    auto moved = corners;
    moved[k / 2][k % 2] += slip_px;
    const auto slipped = PhotoPlane::of(moved, side_mm);
    if (!slipped) continue;
    for (std::size_t i = 0; i < pixels.size(); ++i)
      squares[i] += (slipped->on_table(pixels[i]) - meant->on_table(pixels[i])).squaredNorm();
  }
  return squares.empty() ? 0.0 : std::sqrt(*std::max_element(squares.begin(), squares.end()));
}

}  // namespace awl
