#pragma once
#include <QDate>

#include "core/base/day.hpp"
#include "print/text.hpp"

namespace awl {

/// Days are counted from here.
inline const QDate kEpoch(1970, 1, 1);
inline Day today() { return Day{static_cast<int>(kEpoch.daysTo(QDate::currentDate()))}; }

}  // namespace awl
