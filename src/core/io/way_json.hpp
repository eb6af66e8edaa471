#pragma once
#include <nlohmann/json.hpp>

#include "core/make/way.hpp"

namespace awl {

/// How a part is made, as JSON in build.json; docs/formats/noggin.md.
nlohmann::ordered_json way_to_json(const WaySpec& spec);
/// Errors: those of way_from and axis_from; a missing key throws the library's own exception.
Result<WaySpec> way_from_json(const nlohmann::ordered_json& json);

}  // namespace awl
