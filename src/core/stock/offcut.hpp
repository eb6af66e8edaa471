#pragma once
#include <string>
#include <vector>

#include "core/base/day.hpp"
#include "core/base/result.hpp"
#include "core/geom/mesh.hpp"

namespace awl {

/// A piece of sheet left over from something else, kept to be cut up.
struct Offcut {
  int id = 0;        ///< in the shop book
  std::string name;  ///< what is written on it
  std::string foam;  ///< its kind, as in data/materials
  double thickness_mm = 5.0;
  std::vector<Vec2> outline;  ///< closed, counter-clockwise, low corner at the origin
  Day kept;
  bool operator==(const Offcut&) const = default;
};

/// An offcut from what was drawn, measured or traced: turned counter-clockwise and moved to the origin.
///
/// Errors: degenerate_shape for fewer than three corners, less than 4 cm2 or a side of more than 5 m; overlap for an
/// outline that
///         crosses itself, naming the corners between which it does.
Result<Offcut> make_offcut(Offcut raw);

}  // namespace awl
