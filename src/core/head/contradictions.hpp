#pragma once
#include "core/head/headform.hpp"

namespace awl {

/// Measures that cannot belong to one head, and what each would be expected to read from the others.
///
/// z_i = (P (m - mu))_i / sqrt(P_ii), P the inverse covariance of the given subset; expected = m_i - (P (m - mu))_i / P_ii.
/// Warned at |z| > 3 with three or four measures, > 3.5 with more; and the roundness HC / ellipse(HL, HB) outside .99-1.07.
/// Source: docs/formulas/headform.md, "contradictions".
std::vector<Remark> contradictions(const HeadFitter& fitter, const MeasureSet& measures);

/// One standard deviation of every measure when only `measures` are known; 0 for those given.
MeasureVector uncertainty(const HeadFitter& fitter, const MeasureSet& measures);

/// Perimeter of the ellipse with these axes. Source: bibliography ramanujan1914.
double ellipse_perimeter_mm(double length_mm, double breadth_mm);

}  // namespace awl
