#pragma once
#include <filesystem>

#include "core/builds/build.hpp"

namespace awl {

/// A build as the bytes of a .noggin file (a ZIP with build.json). `picture`: a PNG of it, for lists of files; empty
/// for none. Errors: those of check_inputs; cannot_write.
Result<std::string> build_bytes(const Build& build, const std::string& picture = {});

/// Errors: bad_file (no ZIP, cut short, no build.json, a value missing or of the wrong kind, with its place);
/// out_of_range and
///         too_large as check_inputs has them; newer_file with both versions.
Result<Build> build_from_bytes(const std::string& bytes);

/// Saves safely: written beside, flushed, renamed; the previous version stays as NAME.noggin~.
/// Errors: cannot_write with folder and reason; the old file is untouched then.
Result<void> save_build(const std::filesystem::path& path, const Build& build, const std::string& picture = {});
Result<Build> open_build(const std::filesystem::path& path);

/// The PNG a build was saved with, without reading the rest. Errors: cannot_read, bad_file; empty_input if it has none.
Result<std::string> picture_in_build(const std::filesystem::path& path);

}  // namespace awl
