#pragma once
#include <filesystem>
#include <string>

#include "core/base/result.hpp"

namespace awl {

/// Where the shipped data stands: $NOGGIN_AWL_DATA, else ../share/noggin-awl beside the program, else the source tree.
std::filesystem::path data_folder();

/// A whole file as bytes. Errors: cannot_read with the path.
Result<std::string> read_file(const std::filesystem::path& path);

/// Replaces a file safely: written beside it, flushed to the disk, then renamed over it.
///
/// Errors: cannot_write with the path and the system's reason; the old file is untouched then.
Result<void> write_file_safely(const std::filesystem::path& path, const std::string& bytes);

}  // namespace awl
