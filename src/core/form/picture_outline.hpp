#pragma once
#include "core/form/body.hpp"
#include "core/geom/grey_picture.hpp"

namespace awl {

/// The outline of the largest thing on a plain ground: what differs from the ground at the picture's edge by more than
/// lies between both (Otsu), its rim to a fraction of a pixel, thinned to what a maker would draw; turns over 50
/// degrees are corners.
///
/// Shape:  closed, counter-clockwise, y upwards, its middle in the origin, `tall_mm` high. Errors: empty_input for a
///         picture without anything on it; out_of_range when it is smaller than 8 pixels.
/// Source: otsu1979; docs/formulas/sweep-and-plate.md (bodies).
Result<std::vector<CurvePoint>> picture_outline(const GreyPicture& picture, double tall_mm);

/// Half of such an outline as a profile to be turned: the radius (half its breadth) at even heights, from its foot to
/// its top.
std::vector<CurvePoint> profile_of(const std::vector<CurvePoint>& outline);

}  // namespace awl
