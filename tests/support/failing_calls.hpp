#pragma once
#include <string>

namespace awl::test {

/// Makes the system's own file calls fail: those of this program and of every library it uses (SQLite, libzip, the C++
/// library), since a program's own functions of these names stand before the system's.
///
/// While armed, calls on files are counted, opening, reading, writing, flushing, renaming, linking, cutting off and
/// changing modes; what goes to the terminal does not count. One thread at a time.
class FailingCalls {
 public:
  enum class Manner {
    once,        ///< the n-th call fails, those after it work
    from_there,  ///< it and all after it fail: the disk is gone
    short_write  ///< the n-th write takes half of what it is given, the next says that there is no room
  };
  FailingCalls(int nth, Manner manner);
  ~FailingCalls();
  FailingCalls(const FailingCalls&) = delete;
  FailingCalls& operator=(const FailingCalls&) = delete;

  static int seen();          ///< calls counted since it was armed
  static bool struck();       ///< whether any failed
  static std::string last();  ///< which one: "write", "rename"
};

/// A folder on a disk that is less than a disk, as network folders and sticks may be: no modes, no flushing, no links,
/// no locks of whole files, no memory shared between programs; it calls itself a network folder if asked to.
class PoorDisk {
 public:
  PoorDisk(std::string folder, bool is_far);
  ~PoorDisk();
  PoorDisk(const PoorDisk&) = delete;
  PoorDisk& operator=(const PoorDisk&) = delete;

  static int refused();  ///< calls it could not do so far
};

}  // namespace awl::test
