#pragma once
#include <map>

#include "app/stand/raster.hpp"
#include "core/derived/paint_ground.hpp"

namespace awl {

/// How the form is painted at some step of its plan.
struct PaintedLook {
  std::shared_ptr<const Form> on;             ///< shown only while this is what is worn
  std::shared_ptr<const PaintGround> ground;  ///< what is painted, where lines part the form; else null
  std::vector<int> rgb_of_face;               ///< of the ground's triangles, or the form's; -1: as the rest
  std::map<int, int> rgb_of_detail;           ///< details painted for themselves
  int rest = 0xdbcca4, inside = 0xa89a80;
  float gloss = 0.05f;
};

/// 0xRRGGBB as light.
Vec3f colourOf(int rgb);
/// The look if it is of the form that is shown with so many triangles; else null.
const PaintedLook* paintedOn(const Derived& derived, const PaintedLook* look, std::size_t triangles);
void paintShell(StandBody& shell, const PaintedLook& look);

}  // namespace awl
