#include "app/shell/pictures.hpp"

#include <QAction>
#include <QApplication>
#include <QCheckBox>
#include <QComboBox>
#include <QDir>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QTableWidget>
#include <QTemporaryDir>
#include <cmath>

#include "app/shell/gallery.hpp"
#include "app/stations/foam/bench_sheet.hpp"
#include "app/widgets/text.hpp"
#include "app/widgets/tray_group.hpp"

namespace awl {
namespace {

/// Lets events run until the chain has finished.
void settle(MainWindow& window) {
  while (window.deriver().isBusy()) QApplication::processEvents(QEventLoop::WaitForMoreEvents, 50);
  QApplication::processEvents();
}

/// Changes the build as a maker would, and waits for what follows.
void alter(MainWindow& window, const std::function<void(Build&)>& edit) {
  window.document().edit(QStringLiteral("for a picture"), [&](Build& next) { edit(next); });
  settle(window);
}

void openOnly(MainWindow& window, const QString& title) {
  for (TrayGroup* group : window.station().findChildren<TrayGroup*>())
    if (group->title() == title) {
      window.station().drawers().reveal(group);
      group->setOpen(true);
    }
}

/// Brings a control of the tray into view.
void reveal(MainWindow& window, const char* name) {
  window.station().drawers().reveal(window.findChild<QWidget*>(QLatin1String(name)));
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
  window.station().drawers().setOpen(QStringLiteral("shape"));
  window.stand().look(0.72f, 0.08f);
  shoot(QStringLiteral("form"));
  alter(window, [](Build& b) { b.parts.clear(); });
  window.findChild<QAction*>(QStringLiteral("add-face-plate"))->trigger();
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

/// The showpiece as worn.
void takeFitPicture(MainWindow& window, const std::function<void(const QString&)>& shoot) {
  window.document().replace(*demo_by_name("heron-warden", today()), {});
  settle(window);
  while (window.deriver().isFitting()) QApplication::processEvents(QEventLoop::WaitForMoreEvents, 50);
  window.showStation(QStringLiteral("fit"));
  window.stand().look(0.7f, 0.10f);
  shoot(QStringLiteral("fit"));
  window.stand().look(0.45f, 0.12f);
}

/// The great helm with its strips and rivets.
void takeDressPicture(MainWindow& window, const std::function<void(const QString&)>& shoot) {
  window.document().replace(*demo_by_name("ferry-keeper", today()), {});
  settle(window);
  window.showStation(QStringLiteral("dress"));
  window.stand().look(0.55f, 0.10f);
  shoot(QStringLiteral("dress"));
  window.stand().look(0.45f, 0.12f);
}

/// The showpiece in its colours, beside what is to be done next.
void takeCoatPicture(MainWindow& window, const Build& hood, const std::function<void(const QString&)>& shoot) {
  window.document().replace(*demo_by_name("heron-warden", hood.coat.start), {});
  settle(window);
  window.showStation(QStringLiteral("coat"));
  window.station().drawers().setOpen(QStringLiteral("colours"));
  window.stand().look(0.55f, 0.10f);
  shoot(QStringLiteral("coat"));
  window.stand().look(0.45f, 0.12f);
}

/// A seam drawn by hand beside a preset's.
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
  reveal(window, "seam-lines");
  window.findChild<QTableWidget*>(QStringLiteral("seam-lines"))->selectRow(0);
  shoot(QStringLiteral("drawn"));
  window.stand().look(0.45f, 0.12f);
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

/// The build sheet of the showpiece, cut partly from an odd offcut, as it is read at the bench.
void takeFoamPictures(MainWindow& window, const QString& folder) {
  window.document().replace(*demo_by_name("heron-warden", window.document().build().coat.start), {});
  settle(window);
  window.showStation(QStringLiteral("foam"));
  reveal(window, "offcut-name");
  window.findChild<QLineEdit*>(QStringLiteral("offcut-name"))->setText(QObject::tr("left of the crest"));
  window.findChild<QLineEdit*>(QStringLiteral("offcut-outline"))
      ->setText(QStringLiteral("0,0 450,0 380,300 200,240 40,310"));
  window.findChild<QPushButton*>(QStringLiteral("offcut-add"))->click();
  window.findChild<QListWidget*>(QStringLiteral("offcuts"))->item(0)->setCheckState(Qt::Checked);
  settle(window);
  reveal(window, "sheet-open");
  window.findChild<QPushButton*>(QStringLiteral("sheet-open"))->click();
  auto* sheet = window.findChild<BenchSheet*>();
  sheet->goTo(6);
  for (int i = 0; i < 3; ++i) QApplication::processEvents();
  sheet->grab().save(folder + QStringLiteral("/build-sheet.png"));
  sheet->close();
}

/// Horns in slabs.
void takeMakingPictures(MainWindow& window, const std::function<void(const QString&)>& shoot) {
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
}

/// The start page with builds of late on it, and the help.
void takeFirstPictures(MainWindow& window, const QString& folder) {
  const QTemporaryDir saved;
  window.showStation(QStringLiteral("form"));
  for (const char* demo : {"heron-warden", "ferry-keeper", "otter-pup", "lamp-post", "thicket-ram"}) {
    const Build build = *demo_by_name(demo, window.document().build().coat.start);
    window.document().replace(build, {});
    settle(window);
    window.stand().finishedPicture();
    window.saveTo(saved.filePath(QString::fromStdString(build.name)));
  }
  window.showStart(true);
  QApplication::processEvents();
  window.grab().save(folder + QStringLiteral("/start.png"));
  window.showHelp(QStringLiteral("station-foam"));
  QApplication::processEvents();
  window.help()->grab().save(folder + QStringLiteral("/help.png"));
  window.help()->hide();
}

}  // namespace

void takePictures(MainWindow& window, const QString& folder) {
  QDir().mkpath(folder);
  settle(window);
  const auto shoot = [&](const QString& name) {
    for (int i = 0; i < 3; ++i) QApplication::processEvents();
    window.stand().finishedPicture();
    window.grab().save(folder + QLatin1Char('/') + name + QStringLiteral(".png"));
  };
  const Build hood = window.document().build();
  for (const char* id : {"tape", "head", "form", "seams", "foam", "book"}) {
    window.showStation(QLatin1String(id));
    shoot(QLatin1String(id));
  }
  takeFitPicture(window, shoot);
  takeDressPicture(window, shoot);
  takeCoatPicture(window, hood, shoot);
  window.document().replace(hood, {});
  settle(window);
  takeSeamPictures(window, shoot);
  window.document().replace(hood, {});
  settle(window);
  takePatternPictures(window, shoot);
  window.document().replace(hood, {});
  settle(window);
  takeHeadformPictures(window, shoot);
  takeFormPictures(window, shoot, folder);
  takeFoamPictures(window, folder);
  takeMakingPictures(window, shoot);
  window.document().replace(hood, {});
  settle(window);
  takeFirstPictures(window, folder);
}

}  // namespace awl
