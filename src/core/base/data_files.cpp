#include "core/base/data_files.hpp"

#include <fcntl.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cerrno>
#include <cstdlib>
#include <cstring>
#include <vector>

#include "core/base/text.hpp"

namespace awl {
namespace fs = std::filesystem;
namespace {

struct Closer {
  int file;
  ~Closer() { ::close(file); }
};

}  // namespace

fs::path data_folder() {
  if (const char* named = std::getenv("NOGGIN_AWL_DATA")) return named;
  std::error_code ignored;
  const fs::path beside = fs::read_symlink("/proc/self/exe", ignored).parent_path() / "../share/noggin-awl";
  if (fs::exists(beside / "headform", ignored)) return beside;
  return NOGGIN_AWL_SOURCE_DATA;
}

Result<std::string> read_file(const fs::path& path, std::uintmax_t most) {
  std::error_code ignored;
  if (fs::is_directory(path, ignored))
    return fail(Errc::cannot_read, excerpt(path.string(), 200) + " is a folder, not a file.");
  const int file = ::open(path.c_str(), O_RDONLY | O_CLOEXEC);
  const auto refused = [&] {
    return fail(Errc::cannot_read,
        "The file " + excerpt(path.string(), 200) + " cannot be opened: " + std::strerror(errno) + ".");
  };
  if (file < 0) return refused();
  const Closer closer{file};
  std::string bytes;
  std::vector<char> block(1 << 20);
  for (;;) {
    const ssize_t read = ::read(file, block.data(), block.size());
    if (read < 0 && errno == EINTR) continue;
    if (read < 0) return refused();
    if (read == 0) return bytes;
    bytes.append(block.data(), static_cast<std::size_t>(read));
    if (bytes.size() > most)
      return fail(Errc::too_large,
          "The file " + excerpt(path.string(), 200) + " is larger than " + std::to_string(most >> 20) + " MB.");
  }
}

namespace {

tl::unexpected<Error> not_written(const fs::path& path, const std::string& reason) {
  return fail(
      Errc::cannot_write, "Nothing was written to " + excerpt(path.string(), 200) + ": " + reason + ".", path.string());
}

/// Whether what was written is on the disk, as far as this disk can tell: some network folders know no flushing.
bool flushed(int file) { return ::fsync(file) == 0 || errno == EINVAL || errno == ENOSYS || errno == ENOTSUP; }

/// All bytes, and whether they reached the disk. Leaves errno as the reason.
bool put_all(int file, const std::string& bytes, bool flush) {
  for (std::size_t done = 0; done < bytes.size();) {
    const ssize_t wrote = ::write(file, bytes.data() + done, bytes.size() - done);
    if (wrote < 0 && errno == EINTR) continue;
    if (wrote <= 0) return false;
    done += static_cast<std::size_t>(wrote);
  }
  return !flush || flushed(file);
}

/// A device, a pipe or a terminal: there is nothing to rename over.
Result<void> write_straight(const fs::path& path, const std::string& bytes) {
  const int file = ::open(path.c_str(), O_WRONLY | O_CLOEXEC);
  if (file < 0) return not_written(path, std::strerror(errno));
  bool good = put_all(file, bytes, false);
  const int reason = errno;
  good = ::close(file) == 0 && good;
  if (good) return {};
  return not_written(path, std::strerror(reason));
}

/// Where the links of a path lead; the path itself without any.
fs::path behind_links(fs::path path) {
  std::error_code error;
  for (int hops = 0; hops < 40 && fs::is_symlink(path, error); ++hops) {
    const fs::path to = fs::read_symlink(path, error);
    path = to.is_absolute() ? to : path.parent_path() / to;
  }
  return path;
}

/// The file beside `whole` with all of `bytes` in it, readable by whom the old one was.
Result<std::string> write_beside(const fs::path& whole, const std::string& bytes) {
  // On a disk with shorter names, or for a name that is as long as may be, one of its own.
  const std::string ending = ".XXXXXX";
  const long longest = ::pathconf(whole.parent_path().c_str(), _PC_NAME_MAX);
  const bool too_long =
      longest > 0 && whole.filename().string().size() + ending.size() > static_cast<std::size_t>(longest);
  std::string beside = (too_long ? whole.parent_path() / ".noggin-awl" : whole).string() + ending;
  const int file = ::mkostemp(beside.data(), O_CLOEXEC);
  if (file < 0) return not_written(whole.parent_path(), std::strerror(errno));
  struct stat old {};
  const bool replaces = ::stat(whole.c_str(), &old) == 0;
  const mode_t mask = ::umask(0);
  ::umask(mask);
  // Disks without modes or owners refuse both: the file then stays its maker's alone, as it was made.
  (void)::fchmod(file, replaces ? old.st_mode & 07777 : 0666 & ~mask);
  if (replaces && ::fchown(file, old.st_uid, old.st_gid) != 0)
    errno = 0;  // another's file in a shared folder: it becomes ours
  bool good = put_all(file, bytes, true);
  int reason = errno;
  if (::close(file) != 0 && good) good = false, reason = errno;
  if (good) return beside;
  ::unlink(beside.c_str());
  return not_written(whole.parent_path(), std::strerror(reason));
}

/// The file as it is stays under another name as well. Whether that could be done decides nothing: the new bytes are
/// safe by now.
void keep_as(const fs::path& whole, const fs::path& previous) {
  std::error_code error;
  const std::string link = previous.string() + ".new";
  fs::remove(link, error);
  if (::link(whole.c_str(), link.c_str()) == 0) {
    if (::rename(link.c_str(), previous.c_str()) != 0) fs::remove(link, error);
    return;
  }
  // No links on this kind of disk.
  if (const auto bytes = read_file(whole)) (void)write_file_safely(previous, *bytes);
}

}  // namespace

Result<void> write_file_safely(const fs::path& path, const std::string& bytes, bool keep_previous) {
  std::error_code error;
  if (path.empty()) return fail(Errc::cannot_write, "A file needs a name.");
  const fs::path whole = behind_links(fs::absolute(path, error));
  const fs::file_status status = fs::status(whole, error);
  if (fs::is_directory(status) || !whole.has_filename()) return not_written(whole, "it is a folder");
  if (fs::exists(status) && !fs::is_regular_file(status)) return write_straight(whole, bytes);
  const auto beside = write_beside(whole, bytes);
  if (!beside) return fail(beside);
  if (keep_previous && fs::exists(status)) keep_as(whole, whole.string() + "~");
  if (::rename(beside->c_str(), whole.c_str()) != 0) {
    const std::string reason = std::strerror(errno);
    ::unlink(beside->c_str());
    return not_written(whole, reason);
  }
  // The rename itself must outlast a power cut.
  const int folder = ::open(whole.parent_path().c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC);
  if (folder >= 0) ::fsync(folder), ::close(folder);
  return {};
}

void keep_from_others(const fs::path& path) {
  // What is there is not opened: to close it would let go of the locks this program holds on it (SQLite's).
  const int fresh = ::open(path.c_str(), O_WRONLY | O_CREAT | O_EXCL | O_CLOEXEC, S_IRUSR | S_IWUSR);
  if (fresh >= 0) ::close(fresh);
  struct stat now {};
  if (::stat(path.c_str(), &now) != 0 || !S_ISREG(now.st_mode)) return;
  const mode_t may = S_IRWXU | ((now.st_mode & S_IWGRP) != 0 ? S_IRWXG : 0);
  if ((now.st_mode & 07777 & ~may) != 0) (void)::chmod(path.c_str(), now.st_mode & may);
}

std::string file_mark(const fs::path& path) {
  struct stat now {};
  if (::stat(path.c_str(), &now) != 0) return {};
  const auto text = [](auto number) { return std::to_string(number) + " "; };
  return text(now.st_dev) + text(now.st_ino) + text(now.st_size) + text(now.st_mtim.tv_sec) + text(now.st_mtim.tv_nsec);
}

Result<void> make_folder(const fs::path& path) {
  std::error_code error;
  fs::create_directories(path, error);
  if (!error && fs::is_directory(path, error)) return {};
  const std::string reason = error ? error.message() : "something else has that name";
  return fail(Errc::cannot_write, "The folder " + excerpt(path.string(), 200) + " cannot be made: " + reason + ".",
      path.string());
}

}  // namespace awl
