#pragma once
#include "core/builds/chain.hpp"

namespace awl {

/// Offcuts of the build's kind, and what is laid down by hand.
NestStock stock_of(const FoamSpec& foam);

/// A copy laid down by hand, or moved; and let go again.
Build with_held(Build build, const HeldCopy& copy);
Build without_held(Build build, const std::string& piece, int copy);

/// The name of the part each piece is cut for, to sort files by.
std::function<std::string(const Piece&)> part_names(const Build& build, const Derived& derived);

/// The pieces of a build with everything the maker chose about their edges: cuts, margins, what was cut on the foam
/// already. `check` gives a headform its crosses; null for none. Parts made some other way than as a skin come with
/// that way's pieces instead of their panels'; parts cut from another kind have that kind's margins (with `materials`),
/// covers their wrap.
std::vector<Piece> pieces_of(const Build& build, const PanelSet& panels, const Form& form, const CheckPlan* check,
    const HeldWays& ways = {}, const Materials* materials = nullptr);

}  // namespace awl
