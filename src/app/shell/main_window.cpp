#include "app/shell/main_window.hpp"

#include <QAbstractItemView>
#include <QAction>
#include <QApplication>
#include <array>
#include <QBuffer>
#include <QCloseEvent>
#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QLabel>
#include <QMenuBar>
#include <QMessageBox>
#include <QPushButton>
#include <QImageReader>
#include <QSettings>

#include "app/stations/book_station.hpp"
#include "app/shell/gallery.hpp"
#include "app/stations/foam_station.hpp"
#include "app/stations/form_station.hpp"
#include "app/stations/seams_station.hpp"
#include "app/shell/exporter.hpp"
#include "app/stations/head_station.hpp"
#include "app/widgets/bench_sheet.hpp"
#include "app/widgets/photo_trace.hpp"
#include "app/widgets/theme.hpp"
#include "core/base/data_files.hpp"
#include "core/base/numbers.hpp"
#include "core/stock/bears.hpp"
#include "core/builds/to_cut.hpp"
#include "core/geom/mesh_file.hpp"
#include "core/io/build_file.hpp"
#include "core/io/drawing_file.hpp"
#include "print/bench_pages.hpp"
#include "print/build_sheet.hpp"
#include "print/tiled_pdf.hpp"

namespace awl {
MainWindow::MainWindow(std::shared_ptr<const Chain> chain, Build build)
    : m_chain(chain), m_document(chain, std::move(build)), m_deriver(chain), m_rail(new QButtonGroup(this)),
      m_ticket(new Ticket(m_document, this)), m_stand(new StandView(this)), m_mat(new MatView(this)),
      m_plan(new PlanView), m_views(new QSplitter(Qt::Horizontal, this)), m_middle(new QStackedWidget(this)),
      m_tray(new QStackedWidget(this)), m_remarks(new RemarksLine(this)) {
  setObjectName(QStringLiteral("bench"));
  resize(1280, 800);
  askPath = [this](bool save, const QString& title, const QString& suggested, const QString& filter) {
    return save ? QFileDialog::getSaveFileName(this, title, suggested, filter)
                : QFileDialog::getOpenFileName(this, title, suggested, filter);
  };
  askFolder = [this](const QString& title) { return QFileDialog::getExistingDirectory(this, title); };
  askUnsaved = [this] {
    const auto answer = QMessageBox::question(this, tr("Unsaved work"),
        tr("\"%1\" has changes that are in no file yet.").arg(QString::fromStdString(m_document.build().name)),
        QMessageBox::Save | QMessageBox::Discard | QMessageBox::Cancel);
    return answer == QMessageBox::Save ? 0 : answer == QMessageBox::Discard ? 1 : 2;
  };
  const auto askOfThree = [this](const QString& title, const QString& words, const QString& first,
                              const QString& second, const QString& third) {
    QMessageBox box(QMessageBox::Question, title, words, QMessageBox::NoButton, this);
    const std::array<QPushButton*, 3> buttons{box.addButton(first, QMessageBox::AcceptRole),
        box.addButton(second, QMessageBox::DestructiveRole), box.addButton(third, QMessageBox::RejectRole)};
    box.setDefaultButton(buttons[0]);
    box.setEscapeButton(buttons[2]);  // leaving the question harms nothing
    box.exec();
    return static_cast<int>(std::find(buttons.begin(), buttons.end(), box.clickedButton()) - buttons.begin()) % 3;
  };
  askRecovered = [askOfThree](const QString& words) {
    return askOfThree(tr("Unsaved work"), words, tr("Open it"), tr("Throw it away"), tr("Keep it for later"));
  };
  askOver = [askOfThree](const QString& words) {
    return askOfThree(
        tr("Changed elsewhere"), words, tr("Save over it"), tr("Under another name\u2026"), tr("Do not save"));
  };
  m_stations = makeStations(m_document, *m_chain, m_book, this);
  m_current = m_stations.front();
  makeMenus();
  layOut(makeRail(), makeTray());
  // Tab leads on through the window; the arrow keys move within a table.
  for (auto* view : findChildren<QAbstractItemView*>()) view->setTabKeyNavigation(false);
  connectAll();
  showStation(QStringLiteral("tape"));
  renewFromBuild();
  m_stand->setFocus();
}

QWidget* MainWindow::makeRail() {
  auto* rail = new QWidget(this);
  rail->setObjectName(QStringLiteral("rail"));
  rail->setAttribute(Qt::WA_StyledBackground);
  rail->setFixedWidth(116);
  auto* column = new QVBoxLayout(rail);
  column->setContentsMargins(0, 8, 0, 8);
  column->setSpacing(2);
  for (std::size_t i = 0; i < m_stations.size(); ++i) {
    auto* button = new QPushButton(m_stations[i]->word(), rail);
    button->setObjectName(QStringLiteral("rail-") + m_stations[i]->id());
    button->setCheckable(true);
    button->setMinimumHeight(44);
    button->setMaximumHeight(56);
    button->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Expanding);
    m_rail->addButton(button, static_cast<int>(i));
    column->addWidget(button);
  }
  column->addStretch(1);
  m_clock = new GlueClock(m_book, rail);
  column->addWidget(m_clock);
  auto* foot = new QLabel(tr("Not protective headgear"), rail);
  foot->setObjectName(QStringLiteral("rail-foot"));
  foot->setWordWrap(true);
  foot->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Minimum);  // never cut: rather the rail wants more room
  column->addWidget(foot);
  return rail;
}

