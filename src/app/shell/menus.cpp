#include <QAction>
#include <QApplication>
#include <QClipboard>
#include <QComboBox>
#include <QDialogButtonBox>
#include <QMessageBox>
#include <QPlainTextEdit>
#include <QScreen>
#include <QBuffer>
#include <QFileInfo>
#include <QKeyEvent>
#include <QMenu>
#include <QProcess>
#include <QTimer>
#include <QToolTip>
#include <QHelpEvent>
#include <QMenuBar>

#include "print/money.hpp"
#include "print/text.hpp"
#include "app/desk/preferences.hpp"
#include "app/desk/print_desk.hpp"
#include "app/desk/recent.hpp"
#include "app/shell/finder.hpp"
#include "app/shell/main_window.hpp"
#include "app/desk/tab_order.hpp"
#include "app/widgets/theme.hpp"
#include "core/base/data_files.hpp"
#include "core/io/build_json.hpp"

namespace awl {

void MainWindow::makeBuildMenu(const AddAction& add) {
  const QString filter = tr("Builds (*.noggin)");
  QMenu* build = menuBar()->addMenu(tr("&Build"));
  add(build, QStringLiteral("act-new"), tr("&New\u2026"), QKeySequence::New, [this](bool) { showStart(true); });
  add(build, QStringLiteral("act-open"), tr("&Open\u2026"), QKeySequence::Open, [this, filter](bool) {
    if (!mayLeave()) return;
    if (const QString path = asking.path(false, tr("Open a build"), {}, filter); !path.isEmpty()) openFile(path);
  });
  m_recentMenu = build->addMenu(tr("Open &recent"));
  m_recentMenu->setObjectName(QStringLiteral("menu-recent"));
  connect(m_recentMenu, &QMenu::aboutToShow, this, &MainWindow::renewRecentMenu);
  add(build, QStringLiteral("act-demo"), tr("Open the &demo"), {}, [this](bool) {
    if (!mayLeave()) return;
    m_document.replace(demo_build(m_document.build().coat.start), {});
    bringForward(false);
  });
  add(build, QStringLiteral("act-gallery"), tr("Demo &gallery\u2026"), {}, [this](bool) { showGallery(); });
  add(build, QStringLiteral("act-window"), tr("Another &window"), {QStringLiteral("Ctrl+Shift+N")}, [this](bool) {
    if (!QProcess::startDetached(QApplication::applicationFilePath(), {}))
      say({Errc::cannot_write, "Another window could not be started.", {}});
  });
  add(build, QStringLiteral("act-save"), tr("&Save"), QKeySequence::Save, [this, filter](bool) {
    if (!hasBuild()) return;
    const QString path = m_document.path().isEmpty()
        ? asking.path(true, tr("Save the build"), QStringLiteral("build.noggin"), filter)
        : m_document.path();
    if (!path.isEmpty()) saveTo(path);
  });
  add(build, QStringLiteral("act-save-as"), tr("Save &as\u2026"), QKeySequence::SaveAs, [this, filter](bool) {
    if (!hasBuild()) return;
    if (const QString path = asking.path(true, tr("Save the build"), m_document.path(), filter); !path.isEmpty())
      saveTo(path);
  });
  build->addSeparator();
  add(build, QStringLiteral("act-hood"), tr("Save &worn parts as a mesh\u2026"), {}, [this](bool) {
    if (!hasBuild()) return;
    askExport(QStringLiteral("hood"));
  });
  add(build, QStringLiteral("act-headform"), tr("Save head&form mesh\u2026"), {}, [this](bool) {
    if (!hasBuild()) return;
    askExport(QStringLiteral("headform"));
  });
  add(build, QStringLiteral("act-picture"), tr("Save &picture of the stand\u2026"), {}, [this](bool) {
    if (!hasBuild()) return;
    const QString path = asking.path(true, tr("Save the picture"), QStringLiteral("stand.png"), tr("Pictures (*.png)"));
    if (path.isEmpty()) return;
    // In memory first: only the one writer knows whether the bytes reached the disk.
    QBuffer png;
    png.open(QIODevice::WriteOnly);
    m_stand->finishedPicture().save(&png, "PNG");
    if (const auto saved = write_file_safely(path.toStdString(), png.data().toStdString()); !saved) say(saved.error());
  });
  add(build, QStringLiteral("act-print"), tr("Print pa&tterns\u2026"), QKeySequence::Print, [this](bool) {
    if (!hasBuild()) return;
    openPrintDesk();
  });
  build->addSeparator();
  add(build, QStringLiteral("act-quit"), tr("&Quit"), QKeySequence::Quit, [this](bool) { close(); });
}

void MainWindow::makeMenus() {
  const AddAction add = [this](QMenu* menu, const QString& name, const QString& text, const QKeySequence& keys,
                            const std::function<void(bool)>& act) {
    auto* action = menu->addAction(text);
    action->setObjectName(name);
    action->setShortcut(keys);
    connect(action, &QAction::triggered, this, act);
    return action;
  };
  makeBuildMenu(add);
  QMenu* edit = menuBar()->addMenu(tr("&Edit"));
  QAction* undo = m_document.undoStack().createUndoAction(this, tr("Undo"));
  QAction* redo = m_document.undoStack().createRedoAction(this, tr("Redo"));
  undo->setShortcut(QKeySequence::Undo);
  redo->setShortcuts({QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_Z), QKeySequence(Qt::CTRL | Qt::Key_Y)});
  edit->addActions({undo, redo});
  edit->addSeparator();
  add(edit, QStringLiteral("act-find"), tr("&Where is it set?"), QKeySequence::Find, [this](bool) { openFinder(); });
  add(edit, QStringLiteral("act-preferences"), tr("&Preferences\u2026"), {QStringLiteral("Ctrl+,")}, [this](bool) {
    auto* dialog = new PreferencesDialog(Preferences::load(), this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &QDialog::accepted, this, [this, dialog] { takePreferences(dialog->chosen(), true); });
    dialog->open();
  });

