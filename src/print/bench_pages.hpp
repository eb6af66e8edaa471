#pragma once
#include <QString>

#include "core/chain/chain.hpp"
#include "print/tiled_pdf.hpp"

namespace awl {

/// The check sheet of a headform: its marks in three views, and each distance with what it should read and room to
/// write.
///
/// Errors: cannot_write with the path; no_solution while there is no headform.
Result<void> writeCheckSheet(const QString& path, const Build& build, const Derived& derived, Paper paper);

/// One row of the guide's table: where a seam of the app runs on the taped head.
struct WrapRow {
  std::string letter, name;
  std::string how;  ///< "crosses the centre line 84 mm behind the brow, passes 62 mm beside it at the widest"
};
/// How to find the seams of the hood on a head wrapped by hand, from the brow and the ear flaps.
std::vector<WrapRow> wrapRows(const Build& build, const Derived& derived);

/// The film-and-tape method on one page: cautions first, the steps, and the build's seams drawn and described.
/// Errors: as above.
Result<void> writeWrapGuide(const QString& path, const Build& build, const Derived& derived, Paper paper);

}  // namespace awl