QWidget* MainWindow::makeTray() {
  m_tray->setObjectName(QStringLiteral("tray"));
  m_tray->setAttribute(Qt::WA_StyledBackground);
  for (Station* station : m_stations) {
    auto* scroll = new QScrollArea(m_tray);
    scroll->setWidgetResizable(true);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setFrameShape(QFrame::NoFrame);
    station->setAttribute(Qt::WA_StyledBackground);
    scroll->setWidget(station);
    scroll->viewport()->setAutoFillBackground(false);
    m_tray->addWidget(scroll);
  }
  m_tray->setFixedWidth(362);
  return m_tray;
}

void MainWindow::layOut(QWidget* rail, QWidget* tray) {
  m_views->setObjectName(QStringLiteral("views"));
  m_views->addWidget(m_stand);
  m_views->addWidget(m_mat);
  m_views->setChildrenCollapsible(false);
  m_views->setSizes({430, 560});
  auto* plan = new QScrollArea(this);
  plan->setWidgetResizable(true);
  plan->setFrameShape(QFrame::NoFrame);
  plan->setWidget(m_plan);
  m_middle->addWidget(m_views);
  m_middle->addWidget(plan);
  for (Station* station : m_stations)
    if (station->page() != nullptr) m_middle->addWidget(station->page());
  auto* body = new QWidget(this);
  auto* row = new QHBoxLayout;
  row->setContentsMargins(0, 0, 0, 0);
  row->setSpacing(0);
  row->addWidget(rail);
  row->addWidget(m_middle, 1);
  row->addWidget(tray);
  auto* column = new QVBoxLayout(body);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(0);
  column->addWidget(m_ticket);
  column->addLayout(row, 1);
  column->addWidget(m_remarks);
  setCentralWidget(body);
}

