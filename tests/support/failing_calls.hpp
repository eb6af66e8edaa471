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

}  // namespace awl::test
