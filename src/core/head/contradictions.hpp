#pragma once
#include "core/head/headform.hpp"

namespace awl {

/// Measures that cannot belong to one head: what is wrong, what they would be expected to read, and what may have
/// happened.
///
/// With r = m - mu and P the inverse covariance of the given subset: z_i = (P r)_i / sqrt(P_ii), expected = m_i - (P
/// r)_i / P_ii. An alarm is |z| > 3 with three or four measures, > 3.5 with more, or the roundness HC / ellipse(HL, HB)
/// outside .99-1.07. The explanation named first is the one that raises the likelihood most: one slipped measure (slips
/// are as large as 5 % of a value), two fields swapped, or all tapes slack by one share. Measures in `accepted` are not
/// remarked on. Source: docs/formulas/headform.md, "contradictions".
std::vector<Remark> contradictions(const Centre& centre, const WearerMeasures& wearer);

/// One standard deviation of every measure when only `measures` are known; 0 for those given.
MeasureVector uncertainty(const Centre& centre, const MeasureSet& measures);

/// Logarithm of how well these people explain the measures, their share of all people included; one slipped measure is
/// allowed for, so that it does not make an adult a child.
double log_evidence(const Centre& centre, const MeasureSet& measures);

/// Perimeter of the ellipse with these axes. Source: bibliography ramanujan1914.
double ellipse_perimeter_mm(double length_mm, double breadth_mm);

}  // namespace awl
