#pragma once
#include <QString>

#include "core/stock/nest.hpp"

namespace awl {

/// What the hand does on the mat. The mat speaks to the open station alone.
class MatGestures {
 public:
  virtual ~MatGestures() = default;
  /// A copy was laid down by hand.
  virtual void copyLaid(const HeldCopy&) {}
  /// A place of a piece, in its own frame; `flipped`: on the copy that is cut flipped.
  virtual void pieceClicked(int /*piece*/, const Vec2& /*at*/, bool /*flipped*/) {}
  /// It was let go: it lies where it is best again.
  virtual void copyReleased(const QString& /*piece*/, int /*copy*/) {}
};

}  // namespace awl
