#include "core/seam/strain.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>
#include <limits>

namespace awl {
namespace {

Eigen::Matrix2d jacobian_of(const Mesh& panel, const Tri& t, const std::vector<Vec2>& uv, double* area_mm2) {
  const TriangleFrame frame = frame_of_triangle(panel.vertices[t[0]], panel.vertices[t[1]], panel.vertices[t[2]]);
  Eigen::Matrix2d j = Eigen::Matrix2d::Zero();
  for (int k = 0; k < 3; ++k) j += uv[t[k]] * frame.gradients.col(k).transpose();
  if (area_mm2 != nullptr) *area_mm2 = frame.area_mm2;
  return j;
}

double worst_of(const Polar2& p) {
  const double least = 1e-6;
  const double e1 = 1.0 / std::max(p.s1, least) - 1.0, e2 = 1.0 / std::max(p.s2, least) - 1.0;
  return std::abs(e1) > std::abs(e2) ? e1 : e2;
}

/// One of the two square roots of a complex number of length one.
Vec2 root(const Vec2& z) {
  if (z.x() >= 0.0) {
    const double c = std::sqrt(0.5 * (1.0 + z.x()));
    return {c, 0.5 * z.y() / c};
  }
  const double s = std::copysign(std::sqrt(0.5 * (1.0 - z.x())), z.y());
  return {0.5 * z.y() / s, s};
}

/// The product of two complex numbers.
Vec2 times(const Vec2& a, const Vec2& b) { return {a.x() * b.x() - a.y() * b.y(), a.x() * b.y() + a.y() * b.x()}; }

double weighted_quantile(std::vector<std::pair<double, double>>& value_weight, double q) {
  std::sort(value_weight.begin(), value_weight.end());
  double total = 0.0, sum = 0.0;
  for (const auto& [value, weight] : value_weight) total += weight;
  for (const auto& [value, weight] : value_weight)
    if ((sum += weight) >= q * total) return value;
  return value_weight.empty() ? 0.0 : value_weight.back().first;
}

}  // namespace

TriangleFrame frame_of_triangle(const Vec3& a, const Vec3& b, const Vec3& c) {
  const Vec3 e1 = b - a, e2 = c - a;
  const double length = e1.norm();
  const double x = length > 0.0 ? e1.dot(e2) / length : 0.0;
  const double y = length > 0.0 ? e1.cross(e2).norm() / length : 0.0;
  TriangleFrame frame;
  frame.area_mm2 = 0.5 * length * y;
  const double twice = std::max(2.0 * frame.area_mm2, 1e-12);
  // Corners (0,0), (length,0), (x,y); gradient i = (opposite edge turned a quarter) / twice the area.
  frame.gradients << -y / twice, y / twice, 0.0, (x - length) / twice, -x / twice, length / twice;
  return frame;
}

Polar2 signed_svd(const Eigen::Matrix2d& j) {
  // J = rotation part (e, h) + reflection part (f, g): s1,2 = |(e,h)| +- |(f,g)|.
  const double e = 0.5 * (j(0, 0) + j(1, 1)), h = 0.5 * (j(1, 0) - j(0, 1));
  const double f = 0.5 * (j(0, 0) - j(1, 1)), g = 0.5 * (j(1, 0) + j(0, 1));
  const double q = std::sqrt(e * e + h * h), r = std::sqrt(f * f + g * g);
  // U and V turn by half the sum and half the difference of the two parts' angles; both roots must be of the same
  // sheet.
  const Vec2 turn = q > 0.0 ? Vec2(e / q, h / q) : Vec2(1.0, 0.0),
             mirror = r > 0.0 ? Vec2(f / r, g / r) : Vec2(1.0, 0.0);
  const Vec2 alpha = root(times(turn, mirror));
  Vec2 beta = root(times(turn, Vec2(mirror.x(), -mirror.y())));
  if (times(alpha, beta).dot(turn) < 0.0) beta = -beta;
  Polar2 p;
  p.s1 = q + r, p.s2 = q - r;
  p.u << alpha.x(), -alpha.y(), alpha.y(), alpha.x();
  p.v << beta.x(), beta.y(), -beta.y(), beta.x();
  return p;
}

std::vector<double> triangle_strains(const Mesh& panel, const std::vector<Vec2>& uv) {
  std::vector<double> strains;
  for (const Tri& t : panel.triangles) strains.push_back(worst_of(signed_svd(jacobian_of(panel, t, uv, nullptr))));
  return strains;
}

Strain summarise(const Mesh& panel, const std::vector<Vec2>& uv) {
  Strain s;
  std::vector<std::pair<double, double>> weighted;
  double total = 0.0;
  for (const Tri& t : panel.triangles) {
    double area = 0.0;
    const Polar2 p = signed_svd(jacobian_of(panel, t, uv, &area));
    const double worst = worst_of(p), e = std::abs(worst);
    weighted.push_back({e, area});
    s.max = std::max(s.max, e), s.mean += e * area, total += area;
    s.stretch = std::max(s.stretch, 1.0 / std::max(p.s2, 1e-6) - 1.0);
    s.squeeze = std::max(s.squeeze, 1.0 - 1.0 / std::max(p.s1, 1e-6));
  }
  s.mean /= std::max(total, 1e-12);
  s.p99 = weighted_quantile(weighted, 0.99);
  s.p95 = weighted_quantile(weighted, 0.95);
  return s;
}

int count_flips(const Mesh& panel, const std::vector<Vec2>& uv) {
  int flips = 0;
  for (const Tri& t : panel.triangles) {
    const Vec2 a = uv[t[1]] - uv[t[0]], b = uv[t[2]] - uv[t[0]];
    flips += a.x() * b.y() - a.y() * b.x() <= 0.0 ? 1 : 0;
  }
  return flips;
}

}  // namespace awl
