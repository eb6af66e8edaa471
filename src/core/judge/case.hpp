#pragma once
#include "core/base/remark.hpp"
#include "core/derived/derived.hpp"
#include "core/stuff/materials.hpp"

namespace awl {

/// What is judged.
struct Case {
  const Build& build;
  const Derived& derived;
  const Materials& materials;
};

/// One judge for each area of the work. A judge reckons nothing that takes time: such a thing is a stage of the chain.
using Judge = void (*)(const Case& c, Remarks& remarks);

void judge_head(const Case& c, Remarks& remarks);        ///< tapes, scan and the form as built
void judge_form(const Case& c, Remarks& remarks);        ///< what parts say of themselves, room and openings
void judge_seams(const Case& c, Remarks& remarks);       ///< panels: overlap and strain
void judge_foam(const Case& c, Remarks& remarks);        ///< what the material bears
void judge_fit(const Case& c, Remarks& remarks);         ///< going on, sight, balance, hold
void judge_dress(const Case& c, Remarks& remarks);       ///< what details need of the rest
void judge_seam_sides(const Case& c, Remarks& remarks);  ///< seams left unequal, or over those of another layer
void judge_coat(const Case& c, Remarks& remarks);        ///< other ways of making, and the finishing plan

/// The form that holds a part as one skin with others; null where the part has a form of its own, or none at all.
const PartForm* skin_holding(const Case& c, int part);

/// The next thinner sheet there is; 0 without one.
double thinner_foam(const Foam& foam, double now_mm);

}  // namespace awl
