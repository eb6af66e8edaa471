#pragma once
#include "core/derived/part_form.hpp"

namespace awl {

/// A cover's form: the face of the part below it, with that part's seams.
///
/// Shape:  moved by the part's own thickness (outside) and the gap along plane_offset, so that folds keep their mitre.
/// Errors: no_solution where a brim is to be covered and the part has none.
Result<PartForm> cover_of(const PartForm& below, const CoverSpec& spec);

/// What is left on round a cover's free edges: its wrap, and the thickness of the edge it goes round.
double wrap_margin_mm(const CoverSpec& spec, double below_mm);

}  // namespace awl
