#pragma once
#include <filesystem>

#include "core/dress/dress.hpp"

namespace awl {

/// Details for a mesh or a build, as docs/formats/dress-case.md describes: kinds by their usual names, lines by their
/// source. `site` turns heights and places into markers.
/// Errors: cannot_read, bad_file, unknown_name, out_of_range with the place in the file.
Result<DressSpec> read_dress_case(const std::filesystem::path& path, const DressSite& site);
/// The same from text that was read. `where` begins the places.
Result<DressSpec> dress_case_from(const std::string& text, const DressSite& site, const std::string& where);

}  // namespace awl
