#pragma once
#include "core/base/remark.hpp"
#include "core/builds/build.hpp"

namespace awl {

/// Acts that cut a part finer, by its source; the best first.
std::vector<Remedy> finer_cuts(const Build& build, int part);
/// Acts that open a part that lies round and closed, by the place of the error about it.
std::vector<Remedy> opening_cuts(const Build& build, const std::string& where);
/// Acts that split a piece which lies over itself.
std::vector<Remedy> splits(const Build& build, int part);

}  // namespace awl
