#include "app/station/grip_drag.hpp"

#include <algorithm>
#include <cmath>

#include "core/chain/questions.hpp"
#include "print/text.hpp"

namespace awl {

GripValue gripValue(const std::vector<Dial>& dials, const QString& dial, double wanted, LengthUnit unit) {
  for (const Dial& d : dials) {
    if (d.facts.id != dial.toStdString()) continue;
    const double step = d.facts.kind == DialKind::share ? 0.01 : 1.0;
    const double value = std::clamp(step * std::round(wanted / step), d.facts.least, d.facts.most);
    return {value,
        QString::fromStdString(d.facts.label + "  " +
            (d.facts.kind == DialKind::length ? format_length(value, unit) : dial_text(d.facts, value)))};
  }
  return {wanted, {}};
}

QString GripDrag::moved(const Part& part, const QString& dial, double by, bool last) {
  if (begins(dial)) {
    const auto start = dial_value(part, dial.toStdString());
    if (!start) return {};
    m_dial = dial, m_start = *start;
  }
  Part copy = part;
  const auto [value, text] = gripValue(dials_of(copy), dial, m_start + by, m_document.build().shown);
  Build next = m_document.build();
  const auto turned = with_dial(part, dial.toStdString(), value);
  if (turned) *find_part(next, part.id) = *turned;
  const auto good = turned ? try_part(m_chain, next, part.id, m_document.patience()) : Result<void>(fail(turned));
  if (good || good.error().code == Errc::cancelled)
    m_document.change(
        QObject::tr("Drag"), [&](const Build&) -> Result<Build> { return next; },
        QStringLiteral("grip-%1-%2-%3").arg(part.id).arg(dial).arg(m_start));
  if (last) m_dial.clear();
  return good || good.error().code == Errc::cancelled ? text : qs(good.error().text);
}

}  // namespace awl
