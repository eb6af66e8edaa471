#pragma once
#include <functional>
#include <string>
#include <vector>

#include "fuzz/mutator.hpp"

namespace awl::fuzz {

/// One way into the program: what is fed to it, and what it does with that.
struct Reader {
  std::string name;
  std::function<std::string(Mutator&)> make;                   ///< a spoilt input
  std::function<Result<void>(const std::string& bytes)> read;  ///< reads it and goes on with what was read
  int one_of = 1;  ///< in a campaign it gets one input where a reader of files gets so many: what goes on takes long
};

/// `one_of` of those that go on to a whole verb or derivation.
inline constexpr int kOneOfWhole = 20;

/// All there are: .noggin outside, inside and beside, meshes of four kinds, tables, measures, marks, cuts, readings,
/// cases, acts, cut jobs; and what goes on from there: builds worked out, meshes evened and cut, whole verbs.
std::vector<Reader> readers();

/// What was wrong with one run; empty if nothing.
struct Verdict {
  std::string fault;
  double seconds = 0.0;
  bool accepted = false;
};
Verdict run(const Reader& reader, const std::string& bytes);

/// Seconds a reader may take for one input.
inline constexpr double kMostSeconds = 10.0;

}  // namespace awl::fuzz
