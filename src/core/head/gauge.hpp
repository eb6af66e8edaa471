#pragma once
#include <vector>

#include "core/geom/section.hpp"
#include "core/head/measures.hpp"
#include "core/head/template.hpp"

namespace awl {

using MeasureJacobian = Eigen::Matrix<double, kMeasureCount, kModeCount>;

/// Reads tapes on a head whose section planes have been cut once, as functions of the coefficients.
///
/// The crossings are material points (edge and parameter), linear in the coefficients, so a reading and its exact
/// gradient cost microseconds; hull and extremes are chosen anew at each reading. Far from the cut the points leave
/// their plane: cut again. Source: docs/formulas/headform.md, "measures on the mesh".
class Gauge {
 public:
  /// Cuts the planes on the head with coefficients `at`, whose vertices are `shape`. Measures with wanted[i] == 0 are
  /// left out. A gauge that need not `follow` other coefficients is quicker to make and reads only at `at`.
  Gauge(const HeadTemplate& head, const Coefficients& at, const std::vector<Vec3>& shape,
      const std::array<char, kMeasureCount>& wanted, bool follow);

  /// Readings in mm at `c`; rows of unwanted measures are zero. `jacobian` may be null.
  void read(const Coefficients& c, MeasureVector& reads, MeasureJacobian* jacobian) const;

  /// Where the tape or ruler of one measure lies at `c`: a closed round repeats its first place, a straight has two.
  /// Empty for a measure that is not wanted. Where a tape bridges a hollow its path leaves the skin, as a real one
  /// does.
  std::vector<Vec3> path(MeasureId id, const Coefficients& c) const;

 private:
  struct Points {  ///< places now and, unless frozen, how they move
    std::vector<Vec3> now;
    std::vector<ModeColumns> modes;
  };
  struct Loop {  ///< points under one tape; the first two are its ends when it is open
    Points points;
    bool open = false;
    Vec3 u, v;
  };
  struct Extreme {  ///< largest of sign * coordinate over some candidates
    Points candidates;
    int axis = 0;
    double sign = 1.0;
  };
  using Row = Eigen::Matrix<double, 1, kModeCount>;

  void add(Points& to, const EdgePoint& e) const;
  void add(Points& to, Landmark l) const;
  Vec3 where(const Points& points, std::size_t i, const Coefficients& c) const;
  Vec3 where(Landmark l, const Coefficients& c) const;
  ModeColumns moves(Landmark l) const { return head_->landmarks.modes(static_cast<int>(l)); }
  bool wants(MeasureId id) const { return wanted_[index_of(id)] != 0; }
  void cut_loops();
  void cut_loop(MeasureId id, const Plane& plane, double least_y_mm, double most_y_mm);
  void cut_arc(MeasureId id, std::array<Landmark, 3> through);
  void pick_extremes();
  double tape(const Loop& loop, const Coefficients& c, Row* row) const;
  double extreme(const Extreme& e, const Coefficients& c, Row* row) const;
  std::size_t extreme_index(const Extreme& e, const Coefficients& c) const;
  std::size_t furthest_back(const Coefficients& c) const;
  std::vector<Vec3> straight_path(MeasureId id, const Coefficients& c) const;
  double straight(Landmark a, Landmark b, const Coefficients& c, Row* row) const;
  void read_straights(const Coefficients& c, MeasureVector& reads, MeasureJacobian* jacobian) const;
  void read_extremes(const Coefficients& c, MeasureVector& reads, MeasureJacobian* jacobian) const;

  const HeadTemplate* head_;
  Coefficients at_;
  const std::vector<Vec3>* shape_;  ///< only valid while constructing
  std::array<char, kMeasureCount> wanted_;
  bool follow_;
  std::map<MeasureId, Loop> loops_;
  Extreme left_, right_, face_left_, face_right_, crown_, chin_, back_;
  Points midline_back_;
};

}  // namespace awl
