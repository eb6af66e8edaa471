#pragma once
#include <compare>

namespace awl {

/// An integer that names one kind of thing only, so that a seam is never used where a panel is meant.
template <class Tag>
struct Id {
  int value = -1;
  constexpr bool valid() const { return value >= 0; }
  auto operator<=>(const Id&) const = default;
};

using SeamId = Id<struct SeamTag>;
using PanelId = Id<struct PanelTag>;
using PieceId = Id<struct PieceTag>;

}  // namespace awl
