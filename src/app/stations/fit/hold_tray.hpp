#pragma once
#include <QListWidget>
#include <QPushButton>

#include "app/station/dial_fields.hpp"

namespace awl {

/// What keeps each part where it is, and how each hold is dimensioned; a jaw's hinge too.
class HoldTray : public QObject {
  Q_OBJECT

 public:
  /// Fills the drawer in hand of a station.
  HoldTray(Station* station, Document& document);

  void show(const Build& build, const Derived& derived);
  /// Brings one hold, or with 0 the list, to the front.
  void reveal(int hold);

  /// The one in hand; null without one.
  const Hold* hold() const;

 private:
  void act(const QString& label, const std::string& act);

  Station* m_station;
  Document& m_document;
  QListWidget* m_holds;
  DialFields* m_fields;
  QLabel *m_none, *m_words;
  QComboBox *m_part, *m_kind, *m_magnet;
  QSpinBox* m_count;
  QCheckBox* m_steel;
  LengthField *m_between, *m_wide;
  QPushButton* m_gone;
  TrayGroup* m_facts;
};

}  // namespace awl