  QMenu* bench = menuBar()->addMenu(tr("B&ench"));
  for (std::size_t i = 0; i < m_stations.size(); ++i)
    add(bench, QStringLiteral("go-") + m_stations[i]->id(), m_stations[i]->word(),
        QKeySequence(Qt::CTRL | static_cast<Qt::Key>(Qt::Key_1 + i)),
        [this, id = m_stations[i]->id()](bool) { showStation(id); });
  bench->addSeparator();
  add(bench, QStringLiteral("act-next-drawer"), tr("Next drawer"), {QStringLiteral("Ctrl+Tab")},
      [this](bool) { stepDrawer(1); });
  add(bench, QStringLiteral("act-previous-drawer"), tr("Drawer before"), {QStringLiteral("Ctrl+Shift+Tab")},
      [this](bool) { stepDrawer(-1); });
  auto* dark = add(bench, QStringLiteral("act-dark"), tr("Evening light"), {}, [this](bool on) { setDark(on); });
  auto* large = add(bench, QStringLiteral("act-large"), tr("Large type"), {},
      [this](bool on) { setType(on ? kTypeSizes[1] : kTypeSizes[0]); });
  dark->setCheckable(true);
  large->setCheckable(true);
  makeHelpMenu();
}

/// Stations that were not shown yet are filled one by one while words are typed.
void MainWindow::openFinder() {
  if (!hasBuild()) return;
  if (m_atStart) bringForward(false);
  auto* finder = new Finder(m_stations, this);
  finder->setAttribute(Qt::WA_DeleteOnClose);
  connect(finder, &Finder::chosen, this, [this](Station* station, QWidget* control, const QString& name) {
    showStation(station->id());
    station->focusOn(control);
    if (!control->isVisibleTo(station))
      return m_remarks->showRefusal(tr("%1: as things are made now, nothing asks for it.").arg(name));
    if (auto* line = qobject_cast<QLineEdit*>(control)) line->selectAll();
  });
  auto* filling = new QTimer(finder);
  connect(filling, &QTimer::timeout, finder, [this, filling, finder, next = std::size_t{0}]() mutable {
    if (next >= m_stations.size()) return filling->stop();
    if (Station* station = m_stations[next++]; station != m_current) {
      station->show(m_document.build(), seen());
      finder->renew();
    }
  });
  filling->start(0);
  finder->open();
}

