#pragma once
#include <QButtonGroup>
#include <QMainWindow>
#include <QPointer>
#include <QScrollArea>
#include <QSplitter>
#include <QStackedWidget>

#include "app/desk/deriver.hpp"
#include "app/mat/mat_view.hpp"
#include "app/desk/book.hpp"
#include "app/desk/document.hpp"
#include "app/desk/walk.hpp"
#include "app/desk/preferences.hpp"
#include "app/shell/help_window.hpp"
#include "app/shell/start_page.hpp"
#include "app/shell/ticket.hpp"
#include "app/stand/stand_view.hpp"
#include "app/station/station.hpp"
#include "app/widgets/glue_clock.hpp"
#include "app/widgets/remarks_line.hpp"

namespace awl {

/// The bench: ticket on top, stations on the left, stand and mat in the middle, tray on the right, remarks below.
class MainWindow : public QMainWindow {
  Q_OBJECT

 public:
  MainWindow(std::shared_ptr<const Chain> chain, Build build);

  Document& document() { return m_document; }
  Deriver& deriver() { return m_deriver; }
  StandView& stand() { return *m_stand; }
  MatView& mat() { return *m_mat; }
  Book& book() { return m_book; }
  GlueClock& clock() { return *m_clock; }
  bool showStation(const QString& id);
  QString stationId() const { return m_current->id(); }
  Station& station() { return *m_current; }
  const std::vector<Station*>& stations() const { return m_stations; }
  /// How often a station was shown since the window was made.
  int shows() const { return m_shows; }

  bool openFile(const QString& path);
  /// The start page in front of the bench; `back`: the build that is open may be gone back to.
  void showStart(bool back);
  /// The help at a page: of the station at hand and the drawer that is open, unless another is named.
  void showHelp(const QString& page = {});
  /// The help of one control: its row on the page of its station, of its part or of its detail.
  void showHelpOf(const QWidget& control);
  HelpWindow* help() { return m_help; }
  /// What a report of a fault needs, and nothing of builds or wearers.
  QString report() const;
  bool isAtStart() const { return m_atStart; }
  StartPage& startPage() { return *m_start; }
  /// What to do with something dropped on the window: a build is opened, a mesh brought in, a picture pinned. False
  /// with a sentence for what is none of these.
  bool takeDropped(const QString& path);
  bool saveTo(const QString& path);
  /// Offers what windows that are gone have left behind, one after the other.
  void offerRecovered();
  /// Something of the program itself went wrong: a copy of the work is saved, and both are said.
  void tellFault(const Error& fault);
  bool exportTo(const QString& kind, const QString& path);

  /// How files are asked for; tests answer themselves.
  Asking asking;
  /// Asks what to do with unsaved work: 0 save, 1 throw away, 2 stay.
  std::function<int()> askUnsaved;
  /// Asks about work left behind, with its name, its file and its time: 0 open it, 1 throw it away, 2 keep it for
  /// later.
  std::function<int(const QString& words)> askRecovered;
  /// Asks whether to save over a file that somebody else has changed: 0 over it, 1 under another name, 2 stay.
  std::function<int(const QString& words)> askOver;

  /// The next drawer of the open station, or with -1 the one before.
  void stepDrawer(int by) { m_current->drawers().step(by); }
  void takePreferences(const Preferences& prefs, bool keep);
  void setDark(bool dark);
  /// Size of the type in hundredths of the usual.
  void setType(int percent);

 protected:
  void closeEvent(QCloseEvent* event) override;
  bool focusNextPrevChild(bool next) override;
  void keyPressEvent(QKeyEvent* event) override;
  bool eventFilter(QObject* watched, QEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;
  void dragEnterEvent(QDragEnterEvent* event) override;
  void dropEvent(QDropEvent* event) override;

 private:
  HelpWindow& openHelp();
  using AddAction = std::function<QAction*(QMenu* menu, const QString& name, const QString& text,
      const QKeySequence& keys, const std::function<void(bool)>& act)>;
  void makeMenus();
  void makeBuildMenu(const AddAction& add);
  std::string pictureForFile() const;
  void renewRecentMenu();
  void keepFootWhole();
  void makeHelpMenu();
  void beginWalk();
  void openFinder();
  WalkSight sight() const;
  void startFresh(const FreshBuild& wish);
  void openAnother(const QString& path);
  void layOut(QWidget* rail, QWidget* tray);
  QWidget* makeRail();
  QWidget* makeTray();
  void connectAll();
  void connectViews();
  void connectStation(Station* station);
  void renewBackdrop();
  void renewFromBuild();
  void showFromBuild();
  void renewFromDerived();
  void renewViews();
  void renewNext();
  void renewRail();
  void lightPanel(int panel);
  void showGallery();
  void takePart();
  void showOpen();
  const Derived& seen() const;
  void carryOut(const QString& act, const QString& label);
  void goToPlace(const QString& where);
  void askExport(const QString& kind);
  void openPrintDesk();
  void bringForward(bool start);
  bool hasBuild();
  bool mayLeave();
  void say(const Error& error);

  std::shared_ptr<const Chain> m_chain;
  Document m_document;
  Book m_book;
  Deriver m_deriver;
  std::vector<Station*> m_stations;
  Station* m_current = nullptr;
  QButtonGroup* m_rail;
  // Each is made where it stays: Qt dresses all that is in a widget anew whenever it is moved to another.
  QWidget* m_bench;  ///< everything but the start page
  Ticket* m_ticket;
  QStackedWidget *m_middle, *m_tray;
  QSplitter* m_views;
  bool m_viewsMoved = false;  ///< by the maker: stand and mat stay as they were put
  StandView* m_stand;
  MatView* m_mat;
  QScrollArea* m_startArea;  ///< lies over the bench while it is wanted
  bool m_atStart = false;
  StartPage* m_start;
  Walk* m_walk = nullptr;
  QMenu* m_recentMenu = nullptr;
  HelpWindow* m_help = nullptr;
  QPointer<QWidget> m_tipOf;  ///< whose tip was shown last
  RemarksLine* m_remarks;
  GlueClock* m_clock = nullptr;
  int m_chosen = -1, m_shows = 0;
  static constexpr std::size_t kAnyNumberOfParts = 100;  ///< whatever a build has, look at all of it
  std::size_t m_framed = 0;                              ///< how many parts were in view when it was last set
  bool m_dark = false, m_saysNext = true;
  int m_type = 100;
};

}  // namespace awl
