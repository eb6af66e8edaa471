#pragma once
#include <string>
#include <vector>

#include "core/builds/build.hpp"

namespace awl {

// All of a build that has dials, by the place it is kept at: "foam", "foam/margins", "headform", "headform/way",
// "parts/3", "parts/3/way", "parts/3/seams" of a wrap, "fit", "fit/slit/1", "fit/hold/2", "fit/room/1", "fit/cutout/1",
// "dress/4", "coat", "quote". A setting is a place and the id of a dial there: "foam/gap", "parts/3/way/wall".

/// Every place there is, in the order of the work.
std::vector<std::string> dial_places(const Build& build);
/// The dials kept at a place, bound to this build. Errors: unknown_name.
Result<std::vector<Dial>> dials_at(Build& build, const std::string& place);
/// Turns one. Errors: those of dials_at and turn_dial.
Result<Build> with_setting(Build build, const std::string& place, const std::string& dial, double value);
/// Sets one to what a text says. Errors: those of dials_at and set_dial.
Result<Build> with_setting(Build build, const std::string& setting, const std::string& to);

}  // namespace awl
