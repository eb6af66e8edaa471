#pragma once
#include "core/base/text.hpp"
#include "core/builds/build.hpp"

namespace awl {

/// One act of an area: its verb, and what it does with the words behind it.
struct ActOf {
  std::string_view verb;
  Result<Build> (*run)(Build next, Words& words);
};

/// Acts about what is worn: slits, holds, rooms.
const std::vector<ActOf>& fit_acts();

/// Acts about details.
const std::vector<ActOf>& dress_acts();

/// Acts about the finishing plan and its colours.
const std::vector<ActOf>& coat_acts();

}  // namespace awl
