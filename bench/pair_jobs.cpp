#include "bench/pair_jobs.hpp"

#include <Eigen/SparseCholesky>

#include "bench/figure.hpp"
#include "core/base/random.hpp"
#include "core/seam/pair_system.hpp"

namespace awl::bench {
namespace {

using Sparse = Eigen::SparseMatrix<double>;

/// Neighbours on a grid with one diagonal a square, as a panel's corners are.
std::vector<std::pair<int, int>> grid_sides(int side) {
  std::vector<std::pair<int, int>> pairs;
  for (int y = 0; y < side; ++y)
    for (int x = 0; x < side; ++x) {
      const int at = y * side + x;
      if (x + 1 < side) pairs.emplace_back(at, at + 1);
      if (y + 1 < side) pairs.emplace_back(at, at + side);
      if (x + 1 < side && y + 1 < side) pairs.emplace_back(at, at + side + 1);
    }
  return pairs;
}

}  // namespace

void pair_jobs() {
  for (const int side : {20, 40, 80}) {
    const auto pairs = grid_sides(side);
    const int rows = side * side;
    Random random(5);
    PairSystem own(rows, pairs);
    std::vector<Eigen::Triplet<double>> entries;
    const auto put = [&](int a, int b, const Eigen::Matrix2d& block) {
      for (int i = 0; i < 2; ++i)
        for (int j = 0; j < 2; ++j) entries.emplace_back(2 * a + i, 2 * b + j, block(i, j));
    };
    for (const auto& [a, b] : pairs) {
      Eigen::Matrix2d m;
      for (int i = 0; i < 4; ++i) m(i / 2, i % 2) = random.uniform() - 0.5;
      const Eigen::Matrix2d block = m.transpose() * m + 1e-3 * Eigen::Matrix2d::Identity();
      own.add_own(a, block), own.add_own(b, block), own.add(own.spot(a, b), -block);
      put(a, a, block), put(b, b, block), put(a, b, -block), put(b, a, -block);
    }
    own.stiffen(1e-6);
    Sparse matrix(2 * rows, 2 * rows);
    matrix.setFromTriplets(entries.begin(), entries.end());
    matrix.diagonal().array() += 1e-6 * matrix.diagonal().mean();
    Eigen::SimplicialLDLT<Sparse> theirs;
    theirs.analyzePattern(matrix);
    const Eigen::VectorXd right = Eigen::VectorXd::LinSpaced(2 * rows, -1.0, 1.0);
    Eigen::VectorXd by_own, by_theirs;
    const std::string name = "pairs_" + std::to_string(rows);
    figure(name + "_own_ms", [&] {
      for (int i = 0; i < 20; ++i) (void)own.factorise(), by_own = own.solve(right);
    });
    figure(name + "_simplicial_ldlt_ms", [&] {
      for (int i = 0; i < 20; ++i) theirs.factorize(matrix), by_theirs = theirs.solve(right);
    });
    std::printf("%-42s\t%.3g\n", (name + "_differ_share").c_str(), (by_own - by_theirs).norm() / by_theirs.norm());
  }
}

}  // namespace awl::bench
