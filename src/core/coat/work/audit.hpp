#pragma once
#include "core/coat/work/project.hpp"

namespace awl {

/// What a schedule breaks of its project, in words; empty if it keeps everything.
///
/// Reckoned in minutes straight from the project, by nothing that made the schedule.
std::vector<std::string> broken_by(const Project& project, const Schedule& schedule);

}  // namespace awl
