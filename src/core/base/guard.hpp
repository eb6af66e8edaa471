#pragma once
#include <exception>

#include "core/base/result.hpp"

namespace awl {

/// What an exception on its way out comes to, as a sentence for the maker; a library's own words stay in `where`, for
/// reports.
///
/// Contract: called in a catch block. Source: the three kinds of failure of docs/architecture.md; this is the first
/// kind.
Error error_in_flight(const std::string& doing);

/// The guard at a door of the program: whatever is thrown behind it becomes a failure.
///
/// `work` answers a Result. `doing` completes "while ...": "reading the file".
template <class Work>
auto guarded(const std::string& doing, Work&& work) -> decltype(work()) {
  try {
    return work();
  } catch (...) {
    return fail(error_in_flight(doing));
  }
}

}  // namespace awl
