#pragma once
#include <memory>
#include <string>

#include "core/base/day.hpp"
#include "core/base/result.hpp"

namespace awl {

struct Build;

/// A pattern as it was at one time: all of a build's inputs, with a name and what was to be said of it.
struct Version {
  int id = 1;
  std::string name, note;
  Day day;
  int from = 0;                                 ///< the version it stems from; 0: none
  std::shared_ptr<const Build> held;            ///< without versions of its own
  bool operator==(const Version& other) const;  ///< by what is in it
};

/// The version of this id; null if there is none.
const Version* find_version(const Build& build, int id);

/// Keeps what is now under a name. Errors: empty_input without a name; out_of_range beyond 40 versions.
Result<Build> keep_version(const Build& build, const std::string& name, const std::string& note, Day day);

/// The build as that version was; all versions stay, and what is kept next stems from it: a branch. What is now is kept
/// first, under the name "before going back", if it is not a version already. Errors: unknown_name; those of
/// keep_version.
Result<Build> go_back(const Build& build, int id, Day day);

/// Drops a version; those that stem from it stem from what it stemmed from. Errors: unknown_name.
Result<Build> forget_version(const Build& build, int id);

/// Names a version anew and changes its note. Errors: unknown_name; empty_input without a name.
Result<Build> describe_version(const Build& build, int id, const std::string& name, const std::string& note);

/// Whether the build is exactly as that version holds it.
bool is_as(const Build& build, const Version& version);

}  // namespace awl