void MainWindow::makeHelpMenu() {
  QMenu* menu = menuBar()->addMenu(tr("&Help"));
  const auto add = [&](const char* name, const QString& text, const QKeySequence& keys, auto&& act) {
    QAction* action = menu->addAction(text);
    action->setObjectName(QLatin1String(name));
    action->setShortcut(keys);
    connect(action, &QAction::triggered, this, act);
  };
  add("act-help", tr("About what is at &hand"), QKeySequence::HelpContents, [this] {
    if (QToolTip::isVisible() && m_tipOf != nullptr) return showHelpOf(*m_tipOf);
    showHelp();
  });
  add("act-first", tr("&First hour"), {}, [this] { showHelp(QStringLiteral("start")); });
  add("act-walk", tr("A &walk on the demo"), {}, [this] { beginWalk(); });
  add("act-safety", tr("&Safety"), {}, [this] { showHelp(QStringLiteral("safety")); });
  add("act-keys", tr("&Keys"), {}, [this] { showHelp(QStringLiteral("keys")); });
  menu->addSeparator();
  add("act-report", tr("&Report a fault\u2026"), {}, [this] {
    QDialog dialog(this);
    dialog.setObjectName(QStringLiteral("report"));
    dialog.setWindowTitle(tr("Report a fault"));
    dialog.resize(640, 420);
    auto* column = new QVBoxLayout(&dialog);
    auto* words = new QLabel(tr("Look through it, say what you did and what came of it, and send it yourself. It holds "
                                "nothing of your builds, wearers or files, and goes nowhere by itself."),
        &dialog);
    words->setWordWrap(true);
    column->addWidget(words);
    auto* text = new QPlainTextEdit(report(), &dialog);
    text->setObjectName(QStringLiteral("report-text"));
    text->setAccessibleName(tr("Report"));
    text->setToolTip(tr("May be changed before it is copied."));
    column->addWidget(text);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close, &dialog);
    QPushButton* copy = buttons->addButton(tr("Copy it"), QDialogButtonBox::ActionRole);
    connect(
        copy, &QPushButton::clicked, &dialog, [text] { QGuiApplication::clipboard()->setText(text->toPlainText()); });
    connect(buttons, &QDialogButtonBox::rejected, &dialog, &QDialog::reject);
    column->addWidget(buttons);
    dialog.exec();
  });
  add("act-about", tr("&About Noggin Awl"), {}, [this] {
    QMessageBox::about(this, tr("About Noggin Awl"),
        tr("<h3>Noggin Awl %1</h3><p>From head measures to costume helms, masks, hats and horns in foam.</p>"
           "<p>Nothing made with it is protective headgear.</p>"
           "<p>Free software under the GNU General Public License, version 3 or later; it comes without any warranty. "
           "It stands on Qt, Eigen, CGAL, Embree, Clipper, SuiteSparse, SQLite, libzip, pugixml and others, each under "
           "its own licence; the fonts Inter and JetBrains Mono are under the SIL Open Font License.</p>")
            .arg(QLatin1String(NOGGIN_AWL_VERSION)));
  });
}

void MainWindow::beginWalk() {
  if (!mayLeave()) return;
  m_document.replace(demo_build(m_document.build().coat.start), {});
  bringForward(false);
  showStation(QStringLiteral("tape"));
  m_walk->begin(sight());
}

WalkSight MainWindow::sight() const { return {m_document.build(), m_current->id(), m_current->drawers().open()}; }

HelpWindow& MainWindow::openHelp() {
  if (m_help == nullptr) {
    m_help = new HelpWindow(helpPages(m_stations, findChildren<QAction*>()), this);
    m_help->setModal(false);
  }
  return *m_help;
}

/// Every tip says where more stands: at F1, while it is shown.
bool MainWindow::eventFilter(QObject* watched, QEvent* event) {
  if (event->type() != QEvent::ToolTip) return QMainWindow::eventFilter(watched, event);
  auto* control = qobject_cast<QWidget*>(watched);
  if (control == nullptr || control->toolTip().isEmpty() || control->window() != this ||
      Qt::mightBeRichText(control->toolTip()))
    return QMainWindow::eventFilter(watched, event);
  m_tipOf = control;
  QToolTip::showText(static_cast<QHelpEvent*>(event)->globalPos(),
      QStringLiteral("<qt>%1<br><span style='color:%2'>%3</span></qt>")
          .arg(control->toolTip().toHtmlEscaped(), palette().color(QPalette::PlaceholderText).name(), tr("F1: more")),
      control);
  return true;
}