void MainWindow::connectAll() {
  connect(m_rail, &QButtonGroup::idClicked, this, [this](int i) { showStation(m_stations[i]->id()); });
  connect(&m_document, &Document::changed, this, &MainWindow::renewFromBuild);
  connect(&m_document, &Document::refused, this, [this](const QString& sentence, const QString&) {
    m_remarks->showRefusal(sentence);
    for (Station* s : m_stations) s->show(m_document.build(), m_deriver.latest());
  });
  connect(&m_deriver, &Deriver::updated, this, &MainWindow::renewFromDerived);
  connect(&m_deriver, &Deriver::busyChanged, this, [this](bool busy) {
    m_stand->setRenewing(busy);
    m_mat->setRenewing(busy);
    renewRail();
  });
  connect(m_remarks, &RemarksLine::remedyPressed, this, &MainWindow::carryOut);
  connect(m_remarks, &RemarksLine::placeClicked, this, &MainWindow::goToPlace);
  connectHead();
  connectForm();
  connectSeams();
  connectFoam();
  const auto point = [this](int panel) { lightPanel(panel >= 0 ? panel : m_chosen); };
  const auto choose = [this](int panel) { m_chosen = panel, lightPanel(panel); };
  connect(m_stand, &StandView::panelPointed, this, point);
  connect(m_mat, &MatView::panelPointed, this, point);
  connect(m_stand, &StandView::panelClicked, this, choose);
  connect(m_mat, &MatView::panelClicked, this, choose);
  connect(m_stand, &StandView::measureClicked, this,
      [this](int measure) { goToPlace(QLatin1String(measure_facts()[measure].code)); });
  for (Station* s : m_stations) {
    connect(s, &Station::panelChosen, this, choose);
    connect(s, &Station::told, m_remarks, &RemarksLine::showRefusal);
    if (auto* book = qobject_cast<BookStation*>(s)) {
      connect(book, &BookStation::folderWanted, this, [this, book] {
        const QString folder = askFolder(tr("Folder for the builds"));
        if (!folder.isEmpty()) book->makeForAll(folder);
      });
      connect(book, &BookStation::csvWanted, this, [this, book](bool save) {
        const QString path =
            askPath(save, tr("Table of wearers"), QStringLiteral("wearers.csv"), tr("Tables (*.csv *.txt)"));
        if (!path.isEmpty()) save ? book->writeCsv(path) : book->readCsv(path);
      });
    }
    connect(s, &Station::standChanged, this, [this, s] {
      if (s == m_current) renewViews();
    });
  }
}

void MainWindow::connectHead() {
  auto* head = findChild<HeadStation*>();
  connect(head, &HeadStation::compareChanged, this, [this, head] {
    head->show(m_document.build(), m_deriver.latest());
    renewViews();
  });
  connect(head, &HeadStation::pageWanted, this, [this](const QString& kind) {
    const QString path = askPath(true, tr("Save the page"), kind + QStringLiteral(".pdf"), QStringLiteral("*.pdf"));
    if (!path.isEmpty()) printPage(kind, path);
  });
  connect(head, &HeadStation::meshWanted, this, [this](const QString& kind) {
    const QString path =
        askPath(true, tr("Save the mesh"), kind + QStringLiteral(".stl"), tr("Meshes (*.stl *.obj *.ply)"));
    if (!path.isEmpty()) exportTo(kind, path);
  });
  connect(head, &HeadStation::scanWanted, this, [this, head] {
    const QString path = askPath(false, tr("Read a scan"), {}, tr("Scans (*.ply *.obj *.stl *.off)"));
    if (!path.isEmpty()) head->scan().read(path);
  });
  connect(m_stand, &StandView::surfaceClicked, this, [head](double x, double y, double z) {
    head->scan().placeClicked({x, y, z});
  });
}

