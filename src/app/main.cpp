#include <QApplication>
#include <QCommandLineParser>
#include <QDate>
#include <QElapsedTimer>
#include <QMessageBox>
#include <QScreen>
#include <QTemporaryDir>
#include <QTimer>
#include <cstdio>

#include "app/desk/preferences.hpp"
#include "app/shell/bench_application.hpp"
#include "app/shell/build_picture.hpp"
#include "app/shell/drag_bench.hpp"
#include "app/shell/main_window.hpp"
#include "app/shell/pictures.hpp"
#include "app/widgets/theme.hpp"
#include "core/base/data_files.hpp"
#include "core/base/guard.hpp"
#include "core/io/build_file.hpp"
#include "print/fonts.hpp"
#include "print/language.hpp"

namespace {

using namespace awl;

/// Pictures are made from the demo's wearers alone, never from a maker's own book, and with every drawer as it comes.
void useThrowAwayBook() {
  static const QTemporaryDir folder;
  qputenv("XDG_DATA_HOME", folder.path().toLocal8Bit());
  qputenv("XDG_CONFIG_HOME", folder.path().toLocal8Bit());
}

/// Shows it no larger than the screen, at whatever scale that is. What the screen's own frame takes is known once it is
/// there. Pictures are taken at one size everywhere.
void showOnScreen(MainWindow& window) {
  const bool screen = QGuiApplication::platformName() != QLatin1String("offscreen");
  if (screen) window.resize(window.size().boundedTo(window.screen()->availableSize()));
  window.show();
  if (screen)
    QTimer::singleShot(200, &window, [&window] {
      if (window.isMaximized()) return;
      const QSize frame = window.frameGeometry().size() - window.size();
      window.resize(window.size().boundedTo(window.screen()->availableSize() - frame));
    });
}

int run(BenchApplication& app) {
  QCommandLineParser parser;
  parser.addHelpOption();
  parser.addPositionalArgument(QStringLiteral("build"), QStringLiteral("A .noggin file to open."));
  const QCommandLineOption pictures(QStringLiteral("pictures"),
      QStringLiteral("Save a picture of each view of the demo to FOLDER and quit."), QStringLiteral("FOLDER"));
  const QCommandLineOption timed(
      QStringLiteral("first-picture"), QStringLiteral("Print the time to the first picture of the head and quit."));
  const QCommandLineOption drags(QStringLiteral("drags"),
      QStringLiteral("Print how long dragging on the showpiece keeps the window from answering, and quit."));
  const QCommandLineOption demo(QStringLiteral("demo"),
      QStringLiteral("Open this demo at once: heron-warden, hood, reed-mask..."), QStringLiteral("NAME"));
  const QCommandLineOption starts(QStringLiteral("start-pictures"),
      QStringLiteral("Save a picture of each ready start to FOLDER and quit."), QStringLiteral("FOLDER"));
  const QCommandLineOption language(QStringLiteral("language"),
      QStringLiteral("Speak this language, whatever is set: en, de."), QStringLiteral("CODE"));
  parser.addOption(language);
  parser.addOptions({pictures, timed, drags, demo, starts});
  parser.process(app);
  QElapsedTimer clock;
  clock.start();
  // Pictures for the documents are English.
  const bool plain = parser.isSet(pictures) || parser.isSet(drags) || parser.isSet(starts);
  if (!plain) Preferences::keepFromOthers();
  const Preferences prefs = plain ? Preferences{} : Preferences::load();
  const QString tongue = parser.isSet(language) ? parser.value(language) : prefs.language;
  static std::unique_ptr<Language> spoken;  // outlives every window
  if (!tongue.isEmpty() && tongue != QLatin1String("en")) {
    if (auto loaded = Language::load(tongue))
      spoken = std::move(*loaded), app.installTranslator(spoken.get()), Language::use(spoken.get());
    else
      std::fprintf(stderr, "%s\n", loaded.error().text.c_str());
  }
  loadShippedFonts();
  // Before there is a window: what is not shown yet would keep the type it was made with.
  applyTheme(prefs.dark, prefs.type);
  auto chain = Chain::load(data_folder());
  if (!chain)
    return QMessageBox::critical(nullptr, QStringLiteral("Noggin Awl"), QString::fromStdString(chain.error().text)), 1;
  if (parser.isSet(pictures) || parser.isSet(drags)) useThrowAwayBook();
  const QDate today = parser.isSet(pictures) ? QDate(2026, 10, 5) : QDate::currentDate();
  if (parser.isSet(starts)) {
    if (const auto made = writeStartPictures(**chain, parser.value(starts)); !made)
      return std::fprintf(stderr, "%s\n", made.error().text.c_str()), 1;
    return 0;
  }
  const Day day{static_cast<int>(QDate(1970, 1, 1).daysTo(today))};
  auto first = parser.isSet(demo) ? demo_by_name(parser.value(demo).toStdString(), day) : demo_build(day);
  if (!first) return std::fprintf(stderr, "%s\n", first.error().text.c_str()), 2;
  MainWindow window(*chain, std::move(*first));
  if (parser.isSet(timed))
    QObject::connect(&window.stand(), &StandView::firstPicture, &app, [&] {
      std::printf("first_picture_ms\t%lld\n", static_cast<long long>(clock.elapsed()));
      std::fflush(stdout);
      QTimer::singleShot(0, &app, &QApplication::quit);
    });
  if (!plain) window.takePreferences(prefs, false);
  showOnScreen(window);
  if (parser.isSet(pictures))
    (void)window.book().readCsv(QString::fromStdString((data_folder() / "demo" / "wearers.csv").string()));
  if (parser.isSet(pictures)) return takePictures(window, parser.value(pictures)), 0;
  if (parser.isSet(drags)) return benchDrags(app, window), 0;
  app.onFault = [&window](const Error& fault) { window.tellFault(fault); };
  if (!parser.positionalArguments().isEmpty()) {
    window.openFile(parser.positionalArguments().first());
  } else if (!parser.isSet(timed)) {
    if (!parser.isSet(demo)) window.showStart(false);
    window.offerRecovered();
  }
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
    if (QByteArray(argv[i]) == "--pictures" || QByteArray(argv[i]) == "--first-picture" ||
        QByteArray(argv[i]) == "--drags" || QByteArray(argv[i]) == "--start-pictures")
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
