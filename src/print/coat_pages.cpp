#include "print/coat_pages.hpp"

#include "core/base/numbers.hpp"
#include "print/page.hpp"
#include "print/text.hpp"
#include "print/money.hpp"

namespace awl {
namespace {

constexpr double kTick = 4.0, kTime = 33.0;

void step_row(Page& page, const PlannedStep& s) {
  const double indent = kTick + kTime;
  const QString caution = qs(s.caution);
  double tall = page.tall(qs(s.name), 2.5, true, indent) +
      (caution.isEmpty() ? 0.0 : page.tall(caution, 2.0, false, indent)) + 3.0;
  if (page.room() < tall) page.fresh();
  const double top = page.y();
  page.painter().setPen(QPen(QColor(0x1d, 0x27, 0x33), 0.3));
  page.painter().drawRect(QRectF(page.left(), top, 3.4, 3.4));
  if (s.done) page.painter().drawLine(QPointF(page.left(), top), QPointF(page.left() + 3.4, top + 3.4));
  page.at(page.left() + kTick + 1.5, qs(clock_text(s.start)) + QStringLiteral("  ") + qs(hands_text(s.hands_min)), 2.2);
  page.text(qs(s.name), 2.5, true, indent);
  if (!caution.isEmpty()) page.text(caution, 2.0, false, indent);
  if (s.ready > s.end)
    page.text(
        printed("Dries until %1 %2.").arg(qs(day_of(s.ready).spoken()), qs(clock_text(s.ready))), 2.0, false, indent);
  page.skip(1.6);
}

}  // namespace

Result<void> writePlan(const QString& path, const Build& build, const Plan& plan, Paper paper) {
  Page page(paper, printed("Finishing plan"));
  page.text(qs(build.name), 4.6, true);
  page.text(
      printed("Ready %1 at %2. Times are about: heat, damp and the label decide. None of this is protective headgear.")
          .arg(qs(plan.ready_day().spoken()), qs(clock_text(plan.ready))),
      2.3);
  Day last{-1};
  for (const PlannedStep& s : plan.steps) {
    if (day_of(s.start) != last) {
      page.skip(2.0);
      if (page.room() < 24.0) page.fresh();
      page.text(qs(day_of(s.start).spoken()), 3.2, true);
      page.rule();
      page.skip(1.6);
    }
    last = day_of(s.start);
    step_row(page, s);
  }
  if (page.room() < 40.0) page.fresh();
  page.skip(3.0);
  page.text(printed("What it takes"), 3.2, true);
  page.rule();
  for (const Need& n : plan.needs)
    page.text(printed("%1: about %2 ml%3")
                  .arg(qs(n.name), qs(fixed(n.ml, 0)), n.cans > 0 ? printed(", cans: %1").arg(n.cans) : QString()),
        2.3);
  for (const PlannedMask& m : plan.masking)
    if (m.tape_mm > 0.0)
      page.text(printed("Mask for the %1: %2 m of tape").arg(qs(m.area), qs(fixed(m.tape_mm / 1000.0, 1))), 2.3);
  return page.writeTo(path);
}

Result<void> writeQuote(
    const QString& path, const Build& build, const Quote& quote, const WholeTime& time, Day day, Paper paper) {
  Page page(paper, printed("Quote"));
  page.text(printed("Quote"), 4.6, true);
  page.text(QStringLiteral("%1%2, %3")
                .arg(qs(build.name),
                    build.wearer.empty() ? QString() : printed(" for ") + QString::fromStdString(build.wearer),
                    qs(day.iso())),
      2.6);
  page.skip(4.0);
  const auto row = [&](const QString& what, const QString& amount, bool bold = false) {
    page.at(page.left() + page.width() - 30.0, amount, 2.6, bold);
    page.text(what, 2.6, bold, 0.0, page.width() - 34.0);
    page.skip(1.2);
  };
  row(printed("Materials, with what is lost in cutting and mixing"), money(quote.materials + quote.waste));
  row(printed("Work, about %1 hours").arg(qs(fixed(quote.hours, 1))), money(quote.labour));
  row(printed("Workshop"), money(quote.overheads));
  row(printed("Risk and profit"), money(quote.margin));
  page.rule();
  page.skip(1.6);
  row(printed("Price"), money(quote.price), true);
  page.skip(3.0);
  page.text(printed("Handmade work takes what it takes: four times of five such a piece comes to between %1 and %2. "
                    "What is agreed is the price above; changes of the wish are agreed anew.")
                .arg(money(quote.price_p80.first, 0), money(quote.price_p80.second, 0)),
      2.3);
  page.text(time.logs > 0 ? printed("Reckoned from this workshop's own times (%1).").arg(time.logs)
                          : printed("Reckoned from usual times."),
      2.3);
  page.skip(2.0);
  page.text(printed("A costume piece. It is no protective headgear; it takes sight and hearing, and is worn "
                    "with a handler at stairs, in traffic and in crowds."),
      2.3);
  return page.writeTo(path);
}

Result<void> writeCare(const QString& path, const Build& build, const CareSheet& care, Paper paper) {
  Page page(paper, printed("Care and packing"));
  page.text(qs(build.name), 4.6, true);
  page.text(printed("Care and packing"), 3.0);
  for (const CareSheet::Section& s : care.sections) {
    page.skip(3.0);
    if (page.room() < 30.0) page.fresh();
    page.text(qs(s.title), 3.0, true);
    page.rule();
    page.skip(1.0);
    for (const std::string& line : s.lines) page.text(QStringLiteral("\u2013 ") + qs(line), 2.5);
  }
  return page.writeTo(path);
}

}  // namespace awl
