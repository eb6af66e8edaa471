#pragma once
#include "core/base/json_reader.hpp"
#include "core/make/way.hpp"

namespace awl {

/// How a part is made, as JSON in build.json; docs/formats/noggin.md.
Json way_to_json(const WaySpec& spec);
/// Contract: in read_json. Errors: those of way_from and axis_from.
WaySpec way_from_json(const JsonAt& json);

}  // namespace awl
