#include "support/failing_calls.hpp"

#include <dlfcn.h>
#include <fcntl.h>
#include <sys/file.h>
#include <sys/mman.h>
#include <sys/stat.h>
#include <sys/vfs.h>
#include <unistd.h>

#include <cerrno>
#include <cstdarg>
#include <utility>

namespace {

using awl::test::FailingCalls;

bool armed = false, has_struck = false, half_next = false;
int count = 0, strike_at = 0;
FailingCalls::Manner manner = FailingCalls::Manner::once;
const char* last_name = "";

std::string poor_folder;  // empty: none
bool poor_is_far = false;
int poor_refused = 0;

bool is_poor(const char* path) {
  return !poor_folder.empty() && std::string(path).compare(0, poor_folder.size(), poor_folder) == 0;
}

/// Whether an open file lies on the poor disk.
bool is_poor(int file) {
  if (poor_folder.empty() || file < 0) return false;
  char path[4096] = {};
  const std::string link = "/proc/self/fd/" + std::to_string(file);
  return ::readlink(link.c_str(), path, sizeof path - 1) > 0 && is_poor(path);
}

/// Whether this call is to fail.
bool strikes(const char* name, bool writes = false) {
  if (!armed) return false;
  if (manner == FailingCalls::Manner::short_write && !writes) return false;
  ++count;
  const bool now = manner == FailingCalls::Manner::from_there ? count >= strike_at : count == strike_at;
  if (now) has_struck = true, last_name = name;
  return now;
}

int failing(int reason) {
  errno = reason;
  return -1;
}

int poor(int reason) {
  ++poor_refused;
  return failing(reason);
}

template <class F>
F real(const char* name) {
  return reinterpret_cast<F>(::dlsym(RTLD_NEXT, name));
}

bool is_terminal(int file) { return file >= 0 && file <= 2; }

ssize_t write_or_fail(int file, std::size_t size, const auto& pass) {
  if (is_terminal(file)) return pass(size);
  if (half_next) {
    half_next = false;
    return failing(ENOSPC);
  }
  if (!strikes("write", true)) return pass(size);
  if (manner != FailingCalls::Manner::short_write) return failing(ENOSPC);
  half_next = true;
  return size > 1 ? pass(size / 2) : failing(ENOSPC);
}

int open_or_fail(const char* name, const char* path, int flags, mode_t mode) {
  static const auto pass = real<int (*)(const char*, int, ...)>("open64");
  const bool changes = (flags & (O_WRONLY | O_RDWR | O_CREAT)) != 0;
  if (strikes(changes ? "open to write" : "open")) return failing(changes ? EROFS : EACCES);
  (void)name;
  return pass(path, flags, mode);
}

}  // namespace

