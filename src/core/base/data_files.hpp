#pragma once
#include <cstdint>
#include <filesystem>
#include <string>

#include "core/base/result.hpp"

namespace awl {

/// Where the shipped data stands: $NOGGIN_AWL_DATA, else ../share/noggin-awl beside the program, else the source tree.
std::filesystem::path data_folder();

/// A whole file as bytes. Errors: cannot_read with the path and the system's reason; too_large beyond `most` bytes.
inline constexpr std::uintmax_t kMostFileBytes = std::uintmax_t{1} << 30;
Result<std::string> read_file(const std::filesystem::path& path, std::uintmax_t most = kMostFileBytes);

/// Replaces a file safely: written beside it, flushed to the disk, then renamed over it. The only way files are
/// written.
///
/// A link stays a link and a file keeps who may read it. With `keep_previous` what was there stays as NAME~.
/// A device or a pipe is written straight.
/// Errors: cannot_write with the path and the system's reason; the old file is untouched then, and nothing is left
/// beside it.
Result<void> write_file_safely(const std::filesystem::path& path, const std::string& bytes, bool keep_previous = false);

/// Makes a file its owner's alone, begun empty if there is none: one that holds what people trusted the maker with.
/// Where its group was let write, that stays: it is shared on purpose. What is somebody else's stays as it is.
void keep_from_others(const std::filesystem::path& path);

/// Which file stands at a path, so that a change by somebody else is noticed: differs after every write. Empty without
/// a file.
std::string file_mark(const std::filesystem::path& path);

/// A folder and those above it. Errors: cannot_write with the path and the reason.
Result<void> make_folder(const std::filesystem::path& path);

}  // namespace awl
