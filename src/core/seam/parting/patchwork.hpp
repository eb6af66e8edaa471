#pragma once
#include <functional>
#include <map>
#include <memory>
#include <set>

#include "core/seam/strain.hpp"

namespace awl::parting {

/// One patch of a surface that is to lie flat: a disk, with slits in it perhaps.
struct Patch {
  std::vector<int> faces;
  double area_mm2 = 0.0;
  double rigid = 0.0;    ///< p99 strain of its rigid map
  double finish = -1.0;  ///< and after the minimax finish; below 0: not worked out
  bool bad = false;      ///< a triangle turns over, or its outline crosses itself
  bool sewn = false;     ///< of a half: joined to its own mirror image, and measured whole
};

/// A patch by itself: corners are one where an uncut edge joins them. Of a sewn patch the image's triangles come
/// second.
struct LocalCopy {
  Mesh mesh;
  std::vector<int> vertex_of;  ///< vertex of the surface; of the image too
  bool disk = false;
};

/// A run of cut edges that two patches share, through corners where no third edge is cut; in order.
struct Arc {
  int one = 0, other = 0;  ///< patches; 0 for a half's mirror image of `one`
  std::vector<int> edges;
  double length_mm = 0.0, cost_mm = 0.0;  ///< cost: as it counts as a seam
  double folded_mm = 0.0;                 ///< of it, where the surface turns by more than 40 degrees
};

/// A surface and the edges it is cut along. Every patch is a disk by construction: two are joined along one arc alone,
/// and what else they share stays a slit. Source: docs/formulas/parting.md.
class Patchwork {
 public:
  /// `mirrored`: the x >= 0 half of a form; its border in x = 0 may be sewn to the image. `weight`: how an edge's
  /// length counts as a seam, by its middle; none: as it is.
  Patchwork(Mesh surface, bool mirrored, const std::function<double(const Vec3&)>& weight);

  Mesh mesh;
  Topology topo;
  std::vector<char> cut;      ///< by edge; borders are cut, a mirror line's edges until they are sewn
  std::vector<char> mirror;   ///< by edge: lies in x = 0 on the border of a half
  std::set<int> stays_cut;    ///< edges no crumb is joined across: joined there, panels lay flat alone and not together
  std::vector<int> patch_of;  ///< by triangle
  std::map<int, Patch> patches;
  bool sews = true;  ///< of a half: panels may lie across its mirror line

  bool is_half() const { return half_; }
  /// Numbers are never used twice, also not by copies: what was found of a number stays true.
  int fresh() { return ++*last_; }
  double area(int face) const { return area_[face]; }
  double whole_area() const { return half_ ? 2.0 * area_sum_ : area_sum_; }
  double edge_mm(int edge) const {
    return (mesh.vertices[topo.edges[edge].a] - mesh.vertices[topo.edges[edge].b]).norm();
  }
  double weight(int edge) const { return weight_.empty() ? 1.0 : weight_[edge]; }
  /// By how much the surface turns across an edge, radians; of a mirror edge, to its image.
  double turn(int edge) const;
  bool is_free_border(int edge) const { return topo.edges[edge].right < 0 && !mirror[edge]; }

  /// As if some edges were joined, or cut, besides.
  LocalCopy copy_of(
      const std::vector<int>& faces, const std::set<int>& uncut = {}, const std::set<int>& more_cut = {}) const;
  /// A new patch of these triangles, cut off from all others; not measured.
  int set_patch(std::vector<int> faces);
  /// Parts triangles into patches along the edges that are cut.
  std::vector<int> patches_from(const std::vector<int>& faces);
  /// Runs two patches share, the longest first; with `other` 0, a patch's runs along the mirror line.
  std::vector<Arc> arcs(int one, int other) const;
  std::set<std::pair<int, int>> neighbours()
      const;  ///< pairs, the smaller number first; (0, one) along the mirror line
  /// Joins two patches along an arc. Answers the new one, not measured.
  int join(const Arc& arc);
  /// What every vertex is joined by: cut edges round it.
  int cut_degree(int vertex) const;
  double seam_mm() const;                        ///< of the whole form, by weight
  int panels() const;                            ///< of the whole form
  void moved(const std::vector<int>& vertices);  ///< areas anew after vertices were moved

 private:
  bool half_ = false;
  std::shared_ptr<int> last_ = std::make_shared<int>(0);
  double area_sum_ = 0.0;
  std::vector<double> area_, weight_;
  std::vector<std::vector<int>> edges_round_;
};

/// How a patch is judged while it is joined: p99 strain of its rigid map, given up early where it is hopeless.
struct Judged {
  double rigid = 1e9;
  bool bad = true;
};
Judged judge_rigid(const LocalCopy& copy, double limit);
/// The same after so many steps of the finish; `flat`, if given, receives the layout.
Judged judge_finish(const LocalCopy& copy, int steps, std::vector<Vec2>* flat = nullptr);

}  // namespace awl::parting
