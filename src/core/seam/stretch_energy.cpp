#include "core/seam/stretch_energy.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

namespace awl {
namespace {

/// x^p for x, p >= 0; of whole numbers, as those of the finish, by squaring.
double raised(double x, double p) {
  if (x < 1e-9) return p > 0.0 ? 0.0 : 1.0;  // and no denormal numbers on the way
  const int whole = static_cast<int>(p);
  if (whole != p) return std::pow(x, p);
  double result = 1.0;
  for (int n = whole; n > 0; n /= 2, x *= x)
    if (n % 2 == 1) result *= x;
  return result;
}

/// psi and its derivatives with the p-norm finish, at one stretch.
struct Psi {
  double value, slope, bend;
};

Psi psi_at(double s, const StretchEnergy::Finish& finish) {
  const double i2 = 1.0 / (s * s);
  const double psi = 0.5 * (s * s + i2) - 1.0, slope = s - i2 / s, bend = 1.0 + 3.0 * i2 * i2;  // (1)
  if (finish.mu == 0.0) return {psi, slope, bend};
  const double p = finish.p, ratio = std::max(psi, 0.0) / finish.g0;
  const double a = raised(ratio, p - 2.0), b = a * ratio;  // ratio^(p-2), ratio^(p-1)
  return {psi + finish.mu * finish.g0 * b * ratio, slope * (1.0 + finish.mu * p * b),
      bend * (1.0 + finish.mu * p * b) + slope * slope * finish.mu * p * (p - 1.0) * a / finish.g0};  // (2)
}

double psi_value(double s, const StretchEnergy::Finish& finish) {
  const double psi = 0.5 * (s * s + 1.0 / (s * s)) - 1.0;
  return finish.mu == 0.0 ? psi : psi + finish.mu * finish.g0 * raised(std::max(psi, 0.0) / finish.g0, finish.p);
}

double squared(double x) { return x * x; }

double cross(const Vec2& a, const Vec2& b) { return a.x() * b.y() - a.y() * b.x(); }

double mean_length(const std::vector<EdgeTarget>& springs) {
  double sum = 0.0;
  for (const EdgeTarget& s : springs) sum += s.length_mm;
  return springs.empty() ? 1.0 : sum / static_cast<double>(springs.size());
}

std::vector<std::pair<int, int>> sides_of(const Mesh& panel) {
  std::vector<std::pair<int, int>> sides;
  for (const Tri& t : panel.triangles)
    for (int k = 0; k < 3; ++k) sides.emplace_back(t[k], t[(k + 1) % 3]);
  return sides;
}

}  // namespace

StretchEnergy::StretchEnergy(const Mesh& panel, std::vector<TriangleFrame> frames)
    : triangles_(panel.triangles), frames_(std::move(frames)),
      hessian_(static_cast<int>(panel.vertices.size()), sides_of(panel)),
      gradient_(2 * static_cast<Eigen::Index>(panel.vertices.size())) {
  for (const Tri& t : triangles_)
    spots_.push_back({hessian_.spot(t[0], t[1]), hessian_.spot(t[1], t[2]), hessian_.spot(t[2], t[0])});
}

void StretchEnergy::set_springs(std::vector<EdgeTarget> springs) {
  springs_ = std::move(springs);
  spring_spots_.clear();
  for (const EdgeTarget& s : springs_) spring_spots_.push_back(hessian_.spot(s.a, s.b));
}

Eigen::Matrix2d StretchEnergy::jacobian(std::size_t f, const std::vector<Vec2>& uv) const {
  const Tri& t = triangles_[f];
  const auto& g = frames_[f].gradients;
  return uv[t[0]] * g.col(0).transpose() + uv[t[1]] * g.col(1).transpose() + uv[t[2]] * g.col(2).transpose();
}

double StretchEnergy::value(const std::vector<Vec2>& uv, const Finish& finish, double weight) const {
  double sum = 0.0;
  for (std::size_t f = 0; f < triangles_.size(); ++f) {
    const Eigen::Matrix2d j = jacobian(f, uv);
    const double e = j(0, 0) + j(1, 1), h = j(1, 0) - j(0, 1), m = j(0, 0) - j(1, 1), g = j(1, 0) + j(0, 1);
    const double q = std::sqrt(e * e + h * h), r = std::sqrt(m * m + g * g);
    if (q - r <= 0.0) return std::numeric_limits<double>::infinity();
    sum += frames_[f].area_mm2 * (psi_value(0.5 * (q + r), finish) + psi_value(0.5 * (q - r), finish));
  }
  const double h = mean_length(springs_);
  for (const EdgeTarget& s : springs_)
    sum += weight * h / s.length_mm * std::pow((uv[s.a] - uv[s.b]).norm() - s.length_mm, 2);  // (3)
  return sum;
}

void StretchEnergy::add_triangle(std::size_t f, const Eigen::Matrix2d& j, const Finish& finish) {
  const Polar2 p = signed_svd(j);
  const Psi c1 = psi_at(p.s1, finish), c2 = psi_at(p.s2, finish);
  const double area = frames_[f].area_mm2, gap = p.s1 - p.s2;
  const double flip = gap > 1e-9 ? (c1.slope - c2.slope) / gap : c1.bend;
  const double lambda[4] = {c1.bend, c2.bend, (c1.slope + c2.slope) / (p.s1 + p.s2), flip};
  const Vec2 u1 = p.u.col(0), u2 = p.u.col(1), v1 = p.v.col(0), v2 = p.v.col(1);
  const auto& g = frames_[f].gradients;
  Eigen::Matrix<double, 6, 4> w;  // each eigenmatrix applied to the three gradients
  for (int k = 0; k < 3; ++k) {
    const double a = v1.dot(g.col(k)), b = v2.dot(g.col(k));
    w.block<2, 1>(2 * k, 0) = a * u1;
    w.block<2, 1>(2 * k, 1) = b * u2;
    w.block<2, 1>(2 * k, 2) = (a * u2 - b * u1) * M_SQRT1_2;
    w.block<2, 1>(2 * k, 3) = (a * u2 + b * u1) * M_SQRT1_2;
  }
  const Tri& t = triangles_[f];
  for (int i = 0; i < 6; ++i) gradient_[2 * t[i / 2] + i % 2] += area * (c1.slope * w(i, 0) + c2.slope * w(i, 1));
  Eigen::Matrix<double, 6, 4> scaled = w;
  for (int k = 0; k < 4; ++k) scaled.col(k) *= area * std::max(lambda[k], 0.0);
  const Eigen::Matrix<double, 6, 6> block = scaled * w.transpose();
  for (int k = 0; k < 3; ++k) {
    hessian_.add_own(t[k], block.block<2, 2>(2 * k, 2 * k));
    hessian_.add(spots_[f][k], block.block<2, 2>(2 * k, 2 * ((k + 1) % 3)));
  }
}

double StretchEnergy::add_springs(const std::vector<Vec2>& uv, double weight) {
  const double h = mean_length(springs_);
  double sum = 0.0;
  for (std::size_t i = 0; i < springs_.size(); ++i) {
    const EdgeTarget& s = springs_[i];
    const Vec2 e = uv[s.a] - uv[s.b];
    const double length = e.norm(), k = 2.0 * weight * h / s.length_mm, off = length - s.length_mm;
    const Vec2 d = e / length;
    sum += 0.5 * k * off * off;
    const Vec2 pull = k * off * d;
    const Eigen::Matrix2d along = d * d.transpose();
    const Eigen::Matrix2d block = k * (along + std::max(0.0, off / length) * (Eigen::Matrix2d::Identity() - along));
    gradient_.segment<2>(2 * static_cast<Eigen::Index>(s.a)) += pull;
    gradient_.segment<2>(2 * static_cast<Eigen::Index>(s.b)) -= pull;
    hessian_.add_own(s.a, block), hessian_.add_own(s.b, block);
    hessian_.add(spring_spots_[i], -block);
  }
  return sum;
}

double StretchEnergy::assemble(const std::vector<Vec2>& uv, const Finish& finish, double weight) {
  hessian_.clear();
  gradient_.setZero();
  double sum = 0.0;
  for (std::size_t f = 0; f < triangles_.size(); ++f) {
    const Eigen::Matrix2d j = jacobian(f, uv);
    const double q = std::sqrt(squared(j(0, 0) + j(1, 1)) + squared(j(1, 0) - j(0, 1))),
                 r = std::sqrt(squared(j(0, 0) - j(1, 1)) + squared(j(1, 0) + j(0, 1)));
    sum += frames_[f].area_mm2 * (psi_value(0.5 * (q + r), finish) + psi_value(0.5 * (q - r), finish));
    add_triangle(f, j, finish);
  }
  sum += add_springs(uv, weight);
  hessian_.stiffen(1e-9);
  return sum;
}

/// 0.9 of the step at which the first triangle would lose its area, at most 1.
double StretchEnergy::longest_step(const std::vector<Vec2>& uv, const Eigen::VectorXd& step) const {
  double longest = 1.0 / 0.9;
  for (const Tri& t : triangles_) {
    const Vec2 a = uv[t[1]] - uv[t[0]], b = uv[t[2]] - uv[t[0]];
    const Vec2 s0 = step.segment<2>(2 * t[0]);
    const Vec2 da = step.segment<2>(2 * t[1]) - s0, db = step.segment<2>(2 * t[2]) - s0;
    const double c0 = cross(a, b), c1 = cross(a, db) + cross(da, b), c2 = cross(da, db);
    const double disc = c1 * c1 - 4.0 * c2 * c0;
    if (disc < 0.0) continue;
    const double q = -0.5 * (c1 + std::copysign(std::sqrt(disc), c1));
    for (const double root : {c2 != 0.0 ? q / c2 : -1.0, q != 0.0 ? c0 / q : -1.0})
      if (root > 0.0) longest = std::min(longest, root);
  }
  return 0.9 * longest;
}

bool StretchEnergy::minimise(
    std::vector<Vec2>& uv, const Finish& finish, double spring_weight, int most_steps, const Progress& progress) {
  for (int step = 0; step < most_steps; ++step) {
    if (!progress.keep_going(static_cast<double>(step) / most_steps)) return false;
    const double now = assemble(uv, finish, spring_weight);
    if (!hessian_.factorise()) return true;
    const Eigen::VectorXd move = hessian_.solve(-gradient_);
    const double descent = gradient_.dot(move);
    if (-descent < 1e-5 * now + 1e-10) return true;
    std::vector<Vec2> next(uv.size());
    double t = longest_step(uv, move);
    for (int half = 0; half < 30; ++half, t *= 0.5) {
      for (std::size_t v = 0; v < uv.size(); ++v)
        next[v] = uv[v] + t * move.segment<2>(2 * static_cast<Eigen::Index>(v));
      if (value(next, finish, spring_weight) <= now + 1e-4 * t * descent) break;
    }
    uv = next;
  }
  return true;
}

}  // namespace awl
