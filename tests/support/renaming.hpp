#pragma once
#include "app/desk/document.hpp"

namespace awl::test {

/// The smallest change there is: another name.
inline Document::Change rename(const char* name) {
  return [name](const Build& b) -> Result<Build> {
    Build next = b;
    next.name = name;
    return next;
  };
}

}  // namespace awl::test
