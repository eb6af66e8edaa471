#pragma once
#include "core/dress/dressing.hpp"
#include "core/dress/grain_field.hpp"

namespace awl {

/// Which way grain, fur or the brush runs over a whole part: one stroke tells it, the rest follows the form.
struct Grain {
  static constexpr const char* kKind = "grain";
  static constexpr const char* kLabel = "Grain over a part";
  enum class Of { grain, brush, fur };
  Of of = Of::grain;
  GrainFollows follows = GrainFollows::slope;
  double apart_mm = 24.0;  ///< strokes from each other
  double long_mm = 34.0;
  double uneven = 0.3;  ///< lengths give or take this share
  int seed = 1;
  bool operator==(const Grain&) const = default;
};
std::vector<Dial> dials_of(Grain& grain);
void put_on(const Grain& grain, Dressing& d);

}  // namespace awl
