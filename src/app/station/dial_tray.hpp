#pragma once
#include <QDoubleSpinBox>

#include "app/station/station.hpp"

namespace awl {

/// Fields for every dial of a part, grouped as one decides them. Lengths take what makers type; angles and counts spin.
class DialTray : public QObject {
  Q_OBJECT

 public:
  /// The groups are put into `column` after what is already there.
  DialTray(Station* station, QVBoxLayout* column);

  /// Shows a part; fields are made anew only if it has other dials than the one before.
  void show(const Part* part, LengthUnit unit);
  /// Field of a dial; null if there is none.
  QWidget* field(const QString& dial) const;

 signals:
  void turned(const QString& dial, const QString& label, double value, const QString& gesture);

 private:
  void rebuild(std::vector<Dial>& dials, int part);
  QWidget* makeField(const DialFacts& facts);

  Station* m_station;
  QVBoxLayout* m_column;
  QStringList m_ids;
  int m_part = -1;
  std::vector<TrayGroup*> m_groups;
  std::map<QString, QWidget*> m_fields;
  std::set<QString> m_open;  ///< titles of groups the maker has unfolded
};

}  // namespace awl
