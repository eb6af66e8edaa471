#pragma once
#include "core/coat/plan.hpp"
#include "core/steps/care.hpp"
#include "core/steps/shopping.hpp"
#include "print/tiled_pdf.hpp"

namespace awl {

/// The finishing plan to hang beside the bench: days, steps with boxes to tick, cautions where they belong, amounts.
/// Errors of all three: cannot_write with the path.
Result<void> writePlan(const QString& path, const Build& build, const Plan& plan, Paper paper);

/// What it would cost, for the customer: price, range, what is in it.
Result<void> writeQuote(
    const QString& path, const Build& build, const Quote& quote, const WholeTime& time, Day day, Paper paper);

/// For the wearer: putting on, drying, keeping, spare parts, packing.
Result<void> writeCare(const QString& path, const Build& build, const CareSheet& care, Paper paper);

}  // namespace awl
