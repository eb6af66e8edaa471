#pragma once
#include "core/seam/panels.hpp"

namespace awl {

/// A vertex or an edge of a panel's border, by its place in the border.
struct BorderSpot {
  int panel = -1;
  std::size_t at = 0;
  bool there() const { return panel >= 0; }
  bool operator==(const BorderSpot&) const = default;
};

/// The flat borders of a set: which edges lie on each other, and where corners are.
///
/// Corners: where the seam changes, where the other side goes over to another panel, tips of darts, and turns by more
/// than `corner_deg` over one chord and over three. A corner of one side of a seam is one of the other.
/// Contract: panels lie flat; the set outlives this.
class Borders {
 public:
  Borders(const PanelSet& set, double corner_deg);

  std::size_t size(int panel) const { return flat_[static_cast<std::size_t>(panel)].size(); }
  BorderSpot next(const BorderSpot& s, std::size_t by = 1) const { return {s.panel, (s.at + by) % size(s.panel)}; }
  BorderSpot before(const BorderSpot& s) const { return {s.panel, (s.at + size(s.panel) - 1) % size(s.panel)}; }
  const Vec2& flat(const BorderSpot& s) const { return flat_[static_cast<std::size_t>(s.panel)][s.at]; }
  const BorderSpot& partner(const BorderSpot& edge) const {
    return partner_[static_cast<std::size_t>(edge.panel)][edge.at];
  }
  bool corner(const BorderSpot& vertex) const {
    return corner_[static_cast<std::size_t>(vertex.panel)][vertex.at] != 0;
  }
  /// Of a border that zigzags along a mesh's edges, by how much; 0 of others, which were drawn. Corners of such a one
  /// turn by 2.4 times as much.
  double rough_mm(int panel) const { return rough_mm_[static_cast<std::size_t>(panel)]; }
  const std::vector<Vec2>& outline(int panel) const { return flat_[static_cast<std::size_t>(panel)]; }

  /// All its vertices become corners, also on the other sides of its seams.
  void keep_chords(int panel);
  void add_corner(const BorderSpot& vertex);

 private:
  BorderSpot& partner(const BorderSpot& edge) { return partner_[static_cast<std::size_t>(edge.panel)][edge.at]; }
  void set_corner(const BorderSpot& v) { corner_[static_cast<std::size_t>(v.panel)][v.at] = 1; }
  void find_corners(double limit);
  void spread();

  const PanelSet& set_;
  std::vector<std::vector<Vec2>> flat_;
  std::vector<std::vector<BorderSpot>> partner_;
  std::vector<std::vector<char>> corner_;
  std::vector<double> rough_mm_;
};

}  // namespace awl
