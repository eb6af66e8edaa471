#pragma once
#include <QImage>
#include <QString>

#include "core/steps/assembly.hpp"
#include "core/steps/shopping.hpp"
#include "print/tiled_pdf.hpp"

namespace awl {

/// A picture of one step: what is there pale, what comes on in colour, the seams closed in it thick.
void paintStep(QPainter& painter, const QRectF& box, const Derived& derived, const BuildStep& step);

/// The build sheet as pages to read from a step away: every step with its picture, seams, tilts, waits and cautions.
///
/// Errors: those of assemble; cannot_write with the path.
Result<int> writeBuildSheet(
    const QString& path, const Build& build, const Derived& derived, const Materials& materials, Paper paper);

/// The shopping list on a page. Errors: cannot_write.
Result<void> writeShopping(const QString& path, const Build& build, const Shopping& list, Paper paper);

}  // namespace awl
