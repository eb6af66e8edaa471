#pragma once
#include <QButtonGroup>
#include <QMainWindow>
#include <QScrollArea>
#include <QSplitter>
#include <QStackedWidget>

#include "app/jobs/deriver.hpp"
#include "app/mat/mat_view.hpp"
#include "app/models/book.hpp"
#include "app/shell/document.hpp"
#include "app/shell/ticket.hpp"
#include "app/stand/stand_view.hpp"
#include "app/stations/station.hpp"
#include "app/widgets/glue_clock.hpp"
#include "app/widgets/plan_view.hpp"
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

  bool openFile(const QString& path);
  bool saveTo(const QString& path);
  /// Offers what windows that are gone have left behind, one after the other.
  void offerRecovered();
  /// Something of the program itself went wrong: a copy of the work is saved, and both are said.
  void tellFault(const Error& fault);
  bool exportTo(const QString& kind, const QString& path);

  /// Asks for a path; the file dialog by default. `save` false: an existing file.
  std::function<QString(bool save, const QString& title, const QString& suggested, const QString& filter)> askPath;
  /// Asks for a folder that is there.
  std::function<QString(const QString& title)> askFolder;
  /// Asks what to do with unsaved work: 0 save, 1 throw away, 2 stay.
  std::function<int()> askUnsaved;
  /// Asks about work left behind, with its name, its file and its time: 0 open it, 1 throw it away, 2 keep it for
  /// later.
  std::function<int(const QString& words)> askRecovered;
  /// Asks whether to save over a file that somebody else has changed: 0 over it, 1 under another name, 2 stay.
  std::function<int(const QString& words)> askOver;

  void setDark(bool dark);
  void setLarge(bool large);

 protected:
  void closeEvent(QCloseEvent* event) override;

 private:
  void makeMenus();
  void layOut(QWidget* rail, QWidget* tray);
  QWidget* makeRail();
  QWidget* makeTray();
  void connectAll();
  void renewFromBuild();
  void renewFromDerived();
  void renewViews();
  void renewRail();
  void lightPanel(int panel);
  void connectHead();
  void connectForm();
  void connectSeams();
  void connectFoam();
  void readSheet();
  void showGallery();
  void takePart();
  bool printPage(const QString& kind, const QString& path);
  void carryOut(const QString& act, const QString& label);
  void goToPlace(const QString& where);
  void askExport(const QString& kind);
  void traceOffcut();
  void saveForMachine(const std::vector<std::string>& svgs);
  bool mayLeave();
  void say(const Error& error);

  std::shared_ptr<const Chain> m_chain;
  Document m_document;
  Book m_book;
  Deriver m_deriver;
  std::vector<Station*> m_stations;
  Station* m_current = nullptr;
  QButtonGroup* m_rail;
  Ticket* m_ticket;
  StandView* m_stand;
  MatView* m_mat;
  PlanView* m_plan;
  QSplitter* m_views;
  QStackedWidget *m_middle, *m_tray;
  RemarksLine* m_remarks;
  GlueClock* m_clock = nullptr;
  int m_chosen = -1;
  std::size_t m_framed = 0;  ///< how many parts were in view when it was last set
  bool m_dark = false, m_large = false;
};

}  // namespace awl
