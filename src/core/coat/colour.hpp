#pragma once

namespace awl {

/// Mixes between two colours for a gradient without steps; colours 0xRRGGBB. Source: CIE 1976 L*a*b*.
int gradient_mixes(unsigned one, unsigned other);
/// Colour difference of two, CIE 1976.
double colour_difference(unsigned one, unsigned other);
/// L* of a colour, 0 to 1.
double lightness_of(unsigned rgb);

/// Mix number k of `count` on the way from one to the other, 0xRRGGBB; 0 is `one`, count - 1 `other`.
/// Contract: count >= 1; k is clamped. Equal steps in CIE 1976 L*a*b*, cut to what a screen can show.
unsigned mix_between(unsigned one, unsigned other, int k, int count);

}  // namespace awl
