#include "core/base/data_files.hpp"

#include <fcntl.h>
#include <unistd.h>

#include <cerrno>
#include <cstdlib>
#include <cstring>
#include <fstream>
#include <sstream>

namespace awl {
namespace fs = std::filesystem;

fs::path data_folder() {
  if (const char* named = std::getenv("NOGGIN_AWL_DATA")) return named;
  std::error_code ignored;
  const fs::path beside = fs::read_symlink("/proc/self/exe", ignored).parent_path() / "../share/noggin-awl";
  if (fs::exists(beside / "headform", ignored)) return beside;
  return NOGGIN_AWL_SOURCE_DATA;
}

Result<std::string> read_file(const fs::path& path) {
  std::error_code ignored;
  if (fs::is_directory(path, ignored)) return fail(Errc::cannot_read, path.string() + " is a folder, not a file.");
  std::ifstream in(path, std::ios::binary);
  if (!in) return fail(Errc::cannot_read, "The file " + path.string() + " cannot be opened: " + std::strerror(errno) + ".");
  std::ostringstream bytes;
  bytes << in.rdbuf();
  return bytes.str();
}

namespace {

Result<void> write_and_flush(const fs::path& path, const std::string& bytes) {
  const int file = ::open(path.c_str(), O_WRONLY | O_CREAT | O_TRUNC | O_CLOEXEC, 0644);
  bool good = file >= 0;
  for (std::size_t done = 0; good && done < bytes.size();) {
    const ssize_t wrote = ::write(file, bytes.data() + done, bytes.size() - done);
    good = wrote > 0;
    if (good) done += static_cast<std::size_t>(wrote);
  }
  good = good && ::fsync(file) == 0;
  const std::string reason = std::strerror(errno);
  if (file >= 0) ::close(file);
  if (good) return {};
  return fail(Errc::cannot_write, "Nothing was written to " + path.parent_path().string() + ": " + reason + ".");
}

}  // namespace

Result<void> write_file_safely(const fs::path& path, const std::string& bytes) {
  const fs::path whole = fs::absolute(path);
  const fs::path beside = whole.string() + ".tmp";
  std::error_code error;
  if (auto wrote = write_and_flush(beside, bytes); !wrote) {
    fs::remove(beside, error);
    return wrote;
  }
  fs::rename(beside, whole, error);
  if (!error) return {};
  const std::string reason = error.message();
  fs::remove(beside, error);
  return fail(Errc::cannot_write, "The file " + path.string() + " could not be replaced: " + reason + ".");
}

}  // namespace awl