void MainWindow::connectForm() {
  auto* form = findChild<FormStation*>();
  CompareTray* compare = &form->compare();
  connect(m_stand, &StandView::gripMoved, form, &FormStation::gripMoved);
  connect(form, &FormStation::gripText, m_stand, &StandView::setGripText);
  connect(m_stand, &StandView::wornClicked, form, [form](double x, double y, double z) {
    form->placeClicked({x, y, z}, false);
  });
  connect(m_stand, &StandView::surfaceClicked, form, [form](double x, double y, double z) {
    form->placeClicked({x, y, z}, true);
  });
  connect(form, &FormStation::galleryWanted, this, &MainWindow::showGallery);
  connect(form, &FormStation::importWanted, this, [this, form] {
    const QString path = askPath(false, tr("Bring in a mesh"), {}, tr("Meshes (*.obj *.stl *.ply *.off)"));
    if (!path.isEmpty()) form->importMesh(path);
  });
  connect(&m_document, &Document::partTaken, this, &MainWindow::takePart);
  connect(compare, &CompareTray::pictureWanted, this, [this, compare] {
    const QString path = askPath(false, tr("Pin a picture"), {}, tr("Pictures (*.png *.jpg *.jpeg)"));
    if (!path.isEmpty()) compare->pin(path);
  });
  connect(compare, &CompareTray::lookWanted, this, [this](const QString& view) {
    const double turns[] = {0.0, 0.5, -0.5, 1.0};
    const int i = static_cast<int>(*look_from(view.toStdString()));
    m_stand->look(i < 4 ? static_cast<float>(kPi * turns[i]) : 0.0f, i == 4 ? 1.5f : 0.0f);
  });
  connect(m_stand, &StandView::looked, compare, &CompareTray::looked);
  connect(m_stand, &StandView::backdropClicked, compare, &CompareTray::pictureClicked);
  connect(compare, &CompareTray::backdropChanged, this, [this, compare] {
    const Reference* r = m_current->id() == QLatin1String("form") ? compare->shown() : nullptr;
    const QImage picture = r != nullptr && r->bytes ? QImage::fromData(QByteArray::fromStdString(*r->bytes)) : QImage();
    m_stand->setBackdrop(picture, r != nullptr ? r->mm_per_pixel : 1.0,
        r != nullptr ? QPointF(r->origin_px.x(), r->origin_px.y()) : QPointF(), 0.45);
  });
}

void MainWindow::connectSeams() {
  LineTray* lines = &findChild<SeamsStation*>()->lines();
  connect(m_stand, &StandView::wornClicked, lines, [lines](double x, double y, double z) {
    lines->placeClicked({x, y, z});
  });
  connect(m_stand, &StandView::markerMoved, lines,
      [lines](const QString& marker, double x, double y, double z, bool whole, bool last) {
        lines->markerMoved(marker, {x, y, z}, whole, last);
      });
  connect(lines, &LineTray::gripText, m_stand, &StandView::setGripText);
  connect(m_stand, &StandView::panelClicked, lines, &LineTray::panelChosen);
  connect(m_mat, &MatView::panelClicked, lines, &LineTray::panelChosen);
}

void MainWindow::connectFoam() {
  auto* foam = findChild<FoamStation*>();
  connect(foam, &FoamStation::exportWanted, this, &MainWindow::askExport);
  connect(foam, &FoamStation::machineFilesWanted, this, &MainWindow::saveForMachine);
  connect(foam, &FoamStation::photoWanted, this, &MainWindow::traceOffcut);
  connect(m_mat, &MatView::told, m_remarks, &RemarksLine::showRefusal);
  connect(m_mat, &MatView::copyLaid, this, [this](const HeldCopy& copy) {
    m_document.change(tr("Lay by hand"), [&](const Build& b) -> Result<Build> { return with_held(b, copy); });
  });
  connect(m_mat, &MatView::copyReleased, this, [this](const QString& piece, int copy) {
    m_document.change(
        tr("Let it go"), [&](const Build& b) -> Result<Build> { return without_held(b, piece.toStdString(), copy); });
  });
  connect(foam, &FoamStation::sheetWanted, this, &MainWindow::readSheet);
  connect(m_clock, &GlueClock::told, m_remarks, &RemarksLine::showRefusal);
  // Once the bench has settled: what the book has to tell must not be swept away by the first remarks.
  auto* once = new QObject(this);
  connect(&m_deriver, &Deriver::busyChanged, once, [this, once](bool busy) {
    if (busy) return;
    m_clock->renew();
    once->deleteLater();
  });
}

void MainWindow::readSheet() {
  const Build& build = m_document.build();
  auto sheet = assemble(build, m_deriver.latest(), m_chain->materials());
  if (!sheet) return say(sheet.error());
  const auto glue = m_chain->materials().glue(build.coat.glue);
  if (!glue) return say(glue.error());
  auto* reader = new BenchSheet(std::move(*sheet), m_deriver.latest(), *glue, this);
  reader->setAttribute(Qt::WA_DeleteOnClose);
  connect(reader, &BenchSheet::waitWanted, this,
      [this](const QString& label, double wait, double open, const QString& meanwhile, const QString& caution) {
        if (const auto started = m_clock->start(label, wait, open, meanwhile, caution); !started) say(started.error());
      });
  reader->show();
}

