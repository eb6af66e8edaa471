#pragma once
#include "core/dress/form_line.hpp"

namespace awl {

/// Solids one would touch, in the head frame. All are closed, corners counter-clockwise seen from outside.

/// A flat dome: a rivet's head, a lamp.
Mesh dome_on(const FormLine::At& at, double across_mm, double high_mm);
/// A ring standing on the surface: an eyelet, the rim of a bored hole.
Mesh ring_on(const FormLine::At& at, double across_mm, double wide_mm, double high_mm);
/// A round bar along places: wire, cord, cable.
Mesh bar_along(const std::vector<Vec3>& line, double across_mm, bool closed = false);
/// A strip of stated cross-section on the surface, or `inside` on the inner face; `over_mm` from it.
Mesh band_along(const DressSite& site, const FormLine& line, double left_mm, double right_mm, double over_mm,
    double thick_mm, bool inside = false);
/// A cone with an oval foot: a tooth, a spike, a claw.
Mesh cone_on(const Vec3& at, const Vec3& along, const Vec3& up, double wide_mm, double deep_mm, double high_mm,
    double lean = 0.0);
/// A leaf that lies on the surface and lifts towards its end: a scale, a feather, a tuft. `widths`: shares of its width
/// from root to end, even steps.
Mesh leaf_on(const DressSite& site, const Vec3& root, const Vec3& along, double long_mm, double wide_mm,
    const std::vector<double>& widths, double over_mm, double lift_mm, double thick_mm);
/// What closes an outline on the surface: a lens, a boss. It bulges by `rise_mm` in its middle.
Mesh cap_over(const std::vector<Vec3>& rim, const Vec3& out, double over_mm, double rise_mm, double thick_mm);
/// A right-angled block.
Mesh block_on(const FormLine::At& at, double along_mm, double across_mm, double high_mm, double over_mm = 0.0);

}  // namespace awl
