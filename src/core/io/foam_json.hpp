#pragma once
#include <nlohmann/json.hpp>

#include "core/builds/build.hpp"

namespace awl {

/// What a build is cut from, as JSON in build.json; docs/formats/noggin.md.
nlohmann::ordered_json foam_to_json(const FoamSpec& foam);
/// Errors: bad_file and those of make_offcut, edge_cut_from and foam_from_text; a missing key throws the library's own exception.
Result<FoamSpec> foam_from_json(const nlohmann::ordered_json& json);
/// Format 4 knew one sheet and square lines only.
void migrate_foam_from_4(nlohmann::ordered_json& foam);

nlohmann::ordered_json order_to_json(const std::vector<OrderRule>& rules);

/// A closed outline as [[x, y], ...] in mm, and back.
nlohmann::ordered_json outline_to_json(const std::vector<Vec2>& outline);
std::vector<Vec2> outline_from_json(const nlohmann::ordered_json& json);

}  // namespace awl
