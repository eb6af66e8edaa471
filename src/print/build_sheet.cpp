#include "print/build_sheet.hpp"

#include "core/base/numbers.hpp"
#include "print/form_figure.hpp"
#include "print/page.hpp"
#include "print/text.hpp"
#include "print/money.hpp"

namespace awl {
namespace {

bool pictured(const BuildStep& step) { return !step.adds.empty(); }

void writeStep(Page& page, int number, const Derived& d, const BuildStep& step) {
  constexpr double kFigureMm = 62.0, kText = 2.7, kTitle = 3.8;
  const double wide = pictured(step) ? page.width() - kFigureMm - 5.0 : 0.0;
  const QString title = QStringLiteral("%1   %2").arg(number).arg(qs(step.title));
  QStringList lines;
  for (const std::string& line : step.lines) lines << QStringLiteral("\u2013 ") + qs(line);
  if (step.wait_min > 0.0)
    lines << printed("Wait %1 min. Meanwhile: %2.")
                 .arg(qs(fixed(step.wait_min, 0)),
                     qs(step.meanwhile.empty() ? "nothing else may touch it" : step.meanwhile));
  const QString caution = step.caution.empty() ? QString() : QStringLiteral("\u25b2 ") + qs(step.caution);
  double tall = page.tall(title, kTitle, true, 0.0, wide) + 3.0;
  for (const QString& line : lines) tall += page.tall(line, kText, false, 2.0, wide > 0.0 ? wide - 2.0 : 0.0) + 1.0;
  if (!caution.isEmpty()) tall += page.tall(caution, kText, true, 2.0, wide > 0.0 ? wide - 2.0 : 0.0) + 1.0;
  const double block = std::max(tall, pictured(step) ? kFigureMm : 0.0) + 5.0;
  if (page.room() < std::min(block, 240.0)) page.fresh();
  page.rule(0.4);
  page.skip(3.0);
  const double top = page.y();
  if (pictured(step))
    paintStep(page.painter(), QRectF(page.left() + page.width() - kFigureMm, top, kFigureMm, kFigureMm - 3.0), d, step);
  page.text(title, kTitle, true, 0.0, wide);
  page.skip(1.0);
  for (const QString& line : lines) {
    if (page.room() < 8.0) page.fresh();
    page.text(line, kText, false, 2.0, wide > 0.0 ? wide - 2.0 : 0.0), page.skip(1.0);
  }
  if (!caution.isEmpty())
    page.text(caution, kText, true, 2.0, wide > 0.0 ? wide - 2.0 : 0.0, QColor(0xb4, 0x4a, 0x18)), page.skip(1.0);
  if (pictured(step) && page.y() > top) page.skip(std::max(0.0, top + kFigureMm - page.y()));
  page.skip(2.0);
}

}  // namespace

void paintStep(QPainter& painter, const QRectF& box, const Derived& d, const BuildStep& step) {
  FormFigure figure;
  figure.there.insert(step.there.begin(), step.there.end());
  figure.fresh.insert(step.adds.begin(), step.adds.end());
  figure.seams.insert(step.seams.begin(), step.seams.end());
  std::map<PanelId, QString> words;
  for (const Piece& p : *d.pieces) {
    for (const PanelId id : p.panels())
      if (figure.fresh.count(id) || figure.there.count(id)) words[id] = QString::number(p.number);
  }
  paintFormFigure(painter, box, *d.panels, figure, words);
}

Result<int> writeBuildSheet(
    const QString& path, const Build& build, const Derived& d, const Materials& materials, Paper paper) {
  const auto sheet = assemble(build, d, materials);
  if (!sheet) return fail(sheet);
  Page page(paper, printed("Build sheet"));
  page.text(printed("Build sheet: %1").arg(qs(build.name)), 4.8, true);
  page.text(printed("For %1. %2 steps; pale is what is there, in colour what comes on, thick the seams that are "
                    "glued. Numbers are those on the pieces. Nothing made with this is protective headgear. "
                    "Labels, local rules and people who know better come first.")
                .arg(QString::fromStdString(build.wearer))
                .arg(sheet->steps.size()),
      2.5);
  page.skip(3.0);
  int number = 0;
  for (const BuildStep& step : sheet->steps) writeStep(page, ++number, d, step);
  if (auto written = page.writeTo(path); !written) return fail(written);
  return number;
}

Result<void> writeShopping(const QString& path, const Build& build, const Shopping& list, Paper paper) {
  Page page(paper, printed("Shopping list"));
  page.text(printed("Shopping list: %1").arg(qs(build.name)), 4.6, true);
  page.skip(2.0);
  const double columns[] = {page.left() + 8.0, page.left() + 104.0, page.left() + 132.0, page.left() + 160.0};
  const QString heads[] = {printed("What"), printed("Need"), printed("Buy"), printed("Price")};
  for (int i = 0; i < 4; ++i) page.at(columns[i], heads[i], 2.5, true);
  page.skip(6.0);
  page.rule(0.4);
  for (const Purchase& p : list.lines) {
    page.skip(2.0);
    page.painter().setPen(QPen(QColor(0x1d, 0x27, 0x33), 0.3));
    page.painter().setBrush(Qt::NoBrush);
    page.painter().drawRect(QRectF(page.left(), page.y(), 4.0, 4.0));
    const double top = page.y();
    page.at(columns[1], QStringLiteral("%1 %2").arg(qs(fixed(p.need, 0)), qs(p.unit)), 2.5);
    page.at(columns[2], qs(fixed(p.buy, 0)), 2.5, true);
    page.at(columns[3], p.buy <= 0.0 ? QStringLiteral("\u2013") : p.priced ? money(p.price) : printed("ask"), 2.5);
    page.text(qs(p.what), 2.5, false, 8.0, 92.0);
    page.text(qs(p.why), 1.9, false, 8.0, 92.0);
    page.skip(std::max(0.0, top + 6.0 - page.y()));
    page.rule();
    if (page.room() < 20.0) page.fresh();
  }
  page.skip(3.0);
  page.text(printed("Together %1%2")
                .arg(money(list.price), list.all_priced ? QString() : printed(" and what is to be asked for")),
      3.0, true);
  return page.writeTo(path);
}

}  // namespace awl
