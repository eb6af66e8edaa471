#include "app/stand/in_words.hpp"
#include "app/shell/main_window.hpp"

#include <QAbstractItemView>
#include <QAction>
#include <QApplication>
#include <array>
#include <QBuffer>
#include <QCloseEvent>
#include <QFileDialog>
#include <QDragEnterEvent>
#include <QFileInfo>
#include <QLabel>
#include <QMessageBox>
#include <QMimeData>
#include <QPushButton>
#include <QSettings>

#include "app/desk/recent.hpp"
#include "app/desk/preferences.hpp"
#include "app/shell/gallery.hpp"
#include "app/shell/exporter.hpp"
#include "app/shell/stations.hpp"
#include "app/widgets/theme.hpp"
#include "app/widgets/picture_file.hpp"
#include "core/base/data_files.hpp"
#include "core/base/numbers.hpp"
#include "core/judge/next.hpp"
#include "core/stuff/bears.hpp"
#include "core/io/build_file.hpp"
#include "print/text.hpp"

namespace awl {

MainWindow::MainWindow(std::shared_ptr<const Chain> chain, Build build)
    : m_chain(chain), m_document(chain, std::move(build)), m_deriver(chain), m_rail(new QButtonGroup(this)),
      m_bench(new QWidget(this)), m_ticket(new Ticket(m_document, m_bench)), m_middle(new QStackedWidget(m_bench)),
      m_tray(new QStackedWidget(m_bench)), m_views(new QSplitter(Qt::Horizontal, m_middle)),
      m_stand(new StandView(m_views)), m_mat(new MatView(m_views)), m_startArea(new QScrollArea(this)),
      m_start(new StartPage(*m_chain, m_book, m_startArea->viewport())), m_remarks(new RemarksLine(m_bench)) {
  setObjectName(QStringLiteral("bench"));
  // Named before anything stands in them: what the style says of a name is looked up once for each widget.
  m_views->setObjectName(QStringLiteral("views"));
  m_tray->setObjectName(QStringLiteral("tray"));
  m_tray->setAttribute(Qt::WA_StyledBackground);
  m_deriver.request(m_document.build());  // beside the making of the window
  resize(1280, 800);
  qApp->installEventFilter(this);  // every tip says where more stands
  asking.path = [this](bool save, const QString& title, const QString& suggested, const QString& filter) {
    return save ? QFileDialog::getSaveFileName(this, title, suggested, filter)
                : QFileDialog::getOpenFileName(this, title, suggested, filter);
  };
  asking.folder = [this](const QString& title) { return QFileDialog::getExistingDirectory(this, title); };
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
  m_stations = makeStations({m_document, *m_chain, m_book, asking}, m_tray);
  m_current = m_stations.front();
  makeMenus();
  layOut(makeRail(), makeTray());
  // Tab leads on through the window; the arrow keys move within a table.
  for (auto* view : findChildren<QAbstractItemView*>()) view->setTabKeyNavigation(false);
  connectAll();
  showStation(QStringLiteral("tape"));
  showFromBuild();
  m_stand->setFocus();
}

QWidget* MainWindow::makeRail() {
  auto* rail = new QWidget(m_bench);
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
    button->setMinimumHeight(36);
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
  for (Station* station : m_stations) {
    station->setAttribute(Qt::WA_StyledBackground);
    m_tray->addWidget(station);
  }
  m_tray->setFixedWidth(362);
  return m_tray;
}

void MainWindow::layOut(QWidget* rail, QWidget* tray) {
  m_views->addWidget(m_stand);
  m_views->addWidget(m_mat);
  m_views->setChildrenCollapsible(false);
  connect(m_views, &QSplitter::splitterMoved, this, [this] { m_viewsMoved = true; });
  m_middle->addWidget(m_views);
  for (Station* station : m_stations)
    if (station->page() != nullptr) m_middle->addWidget(station->page());
  auto* row = new QHBoxLayout;
  row->setContentsMargins(0, 0, 0, 0);
  row->setSpacing(0);
  row->addWidget(rail);
  row->addWidget(m_middle, 1);
  row->addWidget(tray);
  auto* column = new QVBoxLayout(m_bench);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(0);
  column->addWidget(m_ticket);
  column->addLayout(row, 1);
  m_walk = new Walk(m_bench);
  column->addWidget(m_walk);
  column->addWidget(m_remarks);
  m_startArea->setFrameShape(QFrame::NoFrame);
  m_startArea->setWidgetResizable(true);
  m_startArea->setWidget(m_start);
  setCentralWidget(m_bench);
  bringForward(false);
  keepFootWhole();
  setAcceptDrops(true);
}

void MainWindow::connectAll() {
  connect(m_rail, &QButtonGroup::idClicked, this, [this](int i) { showStation(m_stations[i]->id()); });
  connect(&m_document, &Document::changed, this, &MainWindow::renewFromBuild);
  connect(&m_document, &Document::partTaken, this, &MainWindow::takePart);
  connect(&m_document, &Document::refused, this, [this](const QString& sentence, const QString&) {
    m_remarks->showRefusal(sentence);
    showOpen();
  });
  connect(&m_deriver, &Deriver::updated, this, &MainWindow::renewFromDerived);
  connect(&m_deriver, &Deriver::busyChanged, this, [this](bool busy) {
    m_stand->setRenewing(busy);
    m_mat->setRenewing(busy);
    renewRail();
  });
  connect(m_remarks, &RemarksLine::remedyPressed, this, &MainWindow::carryOut);
  connect(m_remarks, &RemarksLine::placeClicked, this, &MainWindow::goToPlace);
  connectViews();
  for (Station* s : m_stations) connectStation(s);
  connect(m_start, &StartPage::startWanted, this, &MainWindow::startFresh);
  connect(m_start, &StartPage::openWanted, this, &MainWindow::openAnother);
  connect(m_start, &StartPage::browseWanted, this, [this] {
    if (const QString path = asking.path(false, tr("Open a build"), {}, tr("Builds (*.noggin)")); !path.isEmpty())
      openAnother(path);
  });
  connect(m_start, &StartPage::galleryWanted, this, &MainWindow::showGallery);
  connect(m_start, &StartPage::backWanted, this, [this] { bringForward(false); });
  m_document.picture = [this] { return pictureForFile(); };
  connect(m_clock, &GlueClock::told, m_remarks, &RemarksLine::showRefusal);
  // Once the bench has settled: what the book has to tell must not be swept away by the first remarks.
  auto* once = new QObject(this);
  connect(&m_deriver, &Deriver::busyChanged, once, [this, once](bool busy) {
    if (busy) return;
    m_clock->renew();
    once->deleteLater();
  });
}

/// Stand and mat speak to the open station alone; what is pointed at on the one is lit on both.
void MainWindow::connectViews() {
  const auto point = [this](int panel) { lightPanel(panel >= 0 ? panel : m_chosen); };
  const auto click = [this](int panel) {
    m_chosen = panel;
    lightPanel(panel);
    m_current->panelClicked(panel);
  };
  connect(m_stand, &StandView::panelPointed, this, point);
  connect(m_mat, &MatView::panelPointed, this, point);
  connect(m_stand, &StandView::panelClicked, this, click);
  connect(m_mat, &MatView::panelClicked, this, click);
  connect(m_stand, &StandView::measureClicked, this,
      [this](int measure) { goToPlace(QLatin1String(measure_facts()[measure].code)); });
  connect(m_stand, &StandView::surfaceClicked, this, [this](double x, double y, double z) {
    m_current->headClicked({x, y, z});
  });
  connect(m_stand, &StandView::wornClicked, this, [this](double x, double y, double z) {
    m_current->wornClicked({x, y, z});
  });
  connect(m_stand, &StandView::gripMoved, this,
      [this](const QString& dial, double by, bool last) { m_current->gripMoved(dial, by, last); });
  connect(m_stand, &StandView::markerMoved, this,
      [this](const QString& marker, double x, double y, double z, bool whole, bool last) {
        m_current->markerMoved(marker, {x, y, z}, whole, last);
      });
  connect(m_stand, &StandView::looked, this, [this](const QString& view) { m_current->looked(view); });
  connect(m_stand, &StandView::backdropClicked, this, [this](QPointF pixel) { m_current->backdropClicked(pixel); });
  connect(m_mat, &MatView::told, m_remarks, &RemarksLine::showRefusal);
  connect(m_mat, &MatView::pieceClicked, this, [this](int piece, double x, double y, bool flipped) {
    m_current->pieceClicked(piece, {x, y}, flipped);
  });
  connect(m_mat, &MatView::copyLaid, this, [this](const HeldCopy& copy) { m_current->copyLaid(copy); });
  connect(m_mat, &MatView::copyReleased, this,
      [this](const QString& piece, int copy) { m_current->copyReleased(piece, copy); });
}

void MainWindow::connectStation(Station* s) {
  connect(s, &Station::panelChosen, this, [this](int panel) {
    m_chosen = panel;
    lightPanel(panel);
  });
  connect(s, &Station::told, m_remarks, &RemarksLine::showRefusal);
  connect(s, &Station::exportWanted, this, &MainWindow::askExport);
  connect(s, &Station::actWanted, this, [this](const QString& act) { carryOut(act, {}); });
  connect(s, &Station::drawerOpened, this, [this, s] {
    if (s != m_current) return;
    showOpen();
    s->entered();
    m_walk->see(sight());
  });
  connect(s, &Station::renewWanted, this, [this, s] {
    s->show(m_document.build(), seen());
    renewViews();
  });
  connect(s, &Station::standChanged, this, [this, s] {
    if (s == m_current) renewViews();
  });
  connect(s, &Station::gripText, m_stand, &StandView::setGripText);
  connect(s, &Station::backdropChanged, this, &MainWindow::renewBackdrop);
  connect(s, &Station::lookWanted, this, [this](const QString& view) {
    const double turns[] = {0.0, 0.5, -0.5, 1.0};
    const int i = static_cast<int>(*look_from(view.toStdString()));
    m_stand->look(i < 4 ? static_cast<float>(kPi * turns[i]) : 0.0f, i == 4 ? 1.5f : 0.0f);
  });
  connect(s, &Station::waitWanted, this,
      [this](const QString& label, double wait, double open, const QString& meanwhile, const QString& caution) {
        if (const auto started = m_clock->start(label, wait, open, meanwhile, caution); !started) say(started.error());
      });
}

void MainWindow::renewBackdrop() {
  const Reference* r = m_current->backdrop();
  QImage picture;
  if (r != nullptr && r->bytes) picture = pictureFrom(QByteArray::fromStdString(*r->bytes), {}).value_or(QImage());
  m_stand->setBackdrop(picture, r != nullptr ? r->mm_per_pixel : 1.0,
      r != nullptr ? QPointF(r->origin_px.x(), r->origin_px.y()) : QPointF(), 0.45);
}

/// Only what is seen is shown; the other stations are when they come to the front.
void MainWindow::showOpen() {
  ++m_shows;
  m_current->show(m_document.build(), seen());
}

/// One generation at a time: what is being worked out once it is enough for the open station, till then the last whole.
const Derived& MainWindow::seen() const {
  const Derived& ahead = m_deriver.ahead();
  return ahead.head && (m_current->isEnough(ahead) || !m_deriver.latest().head) ? ahead : m_deriver.latest();
}

/// Another part is at hand: the tray that works on it shows it.
void MainWindow::takePart() {
  showOpen();
  renewViews();
}

void MainWindow::showGallery() {
  Gallery gallery(this, m_document.build().coat.start);
  if (gallery.exec() != QDialog::Accepted || !mayLeave()) return;
  if (auto build = demo_by_name(gallery.chosen().toStdString(), m_document.build().coat.start)) {
    m_framed = kAnyNumberOfParts;
    m_document.replace(std::move(*build), {});
    bringForward(false);
    showStation(QStringLiteral("form"));
  }
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
      m_middle->setCurrentWidget(m_views);
    m_mat->setVisible(view == Station::View::standAndMat);
    if (!m_viewsMoved && view == Station::View::standAndMat)
      m_views->setSizes({10 * m_current->standShare(), 1000 - 10 * m_current->standShare()});
    for (Station* s : m_stations)
      if (s->beside() != nullptr) s->beside()->setParent(s == m_current ? m_views : nullptr);
    if (m_current->beside() != nullptr) m_views->addWidget(m_current->beside());
    renewBackdrop();
    showOpen();
    m_current->entered();
    renewViews();
    renewNext();
    m_walk->see(sight());
    return true;
  }
  return false;
}