/// Another part is at hand: every tray that works on one shows it.
void MainWindow::takePart() {
  for (Station* s : m_stations) s->show(m_document.build(), m_deriver.latest());
  renewViews();
}

void MainWindow::showGallery() {
  Gallery gallery(this, m_document.build().coat.start);
  if (gallery.exec() != QDialog::Accepted || !mayLeave()) return;
  if (auto build = demo_by_name(gallery.chosen().toStdString(), m_document.build().coat.start)) {
    m_framed = 100;  // whatever it has, look at all of it
    m_document.replace(std::move(*build), {});
    showStation(QStringLiteral("form"));
  }
}

bool MainWindow::printPage(const QString& kind, const QString& path) {
  const bool guide = kind == QLatin1String("wrap-guide");
  const auto done = guide ? writeWrapGuide(path, m_document.build(), m_deriver.latest(), Paper::a4)
                          : writeCheckSheet(path, m_document.build(), m_deriver.latest(), Paper::a4);
  return done ? true : (say(done.error()), false);
}

bool MainWindow::showStation(const QString& id) {
  for (int i = 0; i < static_cast<int>(m_stations.size()); ++i) {
    if (m_stations[i]->id() != id) continue;
    m_current = m_stations[i];
    m_rail->button(i)->setChecked(true);
    m_tray->setCurrentIndex(i);
    const Station::View view = m_current->view();
    if (view == Station::View::page)
      m_middle->setCurrentWidget(m_current->page());
    else
      m_middle->setCurrentIndex(view == Station::View::plan ? 1 : 0);
    m_mat->setVisible(view == Station::View::standAndMat);
    for (Station* s : m_stations)
      if (s->beside() != nullptr) s->beside()->setParent(s == m_current ? m_views : nullptr);
    if (m_current->beside() != nullptr) m_views->addWidget(m_current->beside());
    if (view == Station::View::stand && m_current->beside() == nullptr) m_stand->setBackdrop({}, 1.0, {}, 0.0);
    m_current->show(m_document.build(), m_deriver.latest());
    m_current->entered();
    renewViews();
    return true;
  }
  return false;
}

void MainWindow::renewFromBuild() {
  const Build& build = m_document.build();
  setWindowTitle(QStringLiteral("%1 \u2013 Noggin Awl").arg(QString::fromStdString(build.name)));
  m_ticket->show(build);
  m_remarks->dropRefusal();
  for (Station* s : m_stations) s->show(build, m_deriver.latest());
  m_deriver.request(build);
}

void MainWindow::renewFromDerived() {
  const Derived& d = m_deriver.latest();
  for (Station* s : m_stations) s->show(m_document.build(), d);
  m_plan->show(d.plan, m_document.build().coat);
  if (!m_deriver.isBusy()) m_remarks->show(d.remarks);
  renewViews();
  renewRail();
  // A build with other parts than before is brought into view once they are there.
  if (!d.form || m_deriver.isBusy() || d.form->parts.size() == m_framed) return;
  if (m_framed != 0 || d.form->parts.size() > 1) m_stand->frameAll();
  m_framed = d.form->parts.size();
}

void MainWindow::renewViews() {
  const Build& build = m_document.build();
  const auto foam = foam_of(build.foam, m_chain->materials());
  const double tolerance = !foam ? 0.04 : bears_strain(*foam, build.foam.heated);
  m_stand->show(m_deriver.latest(), m_current->standChoice(), tolerance);
  m_mat->show(m_deriver.latest(), m_current->matStrain(), tolerance);
  m_mat->setMovable(m_current->matMovable());
  m_mat->setFormer(m_current->matFormer());
}

