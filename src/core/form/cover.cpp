#include "core/form/cover.hpp"

namespace awl {

std::vector<Dial> dials_of(CoverSpec& s) {
  Dials dials;
  dials.group("Cover");
  dials.choice("face", s.face, {"outside", "inside"}, "Lies on the",
      "Outside for covers and skins, inside for linings and a brim's lower layer.");
  dials.choice("over", s.over, {"all of it", "the brim"}, "Covers", "Only the brim: to double it.");
  dials.length("gap", s.gap_mm, {0, 30}, "Room between", "Wadding, or a thick layer of glue.");
  dials.length("wrap", s.wrap_mm, {0, 60}, "Wrapped round edges by",
      "Beyond the edge's own thickness, onto the other face. Nothing: cut flush.");
  return std::move(dials).all();
}

}  // namespace awl
