#pragma once
#include "core/builds/chain.hpp"

namespace awl {

/// Offcuts of the build's kind, and what is laid down by hand.
NestStock stock_of(const FoamSpec& foam);

/// The pieces of a build with everything the maker chose about their edges: cuts, margins, what was cut on the foam already.
/// `check` gives a headform its crosses; null for none.
std::vector<Piece> pieces_of(const Build& build, const PanelSet& panels, const Form& form, const CheckPlan* check);

}  // namespace awl
