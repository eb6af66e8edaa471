#pragma once
#include <Eigen/Core>
#include <utility>
#include <vector>

namespace awl {

/// A symmetric system of equations whose unknowns come in pairs, such as places in a plane: blocks of two by two, most
/// of them zero, are added up, factorised as L D L' and solved, any number of times with the same blocks in use.
///
/// Rows are put in an order of little fill once. Taking the two unknowns of a row together halves what is looked up and
/// suits processors that work on two numbers at once; Eigen's SimplicialLDLT takes two and a half times as long (bench,
/// pairs).
/// Source: bibliography davis2005.
class PairSystem {
 public:
  using Block = Eigen::Matrix<double, 2, 2, Eigen::RowMajor>;

  /// `pairs`: which two different rows share a block; each may come more than once and either way round.
  PairSystem(int rows, const std::vector<std::pair<int, int>>& pairs);

  /// Where the block of two rows stands.
  struct Spot {
    int at = -1;
    bool turned = false;  ///< it stands there transposed
  };
  /// Contract: the rows are one of the pairs.
  Spot spot(int row, int column) const;

  void clear();
  void add_own(int row, const Block& block) { own_[place_[row]] += block; }
  /// Adds to the block at (row, column), and so its transpose at (column, row).
  void add(const Spot& spot, const Block& block) {
    if (spot.turned)
      shared_[spot.at] += block.transpose();
    else
      shared_[spot.at] += block;
  }
  /// The diagonal's sum; and a share of its mean added all along it.
  void stiffen(double share);

  /// False if it cannot be: a row depends on others.
  bool factorise();
  /// Contract: factorised. `right` has two numbers a row.
  Eigen::VectorXd solve(const Eigen::VectorXd& right) const;

 private:
  int count() const { return static_cast<int>(place_.size()); }
  void find_order(const std::vector<std::pair<int, int>>& pairs);
  void find_fill();

  std::vector<int> place_;  ///< of each row, in the order of elimination
  // Of the matrix: above the diagonal, column by column, in that order.
  std::vector<int> begin_, row_;
  std::vector<Block> own_, shared_;
  // Of the factor: below the diagonal, column by column; blocks of it transposed.
  std::vector<int> parent_, factor_begin_, factor_row_;
  std::vector<Block> factor_, diagonal_, inverse_;
};

}  // namespace awl
