#include "print/fit_report.hpp"

#include "core/base/numbers.hpp"
#include "print/fit_words.hpp"
#include "print/page.hpp"
#include "print/sight_map.hpp"
#include "print/text.hpp"

namespace awl {
namespace {

void section(Page& page, const QString& title, const QString& words) {
  if (words.isEmpty()) return;
  if (page.room() < page.tall(words, 2.2) + 12.0) page.fresh();
  page.skip(2.4);
  page.text(title, 2.6, true);
  for (const QString& line : words.split(QLatin1Char('\n'))) page.text(line, 2.2);
}

/// The round map, and the room seen out of it, side by side.
void pictures(Page& page, const Sight& sight, const QImage& wearers_view) {
  const double side = 74.0;
  const QRectF circle(page.left(), page.y(), side, side);
  constexpr double kPixelsPerMm = 8.0;
  const SightMap map({0.0, 0.0, side * kPixelsPerMm, side * kPixelsPerMm});
  const QSize pixels(static_cast<int>(side * kPixelsPerMm), static_cast<int>(side * kPixelsPerMm));
  page.painter().drawImage(circle, map.image(sight, pixels, 1.0, false));
  page.painter().setPen(QPen(QColor(0x1d, 0x27, 0x33), 0.2));
  const SightMap at(circle);
  for (const double deg : {30.0, 60.0, 90.0})
    page.painter().drawEllipse(
        circle.center(), 0.5 * side * deg / SightMap::kMostDeg, 0.5 * side * deg / SightMap::kMostDeg);
  if (!wearers_view.isNull()) {
    const double wide = page.width() - side - 8.0,
                 tall = std::min(side, wide * wearers_view.height() / wearers_view.width());
    page.painter().drawImage(
        QRectF(page.left() + side + 8.0, page.y(), tall * wearers_view.width() / wearers_view.height(), tall),
        wearers_view);
  }
  page.skip(side + 3.0);
  page.text(printed("Left: the view in the wearer's own eyes, circles every 30 degrees; light: both eyes, stroked: one "
                    "eye, dark: covered. Right: a room with stairs, seen out of it."),
      1.9);
}

void draw(Page& page, const Build& build, const Derived& d, const QImage& wearers_view) {
  page.text(printed("Worn before it is cut"), 4.6, true);
  page.text(printed("%1, for %2. Reckoned from the measures; nothing of it was tried on a person. None of this is "
                    "protective headgear.")
                .arg(qs(build.name), QString::fromStdString(build.wearer)),
      2.3);
  page.skip(3.0);
  if (d.worn->sight) pictures(page, *d.worn->sight, wearers_view);
  section(page, printed("What the wearer sees"), sightWords(d));
  QStringList on;
  for (const GoingOn& g : d.worn->going_on)
    on << qs(g.name) + QStringLiteral(": ") + goingOnWords(g, build).replace(QLatin1Char('\n'), QLatin1Char(' '));
  section(page, printed("Going on"), on.join(QLatin1Char('\n')));
  section(page, printed("Room inside"), insideWords(d));
  section(page, printed("Turning the head"), movingWords(d));
  section(page, printed("On the neck"), balanceWords(d));
  QStringList holds;
  for (const Hold& h : build.fit.holds) holds << holdWords(d, h);
  section(page, printed("What holds it"),
      holds.isEmpty() ? printed("Its own shape alone.") : holds.join(QLatin1Char('\n')));
  section(page, printed("Air and heat"), airWords(d));
  QStringList mend;
  for (const Remark& r : d.remarks)
    if (r.id.starts_with("fit.")) mend << QStringLiteral("\u2013 ") + qs(r.sentence);
  section(page, printed("To mend, or to know"), mend.isEmpty() ? printed("Nothing.") : mend.join(QLatin1Char('\n')));
  section(page, printed("For whoever wears it"),
      printed(
          "Try it ten minutes at home with somebody by you. Stairs, traffic and crowds only with a handler: it takes "
          "sight and hearing. A rest and a drink every quarter of an hour. Take it off at once when dizzy, hot or "
          "short of breath. Magnets: not with a pacemaker or other implant."));
}

Result<void> good(const Derived& d) {
  if (!d.worn) return fail(Errc::no_solution, "Nothing was tried on yet: wait until the fit is worked out.", "fit");
  return {};
}

}  // namespace

Result<void> writeFitReport(
    const QString& path, const Build& build, const Derived& d, const QImage& wearers_view, Paper paper) {
  if (auto can = good(d); !can) return can;
  Page page(paper, printed("Fit report"));
  draw(page, build, d, wearers_view);
  return page.writeTo(path);
}

Result<std::vector<QImage>> fitReportImages(
    const Build& build, const Derived& d, const QImage& wearers_view, int pixels_wide) {
  if (auto can = good(d); !can) return fail(can);
  Page page(Paper::a4, pixels_wide);
  draw(page, build, d, wearers_view);
  return page.images();
}

}  // namespace awl