void MainWindow::showHelpOf(const QWidget& control) {
  const QString name = nameOf(control);
  QString heading, page = isAtStart() ? QStringLiteral("start") : QStringLiteral("station-") + m_current->id();
  for (const QWidget* up = &control; up != nullptr; up = up->parentWidget()) {
    const QString called = up->objectName();
    const QString tab = called.startsWith(QLatin1String("drawer-")) ? QStringLiteral("tab-") + called.mid(7)
        : called.startsWith(QLatin1String("tab-"))                  ? called
                                                                    : QString();
    if (const auto* word = tab.isEmpty() ? nullptr : findChild<QToolButton*>(tab)) {
      heading = word->text();
      break;
    }
  }
  // What can be turned on a detail or a part stands on a page of its own.
  const QString own = m_current->helpPage(control);
  if (!own.isEmpty()) page = own, heading.clear();
  HelpWindow& help = openHelp();
  help.showPage(page, heading, name);
  help.show();
  help.raise();
}

void MainWindow::showHelp(const QString& page) {
  openHelp();
  if (!page.isEmpty())
    m_help->showPage(page);
  else if (isAtStart())
    m_help->showPage(QStringLiteral("start"));
  else
    m_help->showPage(QStringLiteral("station-") + m_current->id(), m_current->drawers().openWord());
  m_help->show();
  m_help->raise();
}

QString MainWindow::report() const {
  QStringList lines{QStringLiteral("Noggin Awl %1, format %2").arg(QLatin1String(NOGGIN_AWL_VERSION)).arg(kBuildFormat),
      QStringLiteral("Qt %1, %2, %3")
          .arg(QLatin1String(qVersion()), QSysInfo::prettyProductName(), QSysInfo::currentCpuArchitecture()),
      QStringLiteral("platform %1, language %2").arg(QGuiApplication::platformName(), QLocale().name()),
      QStringLiteral("window %1 x %2 at scale %3").arg(width()).arg(height()).arg(devicePixelRatioF())};
  for (const QScreen* screen : QGuiApplication::screens())
    lines << QStringLiteral("screen %1 x %2").arg(screen->size().width()).arg(screen->size().height());
  lines << QStringLiteral("station %1, %2 parts").arg(m_current->id()).arg(m_document.build().parts.size());
  for (const Remark& r : m_deriver.latest().remarks) lines << QStringLiteral("remark ") + QString::fromStdString(r.id);
  lines << QString() << tr("What I did:") << QString() << tr("What came of it, and what I had expected:");
  return lines.join(QLatin1Char('\n'));
}

/// Its words are never cut, however much the line below wants: rather the window grows.
void MainWindow::keepFootWhole() {
  auto* foot = findChild<QLabel*>(QStringLiteral("rail-foot"));
  foot->ensurePolished();
  foot->setMinimumHeight(foot->heightForWidth(foot->parentWidget()->width()));
}

void MainWindow::renewRecentMenu() {
  m_recentMenu->clear();
  for (const QString& path : Recent::list()) {
    QAction* one = m_recentMenu->addAction(QFileInfo(path).completeBaseName());
    one->setToolTip(path);
    connect(one, &QAction::triggered, this, [this, path] { openAnother(path); });
  }
  if (m_recentMenu->isEmpty()) m_recentMenu->addAction(tr("Nothing was saved yet"))->setEnabled(false);
}

void MainWindow::takePreferences(const Preferences& wanted, bool keep) {
  Preferences prefs = wanted;
  if (const auto moved = keep ? m_book.moveTo(prefs.book) : Result<void>{}; !moved)
    prefs.book = Preferences::load().book, say(moved.error());
  m_saysNext = prefs.next;
  setStill(prefs.still), setMoneySign(prefs.money);
  Station::showChoice(findChild<QComboBox*>(QStringLiteral("print-paper")), prefs.paper.toStdString());
  renewNext();
  if (keep && !prefs.save())
    say({Errc::cannot_write,
        "The preferences hold for now, but could not be kept: the settings folder cannot be "
        "written.",
        {}});
  findChild<QAction*>(QStringLiteral("act-dark"))->setChecked(prefs.dark);
  findChild<QAction*>(QStringLiteral("act-large"))->setChecked(prefs.type > kTypeSizes[0]);
  setDark(prefs.dark);
  setType(prefs.type);
}

/// Trays are filled anew as the build changes: what Qt remembers is the order in which things were made.
bool MainWindow::focusNextPrevChild(bool next) {
  return moveFocusAsTheEye(m_startArea->isVisible() ? static_cast<QWidget&>(*m_start) : *centralWidget(), next);
}

