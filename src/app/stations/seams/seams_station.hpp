#pragma once
#include <QCheckBox>
#include <QSpinBox>
#include <QTableWidget>

#include "app/station/dial_fields.hpp"
#include "app/stations/seams/alter_tray.hpp"
#include "app/stations/seams/glue_tray.hpp"
#include "app/stations/seams/line_tray.hpp"
#include "app/stations/seams/version_tray.hpp"

namespace awl {

/// Seams: where the hood is cut, and how far each panel must give.
class SeamsStation : public Station {
  Q_OBJECT

 public:
  SeamsStation(const Workplace& place, QWidget* parent);
  LineTray& lines() { return *m_lines; }
  View view() const override { return View::standAndMat; }
  StandChoice standChoice() const override;
  bool matStrain() const override { return m_versions->former().empty(); }
  std::vector<PieceChange> matFormer() const override { return m_versions->former(); }
  bool isDone(const Derived& d) const override { return d.panels != nullptr; }
  bool owns(const Remark& r) const override {
    return isOf(r, {"seam."}) ||
        (isOf(r, {"chain."}) && (r.where.starts_with("panels/") || r.where.starts_with("alterations")));
  }
  void show(const Build& build, const Derived& derived) override;
  std::vector<Shot> shots() override;
  void wornClicked(const Vec3& place) override { m_lines->placeClicked(place); }
  void markerMoved(const QString& marker, const Vec3& place, bool whole, bool last) override {
    m_lines->markerMoved(marker, place, whole, last);
  }
  void panelClicked(int panel) override { m_lines->panelChosen(panel); }
  bool knowsAct(const QString& act) const override;
  void carryOut(const QString& act) override;

 private:
  void showTable(const Build& build, const Derived& derived);
  DialFields* m_seams;
  QComboBox* m_preset;
  QSpinBox* m_gores;
  LengthField *m_middle, *m_beltUp;
  QCheckBox *m_belt, *m_apart;
  QTableWidget* m_table;
  QLabel *m_summary, *m_headform;
  LineTray* m_lines;
  GlueTray* m_glue;
  AlterTray* m_alter;
  VersionTray* m_versions;
};

/// Bars of the strain ramp with words, for reading the colours.
class StrainLegend : public QWidget {
  Q_OBJECT

 public:
  explicit StrainLegend(QWidget* parent);

 protected:
  void paintEvent(QPaintEvent*) override;
};

}  // namespace awl
