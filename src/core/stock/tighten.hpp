#pragma once
#include "core/stock/nest.hpp"

namespace awl {

/// Pushes the copies of the last sheet in use closer together: of a searched layout that is the one
/// whose length counts. Contract: it is a new one, not an offcut.
void tighten_last(const std::vector<Piece>& pieces, const SheetSize& sheet, const NestOptions& options,
    std::vector<Placement>& placed);

}  // namespace awl
