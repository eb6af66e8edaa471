#pragma once
#include "core/piece/piece.hpp"

namespace awl {

/// How one piece of a pattern differs from the one of the same name in another version or for another wearer.
struct PieceChange {
  enum class Kind { same, changed, added, gone };
  Kind kind = Kind::same;
  int number = 0;  ///< of the piece there is now; of the former one if it is gone
  std::string name;
  double most_mm = 0.0;      ///< farthest place of one outline from the other, laid best over each other
  double area_mm2 = 0.0;     ///< grown (+) or shrunk (-)
  double longer_mm = 0.0;    ///< of the whole outline
  std::vector<Vec2> former;  ///< the former outline laid over the present one
  std::string sentence() const;
};

/// Moves and turns an outline so that it lies best over another; both closed, about the same shape. Least squares over
/// equal steps along both, from the start that fits best. Source: umeyama1991, without scale.
std::vector<Vec2> laid_over(const std::vector<Vec2>& outline, const std::vector<Vec2>& other);

/// Pieces matched by their panel's name; in the order of the present ones, what is gone last.
std::vector<PieceChange> changes_between(const std::vector<Piece>& former, const std::vector<Piece>& present);

}  // namespace awl
