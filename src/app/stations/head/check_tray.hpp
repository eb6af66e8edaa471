#pragma once
#include <QPushButton>
#include <QTableWidget>

#include "app/station/station.hpp"

namespace awl {

/// Part of the tray: what to measure on the headform as built, what was read, and what that says.
class CheckTray : public QObject {
  Q_OBJECT

 public:
  CheckTray(Station* station, Document& document, TrayGroup* group);
  void show(const Build& build, const Derived& derived);
  /// Brings the row of a distance to the front. False if there is none.
  bool focusDistance(const QString& id);

 signals:
  void sheetWanted();
  void told(const QString& sentence);

 private:
  void entered(QTableWidgetItem* item);
  void showFindings(const Build& build, const Derived& derived);

  Document& m_document;
  QTableWidget* m_table;
  QLabel* m_findings;
  QComboBox* m_fit;
  bool m_filling = false;
};

}  // namespace awl
