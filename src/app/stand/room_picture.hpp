#pragma once
#include "app/stand/raster.hpp"
#include "core/fit/worn.hpp"

namespace awl {

/// A room for trying on: the eyes at the origin, in millimetres; stairs go down ahead to the left, a doorway is ahead,
/// people stand before it and beside.
std::vector<StandBody> makeRoom(double eye_height_mm);

/// How much of the light what is worn keeps out, over a picture of this size; it goes along with the head.
QImage shadeOf(const Sight& sight, QSize size);

/// The room as the wearer sees it, the head turned to the left and bent down.
QImage roomPicture(
    const std::vector<StandBody>& room, const QImage& shade, QSize size, double left_deg, double down_deg);
/// For a page: the head a little bent. Null where nothing is worn before eyes.
QImage wearersPicture(const Worn& worn);

}  // namespace awl
