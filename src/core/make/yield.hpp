#pragma once
#include <string>
#include <vector>

#include "core/base/remark.hpp"
#include "core/piece/piece.hpp"
#include "core/piece/piece_mark.hpp"

namespace awl {

/// Something to buy or to have, beside sheets and glue.
struct Want {
  std::string id;    ///< "cord", "eyelet", "magnet/10 x 3 N42"
  std::string what;  ///< "Disc magnets, 10 x 3 mm, N42"
  double need = 0.0;
  std::string unit;  ///< "pieces", "m"
  std::string why;
  bool operator==(const Want&) const = default;
};

/// One thing to do at the bench, with its caution.
struct BenchStep {
  std::string title;
  std::vector<std::string> lines;
  std::string caution;
  bool glued = false;      ///< joined with the build's glue, by what its faces bear
  bool at_end = false;     ///< once its part is whole; otherwise before its pieces are joined
  std::string stuff = {};  ///< what is joined to the part, as in data/materials; empty: more of the part's own
  bool operator==(const BenchStep&) const = default;
};

/// What something solid is seen to be of.
enum class Matter { foam, metal, cloth, clear, hair, horn, lamp, cord };

/// Something solid that is put on or in: shown, weighed, and in the way of sight.
struct YieldSolid {
  Matter matter = Matter::foam;
  Mesh mesh;              ///< closed, or a sheet
  double mass_g = 0.0;    ///< of all of it
  bool hides = true;      ///< stands in the way of sight
  double light = 0.0;     ///< share of the light it lets through
  double thick_mm = 0.0;  ///< of what lets light through
};

/// What a way of making, a closing, a hold or a detail comes to. Whatever comes after reads these and knows no kinds.
struct Yield {
  int part = 0;
  std::string name;
  std::vector<Piece> pieces;             ///< onto the sheets
  std::vector<PieceMark> marks;          ///< onto pieces there are
  std::vector<Want> wants;               ///< shopping
  std::vector<BenchStep> steps;          ///< build sheet
  std::vector<std::vector<Vec3>> lines;  ///< on the form, for the stand
  std::vector<YieldSolid> solids;        ///< on the stand, on the scales, before the eyes
  std::vector<std::string> facts;        ///< "Block 120 x 90 x 310 mm", one sentence each
  std::vector<Remark> remarks;
  double glue_mm2 = 0.0;  ///< both faces of every glue plane
};

}  // namespace awl
