#pragma once
#include "core/chain/step.hpp"
#include "core/derived/part_form.hpp"

namespace awl {

/// Two parts of a build that meet.
struct PartsMeet {
  int upper = 0, lower = 0;  ///< numbers of the parts
  Meet how;
  std::string unlike;  ///< why they cannot be one skin; empty: they can
  bool operator==(const PartsMeet&) const = default;
};
/// All of a build, in the order they are cut.
std::vector<PartsMeet> meets_of(const Build& build);

/// Two forms cut to each other. One that cannot be is left as it is, and says why.
struct MeetStep {
  struct Inputs {
    Held<PartForm> upper, lower, face;  ///< face: the lower before it was opened
    Meet how;
    bool operator==(const Inputs&) const = default;
  };
  struct Made {
    Held<PartForm> upper;  ///< null: it is one skin with the lower
    Held<PartForm> lower;  ///< null: it stays as it is
  };
  static constexpr std::size_t kKept = 24;
  static Result<Made> run(Shop& shop, const Inputs& in, const Progress& progress);
};

/// Cuts the forms of all parts there are to each other; one that is one skin with another is no form of its own any
/// more. Errors: cancelled.
Result<void> meet_parts(Shop& shop, std::vector<Held<PartForm>>& parts, const std::vector<PartsMeet>& meets);

}  // namespace awl
