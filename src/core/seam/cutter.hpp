#pragma once
#include <optional>
#include <set>

#include "core/base/result.hpp"
#include "core/form/draft.hpp"
#include "core/geom/nearest.hpp"

namespace awl {

/// A line to cut along: points on or near the mesh, in its coordinates. A cut that ends where it began is closed.
using CutLine = std::vector<Vec3>;

/// Cuts lines into a drafted surface; whatever is numbered by vertex goes along.
///
/// Between two points a cut runs in the plane through both and the mean normal, anchored anew at every edge; where a
/// walk fails it follows the shortest way along edges. Vertices nearer than 5 % of an edge are moved onto the cut, but
/// never those of borders and earlier seams. Crossings share a vertex, and an end near a seam or a border lands on it.
/// Source: docs/formulas/flattening.md, "cutting".
class Cutter {
 public:
  /// Contract: no edge of the mesh has three triangles.
  explicit Cutter(Draft draft);

  /// Where the ends of a line may be drawn to.
  struct Ends {
    double reach_mm = 0.0;      ///< an end so near to a border or a seam is put on it; 0: nowhere
    bool mirror_plane = false;  ///< the border in x = 0 is no free edge: only seams in it count
  };
  /// Cuts along a line and marks its edges as a new seam.
  /// Errors: degenerate_shape for fewer than two points; not_a_disk if two points lie on parts that are not connected.
  Result<void> draw(const CutLine& line, const std::string& name, const Ends& ends);
  /// Label the next line gets.
  int next_label() const { return static_cast<int>(draft_.seam_names.size()); }

  Draft take() &&;

 private:
  using Weights = std::vector<std::pair<int, double>>;
  struct Way {
    int b = -1, c = -1;
    double t = 0.0;
  };

  const Vec3& at(int v) const { return draft_.mesh.vertices[v]; }
  std::vector<int> faces_on(int a, int b) const;
  bool on_border(int v) const;
  bool on_seam(int v) const;
  void mark(int a, int b);
  void put(int v, const Weights& from);
  int add_vertex(const Weights& from);
  int split_edge(int a, int b, double t);
  int split_face(int face, const Vec3& weights);
  bool try_move(int v, const Vec3& to, const Weights& from);
  int face_at(const Vec3& wanted, Vec3& weights) const;
  int insert(const Vec3& wanted);
  std::optional<int> land(const Vec3& wanted, const Ends& ends);
  std::optional<Way> way_out(int from, int to, const Vec3& up) const;
  Vec3 normal_at(int v) const;
  std::optional<std::size_t> draw_stretches(
      const CutLine& line, const Ends& ends, const std::set<std::size_t>& by_edges);
  static bool closes(const CutLine& line, const Ends& ends);
  bool walk(int from, int to);
  bool shortest(int from, int to);

  Draft draft_;
  std::vector<Tri> original_;            ///< triangles as they came, for the tree's answers
  std::vector<std::vector<int>> round_;  ///< triangles round each vertex
  Nearest near_;
  int label_ = -1;
};

}  // namespace awl
