#pragma once
#include "core/form/dial.hpp"
#include "core/form/draft.hpp"
#include "core/geom/nearest.hpp"

namespace awl {

/// Shapes of card laid under the tape.
enum class CardKind { brow_ridge, cheek_plane, beak, muzzle, chin, ear_point, crest, temple_flare, facet };
const char* name_of(CardKind kind);  ///< "brow ridge"
const std::vector<std::string>& card_kinds();

/// One shape under the tape; on the template, so that it rides along with every head. All but the middle ones are
/// mirrored.
struct Card {
  CardKind kind = CardKind::brow_ridge;
  double reach_mm = 25.0;  ///< how far it stands off the head
  double wide_mm = 60.0;   ///< along the head, or its breadth
  double tall_mm = 30.0;   ///< the other way
  double up_mm = 0.0;      ///< moved up
  double aside_mm = 0.0;   ///< moved outwards; of a middle shape, forward
  double droop_mm = 0.0;   ///< its tip lowered
  double soft_mm = 1.5;    ///< radius of its edges: small is sharp
  bool operator==(const Card&) const = default;
};
std::vector<Dial> dials_of(Card& card, int number);

/// The card itself: triangles of the x >= 0 half and the ridge that shows through the tape.
struct CardShape {
  Mesh half;
  std::vector<Vec3> ridge;
  Vec3 tip = Vec3::Zero();
  Vec3 outward = Vec3::UnitZ();  ///< which way `reach` moves the tip
};
CardShape shape_of(const Card& card);

/// How far a place is from the nearest card, its edges rounded; far away without cards.
///
/// Shape:  distance to the triangles less each card's radius: exact outside, so the closing wraps it as tape would.
class CardField {
 public:
  explicit CardField(const std::vector<Card>& cards);
  double operator()(const Vec3& p) const;
  bool empty() const { return cards_.empty(); }
  Box box() const { return box_; }

 private:
  struct One {
    Nearest near;
    double soft_mm;
  };
  std::vector<One> cards_;
  Box box_;
};

}  // namespace awl