// The system's own names.
extern "C" {

int open(const char* path, int flags, ...) {
  va_list rest;
  va_start(rest, flags);
  const mode_t mode = va_arg(rest, mode_t);
  va_end(rest);
  return open_or_fail("open", path, flags, mode);
}
int open64(const char* path, int flags, ...) {
  va_list rest;
  va_start(rest, flags);
  const mode_t mode = va_arg(rest, mode_t);
  va_end(rest);
  return open_or_fail("open64", path, flags, mode);
}
int mkostemp(char* name, int flags) {
  static const auto pass = real<int (*)(char*, int)>("mkostemp");
  return strikes("make a file") ? failing(EROFS) : pass(name, flags);
}
int mkostemp64(char* name, int flags) {
  static const auto pass = real<int (*)(char*, int)>("mkostemp64");
  return strikes("make a file") ? failing(EROFS) : pass(name, flags);
}
ssize_t read(int file, void* to, size_t size) {
  static const auto pass = real<ssize_t (*)(int, void*, size_t)>("read");
  return !is_terminal(file) && strikes("read") ? failing(EIO) : pass(file, to, size);
}
ssize_t pread(int file, void* to, size_t size, off_t at) {
  static const auto pass = real<ssize_t (*)(int, void*, size_t, off_t)>("pread");
  return strikes("read") ? failing(EIO) : pass(file, to, size, at);
}
ssize_t pread64(int file, void* to, size_t size, off64_t at) {
  static const auto pass = real<ssize_t (*)(int, void*, size_t, off64_t)>("pread64");
  return strikes("read") ? failing(EIO) : pass(file, to, size, at);
}
ssize_t write(int file, const void* from, size_t size) {
  static const auto pass = real<ssize_t (*)(int, const void*, size_t)>("write");
  return write_or_fail(file, size, [&](size_t n) { return pass(file, from, n); });
}
ssize_t pwrite(int file, const void* from, size_t size, off_t at) {
  static const auto pass = real<ssize_t (*)(int, const void*, size_t, off_t)>("pwrite");
  return write_or_fail(file, size, [&](size_t n) { return pass(file, from, n, at); });
}
ssize_t pwrite64(int file, const void* from, size_t size, off64_t at) {
  static const auto pass = real<ssize_t (*)(int, const void*, size_t, off64_t)>("pwrite64");
  return write_or_fail(file, size, [&](size_t n) { return pass(file, from, n, at); });
}
int fsync(int file) {
  static const auto pass = real<int (*)(int)>("fsync");
  if (is_poor(file)) return poor(EINVAL);
  return strikes("flush") ? failing(EIO) : pass(file);
}
int fdatasync(int file) {
  static const auto pass = real<int (*)(int)>("fdatasync");
  return strikes("flush") ? failing(EIO) : pass(file);
}
int rename(const char* from, const char* to) {
  static const auto pass = real<int (*)(const char*, const char*)>("rename");
  return strikes("rename") ? failing(EACCES) : pass(from, to);
}
int flock(int file, int how) {
  static const auto pass = real<int (*)(int, int)>("flock");
  return is_poor(file) ? poor(ENOLCK) : pass(file, how);
}
int chmod(const char* path, mode_t mode) {
  static const auto pass = real<int (*)(const char*, mode_t)>("chmod");
  return is_poor(path) ? poor(EPERM) : pass(path, mode);
}
void* mmap(void* at, size_t size, int may, int flags, int file, off_t from) {
  static const auto pass = real<void* (*)(void*, size_t, int, int, int, off_t)>("mmap");
  if ((flags & MAP_SHARED) != 0 && is_poor(file)) return poor(ENODEV), MAP_FAILED;
  return pass(at, size, may, flags, file, from);
}
void* mmap64(void* at, size_t size, int may, int flags, int file, off64_t from) {
  return mmap(at, size, may, flags, file, from);
}
int statfs(const char* path, struct statfs* to) {
  static const auto pass = real<int (*)(const char*, struct statfs*)>("statfs");
  const int answer = pass(path, to);
  constexpr unsigned kNfs = 0x6969;
  if (answer == 0 && poor_is_far && is_poor(path)) to->f_type = kNfs;
  return answer;
}
int link(const char* from, const char* to) {
  static const auto pass = real<int (*)(const char*, const char*)>("link");
  if (is_poor(to)) return poor(EPERM);
  return strikes("link") ? failing(EPERM) : pass(from, to);
}
int ftruncate(int file, off_t size) {
  static const auto pass = real<int (*)(int, off_t)>("ftruncate");
  return strikes("cut off") ? failing(EIO) : pass(file, size);
}
int ftruncate64(int file, off64_t size) {
  static const auto pass = real<int (*)(int, off64_t)>("ftruncate64");
  return strikes("cut off") ? failing(EIO) : pass(file, size);
}
int fchmod(int file, mode_t mode) {
  static const auto pass = real<int (*)(int, mode_t)>("fchmod");
  if (is_poor(file)) return poor(EPERM);
  return strikes("change mode") ? failing(EPERM) : pass(file, mode);
}

}  // extern "C"

namespace awl::test {

FailingCalls::FailingCalls(int nth, Manner how) {
  count = 0, strike_at = nth, manner = how, has_struck = half_next = false, last_name = "", armed = true;
}
FailingCalls::~FailingCalls() { armed = half_next = false; }
int FailingCalls::seen() { return count; }
bool FailingCalls::struck() { return has_struck; }
std::string FailingCalls::last() { return last_name; }

PoorDisk::PoorDisk(std::string folder, bool is_far) {
  poor_folder = std::move(folder), poor_is_far = is_far, poor_refused = 0;
}
PoorDisk::~PoorDisk() { poor_folder.clear(); }
int PoorDisk::refused() { return poor_refused; }

}  // namespace awl::test
