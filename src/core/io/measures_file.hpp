#pragma once
#include <filesystem>

#include "core/head/population.hpp"

namespace awl {

/// Tape measures from JSON ({"units":"mm","measures":{"HC":560}}) or CSV lines (HC,22 1/16 in).
/// Errors: bad_file, unknown_name, wrong_unit, not_a_number, each with its line or key; empty_input; out_of_range for
///         what no head of any age has.
Result<MeasureSet> measures_from_text(const std::string& text);
Result<MeasureSet> read_measures(const std::filesystem::path& path);

}  // namespace awl