/// Done, being renewed, or something to look at: a word and a sign on each station.
void MainWindow::renewRail() {
  const Derived& d = m_deriver.latest();
  std::vector<Severity> gravest(m_stations.size(), Severity::note);
  for (const Remark& r : d.remarks) {
    const auto owner = std::find_if(m_stations.begin(), m_stations.end(), [&](const Station* s) { return s->owns(r); });
    // What stopped the chain marks the first station that lacks what it should have, if nobody knows its place.
    const auto first_lacking =
        std::find_if(m_stations.begin(), m_stations.end(), [&](const Station* s) { return !s->isDone(d); });
    const auto at = owner != m_stations.end() ? owner : r.severity == Severity::stop ? first_lacking : m_stations.end();
    if (at != m_stations.end())
      gravest[at - m_stations.begin()] = std::max(gravest[at - m_stations.begin()], r.severity);
  }
  for (std::size_t i = 0; i < m_stations.size(); ++i) {
    const bool stopped = !m_stations[i]->isDone(d) || gravest[i] == Severity::stop;
    QString mark = m_deriver.isBusy()     ? QStringLiteral("\u2026")
        : stopped                         ? QStringLiteral("\u25a0")
        : gravest[i] == Severity::warning ? QStringLiteral("\u25b2")
                                          : QStringLiteral("\u2713");
    if (m_stations[i]->view() == Station::View::page) mark.clear();
    m_rail->button(static_cast<int>(i))->setText(QStringLiteral("%1  %2").arg(m_stations[i]->word(), mark));
  }
}

void MainWindow::lightPanel(int panel) {
  m_stand->setLitPanel(panel);
  m_mat->setLitPanel(panel);
}

void MainWindow::carryOut(const QString& act, const QString& label) {
  if (act.startsWith(QLatin1String("edit-measure "))) return goToPlace(act.mid(13));
  if (act.startsWith(QLatin1String("edit-check "))) return goToPlace(QStringLiteral("check/") + act.mid(11));
  if (act.startsWith(QLatin1String("add-darts "))) {
    showStation(QStringLiteral("seams"));
    return findChild<SeamsStation*>()->lines().addDarts(act.mid(10).toInt());
  }
  if (act.startsWith(QLatin1String("move-seams "))) {
    showStation(QStringLiteral("seams"));
    m_document.takeInHand(act.mid(11).toInt());
    return findChild<SeamsStation*>()->lines().freeSeams();
  }
  if (act == QLatin1String("go tape")) return void(showStation(QStringLiteral("tape")));
  m_document.change(label, [&](const Build& b) { return apply_act(b, act.toStdString()); });
}

void MainWindow::goToPlace(const QString& where) {
  for (Station* s : m_stations) {
    if (!s->focusPlace(where)) continue;
    showStation(s->id());
    s->focusPlace(where);
    return;
  }
  if (!m_deriver.latest().panels || !where.startsWith(QLatin1String("panels/"))) return;
  for (const Panel& p : m_deriver.latest().panels->panels)
    if (QStringLiteral("panels/") + QString::fromStdString(p.name) == where) {
      showStation(QStringLiteral("seams"));
      m_chosen = p.id.value;
      lightPanel(m_chosen);
    }
}

bool MainWindow::openFile(const QString& path) {
  if (auto opened = m_document.open(path); !opened) return say(opened.error()), false;
  return true;
}

bool MainWindow::saveTo(const QString& path) {
  const QString whole = path.endsWith(QLatin1String(".noggin")) ? path : path + QStringLiteral(".noggin");
  auto saved = m_document.save(whole);
  if (!saved && saved.error().code == Errc::changed_elsewhere) {
    const int answer = askOver(tr("%1 Saving over it keeps what is there now as %2~.")
                                   .arg(QString::fromStdString(saved.error().text), QFileInfo(whole).fileName()));
    if (answer == 1) {
      const QString other = askPath(true, tr("Save the build"), whole, tr("Builds (*.noggin)"));
      return !other.isEmpty() && other != whole && saveTo(other);
    }
    if (answer == 0) saved = m_document.save(whole, true);
  }
  if (saved) return true;
  say(saved.error());
  return false;
}

