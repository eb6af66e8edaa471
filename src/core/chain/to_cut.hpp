#pragma once
#include "core/derived/derived.hpp"
#include "core/stuff/materials.hpp"

namespace awl {

/// Offcuts of the build's kind, and what is laid down by hand.
NestStock stock_of(const FoamSpec& foam);

/// What a build says about how its pieces are cut.
struct CutChoices {
  std::vector<Part> parts;
  std::vector<SeamCut> cuts;
  Margins margins;
  double foam_mm = 0.0;
  std::vector<Alteration> on_foam;  ///< what was cut on the foam already
  bool guides = false;              ///< centre and level lines, quarters of rings
  bool notched = false;             ///< marks across seams are cut into the edges
  bool slotted = false;             ///< slots drawn where a piece is bent tighter than its sheet bears
  std::string foam;
  bool heated = false;
  bool operator==(const CutChoices&) const = default;
};
CutChoices cut_choices(const Build& build);

/// The pieces of a build with everything the maker chose about their edges: cuts, margins, what was cut on the foam
/// already. `check` gives a headform its crosses; null for none. Parts made some other way than as a skin come with
/// that way's pieces instead of their panels'; parts cut from another kind have that kind's margins (with `materials`),
/// covers their wrap. Over trenches pieces become one where they fit. `more`: what adds pieces of its own and marks on
/// those there are.
std::vector<Piece> pieces_of(const CutChoices& choices, const PanelSet& panels, const Form& form,
    const CheckPlan* check, const HeldWays& ways = {}, const Materials* materials = nullptr,
    const std::vector<const Yield*>& more = {});

}  // namespace awl
