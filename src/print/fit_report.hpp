#pragma once
#include <QImage>

#include "core/derived/derived.hpp"
#include "print/tiled_pdf.hpp"

namespace awl {

/// What was checked of a build as worn, on one page or two: for the maker, and for the wearer in plain words.
/// `wearers_view`: a picture out of it; may be null.
///
/// Errors: no_solution while nothing was tried on; cannot_write with the path.
Result<void> writeFitReport(
    const QString& path, const Build& build, const Derived& derived, const QImage& wearers_view, Paper paper);
/// The same pages to be looked at. Errors: no_solution while nothing was tried on.
Result<std::vector<QImage>> fitReportImages(
    const Build& build, const Derived& derived, const QImage& wearers_view, int pixels_wide);

}  // namespace awl
