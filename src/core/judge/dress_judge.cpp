#include <algorithm>

#include "core/judge/case.hpp"

namespace awl {

/// What details need of the rest of the build.
void judge_dress(const Case& c, Remarks& remarks) {
  const auto& fit = c.build.fit;
  const bool powered =
      std::any_of(fit.rooms.begin(), fit.rooms.end(), [](const Room& r) { return r.kind == RoomKind::battery; });
  for (const Detail& d : c.build.dress.details)
    if (std::holds_alternative<Lights>(d.shape) && !powered) {
      remarks
          .note("dress.battery", "dress/" + std::to_string(d.id),
              d.name +
                  ": nothing carries their battery yet. Inside it needs room, and it weighs: behind it trims a "
                  "heavy front.")
          .offer("Put a battery in behind", "add-room battery");
      break;
    }
}

}  // namespace awl
