#pragma once
#include <filesystem>

#include "core/base/json_reader.hpp"
#include "core/coat/work/project.hpp"

namespace awl {

/// A project of steps and links as somebody wrote it (docs/formats/plan-case.md), for `plan --spec`.
/// Errors: bad_file with the place; unknown_name of a link's or a tick's step; those of check_project.
Result<Project> project_from_json(const Json& json);
Result<Project> plan_case_from(const std::string& text);
Result<Project> read_plan_case(const std::filesystem::path& file);

}  // namespace awl
