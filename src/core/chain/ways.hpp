#pragma once
#include "core/derived/part_form.hpp"
#include "core/make/way.hpp"
#include "core/stuff/materials.hpp"
#include "core/stock/nest.hpp"

namespace awl {

/// Makes one part the way the maker chose: slabs, a block to carve, a paper net, a drawn visor. Contract: not a skin.
/// Errors: unknown_name for a kind that is not there; those of the ways, with "parts/NUMBER/way" as the place.
Result<MadeWay> make_way(
    const PartForm& form, const WaySpec& spec, const Materials& materials, const Progress& progress = {});

/// Sizes in which pieces of other kinds than the build's own are laid out: the largest each is sold in.
std::vector<OtherSheet> sheets_for(const std::vector<Piece>& pieces, const Materials& materials);

}  // namespace awl
