#pragma once
#include "core/builds/form_shop.hpp"
#include "core/make/way.hpp"
#include "core/stock/materials.hpp"
#include "core/stock/nest.hpp"

namespace awl {

/// Makes one part the way the maker chose: slabs, a block to carve, a paper net, a drawn visor. Contract: not a skin.
/// Errors: unknown_name for a kind that is not there; those of the ways, with "parts/NUMBER/way" as the place.
Result<MadeWay> make_way(
    const PartForm& form, const WaySpec& spec, const Materials& materials, const Progress& progress = {});

struct WayKey {
  std::shared_ptr<const PartForm> form;
  WaySpec spec;
  bool operator==(const WayKey&) const = default;
};
/// For every part the way it is made, in the form's order; null for a skin. A way that cannot be gone is told of and
/// the part left a skin. Errors: cancelled.
using HeldWays = std::vector<std::shared_ptr<const MadeWay>>;
Result<HeldWays> make_ways(const Build& build, const std::vector<std::shared_ptr<const PartForm>>& forms,
    const Materials& materials, Memo<WayKey, MadeWay>& made, std::vector<Error>& errors, const Progress& progress = {});

/// Sizes in which pieces of other kinds than the build's own are laid out: the largest each is sold in.
std::vector<OtherSheet> sheets_for(const std::vector<Piece>& pieces, const Materials& materials);

}  // namespace awl
