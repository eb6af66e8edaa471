#pragma once
#include "core/dress/dressing.hpp"

namespace awl {

/// A wire inside a horn or along a line so that it can be bent; or an antenna that stands out of a place.
struct Wire {
  static constexpr const char* kKind = "wire";
  static constexpr const char* kLabel = "Wire or antenna";
  enum class Use { spine, along, antenna };
  Use use = Use::spine;
  double thick_mm = 2.0;
  double long_mm = 0.0;    ///< 0: all of the spine or line; of an antenna its length, 150 by itself
  double bend_deg = 25.0;  ///< of an antenna, backwards over its length
  double bead_mm = 12.0;   ///< at an antenna's tip; 0: none
  LineNeed needs() const {
    return use == Use::spine ? LineNeed::none : use == Use::along ? LineNeed::line : LineNeed::place;
  }
  bool operator==(const Wire&) const = default;
};
std::vector<Dial> dials_of(Wire& wire);
void put_on(const Wire& wire, Dressing& d);

}  // namespace awl
