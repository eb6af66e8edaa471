#pragma once
#include <QComboBox>

#include "app/station/station.hpp"

namespace awl {

/// Where the part at hand runs into others: for each earlier part whether, and how, it is cut to it, and what came of
/// it.
class MeetTray : public QObject {
  Q_OBJECT

 public:
  MeetTray(Station* station, Document& document, TrayGroup* group);

  void show(const Build& build, const Derived& derived);

 private:
  struct Row {
    QLabel* name;
    QComboBox* how;
    int part = 0;
  };
  Row& row(std::size_t i);
  void choose(int with, const QString& how);

  Station* m_station;
  Document& m_document;
  TrayGroup* m_group;
  QLabel *m_empty, *m_said;
  QGridLayout* m_grid;
  std::vector<Row> m_rows;
};

}  // namespace awl
