#include "core/form/cover.hpp"

namespace awl {

std::vector<Dial> dials_of(CoverSpec& s) {
  using K = DialKind;
  std::vector<Dial> all;
  all.push_back(
      dial({"face", "Lies on the", "Outside for covers and skins, inside for linings and a brim's lower layer.",
               K::choice, 0, 1, {"outside", "inside"}, "Cover"},
          s.face));
  all.push_back(dial(
      {"over", "Covers", "Only the brim: to double it.", K::choice, 0, 1, {"all of it", "the brim"}, "Cover"}, s.over));
  all.push_back(
      dial({"gap", "Room between", "Wadding, or a thick layer of glue.", K::length, 0, 30, {}, "Cover"}, s.gap_mm));
  all.push_back(dial(
      {"wrap", "Wrapped round edges by", "Beyond the edge's own thickness, onto the other face. Nothing: cut flush.",
          K::length, 0, 60, {}, "Cover"},
      s.wrap_mm));
  return all;
}

}  // namespace awl
