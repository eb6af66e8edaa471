#include "app/shell/exporter.hpp"

#include <QFileInfo>
#include <cmath>

#include "core/base/data_files.hpp"
#include "core/steps/shopping.hpp"
#include "core/chain/to_cut.hpp"
#include "core/geom/mesh_file.hpp"
#include "core/geom/solid.hpp"
#include "core/io/drawing_file.hpp"
#include "core/stock/output.hpp"
#include "print/bench_pages.hpp"
#include "app/stand/room_picture.hpp"
#include "app/widgets/text.hpp"
#include "core/io/plan_calendar.hpp"
#include "print/build_sheet.hpp"
#include "print/coat_pages.hpp"
#include "print/fit_report.hpp"
#include "print/tiled_pdf.hpp"

namespace awl {
namespace {

struct ExportKind {
  const char *kind, *ending;
};
constexpr ExportKind kExports[] = {{"pdf", ".pdf"}, {"svg", ".svg"}, {"dxf", ".dxf"}, {"csv", ".csv"},
    {"build-sheet", ".pdf"}, {"shopping-csv", ".csv"}, {"shopping", ".pdf"}, {"hood", ".stl"}, {"headform", ".stl"},
    {"buck", ".stl"}, {"check-sheet", ".pdf"}, {"fit-report", ".pdf"}, {"wrap-guide", ".pdf"}, {"plan-pdf", ".pdf"},
    {"plan-ics", ".ics"}, {"care-pdf", ".pdf"}, {"quote-pdf", ".pdf"}};

Result<void> written(const Result<TiledPdf>& made) {
  if (!made) return fail(made);
  return {};
}

Result<void> write_shopping(
    const QString& kind, const QString& path, const Build& build, const Derived& d, const Chain& chain, Book& shop) {
  std::map<std::string, double> stock;
  if (const auto book = shop.get())
    if (const auto kept = (*book)->stock()) stock = *kept;
  const auto list = shopping(build, d, chain.materials(), stock);
  if (!list) return fail(list);
  return kind == QLatin1String("shopping") ? writeShopping(path, build, *list, Paper::a4)
                                           : write_file_safely(path.toStdString(), shopping_csv(*list));
}

/// One file, or one for each sheet, part or piece beside it.
Result<void> write_drawings(const QString& kind, const QString& path, const Build& build, const Derived& d) {
  const QString form = kind.left(3);
  const QString chords = QStringLiteral("-chords");
  const bool in_chords = kind.endsWith(chords);
  const QString of = kind.mid(4, kind.size() - 4 - (in_chords ? chords.size() : 0));
  const auto per = of.isEmpty() ? Result<OutputPer>(OutputPer::all) : output_per_from(of.toStdString());
  if (!per) return fail(per);
  const QFileInfo file(path);
  const QString stem = file.path() + QLatin1Char('/') + file.completeBaseName();
  for (const Output& o : outputs_of(*d.pieces, *d.layout, *per, part_names(build, d))) {
    const QString to = o.name.empty()
        ? path
        : stem + QLatin1Char('-') + QString::fromStdString(o.name) + QLatin1Char('.') + file.suffix();
    const std::string title = o.name.empty() ? build.name : build.name + ", " + o.name;
    if (auto good = write_file_safely(to.toStdString(),
            form == QLatin1String("svg")
                ? sheets_svg(*d.pieces, o.layout, title)
                : sheets_dxf(*d.pieces, o.layout, in_chords ? DxfLines::chords : DxfLines::arcs));
        !good)
      return good;
  }
  return {};
}

Result<void> write_buck(const QString& path, const Derived& d) {
  Mesh all;
  for (const auto& way : d.ways)
    if (way && way->buck) add_mesh(all, *way->buck);
  if (all.triangles.empty()) return fail(Errc::no_solution, "No part is drawn over a buck.");
  return write_mesh(path.toStdString(), all);
}

/// A calendar written over the last one counts its changes on.
Result<void> write_calendar(const QString& path, const Build& build, const Plan& plan) {
  std::string before;
  if (QFileInfo::exists(path)) {
    const auto bytes = read_file(path.toStdString());
    if (!bytes) return fail(bytes);
    before = *bytes;
  }
  const auto events = events_of(plan.steps, job_uid(build.name, build.wearer));
  return write_file_safely(path.toStdString(), calendar_text(events, before, midnight_of(today())));
}

Result<void> write_quote(const QString& path, const Build& build, const Derived& d, const Chain& chain, Book& shop) {
  std::map<std::string, std::vector<StageLog>> logs;
  if (const auto book = shop.get())
    if (auto known = JobPages(**book).logs()) logs = std::move(*known);
  const auto list = shopping(build, d, chain.materials(), {});
  if (!list) return fail(list);
  const WholeTime time = whole_time(stage_times(*d.plan, logs));
  const Quote quote = quote_of(list->price, time, build.coat.rates);
  const auto job = shop.jobOf(build);
  if (!job) return fail(job);
  if (const auto book = shop.get())
    if (const auto given =
            JobPages(**book).give({0, *job, today(), build.name, static_cast<int>(std::lround(quote.price * 100.0))});
        !given)
      return fail(given);
  return writeQuote(path, build, quote, time, today(), Paper::a4);
}

}  // namespace

QString endingOf(const QString& kind) {
  for (const ExportKind& e : kExports)
    if (kind.startsWith(QLatin1String(e.kind))) return QLatin1String(e.ending);
  return {};
}

Result<void> exportBuild(
    const QString& kind, const QString& path, const Build& build, const Derived& d, const Chain& chain, Book& book) {
  if (kind == QLatin1String("headform") && d.head) return write_mesh(path.toStdString(), d.head->mesh);
  if (kind == QLatin1String("hood") && d.form)
    return write_mesh(path.toStdString(), sheet_solid(d.form->surface.mesh, d.form->spans));
  if (kind == QLatin1String("buck")) return write_buck(path, d);
  if (kind == QLatin1String("wrap-guide")) return writeWrapGuide(path, build, d, Paper::a4);
  if (kind == QLatin1String("check-sheet")) return writeCheckSheet(path, build, d, Paper::a4);
  if (kind == QLatin1String("fit-report"))
    return writeFitReport(path, build, d, d.worn ? wearersPicture(*d.worn) : QImage(), Paper::a4);
  if (kind == QLatin1String("care-pdf") && d.form)
    return writeCare(path, build, care_sheet(build, d, chain.materials()), Paper::a4);
  if (kind == QLatin1String("plan-pdf") || kind == QLatin1String("plan-ics") || kind == QLatin1String("quote-pdf")) {
    if (!d.plan) return fail(Errc::no_solution, "There is no plan yet; the remarks say what is missing.");
    if (kind == QLatin1String("quote-pdf")) return write_quote(path, build, d, chain, book);
    return kind == QLatin1String("plan-ics") ? write_calendar(path, build, *d.plan)
                                             : writePlan(path, build, *d.plan, Paper::a4);
  }
  if (!d.layout || !d.pieces)
    return fail(Errc::no_solution, "There are no sheets to save yet; the remarks say what is missing.");
  if (kind == QLatin1String("build-sheet")) {
    const auto pages = writeBuildSheet(path, build, d, chain.materials(), Paper::a4);
    if (!pages) return fail(pages);
    return {};
  }
  if (kind.startsWith(QLatin1String("shopping"))) return write_shopping(kind, path, build, d, chain, book);
  if (kind == QLatin1String("csv")) return write_file_safely(path.toStdString(), pieces_csv(*d.pieces));
  if (kind.startsWith(QLatin1String("svg")) || kind.startsWith(QLatin1String("dxf")))
    return write_drawings(kind, path, build, d);
  const QString sheets = QStringLiteral("-sheets");
  const bool of_sheets = kind.endsWith(sheets);
  const auto paper = paperFrom(kind.mid(4, kind.size() - 4 - (of_sheets ? sheets.size() : 0)).toStdString());
  if (!paper) return fail(paper);
  TileOptions options;
  options.paper = *paper, options.of = of_sheets ? PagesOf::sheets : PagesOf::patterns;
  options.part_of = part_names(build, d);
  options.title = QString::fromStdString(build.name);
  return written(writeTiledPdf(path, *d.pieces, *d.layout, options));
}

}  // namespace awl
