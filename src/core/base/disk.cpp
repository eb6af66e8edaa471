#include "core/base/disk.hpp"

#include <sys/vfs.h>

#include <array>

namespace awl {

bool is_far(const std::filesystem::path& path) {
  // statfs(2): NFS, SMB, CIFS, SMB2, FUSE, 9P, AFS, Ceph, Coda.
  constexpr std::array<unsigned, 9> kFar{
      0x6969u, 0x517bu, 0xff534d42u, 0xfe534d42u, 0x65735546u, 0x01021997u, 0x5346414fu, 0x00c36400u, 0x73757245u};
  struct statfs disk {};
  if (::statfs(path.c_str(), &disk) != 0 && ::statfs(path.parent_path().c_str(), &disk) != 0) return false;
  for (const unsigned kind : kFar)
    if (static_cast<unsigned>(disk.f_type) == kind) return true;
  return false;
}

}  // namespace awl
