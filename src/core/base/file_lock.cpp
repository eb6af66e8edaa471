#include "core/base/file_lock.hpp"

#include <fcntl.h>
#include <sys/file.h>
#include <unistd.h>

#include <utility>

namespace awl {

std::optional<FileLock> FileLock::try_take(const std::filesystem::path& path, Kind kind) {
  const int file = ::open(path.c_str(), O_RDWR | O_CREAT | O_CLOEXEC, 0600);
  if (file < 0) return std::nullopt;
  if (::flock(file, (kind == Kind::alone ? LOCK_EX : LOCK_SH) | LOCK_NB) == 0) return FileLock(file);
  ::close(file);
  return std::nullopt;
}

FileLock::FileLock(FileLock&& other) noexcept : file_(std::exchange(other.file_, -1)) {}

FileLock& FileLock::operator=(FileLock&& other) noexcept {
  std::swap(file_, other.file_);
  return *this;
}

FileLock::~FileLock() {
  if (file_ >= 0) ::close(file_);
}

void FileLock::share() { (void)::flock(file_, LOCK_SH | LOCK_NB); }

}  // namespace awl
