#pragma once
#include "core/base/json_reader.hpp"
#include "core/builds/build.hpp"

namespace awl {

/// What a build is cut from, as JSON in build.json; docs/formats/noggin.md.
Json foam_to_json(const FoamSpec& foam);
/// Contract: in read_json. Errors: those of make_offcut, edge_cut_from and check_foam_kind.
FoamSpec foam_from_json(const JsonAt& json);
/// Format 4 knew one sheet and square lines only.
void migrate_foam_from_4(Json& foam);

/// A closed outline as [[x, y], ...] in mm, and back.
Json outline_to_json(const std::vector<Vec2>& outline);
std::vector<Vec2> outline_from_json(const JsonAt& json);

}  // namespace awl
