#include "core/seam/pair_system.hpp"

#include <Eigen/LU>
#include <Eigen/OrderingMethods>
#include <Eigen/SparseCore>
#include <algorithm>
#include <cmath>
#include <numeric>

#include "core/base/result.hpp"

namespace awl {

PairSystem::PairSystem(int rows, const std::vector<std::pair<int, int>>& pairs)
    : place_(rows), own_(rows, Block::Zero()), diagonal_(rows), inverse_(rows) {
  find_order(pairs);
  find_fill();
}

void PairSystem::find_order(const std::vector<std::pair<int, int>>& pairs) {
  const int n = count();
  std::vector<Eigen::Triplet<double>> entries;
  entries.reserve(2 * pairs.size() + n);
  for (int i = 0; i < n; ++i) entries.emplace_back(i, i, 1.0);
  for (const auto& [a, b] : pairs) entries.emplace_back(a, b, 1.0), entries.emplace_back(b, a, 1.0);
  Eigen::SparseMatrix<double> touching(n, n);
  touching.setFromTriplets(entries.begin(), entries.end());
  Eigen::AMDOrdering<int>::PermutationType row_at;
  Eigen::AMDOrdering<int>()(touching, row_at);
  for (int i = 0; i < n; ++i) place_[row_at.indices()[i]] = i;

  begin_.assign(n + 1, 0);
  for (int k = 0; k < n; ++k) {
    const int from = static_cast<int>(row_.size());
    for (Eigen::SparseMatrix<double>::InnerIterator entry(touching, row_at.indices()[k]); entry; ++entry)
      if (const int i = place_[entry.row()]; i < k) row_.push_back(i);
    std::sort(row_.begin() + from, row_.end());
    begin_[k + 1] = static_cast<int>(row_.size());
  }
  shared_.assign(row_.size(), Block::Zero());
}

void PairSystem::find_fill() {
  const int n = count();
  parent_.assign(n, -1);
  std::vector<int> seen(n, -1), height(n, 0);
  for (int k = 0; k < n; ++k) {
    seen[k] = k;
    for (int p = begin_[k]; p < begin_[k + 1]; ++p)
      for (int i = row_[p]; seen[i] != k; i = parent_[i]) {
        if (parent_[i] < 0) parent_[i] = k;
        ++height[i], seen[i] = k;
      }
  }
  factor_begin_.assign(n + 1, 0);
  std::partial_sum(height.begin(), height.end(), factor_begin_.begin() + 1);
  factor_row_.resize(factor_begin_[n]);
  factor_.resize(factor_begin_[n]);
}

PairSystem::Spot PairSystem::spot(int row, int column) const {
  const auto [low, high] = std::minmax(place_[row], place_[column]);
  const auto begin = row_.begin() + begin_[high], end = row_.begin() + begin_[high + 1];
  const auto found = std::lower_bound(begin, end, low);
  expects(found != end && *found == low, "PairSystem: these rows share no block");
  return {static_cast<int>(found - row_.begin()), place_[row] == high};
}

void PairSystem::clear() {
  std::fill(own_.begin(), own_.end(), Block::Zero());
  std::fill(shared_.begin(), shared_.end(), Block::Zero());
}

void PairSystem::stiffen(double share) {
  double sum = 0.0;
  for (const Block& b : own_) sum += b.trace();
  for (Block& b : own_) b.diagonal().array() += share * sum / (2.0 * count());
}

bool PairSystem::factorise() {
  const int n = count();
  std::vector<Block> row(n, Block::Zero());  // of L D, the one at work
  std::vector<int> met(n, -1), way(n), end(factor_begin_.begin(), factor_begin_.end() - 1);
  for (int k = 0; k < n; ++k) {
    // Which blocks of the row are not zero: all on the ways up the tree from those of the matrix, in rising order.
    int top = n;
    met[k] = k;
    for (int p = begin_[k]; p < begin_[k + 1]; ++p) {
      row[row_[p]] = shared_[p].transpose();
      int length = 0;
      for (int i = row_[p]; met[i] != k; i = parent_[i]) way[length++] = i, met[i] = k;
      while (length > 0) way[--top] = way[--length];
    }
    Block rest = own_[k];
    for (; top < n; ++top) {
      const int i = way[top];
      const Block w = row[i];
      row[i].setZero();
      for (int p = factor_begin_[i]; p < end[i]; ++p) row[factor_row_[p]].noalias() -= w * factor_[p];
      const Block l = w * inverse_[i];
      rest.noalias() -= l * w.transpose();
      factor_row_[end[i]] = k;
      factor_[end[i]++] = l.transpose();
    }
    const double determinant = rest.determinant();
    if (!(std::abs(determinant) > 0.0) || !std::isfinite(determinant)) return false;
    diagonal_[k] = rest;
    inverse_[k] = rest.inverse();
  }
  return true;
}

Eigen::VectorXd PairSystem::solve(const Eigen::VectorXd& right) const {
  const int n = count();
  std::vector<Eigen::Vector2d> x(n);
  for (int v = 0; v < n; ++v) x[place_[v]] = right.segment<2>(2 * v);
  for (int k = 0; k < n; ++k)
    for (int p = factor_begin_[k]; p < factor_begin_[k + 1]; ++p) x[factor_row_[p]] -= factor_[p].transpose() * x[k];
  for (int k = 0; k < n; ++k) x[k] = inverse_[k] * x[k];
  for (int k = n - 1; k >= 0; --k)
    for (int p = factor_begin_[k]; p < factor_begin_[k + 1]; ++p) x[k] -= factor_[p] * x[factor_row_[p]];
  Eigen::VectorXd solved(2 * n);
  for (int v = 0; v < n; ++v) solved.segment<2>(2 * v) = x[place_[v]];
  return solved;
}

}  // namespace awl
