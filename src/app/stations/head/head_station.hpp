#pragma once
#include <QTableWidget>

#include "app/desk/book.hpp"
#include "app/station/station.hpp"
#include "app/stations/head/check_tray.hpp"
#include "app/stations/head/foam_head_tray.hpp"
#include "app/stations/head/scan_tray.hpp"

namespace awl {

/// Head: the headform itself. What a tape on it reads, how it compares, its pattern in foam, the check of the built
/// one, a scan as another source.
class HeadStation : public Station {
  Q_OBJECT

 public:
  HeadStation(const Workplace& place, QWidget* parent);
  StandChoice standChoice() const override;
  bool isDone(const Derived& d) const override { return d.head != nullptr; }
  bool owns(const Remark& r) const override { return isOf(r, {"check."}) || (isOf(r, {"head."}) && isOfHeadform(r)); }
  bool isEnough(const Derived& d) const override { return d.check != nullptr; }
  void show(const Build& build, const Derived& derived) override;
  std::vector<Shot> shots() override;
  void entered() override;
  bool focusPlace(const QString& where) override;
  ScanTray& scan() { return *m_scan; }
  void headClicked(const Vec3& place) override { m_scan->placeClicked(place); }

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
  std::optional<std::pair<TapeSheet, Headform>> m_other;  ///< the head compared with, and the tapes it was fitted to
  double m_range = 4.0;
};

}  // namespace awl
