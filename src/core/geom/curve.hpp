#pragma once
#include <array>

#include "core/geom/polygon.hpp"

namespace awl {

/// A cubic by its four control points (Bernstein form), millimetres.
struct Cubic {
  std::array<Vec2, 4> p{Vec2::Zero(), Vec2::Zero(), Vec2::Zero(), Vec2::Zero()};
  Vec2 at(double t) const;
  Vec2 change(double t) const;  ///< with t
  Vec2 along(double t) const;   ///< unit direction; across two points that are one, from end to end
  Cubic part(double from, double to) const;
  bool operator==(const Cubic&) const = default;
};
/// Cubics one after the other, each beginning where the last one ended.
using Curve = std::vector<Cubic>;

Cubic straight(const Vec2& from, const Vec2& to);
Curve reversed(const Curve& curve);

/// Arc length by eight-point Gauss quadrature.
double length_mm(const Cubic& cubic, double from = 0.0, double to = 1.0);
double length_mm(const Curve& curve);
/// The same of a stretch of a cubic; `by` receives how it changes with each control point.
double length_and_change(const Cubic& cubic, double from, double to, std::array<Vec2, 4>& by);

/// Where one comes to after so many millimetres along a curve, and in which direction it goes there. Clamped to it.
struct OnCurve {
  Vec2 at = Vec2::Zero(), along = Vec2::UnitX();
};
OnCurve at_length(const Curve& curve, double mm);

/// Points of a curve from its first to its last, no chord farther off it than `off_mm` and none longer than
/// `longest_mm`. `lengths`, if given, receives how far along the curve each lies.
std::vector<Vec2> points_of(
    const Curve& curve, double off_mm, double longest_mm, std::vector<double>* lengths = nullptr);

/// A step along an arc of a circle. `bulge`: tangent of a quarter of its angle, + counter-clockwise, 0 straight (as in
/// DXF).
struct ArcStep {
  Vec2 to = Vec2::Zero();
  double bulge = 0.0;
};
/// A curve as arcs that meet without a kink where it has none, no farther off than `off_mm`. Two arcs of equal tangent
/// lengths to a cubic, halved until they are near enough. Source: docs/formulas/outlines.md (biarcs: bolton1975).
std::vector<ArcStep> arcs_of(const Curve& curve, double off_mm);

}  // namespace awl
