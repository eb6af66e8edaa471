#pragma once
#include <set>

#include "core/derived/derived.hpp"

namespace awl {

/// The one thing to do next at a station ("tape", "head" ...), and why, with the act that does it or goes there: told
/// where nothing is wrong. None where all that was thought of is ignored, by its id.
///
/// In this order: what the head is guessed by; then what the station itself is for; then the station after it.
std::optional<Remark> next_step(
    const std::string& station, const Build& build, const Derived& derived, const std::set<std::string>& ignored = {});

}  // namespace awl