void MainWindow::renewFromBuild() {
  showFromBuild();
  m_deriver.request(m_document.build());
}

void MainWindow::showFromBuild() {
  const Build& build = m_document.build();
  setWindowTitle(QStringLiteral("%1 \u2013 Noggin Awl").arg(QString::fromStdString(build.name)));
  m_ticket->show(build);
  m_remarks->dropRefusal();
  m_walk->see(sight());
  showOpen();
}

void MainWindow::renewFromDerived() {
  const Derived& d = m_deriver.latest();
  showOpen();
  if (!m_deriver.isBusy()) m_remarks->show(d.remarks), renewNext();
  renewViews();
  renewRail();
  // A build with other parts than before is brought into view once they are there.
  if (!d.form || m_deriver.isBusy() || d.form->parts.size() == m_framed) return;
  m_stand->frameAll();
  m_framed = d.form->parts.size();
}

/// What is left out for good is remembered by its id.
void MainWindow::renewNext() {
  if (m_deriver.isBusy() || !m_deriver.latest().head) return;
  if (!m_saysNext) return m_remarks->setNext({});
  std::set<std::string> ignored;
  for (const QString& id : QSettings().value(kIgnoredKey).toStringList()) ignored.insert(id.toStdString());
  m_remarks->setNext(next_step(m_current->id().toStdString(), m_document.build(), m_deriver.latest(), ignored));
}

