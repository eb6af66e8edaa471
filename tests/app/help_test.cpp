// Help, reports and printing to a printer.
#include <catch2/catch.hpp>
#include <QListWidget>
#include <QPdfWriter>
#include <QProcess>
#include <QRegularExpression>
#include <QTextBlock>
#include <QTextBrowser>
#include <QHelpEvent>
#include <QToolTip>

#include "app/desk/print_desk.hpp"
#include "app/shell/help_window.hpp"
#include "core/base/data_files.hpp"
#include "core/dress/detail.hpp"
#include "support/bench_window.hpp"

using namespace awl;
using test::Bench;

namespace {

QString shown(Bench& bench) { return bench.window.help()->findChild<QTextBrowser*>()->toPlainText(); }

std::vector<HelpPage> help_pages_of(Bench& bench) {
  const auto stations = bench.window.findChildren<Station*>();
  return helpPages({stations.begin(), stations.end()}, bench.window.findChildren<QAction*>());
}

}  // namespace

TEST_CASE("F1 opens the page of the station at hand, and of the drawer that is open", "[app][help]") {
  Bench bench;
  for (const char* station : {"tape", "head", "form", "seams", "foam", "fit", "dress", "coat", "book"}) {
    bench.go(station);
    bench.trigger("act-help");
    REQUIRE(bench.window.help() != nullptr);
    CHECK(bench.window.help()->pageId() == QStringLiteral("station-") + QLatin1String(station));
    CHECK(shown(bench).contains(bench.window.station().word()));
  }
  bench.go("foam");
  bench.open("foam-print");
  bench.trigger("act-help");
  CHECK_FALSE(bench.window.help()
                  ->findChild<QTextBrowser*>()
                  ->document()
                  ->resource(QTextDocument::ImageResource, QUrl(QStringLiteral("foam.png")))
                  .isNull());
  CHECK(shown(bench).contains(QStringLiteral("Each pattern once")));  // the controls tell of themselves
  CHECK(bench.window.help()->findChild<QTextBrowser*>()->textCursor().block().text() == QStringLiteral("Print"));
}

TEST_CASE("every tip says where more stands, and F1 opens it at the row of its control", "[app][help][tips]") {
  Bench bench;
  const auto hovered = [&](QWidget& control) {
    QHelpEvent tip(QEvent::ToolTip, QPoint(4, 4), control.mapToGlobal(QPoint(4, 4)));
    QApplication::sendEvent(&control, &tip);
    REQUIRE(QToolTip::isVisible());
    CHECK(QToolTip::text().contains(QStringLiteral("F1")));
    CHECK(QToolTip::text().contains(control.toolTip().toHtmlEscaped()));
    bench.trigger("act-help");
    QToolTip::hideText();
    return bench.window.help()->findChild<QTextBrowser*>()->textCursor().selectedText();
  };
  bench.go("foam");
  bench.open("foam-print");
  auto& how = bench.find<QComboBox>("print-pages");
  CHECK(hovered(how) == how.accessibleName());
  CHECK(bench.window.help()->pageId() == QStringLiteral("station-foam"));
  bench.go("form");
  auto& dial = bench.find<QLineEdit>("dial-padding");
  CHECK(hovered(dial) == dial.accessibleName());
  CHECK(bench.window.help()->pageId().startsWith(QStringLiteral("thing-")));
  bench.go("dress");
  const auto strip = apply_act(bench.build(), "add-detail strip 1 rim 1 30");
  REQUIRE(strip);
  bench.window.document().replace(*strip, {});
  bench.settle();
  auto& wide = bench.find<QLineEdit>("dress-dial-wide");
  CHECK(hovered(wide) == wide.accessibleName());
  CHECK(bench.window.help()->pageId() == QStringLiteral("detail-strip"));
  // Beside tips it is the drawer that is open.
  for (int i = 0; i < 200 && QToolTip::isVisible(); ++i) QTest::qWait(10);
  bench.trigger("act-help");
  CHECK(bench.window.help()->pageId() == QStringLiteral("station-dress"));
}

