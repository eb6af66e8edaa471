#pragma once
#include "core/builds/build.hpp"

namespace awl {

/// What a maker says of a build before there is any: what it is to be, for whom, of what, by when.
struct FreshBuild {
  std::string start = "hood";  ///< a ready start's id, or kHeadformStart
  std::string name, wearer;    ///< empty: called after the thing; not said
  TapeSheet tape;              ///< what is known of the wearer; the rest is estimated
  std::string foam = "eva-firm";
  double thickness_mm = 5.0;
  LengthUnit shown = LengthUnit::mm;
  Day today, due;
};
inline constexpr const char* kHeadformStart = "headform";
/// Who "took" the head circumference of a build begun without any measure: an average adult's, to be measured yet.
inline constexpr const char* kAssumedBy = "assumed: an average adult";

/// The first build of it: its part, on a base of its own where it cannot be worn without (horns, ears, crests), its
/// sheet as the material is sold. Errors: unknown_name for the start or the material; out_of_range for measures and
/// days that cannot be.
Result<Build> fresh_build(const FreshBuild& wish, const Materials& materials, const std::vector<Population>& people);

/// Ready starts a build can begin with: those that are worn by themselves or on a base of their own.
std::vector<const PartPreset*> first_starts();

}  // namespace awl
