#pragma once
#include "core/piece/piece.hpp"

namespace awl {

/// A mark for pieces there are, given by its places on the form; wherever those pieces lie flat, there it is put.
struct PieceMark {
  enum class Kind { cut, hole, line, cross, trace };
  Kind kind = Kind::cross;
  std::vector<Vec3> line;              ///< of a cross one place; of a hole one place and a radius, or its rim
  double radius_mm = 0.0;              ///< of a round hole
  std::string name;                    ///< of a cross: printed beside it
  int part = 0;                        ///< only on pieces of this span's part; 0: wherever it is nearest
  TraceKind trace = TraceKind::place;  ///< of a trace; one that is closed repeats its first place
  bool paired = true;                  ///< its image is there too; else only the copy of its own side carries it
};

/// Puts marks on the pieces whose panels they lie on: cuts and holes for the knife, lines and crosses drawn. A line
/// that runs on over several pieces is put on each, and meets at their seams. What lies farther than 15 mm from every
/// piece is left out; the flipped copy of a pair carries the mirrored marks. `part_of`: the part's number of each span.
void put_marks(std::vector<Piece>& pieces, const PanelSet& panels, const std::vector<int>& part_of,
    const std::vector<PieceMark>& marks);

}  // namespace awl
