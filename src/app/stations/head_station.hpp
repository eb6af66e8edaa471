#pragma once
#include <QTableWidget>

#include "app/models/book.hpp"
#include "app/stations/station.hpp"
#include "app/tray/check_tray.hpp"
#include "app/tray/foam_head_tray.hpp"
#include "app/tray/scan_tray.hpp"

namespace awl {

/// Head: the headform itself. What a tape on it reads, how it compares, its pattern in foam, the check of the built
/// one, a scan as another source.
class HeadStation : public Station {
  Q_OBJECT

 public:
  HeadStation(Document& document, const Chain& chain, Book& book, QWidget* parent);
  StandChoice standChoice() const override;
  bool isDone(const Derived& d) const override { return d.head != nullptr; }
  bool owns(const Remark& r) const override { return isOf(r, {"check."}) || (isOf(r, {"head."}) && isOfHeadform(r)); }
  void show(const Build& build, const Derived& derived) override;
  void entered() override;
  bool focusPlace(const QString& where) override;
  ScanTray& scan() { return *m_scan; }

 signals:
  /// A printed page is wanted: "check-sheet" or "wrap-guide".
  void pageWanted(const QString& kind);
  void scanWanted();
  void meshWanted(const QString& kind);
  /// Another head is to be compared with; the station wants to be shown anew.
  void compareChanged();

 private:
  QCheckBox* addToggle(TrayGroup* group, const QString& name, const QString& text, const QString& tip);
  void addStandGroup();
  void addReadings();
  void addHandGroup();
  void fillFixed();
  void fillOthers();
  void compare(const Build& build, const Derived& derived);
  void showReadings(const Build& build, const Derived& derived);

  const Chain& m_chain;
  Book& m_book;
  QCheckBox *m_tapes, *m_guessed, *m_landmarks, *m_contours;
  QComboBox* m_against;
  QLabel *m_said, *m_summary;
  QTableWidget* m_table;
  TrayGroup *m_checkGroup, *m_scanGroup;
  FoamHeadTray* m_foam;
  CheckTray* m_check;
  ScanTray* m_scan;
  std::shared_ptr<const DistanceMap> m_map;
  std::shared_ptr<const Mesh> m_instead;
  double m_range = 4.0;
};

}  // namespace awl
