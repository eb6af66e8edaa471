#pragma once
#include <functional>

#include "core/base/result.hpp"
#include "core/form/draft.hpp"
#include "core/form/oval.hpp"

namespace awl {

/// An oval in space.
struct RingCurve {
  Oval oval;
  double height_mm = 0.0;
  double lean_rad = 0.0;  ///< front up
  double pivot_mm = 0.0;  ///< z about which it leans
  double side_drop_mm = 0.0;

  Vec3 operator()(double a) const;  ///< the place with the outward normal (sin a, cos a) in its own plane
  Vec3 tangent(double a) const;     ///< unit, in its plane
  Vec3 outward(double a) const;     ///< unit, in its plane
};

/// Normal angle on `to` whose tangent lies in one plane with that of `from` at `a` and the line between them (1).
///
/// Source: docs/formulas/rings.md eq. (4): det(T_from(a), T_to(b), P_to(b) - P_from(a)) = 0, the root nearest to a.
double developable_partner(const RingCurve& from, double a, const RingCurve& to);

/// Builds the x >= 0 half of a stack of rings column by column.
class RingMesh {
 public:
  /// Columns stand evenly on `mean`, the mean of all rings: what is flat in one and round in another would crowd them.
  /// Contract: `columns` is divisible by 16; `cuts` are columns where pieces are cut apart.
  RingMesh(const RingCurve& lowest, int columns, std::vector<int> cuts, const Oval& mean);

  int columns() const { return columns_; }
  /// `row_mm`: height of its rows of triangles, at most.
  /// Errors: degenerate_shape where rulings cross (the rings are too unlike for a band).
  Result<void> add_band(const RingCurve& next, double bulge_mm, double row_mm);
  /// Closes the top; returns its highest place. A dome is cut at the same columns as the bands, a flat cap is not.
  Vec3 add_cap(bool pointed, double height_mm);
  /// A sheet outwards from the lowest ring: place(a, t), t from 0 on the ring to 1.
  void add_skirt(const std::string& name, int rows, const std::function<Vec3(double a, double t)>& place,
      const std::vector<int>& cuts);
  Draft take() { return std::move(draft_); }

 private:
  using Row = std::vector<int>;
  /// `radius` and `height` are the row's in the plain cylinder that is its home: 100 across the ring, 100 a band.
  Row add_row(const std::vector<Vec3>& places, double radius, double height);
  void join(const Row& lower, const Row& upper, int lower_stride, int upper_stride);
  void label_row(const Row& row, const std::string& name);
  void label_columns(const std::vector<Row>& rows, const std::vector<int>& cuts, const std::string& name);

  Draft draft_;
  int columns_;
  std::vector<int> cuts_;
  RingCurve lowest_, top_;
  std::vector<double> lowest_angles_, angles_;
  Row lowest_row_, row_;
  int bands_ = 0;
};

/// Where a loose sheet runs, as normal angles; `from_middle`/`to_middle` where it meets x = 0.
struct SheetArc {
  double from_rad = 0.0, to_rad = 0.0;
  bool from_middle = false, to_middle = false;
};
/// Adds a sheet that touches nothing else.
/// `number`: which one it is, so that each has a home of its own.
void hang_sheet(Draft& draft, int number, const SheetArc& arc, double depth_mm,
    const std::function<Vec3(double a, double t)>& place);

}  // namespace awl
