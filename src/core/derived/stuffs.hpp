#pragma once
#include "core/derived/derived.hpp"

namespace awl {

/// What a part is really made of: the block of slabs and carving, the card of a net, the sheet of a drawn visor, else
/// (and while that way cannot be gone) its own kind of sheet or the build's foam. Errors: unknown_name.
Result<Foam> stuff_of(const Build& build, const Derived& derived, const Part& part, const Materials& materials);
/// The same for a span of the form; of a headform the build's foam.
Result<Foam> stuff_of_span(const Build& build, const Derived& derived, int span, const Materials& materials);
/// The same for a flat piece: its own kind, which may be the card of a template.
Result<Foam> stuff_of(const Build& build, const Piece& piece, const Materials& materials);

/// What the finishing plan is made for: work by material, and every pair of materials that meet at a seam, at a plane
/// between slabs, or where a part sits on another. Contract: form, panels and pieces are there. Errors: unknown_name.
Result<FinishWork> finish_work(const Build& build, const Derived& derived, const Materials& materials);

}  // namespace awl
