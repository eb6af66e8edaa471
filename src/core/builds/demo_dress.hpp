#pragma once
#include "core/builds/build.hpp"

namespace awl {

/// Puts on a demo what it is dressed with. Contract: its parts are there.
void dress_demo(Build& build, const std::string& id);

}  // namespace awl
