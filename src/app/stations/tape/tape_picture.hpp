#pragma once
#include "app/stand/stand_scene.hpp"

namespace awl {

/// Picture of where one measure runs, from the side it is seen best, on the wearer's own headform.
QImage tapePicture(const Derived& derived, MeasureId measure, QSize size, double ratio, bool dark);

}  // namespace awl