void MainWindow::renewViews() {
  const Build& build = m_document.build();
  const auto foam = foam_of(build.foam, m_chain->materials());
  const double tolerance = !foam ? 0.04 : bears_strain(*foam, build.foam.heated);
  m_stand->show(seen(), m_current->standChoice(), tolerance);
  m_mat->show(seen(), m_current->matStrain(), tolerance);
  m_mat->setMovable(m_current->matMovable());
  m_mat->setFormer(m_current->matFormer());
  // For those who hear the program.
  if (const QString words = standInWords(build, seen()); words != m_stand->accessibleDescription())
    m_stand->setAccessibleDescription(words);
  if (const QString words = matInWords(seen()); words != m_mat->accessibleDescription())
    m_mat->setAccessibleDescription(words);
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
    const bool awaited = m_deriver.isBusy() || (m_deriver.isFitting() && !m_stations[i]->isDone(d));
    QString mark = awaited                ? QStringLiteral("\u2026")
        : stopped                         ? QStringLiteral("\u25a0")
        : gravest[i] == Severity::warning ? QStringLiteral("\u25b2")
                                          : QStringLiteral("\u2713");
    if (!m_stations[i]->isStep()) mark.clear();
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
  for (Station* s : m_stations)
    if (s->knowsAct(act)) {
      showStation(s->id());
      return s->carryOut(act);
    }
  if (act.startsWith(QLatin1String("go "))) return void(showStation(act.mid(3)));
  if (act == QLatin1String("print-patterns")) return openPrintDesk();
  if (act.startsWith(QLatin1String("ignore-next "))) {
    QStringList ignored = QSettings().value(kIgnoredKey).toStringList();
    ignored << act.mid(12);
    QSettings().setValue(kIgnoredKey, ignored);
    return renewNext();
  }
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
  Recent::add(path);
  m_framed = kAnyNumberOfParts;
  bringForward(false);
  return true;
}

