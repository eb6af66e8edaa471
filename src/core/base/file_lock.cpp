#include "core/base/file_lock.hpp"

#include <fcntl.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cerrno>
#include <cstdlib>
#include <string>
#include <utility>

namespace awl {

namespace {

namespace fs = std::filesystem;

/// The descriptor of a file so locked; -1 with errno as the reason.
int locked(const fs::path& path, int how) {
  const int file = ::open(path.c_str(), O_RDWR | O_CREAT | O_CLOEXEC | O_NOFOLLOW, 0600);
  if (file < 0) return -1;
  if (::flock(file, how | LOCK_NB) == 0) return file;
  const int reason = errno;
  ::close(file);
  errno = reason;
  return -1;
}

/// A file of this machine that stands for one on a disk without locks; empty if there can be none.
fs::path stand_in(const fs::path& path) {
  const char* own = std::getenv("XDG_RUNTIME_DIR");
  std::error_code error;
  const fs::path folder = (own != nullptr && *own != '\0' ? fs::path(own) : fs::temp_directory_path(error)) /
      ("noggin-awl-locks-" + std::to_string(::geteuid()));
  if (::mkdir(folder.c_str(), S_IRWXU) != 0 && errno != EEXIST) return {};
  struct stat now {};
  if (::lstat(folder.c_str(), &now) != 0 || !S_ISDIR(now.st_mode) || now.st_uid != ::geteuid()) return {};
  return folder / std::to_string(std::hash<std::string>()(fs::absolute(path, error).string()));
}

}  // namespace

std::optional<FileLock> FileLock::try_take(const fs::path& path, Kind kind) {
  const int how = kind == Kind::alone ? LOCK_EX : LOCK_SH;
  int file = locked(path, how);
  if (file < 0 && (errno == ENOLCK || errno == ENOTSUP || errno == ENOSYS || errno == EINVAL))
    if (const fs::path here = stand_in(path); !here.empty()) file = locked(here, how);
  if (file < 0) return std::nullopt;
  return FileLock(file);
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
