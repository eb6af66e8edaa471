#pragma once
#include <QDate>

#include "core/base/day.hpp"
#include "print/text.hpp"

namespace awl {

/// Days are counted from here.
inline const QDate kEpoch(1970, 1, 1);
inline Day today() { return Day{static_cast<int>(kEpoch.daysTo(QDate::currentDate()))}; }

/// Words whose first line stands out, since it is the answer.
inline QString answered(const QString& words) {
  const QString safe = words.toHtmlEscaped(), first = safe.section(QLatin1Char('\n'), 0, 0),
                rest = safe.section(QLatin1Char('\n'), 1);
  return QStringLiteral("<b>") + first + QStringLiteral("</b>") +
      (rest.isEmpty() ? QString()
                      : QStringLiteral("<br>") + QString(rest).replace(QLatin1Char('\n'), QStringLiteral("<br>")));
}

}  // namespace awl
