#pragma once
#include <QCheckBox>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>

#include "app/station/station.hpp"

namespace awl {

/// Taking in and letting out at seams, and what was cut on the foam itself.
class AlterTray : public QObject {
  Q_OBJECT

 public:
  AlterTray(Station* station, Document& document);
  void show(const Build& build, const Derived& derived);

 private:
  LengthField* addAmount(TrayGroup* group, const char* name, const QString& label, const QString& tip, double& mm);
  void makeFields(TrayGroup* group);
  void showPlaces(const Build& build, const Derived& derived);
  void showSides();
  void alter();
  QString effect(const Build& build, const Derived& derived) const;

  Station* m_station;
  Document& m_document;
  std::shared_ptr<const PanelSet> m_set;  ///< of the part at hand
  QComboBox *m_where, *m_side;
  LengthField *m_first, *m_middle, *m_last;
  double m_firstMm = 0.0, m_middleMm = 6.0, m_lastMm = 0.0;
  QCheckBox *m_mirrored, *m_onFoam;
  QLineEdit* m_note;
  QPushButton *m_alter, *m_back;
  QListWidget* m_list;
  QLabel* m_effect;
};

}  // namespace awl
