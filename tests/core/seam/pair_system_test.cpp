#include "core/seam/pair_system.hpp"

#include <Eigen/Dense>
#include <catch2/catch.hpp>
#include <cmath>

#include "core/base/random.hpp"

using namespace awl;

namespace {

Eigen::Matrix2d random_block(Random& random) {
  Eigen::Matrix2d block;
  for (int i = 0; i < 4; ++i) block(i / 2, i % 2) = 2.0 * random.uniform() - 1.0;
  return block;
}

struct Both {
  PairSystem sparse;
  Eigen::MatrixXd dense;
};

/// A system of random blocks on random pairs, a grid's or a chain's among them, and the same as one dense matrix.
Both random_system(Random& random, int rows) {
  std::vector<std::pair<int, int>> pairs;
  for (int i = 0; i + 1 < rows; ++i)
    if (random.below(4) != 0) pairs.emplace_back(i + 1, i);
  for (int k = random.below(4) * rows; k > 0; --k) {
    const int a = random.below(rows), b = random.below(rows);
    if (a != b) pairs.emplace_back(a, b);
  }
  Both both{PairSystem(rows, pairs), Eigen::MatrixXd::Zero(2 * rows, 2 * rows)};
  both.sparse.clear();
  for (const auto& [a, b] : pairs) {
    // A spring of any kind between the two: what it adds is never negative.
    const Eigen::Matrix2d to_a = random_block(random), to_b = random_block(random);
    both.sparse.add_own(a, to_a.transpose() * to_a);
    both.sparse.add_own(b, to_b.transpose() * to_b);
    both.dense.block<2, 2>(2 * a, 2 * a) += to_a.transpose() * to_a;
    both.dense.block<2, 2>(2 * b, 2 * b) += to_b.transpose() * to_b;
    both.dense.block<2, 2>(2 * a, 2 * b) += to_a.transpose() * to_b;
    both.dense.block<2, 2>(2 * b, 2 * a) += to_b.transpose() * to_a;
    if (random.below(2) == 0)
      both.sparse.add(both.sparse.spot(a, b), to_a.transpose() * to_b);
    else
      both.sparse.add(both.sparse.spot(b, a), to_b.transpose() * to_a);
  }
  return both;
}

}  // namespace

TEST_CASE("pairs of unknowns are solved as a dense system of all would be", "[seam][pairs]") {
  Random random(11);
  for (int round = 0; round < 200; ++round) {
    const int rows = 1 + random.below(60);
    Both both = random_system(random, rows);
    both.sparse.stiffen(0.05);
    both.dense.diagonal().array() += 0.05 * both.dense.trace() / (2.0 * rows);
    if (both.dense.trace() == 0.0) continue;
    Eigen::VectorXd right(2 * rows);
    for (Eigen::Index i = 0; i < right.size(); ++i) right[i] = random.uniform() - 0.5;
    CAPTURE(round, rows);
    // Factorised anew it says the same: nothing of the last time is left.
    for (int again = 0; again < 2; ++again) {
      REQUIRE(both.sparse.factorise());
      const Eigen::VectorXd solved = both.sparse.solve(right);
      CHECK((both.dense * solved - right).norm() < 1e-9 * right.norm());
    }
  }
}

TEST_CASE("a system that says nothing of one of its rows has no solution", "[seam][pairs]") {
  PairSystem system(3, {{0, 1}});
  system.clear();
  system.add_own(0, PairSystem::Block::Identity());
  system.add_own(1, PairSystem::Block::Identity());
  CHECK_FALSE(system.factorise());
  system.stiffen(1e-6);
  CHECK(system.factorise());
  system.add_own(2, PairSystem::Block::Constant(std::nan("")));
  CHECK_FALSE(system.factorise());
}
