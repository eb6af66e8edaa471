#pragma once
#include "core/chain/chain.hpp"
#include "core/io/wearers_csv.hpp"
#include "core/piece/changes.hpp"

namespace awl {

/// A build made for another wearer, with its sheets.
struct Regraded {
  std::string wearer;
  std::filesystem::path build, sheets;  ///< the .noggin and the .svg that were written
  int pieces = 0, sheet_count = 0;
  std::vector<PieceChange> changes;  ///< against the build it was made from
  std::vector<Remark> remarks;
};

/// The build as it is for that wearer: other measures, and nothing that was read or scanned of the former one.
Build for_wearer(const Build& build, const NamedSheet& wearer);

/// A file name without ending for each wearer, none twice and none that leaves its folder.
std::vector<std::string> names_for(const std::vector<NamedSheet>& wearers);

/// Makes one and writes it to `stem`.noggin and `stem`.svg. Nothing is written if it cannot be made.
/// Errors: those of Chain::derive, the sentence beginning with the wearer's name; cannot_write; cancelled.
Result<Regraded> regrade(const Chain& chain, const Build& build, const Derived& before, const NamedSheet& wearer,
    const std::filesystem::path& stem, const Progress& progress = {});

}  // namespace awl
