#include "core/seam/shell_energy.hpp"

#include <Eigen/CholmodSupport>
#include <Eigen/Eigenvalues>
#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/seam/blas_door.hpp"

namespace awl {
namespace {

using Frame32 = Eigen::Matrix<double, 3, 2>;

constexpr double kLongestStepMm = 12.0;
constexpr int kWary = 3;         // after an indefinite Hessian so many steps are clamped without trying
constexpr double kRigid = 1e-6;  // of the mean diagonal: keeps the six rigid motions from being free

Vec3 place_of(const ShellEnergy::Corner& c, const std::vector<Vec3>& places) {
  const Vec3& p = places[c.vertex];
  return c.mirrored ? Vec3(-p.x(), p.y(), p.z()) : p;
}

/// Deformation of a flat triangle, and its principal Green strains.
struct Stretch {
  Frame32 f;
  Eigen::Vector2d e;
  Eigen::Matrix2d v;
};

Stretch stretch_of(const ShellEnergy::Face& face, const std::vector<Vec3>& places) {
  Stretch s;
  s.f.setZero();
  for (int k = 0; k < 3; ++k) s.f += places[face.vertices[k]] * face.rest.gradients.col(k).transpose();
  Eigen::SelfAdjointEigenSolver<Eigen::Matrix2d> axes;
  axes.computeDirect(0.5 * (s.f.transpose() * s.f - Eigen::Matrix2d::Identity()));
  s.e = axes.eigenvalues(), s.v = axes.eigenvectors();
  return s;
}

}  // namespace

struct ShellEnergy::Factor {
  Eigen::CholmodSupernodalLLT<Eigen::SparseMatrix<double>> solver;
  Eigen::VectorXd solved(const Eigen::VectorXd& right) const {
    const BlasDoor door;
    return solver.solve(right);
  }
  Factor() { solver.cholmod().print = 0; }  // a matrix that is not positive definite is nothing to be told of
};

ShellEnergy::ShellEnergy(int vertices, std::vector<Face> faces, std::vector<Hinge> hinges, double squeeze)
    : vertices_(vertices), faces_(std::move(faces)), hinges_(std::move(hinges)), squeeze_(squeeze),
      factor_(std::make_unique<Factor>()) {
  analyse();
}

ShellEnergy::~ShellEnergy() = default;

/// Lower triangle by 3 x 3 blocks; within a block column the diagonal block comes first, then the rows in order.
void ShellEnergy::analyse() {
  rows_.assign(vertices_, {});
  const auto meet = [&](int a, int b) { rows_[std::min(a, b)].push_back(std::max(a, b)); };
  for (int v = 0; v < vertices_; ++v) rows_[v].push_back(v);
  for (const Face& f : faces_)
    for (int a = 0; a < 3; ++a)
      for (int b = 0; b < a; ++b) meet(f.vertices[a], f.vertices[b]);
  for (const Hinge& h : hinges_)
    for (int a = 0; a < 4; ++a)
      for (int b = 0; b < a; ++b) meet(h.corners[a].vertex, h.corners[b].vertex);
  std::vector<Eigen::Triplet<double>> entries;
  for (int v = 0; v < vertices_; ++v) {
    auto& rows = rows_[v];
    std::sort(rows.begin(), rows.end());
    rows.erase(std::unique(rows.begin(), rows.end()), rows.end());
    for (const int r : rows)
      for (int j = 0; j < 3; ++j)
        for (int i = r == v ? j : 0; i < 3; ++i) entries.emplace_back(3 * r + i, 3 * v + j, 1.0);
  }
  hessian_.resize(3 * vertices_, 3 * vertices_);
  hessian_.setFromTriplets(entries.begin(), entries.end());
  gradient_.resize(3 * vertices_);
  face_blocks_.resize(faces_.size()), hinge_blocks_.resize(hinges_.size());
  for (std::size_t f = 0; f < faces_.size(); ++f)
    for (int a = 0, k = 0; a < 3; ++a)
      for (int b = 0; b <= a; ++b) face_blocks_[f][k++] = block_start(faces_[f].vertices[a], faces_[f].vertices[b]);
  for (std::size_t i = 0; i < hinges_.size(); ++i)
    for (int a = 0, k = 0; a < 4; ++a)
      for (int b = 0; b <= a; ++b)
        hinge_blocks_[i][k++] = block_start(hinges_[i].corners[a].vertex, hinges_[i].corners[b].vertex);
  factor_->solver.analyzePattern(hessian_);
}

/// How many block rows stand before this one in its column.
Eigen::Index ShellEnergy::block_start(int row, int column) const {
  const auto& rows = rows_[std::min(row, column)];
  return std::lower_bound(rows.begin(), rows.end(), std::max(row, column)) - rows.begin();
}

/// Adds the block of rows `row`, columns `column`; the upper half is the lower one's image.
void ShellEnergy::add_block(Eigen::Index k, int row, int column, const Eigen::Matrix3d& block) {
  const int v = std::min(row, column);
  double* values = hessian_.valuePtr();
  for (int j = 0; j < 3; ++j) {
    const Eigen::Index start = hessian_.outerIndexPtr()[3 * v + j];
    if (row == column) {
      for (int i = j; i < 3; ++i) values[start + i - j] += block(i, j);
    } else {
      for (int i = 0; i < 3; ++i) values[start + (3 - j) + 3 * (k - 1) + i] += row > column ? block(i, j) : block(j, i);
    }
  }
}

Vec3 ShellEnergy::bent(const Hinge& h, const std::vector<Vec3>& places) const {
  Vec3 sum = Vec3::Zero();
  for (int k = 0; k < 4; ++k) sum += h.weights[k] * place_of(h.corners[k], places);
  return sum;
}

double ShellEnergy::value(const std::vector<Vec3>& places) const {
  double sum = 0.0;
  for (const Face& f : faces_) {
    const Stretch s = stretch_of(f, places);
    for (int i = 0; i < 2; ++i)
      sum += 0.5 * f.thickness_mm * f.rest.area_mm2 * (s.e[i] > 0.0 ? 1.0 : squeeze_) * s.e[i] * s.e[i];  // (1)
  }
  for (const Hinge& h : hinges_) {
    const double off = bent(h, places).norm() - h.rest_mm;  // (2), (3)
    sum += 0.5 * h.stiffness * off * off;
  }
  return sum;
}

void ShellEnergy::add_face(std::size_t f, const std::vector<Vec3>& places, bool clamped) {
  const Face& face = faces_[f];
  const Stretch s = stretch_of(face, places);
  const double k1 = s.e[0] > 0.0 ? 1.0 : squeeze_, k2 = s.e[1] > 0.0 ? 1.0 : squeeze_, gap = s.e[1] - s.e[0];
  const double shear = gap > 1e-9 ? (k2 * s.e[1] - k1 * s.e[0]) / gap : 0.5 * (k1 + k2);
  const double scale = face.thickness_mm * face.rest.area_mm2;
  const Eigen::Vector2d stress(k1 * s.e[0], k2 * s.e[1]);
  const Vec3 f1 = s.f * s.v.col(0), f2 = s.f * s.v.col(1);
  Eigen::Matrix<double, 9, 3> b;
  Eigen::Matrix<double, 2, 3> g = s.v.transpose() * face.rest.gradients;  // gradients along the principal directions
  for (int k = 0; k < 3; ++k) {
    b.block<3, 1>(3 * k, 0) = g(0, k) * f1;
    b.block<3, 1>(3 * k, 1) = g(1, k) * f2;
    b.block<3, 1>(3 * k, 2) = 0.5 * (g(1, k) * f1 + g(0, k) * f2);
    gradient_.segment<3>(3 * face.vertices[k]) += scale * (stress[0] * g(0, k) * f1 + stress[1] * g(1, k) * f2);
  }
  const Eigen::Matrix<double, 9, 9> material = scale *
      (k1 * b.col(0) * b.col(0).transpose() + k2 * b.col(1) * b.col(1).transpose() +
          2.0 * shear * b.col(2) * b.col(2).transpose());
  const Eigen::Vector2d pulled = clamped ? Eigen::Vector2d(stress.cwiseMax(0.0)) : stress;
  for (int a = 0, k = 0; a < 3; ++a)
    for (int c = 0; c <= a; ++c) {
      const double geometric = scale * (pulled[0] * g(0, a) * g(0, c) + pulled[1] * g(1, a) * g(1, c));
      add_block(face_blocks_[f][k++], face.vertices[a], face.vertices[c],
          material.block<3, 3>(3 * a, 3 * c) + geometric * Eigen::Matrix3d::Identity());
    }
}

void ShellEnergy::add_hinge(std::size_t i, const std::vector<Vec3>& places, bool clamped) {
  const Hinge& h = hinges_[i];
  const Vec3 y = bent(h, places);
  const double length = y.norm();
  const Vec3 along = length > 1e-9 ? Vec3(y / length) : Vec3::Zero();
  const Vec3 pull = h.stiffness * (length - h.rest_mm) * along;
  double across = length > 1e-9 ? 1.0 - h.rest_mm / length : 1.0;
  if (clamped) across = std::max(across, 0.0);
  const Eigen::Matrix3d bend =
      h.stiffness * (across * Eigen::Matrix3d::Identity() + (1.0 - across) * along * along.transpose());
  for (int a = 0, k = 0; a < 4; ++a) {
    const Corner& row = h.corners[a];
    Vec3 own = h.weights[a] * pull;
    if (row.mirrored) own.x() = -own.x();
    gradient_.segment<3>(3 * row.vertex) += own;
    for (int b = 0; b <= a; ++b) {
      const Corner& column = h.corners[b];
      Eigen::Matrix3d block = h.weights[a] * h.weights[b] * bend;
      if (row.mirrored) block.row(0) *= -1.0;
      if (column.mirrored) block.col(0) *= -1.0;
      add_block(hinge_blocks_[i][k], row.vertex, column.vertex, block);
      // A corner and its own mirror image stand in one diagonal block, both ways round.
      if (a != b && row.vertex == column.vertex)
        add_block(hinge_blocks_[i][k], row.vertex, column.vertex, block.transpose());
      ++k;
    }
  }
}

void ShellEnergy::assemble(const std::vector<Vec3>& places, bool clamped) {
  std::fill(hessian_.valuePtr(), hessian_.valuePtr() + hessian_.nonZeros(), 0.0);
  gradient_.setZero();
  for (std::size_t f = 0; f < faces_.size(); ++f) add_face(f, places, clamped);
  for (std::size_t i = 0; i < hinges_.size(); ++i) add_hinge(i, places, clamped);
  double diagonal = 0.0;
  const auto at = [&](int i) -> double& { return hessian_.valuePtr()[hessian_.outerIndexPtr()[i]]; };
  for (int i = 0; i < 3 * vertices_; ++i) diagonal += at(i) / (3.0 * vertices_);
  for (int i = 0; i < 3 * vertices_; ++i) at(i) += kRigid * diagonal;
  for (const int v : middle_) gradient_[3 * v] = 0.0, at(3 * v) += 1e8 * diagonal;
}

Eigen::VectorXd ShellEnergy::gradient_at(const std::vector<Vec3>& places) {
  assemble(places, true);
  return gradient_;
}

std::optional<Eigen::MatrixXd> ShellEnergy::response(const std::vector<Vec3>& places, const Eigen::MatrixXd& loads) {
  assemble(places, false);
  const BlasDoor door;
  Eigen::CholmodSimplicialLDLT<Eigen::SparseMatrix<double>> solver;
  solver.cholmod().print = 0;
  solver.compute(hessian_);
  if (solver.info() != Eigen::Success) return std::nullopt;
  return Eigen::MatrixXd(solver.solve(loads));
}

Eigen::Matrix<double, 9, 1> ShellEnergy::pull_of(const Face& face, const std::array<Vec3, 3>& corners, double squeeze) {
  Face own = face;
  own.vertices = {0, 1, 2};
  const Stretch s = stretch_of(own, {corners[0], corners[1], corners[2]});
  const Eigen::Vector2d stress((s.e[0] > 0.0 ? 1.0 : squeeze) * s.e[0], (s.e[1] > 0.0 ? 1.0 : squeeze) * s.e[1]);
  const Eigen::Matrix<double, 2, 3> g = s.v.transpose() * face.rest.gradients;
  const double scale = face.thickness_mm * face.rest.area_mm2;
  Eigen::Matrix<double, 9, 1> pull;
  for (int k = 0; k < 3; ++k)
    pull.segment<3>(3 * k) =
        scale * (stress[0] * g(0, k) * (s.f * s.v.col(0)) + stress[1] * g(1, k) * (s.f * s.v.col(1)));
  return pull;
}

/// The whole Hessian if it is positive definite, as it is near rest; else the clamped one.
bool ShellEnergy::factorise(const std::vector<Vec3>& places) {
  for (const bool clamped : {false, true}) {
    if (!clamped && wary_ > 0) {
      --wary_;
      continue;
    }
    assemble(places, clamped);
    const BlasDoor door;
    factor_->solver.factorize(hessian_);
    if (factor_->solver.info() == Eigen::Success) return true;  // it is positive definite
    if (!clamped) wary_ = kWary;
  }
  return false;
}

ShellEnergy::Outcome ShellEnergy::minimise(
    std::vector<Vec3>& places, int most_steps, double still_mm, const Progress& progress) {
  Outcome outcome;
  std::vector<Vec3> next(places.size());
  for (; outcome.steps < most_steps; ++outcome.steps) {
    if (!progress.keep_going(static_cast<double>(outcome.steps) / most_steps)) return outcome.cancelled = true, outcome;
    if (!factorise(places)) return outcome;
    const double now = value(places);
    const Eigen::VectorXd move = factor_->solved(-gradient_);
    const double descent = gradient_.dot(move);
    double longest = 0.0;
    for (int v = 0; v < vertices_; ++v) longest = std::max(longest, move.segment<3>(3 * v).norm());
    double t = std::min(1.0, kLongestStepMm / std::max(longest, 1e-12));
    for (int half = 0; half < 24; ++half, t *= 0.5) {
      for (int v = 0; v < vertices_; ++v) next[v] = places[v] + t * move.segment<3>(3 * v);
      if (value(next) <= now + 1e-4 * t * descent) break;
    }
    places = next;
    outcome.last_step_mm = t * longest;
    if (outcome.last_step_mm < still_mm) return ++outcome.steps, outcome;
  }
  return outcome;
}

}  // namespace awl
