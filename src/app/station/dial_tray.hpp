#pragma once
#include <QDoubleSpinBox>

#include "app/station/station.hpp"

namespace awl {

/// Fields for every dial of a part, grouped as one decides them. Lengths take what makers type; angles and counts spin.
class DialTray : public QObject {
  Q_OBJECT

 public:
  /// The groups are put into `column` before the widget of the station's that is called `before`; fields are called
  /// `prefix` and their dial.
  DialTray(Station* station, QVBoxLayout* column, QString before = QStringLiteral("dials-end"),
      QString prefix = QStringLiteral("dial-"));

  /// Shows a part; fields are made anew only if it has other dials than the one before.
  void show(const Part* part, LengthUnit unit);
  /// The same for dials of anything else; `id` tells whose they are, -1 for nobody's.
  void show(std::vector<Dial> dials, int id, LengthUnit unit);
  /// Field of a dial; null if there is none.
  QWidget* field(const QString& dial) const;

 signals:
  void turned(const QString& dial, const QString& label, double value, const QString& gesture);

 private:
  void rebuild(std::vector<Dial>& dials, int part);
  QWidget* makeField(const DialFacts& facts);

  Station* m_station;
  QVBoxLayout* m_column;
  QString m_before, m_prefix;
  QStringList m_ids;
  int m_part = -1;
  std::vector<TrayGroup*> m_groups;
  std::map<QString, QWidget*> m_fields;
  std::set<QString> m_open, m_seen;  ///< titles of groups the maker has unfolded, and of all there were
};

}  // namespace awl