TEST_CASE("every page has words, its pictures are there, and no page of data/help is forgotten", "[app][help]") {
  Bench bench;
  const auto pages = help_pages_of(bench);
  std::set<QString> ids;
  const QRegularExpression picture(QStringLiteral(R"(!\[[^\]]+\]\(([^)]+)\))"));
  for (const HelpPage& page : pages) {
    CAPTURE(page.id.toStdString());
    CHECK(ids.insert(page.id).second);
    CHECK(page.text.startsWith(QStringLiteral("# ")));
    CHECK(page.text.size() > 120);
    CHECK_FALSE(page.text.contains(QStringLiteral("missing from the installation")));
    for (auto at = picture.globalMatch(page.text); at.hasNext();) {
      const QString file = at.next().captured(1);
      CAPTURE(file.toStdString());
      const bool start = file.startsWith(QLatin1String("start-"));
      CHECK(std::filesystem::exists(start ? (data_folder() / "starts" / file.mid(6).toStdString()).string()
                                          : (helpPictures() + QStringLiteral("/") + file).toStdString()));
    }
  }
  for (const auto& file : std::filesystem::directory_iterator(data_folder() / "help"))
    if (file.path().extension() == ".md") CHECK(ids.count(QString::fromStdString(file.path().stem().string())) == 1);
  // One for each thing and each kind of detail, the words, the keys.
  for (const DetailShape& shape : detail_kinds())
    CHECK(ids.count(QStringLiteral("detail-") + QLatin1String(kind_of(shape))) == 1);
  CHECK(ids.count(QStringLiteral("thing-helms")) == 1);
  const auto of = [&](const char* id) {
    return std::find_if(pages.begin(), pages.end(), [&](const HelpPage& p) { return p.id == QLatin1String(id); })->text;
  };
  CHECK(of("keys").contains(QStringLiteral("Ctrl+S")));
  CHECK(of("words").contains(QStringLiteral("**headform**")));
  CHECK(of("safety").contains(QStringLiteral("protective")));
}

TEST_CASE("the help is searched by any of its words", "[app][help]") {
  Bench bench;
  bench.trigger("act-safety");
  CHECK(bench.window.help()->pageId() == QStringLiteral("safety"));
  auto* search = bench.window.help()->findChild<QLineEdit*>(QStringLiteral("help-search"));
  auto* list = bench.window.help()->findChild<QListWidget*>(QStringLiteral("help-pages"));
  const int all = list->count();
  QTest::keyClicks(search, QStringLiteral("pacemaker magnets"));
  CHECK(list->count() > 0);
  CHECK(list->count() < all / 2);
  CHECK(shown(bench).contains(QStringLiteral("pacemaker")));
  search->clear();
  CHECK(list->count() == all);
  QTest::keyClicks(search, QStringLiteral("submarine"));
  CHECK(list->count() == 0);
  CHECK(shown(bench).contains(QStringLiteral("No page")));
  search->clear();
  CHECK(list->count() == all);
}

TEST_CASE("a help page that is missing is told of in its place", "[app][help]") {
  const test::TempFolder folder;
  std::filesystem::copy(data_folder(), folder / "data", std::filesystem::copy_options::recursive);
  std::filesystem::remove(folder / "data" / "help" / "safety.md");
  const QByteArray before = qgetenv("NOGGIN_AWL_DATA");
  Bench bench;
  qputenv("NOGGIN_AWL_DATA", QByteArray::fromStdString((folder / "data").string()));
  const auto pages = help_pages_of(bench);
  before.isEmpty() ? qunsetenv("NOGGIN_AWL_DATA") : qputenv("NOGGIN_AWL_DATA", before);
  const auto safety =
      std::find_if(pages.begin(), pages.end(), [](const HelpPage& p) { return p.id == QLatin1String("safety"); });
  CHECK(safety->text.contains(QStringLiteral("missing from the installation")));
}

