#pragma once
#include <Eigen/Core>

#include "core/seam/borders.hpp"

namespace awl {

/// Few numbers that move the flat borders of a set, and with them all that lies within: knots along every stretch
/// between corners, each free to move both ways, the same knots on both sides of a seam. Of an exactly mirrored set
/// those of the left half alone; panels that lie across the middle move like their own image.
class TruingMoves {
 public:
  /// What moves of one panel: flat places change by `flat` (x and y of each vertex in turn) times the numbers
  /// `columns`.
  struct OfPanel {
    int panel = -1;
    std::vector<int> columns;
    Eigen::MatrixXd flat;
    Eigen::MatrixXd border;  ///< the same for the vertices of its border, in its order
  };

  /// `half`: the set is exactly mirrored. Contract: panels lie flat; none was given flat.
  TruingMoves(const PanelSet& set, bool half, double knot_mm);

  int count() const { return count_; }
  const std::vector<OfPanel>& panels() const { return panels_; }
  /// Where panels lie once moved; images of mirrored pairs with them.
  std::vector<std::vector<Vec2>> moved(
      const PanelSet& set, const std::vector<std::vector<Vec2>>& from, const Eigen::VectorXd& by) const;

 private:
  void add_panel(const PanelSet& set, const Borders& borders, int panel);

  bool half_;
  double knot_mm_;
  int count_ = 0;
  std::vector<char> left_;  ///< per vertex of the form: in the half that is worked on
  std::vector<OfPanel> panels_;
};

/// An edge of a seam on both its panels: flat vertices of each. Of a half both lie in panels that are worked on.
struct SeamPair {
  struct Side {
    int panel = -1, a = -1, b = -1;
  };
  Side one, other;
};
/// Edges whose sides are not each other's image.
std::vector<SeamPair> seam_pairs(const PanelSet& set, bool half);

/// The least moves of borders that make both sides of every edge of every seam equally long, what lies within
/// following; answers the largest difference left. `flat`: per panel, as it lies; images of pairs follow too.
double even_seams(const PanelSet& set, bool half, std::vector<std::vector<Vec2>>& flat);

/// The reflection that lays a panel's flat places best over those of their mirror images.
Eigen::Matrix2d flat_mirror(const PanelSet& set, const Panel& panel);

}  // namespace awl
