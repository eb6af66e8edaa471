#pragma once
#include <QColor>

namespace awl {

/// Of everything printed.
inline const QColor kInk(0x1d, 0x27, 0x33), kRule(0xa8, 0xa0, 0x90);

}  // namespace awl