/// Enter presses the button the keys go to, as Space does.
void MainWindow::keyPressEvent(QKeyEvent* event) {
  auto* button = qobject_cast<QAbstractButton*>(focusWidget());
  if (button != nullptr && !event->isAutoRepeat() && (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter))
    return button->click();
  QMainWindow::keyPressEvent(event);
}

void MainWindow::setDark(bool dark) {
  m_dark = dark;
  applyTheme(dark, m_type);
  m_stand->setDark(dark);
  m_mat->setDark(dark);
  for (Station* s : m_stations) s->setDark(dark);
}

void MainWindow::setType(int percent) {
  m_type = percent;
  applyTheme(m_dark, percent);
  // The tray grows less than its type: its texts wrap.
  constexpr double kTrayPx = 362.0, kRailPx = 116.0;
  const double more = 0.01 * percent - 1.0;
  m_tray->setFixedWidth(static_cast<int>(kTrayPx * (1.0 + 0.75 * more)));
  findChild<QWidget*>(QStringLiteral("rail"))->setFixedWidth(static_cast<int>(kRailPx * (1.0 + 0.6 * more)));
  keepFootWhole();
  // Larger type in a window that grows with it, as far as the screen goes.
  constexpr double kGrows = 0.5;
  const QSize wanted(static_cast<int>(1280 * (1.0 + kGrows * more)), static_cast<int>(800 * (1.0 + kGrows * more)));
  if (more > 0.0 && !isMaximized() && !isFullScreen())
    resize(size().expandedTo(wanted).boundedTo(screen()->availableSize()));
}

void MainWindow::openPrintDesk() {
  const Derived& d = m_deriver.latest();
  if (!d.pieces || !d.layout)
    return say({Errc::no_solution, "There is nothing to print yet; the remarks say what is missing.", {}});
  // The desk outlives this call: it holds the build its parts are named by.
  const auto build = std::make_shared<const Build>(m_document.build());
  auto* desk = new PrintDesk(
      d.pieces, d.layout, QString::fromStdString(build->name),
      [build, names = part_names(*build, d)](const Piece& piece) { return names(piece); }, this);
  desk->setAttribute(Qt::WA_DeleteOnClose);
  desk->open();
}

void MainWindow::openAnother(const QString& path) {
  if (!QFileInfo::exists(path)) {
    Recent::remove(QFileInfo(path).absoluteFilePath());
    m_start->renew(m_start->offersBack());
    return say({Errc::cannot_read,
        path.toStdString() + " is not there any more; it was taken off the list. Was it moved, or is its drive not in?",
        {}});
  }
  if (mayLeave()) openFile(path);
}

/// At the start page before any build there is nothing to save or print; that is said.
bool MainWindow::hasBuild() {
  if (!isAtStart() || m_start->offersBack()) return true;
  m_start->tell(tr("There is no build yet: start one, or open one."));
  return false;
}

void MainWindow::bringForward(bool start) {
  m_atStart = start;
  m_bench->setEnabled(!start);  // what lies below is not reached by keys either
  m_startArea->setGeometry(m_bench->geometry());
  m_startArea->setVisible(start);
  if (start) m_startArea->raise();
}

void MainWindow::showStart(bool back) {
  m_start->renew(back);
  if (!back) setWindowTitle(QStringLiteral("Noggin Awl"));
  bringForward(true);
}

void MainWindow::startFresh(const FreshBuild& wish) {
  if (!mayLeave()) return;
  auto build = fresh_build(wish, m_chain->materials(), m_chain->fitter().populations());
  if (!build) return say(build.error());
  for (Part& part : build->parts) part.name = qs(part.name).toStdString();
  // "Cowl for Mara": the thing in the language of the program, the name as it is.
  if (const std::string whose = wish.wearer.empty() ? "" : " for " + wish.wearer; wish.name.empty()) {
    const QString thing = qs(build->name.substr(0, build->name.size() - whose.size()));
    build->name =
        (whose.empty() ? thing : tr("%1 for %2").arg(thing, QString::fromStdString(wish.wearer))).toStdString();
  }
  const bool headform = build->making == Making::headform;
  Preferences::load().give(*build);
  m_framed = kAnyNumberOfParts;
  m_document.replace(std::move(*build), {});
  bringForward(false);
  showStation(headform ? QStringLiteral("head") : QStringLiteral("tape"));
  m_stand->setFocus();
}

}  // namespace awl