TEST_CASE("a report tells of the program and nothing of builds or wearers", "[app][help][privacy]") {
  Bench bench;
  bench.window.document().edit(QStringLiteral("name"), [](Build& b) {
    b.name = "Secretname", b.wearer = "Someperson", b.notes = "Innermost";
    b.tape.set(MeasureId::HC, 587.3);
  });
  bench.settle();
  const QString report = bench.window.report();
  CHECK(report.contains(QStringLiteral("Noggin Awl")));
  CHECK(report.contains(QLatin1String(qVersion())));
  for (const char* secret : {"Secretname", "Someperson", "Innermost", "587"})
    CHECK_FALSE(report.contains(QLatin1String(secret)));
}

TEST_CASE("patterns go onto a printer at true size on its own paper, the test page alone first", "[app][print]") {
  Bench bench;
  const test::TempFolder folder;
  PrintDesk desk(bench.derived().pieces, bench.derived().layout, QStringLiteral("Heron Warden"), {}, &bench.window);
  const auto print = [&](QPageSize::PageSizeId paper, bool test_only, const char* name) {
    QPrinter printer(QPrinter::HighResolution);
    printer.setOutputFormat(QPrinter::PdfFormat);
    printer.setOutputFileName(QString::fromStdString((folder / name).string()));
    printer.setPageSize(QPageSize(paper));
    return desk.printOn(printer, test_only);
  };
  CHECK(print(QPageSize::A4, true, "test.pdf").value() == 1);
  const auto all = print(QPageSize::A4, false, "all.pdf");
  REQUIRE(all);
  CHECK(*all >= 3);
  QProcess info;
  info.start(QStringLiteral("pdfinfo"), {QString::fromStdString((folder / "all.pdf").string())});
  REQUIRE(info.waitForFinished());
  const QString told = QString::fromUtf8(info.readAllStandardOutput());
  CHECK(told.contains(QRegularExpression(QStringLiteral("Pages:\\s+%1\\b").arg(*all))));
  CHECK(told.contains(QStringLiteral("595 x 842")));
  CHECK(print(QPageSize::A3, false, "a3.pdf").value() <= *all);
  const auto small = print(QPageSize::A6, false, "a6.pdf");
  REQUIRE_FALSE(small);
  CHECK(small.error().text.find("no room for the 100 mm test square on 105 x 148") != std::string::npos);
}

TEST_CASE("the measured square says whether the driver scales; without a printer the way on is told", "[app][print]") {
  CHECK(PrintDesk::judgedSquare(100.0).isEmpty());
  CHECK(PrintDesk::judgedSquare(99.6).isEmpty());
  CHECK(PrintDesk::judgedSquare(97.0).contains(QStringLiteral("97.0 %")));
  Bench bench;
  PrintDesk desk(bench.derived().pieces, bench.derived().layout, QStringLiteral("t"), {}, &bench.window);
  auto* words = desk.findChild<QLabel*>(QStringLiteral("print-words"));
  auto* measured = desk.findChild<QLineEdit*>(QStringLiteral("print-measured"));
  if (desk.findChild<QComboBox*>(QStringLiteral("print-printer"))->count() == 0) {
    CHECK(words->text().contains(QStringLiteral("No printer")));
    CHECK_FALSE(desk.findChild<QPushButton*>(QStringLiteral("print-go"))->isEnabled());
  }
  measured->setText(QStringLiteral("3 7/8 in"));
  emit measured->editingFinished();
  CHECK(words->text().contains(QStringLiteral("98.4 %")));
  measured->setText(QStringLiteral("wide"));
  emit measured->editingFinished();
  CHECK(words->text().contains(QStringLiteral("wide")));
  measured->setText(QStringLiteral("10 cm"));
  emit measured->editingFinished();
  CHECK(words->text().contains(QStringLiteral("True to size")));
}
