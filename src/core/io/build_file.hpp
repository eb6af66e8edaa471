#pragma once
#include <filesystem>

#include "core/builds/build.hpp"

namespace awl {

/// Version of the .noggin format written; docs/formats/noggin.md.
inline constexpr int kBuildFormat = 6;

/// A build as the bytes of a .noggin file (a ZIP with build.json).
Result<std::string> build_bytes(const Build& build);

/// Errors: bad_file (no ZIP, cut short, no build.json, a value missing or out of range, with its name);
///         newer_file with both versions.
Result<Build> build_from_bytes(const std::string& bytes);

/// Saves safely: written beside, flushed, renamed; the previous version stays as NAME.noggin~.
/// Errors: cannot_write with folder and reason; the old file is untouched then.
Result<void> save_build(const std::filesystem::path& path, const Build& build);
Result<Build> open_build(const std::filesystem::path& path);

/// Tape measures from JSON ({"units":"mm","measures":{"HC":560}}) or CSV lines (HC,22 1/16 in).
/// Errors: bad_file, unknown_name, wrong_unit, not_a_number, each with its line or key; empty_input; out_of_range for
///         what no head of any age has.
Result<MeasureSet> measures_from_text(const std::string& text);
Result<MeasureSet> read_measures(const std::filesystem::path& path);

}  // namespace awl
