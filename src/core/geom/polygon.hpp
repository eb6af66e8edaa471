#pragma once
#include "core/geom/mesh.hpp"

namespace awl {

/// Closed polygons in the plane, millimetres; the last corner joins the first.
bool inside(const std::vector<Vec2>& outline, const Vec2& p);
double distance_to_outline(const std::vector<Vec2>& outline, const Vec2& p);
/// Positive if the corners run counter-clockwise.
double signed_area_mm2(const std::vector<Vec2>& outline);
/// Centre of area.
Vec2 polygon_centre(const std::vector<Vec2>& outline);

/// A place inside an outline and outside its holes, as far from all of them as a coarse grid and three refinements
/// find.
struct Roomiest {
  Vec2 at = Vec2::Zero();
  double room_mm = 0.0;  ///< to the nearest of them; 0 where there is none
};
Roomiest roomiest_place(const std::vector<Vec2>& outline, const std::vector<std::vector<Vec2>>& holes = {});

/// Outlines `by_mm` further out (in, if negative), corners rounded; several or none where it breaks up.
/// Accuracy: 1/1000 mm (Clipper).
std::vector<std::vector<Vec2>> offset_polygon(const std::vector<Vec2>& outline, double by_mm);

/// What is left of an outline when others are cut out of it: its largest piece; nothing if none is left.
/// Accuracy: 1/1000 mm (Clipper).
std::vector<Vec2> without(const std::vector<Vec2>& outline, const std::vector<std::vector<Vec2>>& cut);

/// Several closed rings: outer ones counter-clockwise, those of holes clockwise. Accuracy of all that follows: 1/1000
/// mm (Clipper).
using Rings = std::vector<std::vector<Vec2>>;

/// Closed curves of a section as a region: what lies within an odd number of them.
Rings region_of(const Rings& curves);
/// All that lies in any of the outlines, whichever way each runs.
Rings united(const Rings& outlines);
/// All that lies in any of several regions, their rings in one list.
Rings joined_regions(const Rings& rings);
/// What lies in both regions.
Rings common(const Rings& a, const Rings& b);
/// The region `by_mm` further out (in, if negative), corners rounded.
Rings offset_region(const Rings& region, double by_mm);
/// Holes taken off.
double region_area_mm2(const Rings& region);
/// Leaves out corners that lie within `mm` of the line between their neighbours.
std::vector<Vec2> thinned(const std::vector<Vec2>& outline, double mm);

}  // namespace awl
