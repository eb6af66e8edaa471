#pragma once
#include <array>
#include <functional>
#include <vector>

#include "core/geom/mesh.hpp"

namespace awl {

/// A smooth convex outline, the same on both sides of x = 0, by its support function.
///
/// Shape:  h(a) = sum c_k cos(k a), the distance from the centre to the tangent whose outward normal is (sin a, cos a):
///         a = 0 is the front (+z), a = pi/2 the wearer's left (+x). Point p = h n + h' n' (1), radius of curvature
///         h + h'' (2), girth 2 pi c_0 (3). Ease all round is simply h + ease, and two outlines add by adding c.
/// Units:  millimetres, radians. Source: docs/formulas/rings.md.
class Oval {
 public:
  static constexpr int kTerms = 12;

  /// The least smooth outline round the points, taken the same on both sides, that leaves no point outside by more than
  /// a fraction of a millimetre; nowhere rounder than `least_radius_mm`.
  static Oval round(const std::vector<Vec2>& points, double least_radius_mm = 8.0);
  static Oval ellipse(double half_breadth_mm, double half_length_mm);
  /// A superellipse: exponent 2 is an ellipse, 4 a rounded rectangle.
  static Oval squarish(double half_breadth_mm, double half_length_mm, double exponent);

  double support(double a) const;
  Vec2 point(double a) const;     ///< (x, z)
  double radius(double a) const;  ///< of curvature
  double girth_mm() const;
  double breadth_mm() const { return 2.0 * support(0.5 * 3.14159265358979323846); }
  double length_mm() const;
  double smallest_radius_mm() const;
  /// Radius of the circle of the same girth, and how far that circle is off the outline at most.
  double circle_radius_mm() const { return c_[0]; }
  double circle_error_mm() const;

  Oval grown(double mm) const;
  /// To this breadth and length, same character. Errors: none; both must be positive.
  Oval scaled(double breadth_mm, double length_mm) const;
  Oval shifted(double forward_mm) const;
  /// This outline for t = 0, the other for t = 1, and every convex outline between.
  Oval towards(const Oval& other, double t) const;

  /// `n` + 1 normal angles from 0 to pi at equal steps of arc.
  std::vector<double> even_angles(int n) const;

 private:
  static Oval fitted(const std::function<double(double)>& support_of, double least_radius_mm);
  std::array<double, kTerms> c_{};
};

}  // namespace awl