bool MainWindow::takeDropped(const QString& path) {
  const QString ending = QFileInfo(path).suffix().toLower();
  if (ending == QLatin1String("noggin")) return mayLeave() && openFile(path);
  bringForward(false);
  for (Station* s : m_stations)
    if (s->takesFile(ending)) {
      showStation(s->id());
      s->takeFile(path);
      return true;
    }
  say({Errc::unknown_name,
      QFileInfo(path).fileName().toStdString() +
          " is none of what can be dropped here: a build (.noggin), a mesh (.obj .stl .ply .off) or a picture (.png "
          ".jpg).",
      {}});
  return false;
}

void MainWindow::resizeEvent(QResizeEvent* event) {
  QMainWindow::resizeEvent(event);
  m_startArea->setGeometry(m_bench->geometry());
}

void MainWindow::dragEnterEvent(QDragEnterEvent* event) {
  if (event->mimeData()->hasUrls()) event->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* event) {
  const QList<QUrl> urls = event->mimeData()->urls();
  if (urls.isEmpty() || !urls.front().isLocalFile()) return;
  event->acceptProposedAction();
  takeDropped(urls.front().toLocalFile());
}

/// What the stand shows, small; nothing while it is hidden or has not been painted yet.
std::string MainWindow::pictureForFile() const {
  constexpr int kLeastPx = 120, kPicturePx = 256;
  const QImage& shown = m_stand->shownPicture();
  const int side = std::min(shown.width(), shown.height());
  if (side < kLeastPx) return {};
  QBuffer png;
  png.open(QIODevice::WriteOnly);
  shown.copy((shown.width() - side) / 2, (shown.height() - side) / 2, side, side)
      .scaled(kPicturePx, kPicturePx, Qt::IgnoreAspectRatio, Qt::SmoothTransformation)
      .save(&png, "PNG");
  return png.data().toStdString();
}

