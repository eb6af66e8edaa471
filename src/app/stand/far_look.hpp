#pragma once
#include <QImage>

namespace awl {

/// A picture with only what an eye makes out from so far: what is nearer together than one minute of arc runs into one.
///
/// `mm_per_pixel` is of the picture at the thing looked at. Contract: both are more than 0. A picture whose pixels are
/// coarser than that comes back as it is.
QImage madeOutFrom(const QImage& picture, double mm_per_pixel, double metres);

/// What of a picture differs from the left end of its row, with a little room round it; the whole if nothing does.
QRect withoutBackground(const QImage& picture);

/// By what the picture is shrunk to be seen as large, on a screen at arm's length, as the thing is from so far.
/// `screen_mm_per_pixel`: how wide a pixel of the screen is.
double apparentScale(double mm_per_pixel, double metres, double screen_mm_per_pixel);

}  // namespace awl
