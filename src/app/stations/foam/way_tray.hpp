#pragma once
#include <QComboBox>
#include <QLabel>
#include <QObject>
#include <QPushButton>

#include "app/station/station.hpp"

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
  LengthField* addLength(
      const char* name, const QString& label, const QString& tip, double WaySpec::*value, const std::vector<Way>& of);
  QComboBox* addChoice(const char* name, const QString& label, const QString& tip,
      const std::vector<std::pair<std::string, QString>>& choices,
      const std::function<void(WaySpec&, const std::string&)>& apply, const std::vector<Way>& of);
  void change(const QString& label, const std::function<void(WaySpec&)>& apply);
  QString telling(const Part& part, const Derived& derived) const;

  struct Row {
    QWidget* field;
    std::vector<Way> of;
  };

  Station* m_station;
  Document& m_document;
  const Chain& m_chain;
  TrayGroup* m_group;
  QComboBox *m_part, *m_way, *m_along, *m_block, *m_pull, *m_sheet, *m_thick, *m_stuff;
  std::vector<std::pair<LengthField*, double WaySpec::*>> m_lengths;
  QComboBox* m_faces;
  std::vector<Row> m_rows;
  QLabel* m_facts;
  QPushButton* m_buck;
};

}  // namespace awl
