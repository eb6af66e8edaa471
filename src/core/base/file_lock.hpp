#pragma once
#include <filesystem>
#include <optional>

namespace awl {

/// A lock on a file of its own, held while this lives; the system lets go of it when the program ends, however it ends.
///
/// Two holders in one program are two, as two programs are. On a disk without locks (some network folders) programs of
/// this machine and user alone see each other. Source: flock(2).
class FileLock {
 public:
  enum class Kind { shared, alone };
  /// None if somebody holds it in a way that excludes this, or the file cannot be made.
  static std::optional<FileLock> try_take(const std::filesystem::path& path, Kind kind);

  FileLock(FileLock&& other) noexcept;
  FileLock& operator=(FileLock&& other) noexcept;
  FileLock(const FileLock&) = delete;
  FileLock& operator=(const FileLock&) = delete;
  ~FileLock();

  /// From alone to shared, so that others may come in.
  void share();

 private:
  explicit FileLock(int file) : file_(file) {}
  int file_ = -1;
};

}  // namespace awl