bool MainWindow::saveTo(const QString& path) {
  const QString whole = path.endsWith(QLatin1String(".noggin")) ? path : path + QStringLiteral(".noggin");
  auto saved = m_document.save(whole);
  if (!saved && saved.error().code == Errc::changed_elsewhere) {
    const int answer = askOver(tr("%1 Saving over it keeps what is there now as %2~.")
                                   .arg(qs(saved.error().text), QFileInfo(whole).fileName()));
    if (answer == 1) {
      const QString other = asking.path(true, tr("Save the build"), whole, tr("Builds (*.noggin)"));
      return !other.isEmpty() && other != whole && saveTo(other);
    }
    if (answer == 0) saved = m_document.save(whole, true);
  }
  if (saved) {
    Recent::add(whole);
    m_book.wrote(m_document.build(), whole);
    return true;
  }
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
    if (answer == 0) m_document.recover(std::move(*build), left.path), bringForward(false);
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
  if (kind == QLatin1String("printer")) return openPrintDesk();
  const QString ending = endingOf(kind);
  const QString name =
      QString::fromStdString(m_document.build().name).simplified().replace(QLatin1Char('/'), QLatin1Char('-'));
  const QString path = asking.path(true, tr("Save"), name + ending, QStringLiteral("*") + ending);
  if (!path.isEmpty()) exportTo(kind, path);
}

bool MainWindow::exportTo(const QString& kind, const QString& path) {
  const auto done = exportBuild(kind, path, m_document.build(), m_deriver.latest(), *m_chain, m_book);
  if (!done) return say(done.error()), false;
  m_book.wrote(m_document.build(), path);
  return true;
}

void MainWindow::say(const Error& error) {
  const QString sentence = qs(short_enough(error.text));
  if (isAtStart()) return m_start->tell(sentence);
  m_remarks->showRefusal(sentence);
}

bool MainWindow::mayLeave() {
  if (!m_document.hasUnsavedWork()) return true;
  const int answer = askUnsaved();
  if (answer == 2) return false;
  if (answer == 1) return true;
  const QString path = m_document.path().isEmpty()
      ? asking.path(true, tr("Save the build"), QStringLiteral("build.noggin"), tr("Builds (*.noggin)"))
      : m_document.path();
  return !path.isEmpty() && saveTo(path);
}

void MainWindow::closeEvent(QCloseEvent* event) {
  if (m_document.isAtFile()) {
    say({Errc::locked, "A file is being written or read; wait for it, then close the window.", {}});
    return event->ignore();
  }
  if (!mayLeave()) return event->ignore();
  m_document.dropRecovery();
  event->accept();
}

}  // namespace awl
