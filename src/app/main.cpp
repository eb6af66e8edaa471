#include <QApplication>
#include <QCheckBox>
#include <QComboBox>
#include <QCommandLineParser>
#include <QDate>
#include <QDir>
#include <QElapsedTimer>
#include <QLineEdit>
#include <QListWidget>
#include <QMessageBox>
#include <QPushButton>
#include <QTableWidget>
#include <QTemporaryDir>
#include <QTimer>
#include <cmath>
#include <cstdio>

#include "app/shell/bench_application.hpp"
#include "app/shell/gallery.hpp"
#include "app/shell/main_window.hpp"
#include "app/stations/form_station.hpp"
#include "app/widgets/bench_sheet.hpp"
#include "app/widgets/cut_rehearsal.hpp"
#include "app/widgets/theme.hpp"
#include "app/widgets/tray_group.hpp"
#include "core/base/data_files.hpp"
#include "core/base/guard.hpp"
#include "core/io/build_file.hpp"
#include "print/fonts.hpp"

namespace {

using namespace awl;

/// Lets events run until the chain has finished.
void settle(MainWindow& window) {
  while (window.deriver().isBusy()) QApplication::processEvents(QEventLoop::WaitForMoreEvents, 50);
  QApplication::processEvents();
}

/// Changes the build as a maker would, and waits for what follows.
void alter(MainWindow& window, const std::function<void(Build&)>& edit) {
  window.document().change(QStringLiteral("for a picture"), [&](const Build& b) -> Result<Build> {
    Build next = b;
    edit(next);
    return next;
  });
  settle(window);
}

void openOnly(MainWindow& window, const QString& title) {
  for (TrayGroup* group :
      window.findChild<QWidget*>(QStringLiteral("station-") + window.stationId())->findChildren<TrayGroup*>())
    group->setOpen(group->title() == title);
}

/// The headform's own views: the check of a crooked one, a scan.
void takeHeadformPictures(MainWindow& window, const std::function<void(const QString&)>& shoot) {
  alter(window, [](Build& b) { b.making = Making::headform, b.foam.thickness_mm = 10.0, b.foam_head.pipe_mm = 50.0; });
  alter(window, [&](Build& b) {
    b.making = Making::parts, b.foam.thickness_mm = 5.0;
    const CheckPlan& plan = *window.deriver().latest().check;
    BuiltShape crooked = plan.meant;
    crooked.flaws[static_cast<int>(Flaw::left)] = 5.0, crooked.flaws[static_cast<int>(Flaw::twist)] = 4.0;
    for (const BuiltDistance& d : plan.distances)
      if (d.round.empty())
        b.built[d.id] = std::round((crooked(plan.marks[d.to].at) - crooked(plan.marks[d.from].at)).norm());
  });
  window.showStation(QStringLiteral("head"));
  openOnly(window, QObject::tr("Check the built form"));
  auto* against = window.findChild<QComboBox*>(QStringLiteral("against"));
  against->setCurrentIndex(against->findData(QStringLiteral("built")));
  window.findChild<QCheckBox*>(QStringLiteral("show-tapes"))->setChecked(false);
  emit against->activated(against->currentIndex());
  shoot(QStringLiteral("built-check"));
  against->setCurrentIndex(0);
  emit against->activated(0);
  alter(window, [](Build& b) { b.built.clear(); });
  openOnly(window, QObject::tr("From a scan"));
  window.findChild<QPushButton*>(QStringLiteral("scan-simulated"))->click();
  settle(window);
  shoot(QStringLiteral("scan"));
  while (window.document().undoStack().canUndo()) window.document().undoStack().undo();
  settle(window);
}

/// The showpiece with its parts, a plate on the drawing table, and the gallery.
void takeFormPictures(MainWindow& window, const std::function<void(const QString&)>& shoot, const QString& folder) {
  const Day today = window.document().build().coat.start;
  const auto open = [&](const char* id) {
    window.document().replace(*demo_by_name(id, today), {});
    settle(window);
  };
  window.showStation(QStringLiteral("form"));
  open("heron-warden");
  window.document().takeInHand(3);
  window.stand().look(0.72f, 0.08f);
  shoot(QStringLiteral("form"));
  alter(window, [](Build& b) { b.parts.clear(); });
  window.findChild<FormStation*>()->addPreset(QStringLiteral("face-plate"));
  settle(window);
  window.stand().look(0.4f, 0.05f);
  shoot(QStringLiteral("plate"));
  Gallery gallery(&window, today);
  gallery.show();
  while (!gallery.isFinished()) QApplication::processEvents(QEventLoop::WaitForMoreEvents, 50);
  QApplication::processEvents();
  gallery.grab().save(folder + QStringLiteral("/gallery.png"));
  window.stand().look(0.45f, 0.12f);
}

/// A seam drawn by hand beside a preset's, and the pieces apart.
void takeSeamPictures(MainWindow& window, const std::function<void(const QString&)>& shoot) {
  window.showStation(QStringLiteral("seams"));
  alter(window, [](Build& b) {
    DrawnSeam line;
    line.name = "over the ear", line.inked = true;
    line.points = {
        Vec3(0, 66, 108), Vec3(48, 64, 84), Vec3(80, 52, 30), Vec3(88, 40, -30), Vec3(60, 46, -90), Vec3(0, 50, -112)};
    b.parts.front().seams.belt = false;
    b.parts.front().drawn.push_back(line);
  });
  window.stand().look(0.9f, 0.14f);
  window.findChild<QTableWidget*>(QStringLiteral("seam-lines"))->selectRow(0);
  shoot(QStringLiteral("drawn"));
  auto* apart = window.findChild<QCheckBox*>(QStringLiteral("pieces-apart"));
  apart->click();
  shoot(QStringLiteral("apart"));
  apart->click();
  window.stand().look(0.45f, 0.12f);
}

/// Brings a control of the tray into view.
void reveal(MainWindow& window, const char* name) {
  auto* widget = window.findChild<QWidget*>(QLatin1String(name));
  for (QWidget* up = widget; up != nullptr; up = up->parentWidget())
    if (auto* scroll = qobject_cast<QScrollArea*>(up)) scroll->ensureWidgetVisible(widget, 0, 260);
}

/// The pieces glued up.
void takePatternPictures(MainWindow& window, const std::function<void(const QString&)>& shoot) {
  const auto press = [&](const char* name) { window.findChild<QPushButton*>(QLatin1String(name))->click(); };
  const auto waitWhile = [&](const std::function<bool()>& busy) {
    while (busy()) QApplication::processEvents(QEventLoop::WaitForMoreEvents, 50);
    settle(window);
  };
  window.showStation(QStringLiteral("seams"));
  press("glue-up");
  waitWhile([&] { return window.findChild<QPushButton*>(QStringLiteral("glue-stop"))->isEnabled(); });
  reveal(window, "glue-findings");
  shoot(QStringLiteral("glued"));
  window.findChild<QCheckBox*>(QStringLiteral("glue-show"))->setChecked(false);
}

/// The showpiece cut partly from an odd offcut, its edges, and the build sheet as it is read at the bench.
void takeFoamPictures(MainWindow& window, const std::function<void(const QString&)>& shoot, const QString& folder) {
  window.document().replace(*demo_by_name("heron-warden", window.document().build().coat.start), {});
  settle(window);
  window.showStation(QStringLiteral("foam"));
  window.findChild<QLineEdit*>(QStringLiteral("offcut-name"))->setText(QObject::tr("left of the crest"));
  window.findChild<QLineEdit*>(QStringLiteral("offcut-outline"))
      ->setText(QStringLiteral("0,0 450,0 380,300 200,240 40,310"));
  window.findChild<QPushButton*>(QStringLiteral("offcut-add"))->click();
  window.findChild<QListWidget*>(QStringLiteral("offcuts"))->item(0)->setCheckState(Qt::Checked);
  settle(window);
  auto* edges = window.findChild<QTableWidget*>(QStringLiteral("edges"));
  edges->setCurrentCell(edges->rowCount() - 3, 0);
  reveal(window, "edge-words");
  shoot(QStringLiteral("edges"));
  window.findChild<QPushButton*>(QStringLiteral("sheet-open"))->click();
  auto* sheet = window.findChild<BenchSheet*>();
  sheet->goTo(6);
  for (int i = 0; i < 3; ++i) QApplication::processEvents();
  sheet->grab().save(folder + QStringLiteral("/build-sheet.png"));
  sheet->close();
}

/// Horns in slabs, and the cut of a mask rehearsed.
void takeMakingPictures(MainWindow& window, const std::function<void(const QString&)>& shoot, const QString& folder) {
  window.document().replace(*demo_by_name("thicket-ram", window.document().build().coat.start), {});
  alter(window, [](Build& b) {
    for (Part& p : b.parts)
      if (std::holds_alternative<SweepSpec>(p.shape)) p.way.way = Way::slabs, p.way.along = Axis::side;
  });
  for (const Part& p : window.document().build().parts)
    if (std::holds_alternative<SweepSpec>(p.shape)) window.document().takeInHand(p.id);
  settle(window);
  reveal(window, "way-facts");
  shoot(QStringLiteral("making"));
  window.document().replace(*demo_by_name("reed-mask", window.document().build().coat.start), {});
  settle(window);
  window.findChild<QPushButton*>(QStringLiteral("machine-rehearse"))->click();
  auto* cut = window.findChild<CutRehearsal*>();
  cut->seek(0.45 * cut->state().total_s);
  for (int i = 0; i < 3; ++i) QApplication::processEvents();
  cut->grab().save(folder + QStringLiteral("/machine.png"));
  cut->close();
}

/// One picture of each main view, for the documentation and for looking at.
void takePictures(MainWindow& window, const QString& folder) {
  QDir().mkpath(folder);
  settle(window);
  const auto shoot = [&](const QString& name) {
    for (int i = 0; i < 3; ++i) QApplication::processEvents();
    window.stand().finishedPicture();
    window.grab().save(folder + QLatin1Char('/') + name + QStringLiteral(".png"));
  };
  const Build hood = window.document().build();
  for (const char* id : {"tape", "head", "form", "seams", "foam", "coat", "book"}) {
    window.showStation(QLatin1String(id));
    shoot(QLatin1String(id));
  }
  takeSeamPictures(window, shoot);
  window.document().replace(hood, {});
  settle(window);
  takePatternPictures(window, shoot);
  window.document().replace(hood, {});
  settle(window);
  takeHeadformPictures(window, shoot);
  takeFormPictures(window, shoot, folder);
  takeFoamPictures(window, shoot, folder);
  takeMakingPictures(window, shoot, folder);
  window.document().replace(hood, {});
  settle(window);
  window.setDark(true);
  window.showStation(QStringLiteral("foam"));
  shoot(QStringLiteral("evening"));
  window.setDark(false);
}

/// Pictures are made from the demo's wearers alone, never from a maker's own book.
void useThrowAwayBook() {
  static const QTemporaryDir folder;
  qputenv("XDG_DATA_HOME", folder.path().toLocal8Bit());
}

int run(BenchApplication& app) {
  QCommandLineParser parser;
  parser.addHelpOption();
  parser.addPositionalArgument(QStringLiteral("build"), QStringLiteral("A .noggin file to open."));
  const QCommandLineOption pictures(QStringLiteral("pictures"),
      QStringLiteral("Save a picture of each view of the demo to FOLDER and quit."), QStringLiteral("FOLDER"));
  const QCommandLineOption timed(
      QStringLiteral("first-picture"), QStringLiteral("Print the time to the first picture of the head and quit."));
  parser.addOptions({pictures, timed});
  parser.process(app);
  QElapsedTimer clock;
  clock.start();
  loadShippedFonts();
  applyTheme(false, 11);
  auto chain = Chain::load(data_folder());
  if (!chain)
    return QMessageBox::critical(nullptr, QStringLiteral("Noggin Awl"), QString::fromStdString(chain.error().text)), 1;
  if (parser.isSet(pictures)) useThrowAwayBook();
  const QDate today = parser.isSet(pictures) ? QDate(2026, 10, 5) : QDate::currentDate();
  MainWindow window(*chain, demo_build(Day{static_cast<int>(QDate(1970, 1, 1).daysTo(today))}));
  if (parser.isSet(timed))
    QObject::connect(&window.stand(), &StandView::firstPicture, &app, [&] {
      std::printf("first_picture_ms\t%lld\n", static_cast<long long>(clock.elapsed()));
      std::fflush(stdout);
      QTimer::singleShot(0, &app, &QApplication::quit);
    });
  window.show();
  if (parser.isSet(pictures))
    (void)window.book().readCsv(QString::fromStdString((data_folder() / "demo" / "wearers.csv").string()));
  if (parser.isSet(pictures)) return takePictures(window, parser.value(pictures)), 0;
  app.onFault = [&window](const Error& fault) { window.tellFault(fault); };
  if (!parser.positionalArguments().isEmpty())
    window.openFile(parser.positionalArguments().first());
  else if (!parser.isSet(timed))
    window.offerRecovered();
  const int code = QApplication::exec();
  app.onFault = {};
  return code;
}

}  // namespace

/// Pictures and timings are also wanted where there is no screen.
void goOffscreenIfNeeded(int argc, char** argv) {
  if (qEnvironmentVariableIsSet("QT_QPA_PLATFORM") || qEnvironmentVariableIsSet("DISPLAY") ||
      qEnvironmentVariableIsSet("WAYLAND_DISPLAY"))
    return;
  for (int i = 1; i < argc; ++i)
    if (QByteArray(argv[i]) == "--pictures" || QByteArray(argv[i]) == "--first-picture")
      qputenv("QT_QPA_PLATFORM", "offscreen");
}

int main(int argc, char** argv) {
  const auto done = guarded("starting", [&]() -> Result<int> {
    goOffscreenIfNeeded(argc, argv);
    BenchApplication app(argc, argv);
    return run(app);
  });
  if (done) return *done;
  std::fprintf(stderr, "%s\n", done.error().text.c_str());
  return 1;
}
