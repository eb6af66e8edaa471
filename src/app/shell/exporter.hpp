#pragma once
#include <QString>

#include "app/desk/book.hpp"
#include "core/chain/chain.hpp"

namespace awl {

/// The ending of files of a kind, ".pdf"; empty for a kind there is not.
QString endingOf(const QString& kind);

/// Writes one kind of file: "pdf-a4", "pdf-a3", "pdf-letter", "pdf-roll", "pdf-sheet" (of patterns, or with "-sheets"
/// of sheets), "svg", "dxf" (both also
/// "-sheet", "-part",
/// "-piece": one file each, named after `path`), "csv", "build-sheet", "shopping", "shopping-csv", "hood", "headform",
/// "buck", "check-sheet", "wrap-guide".
///
/// Errors: no_solution while there is nothing of that kind yet; cannot_write.
Result<void> exportBuild(const QString& kind, const QString& path, const Build& build, const Derived& derived,
    const Chain& chain, Book& book);

}  // namespace awl
