#pragma once
#include "core/dress/dressing.hpp"

namespace awl {

/// A strip along a line: flat on the face, folded over an edge, or inside as a sweatband.
struct Strip {
  static constexpr const char* kKind = "strip";
  static constexpr const char* kLabel = "Strip, rim or ribbon";
  enum class Lies { on_face, over_edge, inside };
  Lies lies = Lies::on_face;
  double wide_mm = 20.0;  ///< over an edge: on each face
  double lap_mm = 10.0;   ///< of a ring's ends over each other
  bool fold_start = false, fold_end = false;
  bool straight = false;
  int layers_below = 0;  ///< strips that lie under it
  bool operator==(const Strip&) const = default;
};
std::vector<Dial> dials_of(Strip& strip);
void put_on(const Strip& strip, Dressing& d);

}  // namespace awl
