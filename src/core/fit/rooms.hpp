#pragma once
#include "core/fit/fit_part.hpp"
#include "core/fit/rules.hpp"
#include "core/fit/spec.hpp"

namespace awl {

/// Whether something of a size fits between head and shell where it was put.
struct RoomCheck {
  int room = 0;
  double skin_mm = 0.0;   ///< nearest to the head; below 0 it is in it
  double shell_mm = 0.0;  ///< nearest to what is worn; below 0 it is in it
  std::string shell;      ///< which part that is
  bool fits = true;
};

RoomCheck check_room(const FitHead& head, const std::vector<FitPart>& parts, const Room& room, const FitRules& rules);
/// Its body, closed, with rounded temples for glasses.
Mesh body_of(const Room& room);

}  // namespace awl
