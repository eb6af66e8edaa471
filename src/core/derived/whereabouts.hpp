#pragma once
#include "core/derived/part_form.hpp"

namespace awl {

/// A place in a maker's words: "left, over the ear top", by the nearest landmark of the wearer.
std::string whereabouts(const Headform& head, const Vec3& place);

/// "the lower edge", "the front edge": a rim by where its middle lies in the form.
std::string edge_words(const Box& form, const Vec3& rim_middle);

/// Where a panel is worst off: how much, in which way, and how that place is found again.
struct WorstSpot {
  Vec3 at = Vec3::Zero();
  double strain = 0.0;         ///< signed: + the foam stretches, - it is squeezed
  Vec3 along = Vec3::UnitY();  ///< unit, the way it stretches or is squeezed
  std::string words;           ///< "5.2 % stretch, left, over the ear top, 30 mm behind the belt"
};
/// Contract: the panel lies flat.
WorstSpot worst_spot(const Panel& panel, const PanelSet& set, const Headform& head);

}  // namespace awl
