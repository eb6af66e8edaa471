#include <algorithm>

#include "core/judge/case.hpp"

namespace awl {

const PartForm* skin_holding(const Case& c, int part) {
  return c.derived.form && find_part(c.build, part) != nullptr && c.derived.form->of(part) == nullptr
      ? c.derived.form->holding(part)
      : nullptr;
}

/// What details need of the rest of the build.
void judge_dress(const Case& c, Remarks& remarks) {
  const auto& fit = c.build.fit;
  for (const Detail& d : c.build.dress.details) {
    const Part* part = find_part(c.build, d.part);
    if (const PartForm* skin = skin_holding(c, d.part))
      remarks.note("dress.one-skin", "dress/" + std::to_string(d.id),
          d.name + " is left out: the " + part->name + " is one skin with the " + skin->name + " now. Put it on the " +
              skin->name + ", or let the parts meet some other way.");
  }
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
