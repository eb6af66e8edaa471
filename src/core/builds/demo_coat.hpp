#pragma once
#include "core/builds/build.hpp"

namespace awl {

/// How a demo is finished: colours, products, days. Contract: its parts and details are there.
void coat_demo(Build& build, const std::string& id);

/// Every part a colour area of its own, beside those there are; parts whose sheet is looked through are left out.
/// Colours are taken in turn, made if there are none.
Build with_part_colours(Build build, const Materials& materials);
/// Adds a colour area with a number of its own. Errors: too_large beyond 60.
Result<int> add_area(Build& build, ColourArea area);
int add_pigment(Build& build, const std::string& name, int rgb);

}  // namespace awl