void MainWindow::offerRecovered() {
  for (const Recovery::Left& left : Recovery::left()) {
    auto build = left.read();
    if (!build) {
      const QString aside = left.setAside();
      say({Errc::bad_file,
          "Unsaved work of an earlier time cannot be read; it is kept as " + aside.toStdString() + ". " +
              build.error().text,
          {}});
      continue;
    }
    const QString where =
        left.path.isEmpty() ? tr("it was in no file yet") : tr("of the file %1").arg(QFileInfo(left.path).fileName());
    const int answer = askRecovered(
        tr("A window stopped with unsaved work: \"%1\", %2, kept %3.")
            .arg(QString::fromStdString(build->name), where, QLocale().toString(left.written, QLocale::ShortFormat)));
    if (answer == 2) continue;
    if (answer == 0) m_document.recover(std::move(*build), left.path);
    // Only when this window has a copy of its own that reached the disk.
    if (answer == 1 || QFile::exists(m_document.recoveryFile())) left.throwAway();
    if (answer == 0) return;
  }
}

void MainWindow::tellFault(const Error& fault) {
  const bool safe = m_document.writeRecovery();
  say({fault.code,
      fault.text +
          (safe ? m_document.hasUnsavedWork() ? " A copy of your work was saved." : ""
                : " No copy of your work could be saved: save it now."),
      fault.where});
}

void MainWindow::askExport(const QString& kind) {
  const QString ending = endingOf(kind);
  const QString name =
      QString::fromStdString(m_document.build().name).simplified().replace(QLatin1Char('/'), QLatin1Char('-'));
  const QString path = askPath(true, tr("Save"), name + ending, QStringLiteral("*") + ending);
  if (!path.isEmpty()) exportTo(kind, path);
}

bool MainWindow::exportTo(const QString& kind, const QString& path) {
  const auto done = exportBuild(kind, path, m_document.build(), m_deriver.latest(), *m_chain, m_book);
  return done ? true : (say(done.error()), false);
}

void MainWindow::traceOffcut() {
  const QString path = askPath(false, tr("Photograph of the offcut"), {}, tr("Pictures (*.png *.jpg *.jpeg)"));
  if (path.isEmpty()) return;
  QImageReader reader(path);
  reader.setAutoTransform(true);  // pictures taken upright
  const QImage photo = reader.read();
  if (photo.isNull())
    return say({Errc::cannot_read,
        "The picture " + path.toStdString() + " could not be read: " + reader.errorString().toStdString() + ".", {}});
  auto* trace = new PhotoTrace(photo, m_document.build().shown, this);
  trace->setAttribute(Qt::WA_DeleteOnClose);
  connect(trace, &QDialog::accepted, this,
      [this, trace] { findChild<FoamStation*>()->stock().takeOutline(trace->outline()); });
  trace->show();
}

void MainWindow::saveForMachine(const std::vector<std::string>& svgs) {
  const QString folder = askFolder(tr("Folder for the machine's files"));
  if (folder.isEmpty()) return;
  const QString name =
      QString::fromStdString(m_document.build().name).simplified().replace(QLatin1Char('/'), QLatin1Char('-'));
  for (std::size_t i = 0; i < svgs.size(); ++i)
    if (const auto good =
            write_file_safely((folder + QStringLiteral("/%1-mat-%2.svg").arg(name).arg(i + 1)).toStdString(), svgs[i]);
        !good)
      return say(good.error());
}

void MainWindow::say(const Error& error) { m_remarks->showRefusal(QString::fromStdString(short_enough(error.text))); }

bool MainWindow::mayLeave() {
  if (!m_document.hasUnsavedWork()) return true;
  const int answer = askUnsaved();
  if (answer == 2) return false;
  if (answer == 1) return true;
  const QString path = m_document.path().isEmpty()
      ? askPath(true, tr("Save the build"), QStringLiteral("build.noggin"), tr("Builds (*.noggin)"))
      : m_document.path();
  return !path.isEmpty() && saveTo(path);
}

void MainWindow::closeEvent(QCloseEvent* event) {
  if (!mayLeave()) return event->ignore();
  m_document.dropRecovery();
  event->accept();
}

}  // namespace awl
