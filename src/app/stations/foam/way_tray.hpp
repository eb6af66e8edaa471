#pragma once
#include <QComboBox>
#include <QLabel>
#include <QObject>
#include <QPushButton>

#include "app/station/dial_fields.hpp"

namespace awl {

/// How each part is made: a skin of sheet, slabs, carved from a block, a paper net for a check, drawn over a buck.
class WayTray : public QObject {
  Q_OBJECT

 public:
  WayTray(Station* station, Document& document, const Chain& chain);
  void show(const Build& build, const Derived& derived);

 signals:
  void exportWanted(const QString& kind);

 private:
  void makeFields();
  void showRows(Way way);
  QString telling(const Part& part, const Derived& derived) const;

  struct Row {
    QWidget* field;
    std::vector<Way> of;
  };

  Station* m_station;
  Document& m_document;
  const Chain& m_chain;
  TrayGroup* m_group;
  DialFields* m_fields;
  QComboBox *m_part, *m_sheet, *m_thick, *m_stuff;
  std::vector<Row> m_rows;
  QLabel* m_facts;
  QPushButton* m_buck;
};

}  // namespace awl
