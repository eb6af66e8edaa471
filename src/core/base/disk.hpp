#pragma once
#include <filesystem>

namespace awl {

/// Whether a folder, or a file's, lies on another machine or behind a program (NFS, SMB, sshfs), where memory shared
/// between programs and what is mapped cannot be relied on. False if that cannot be told.
bool is_far(const std::filesystem::path& path);

}  // namespace awl
