#pragma once
#include "app/station/station.hpp"

namespace awl {

/// Which side the part at hand is on, and which place of the stand it sits on: copied across, or put where one clicks.
class SeatRow : public QObject {
  Q_OBJECT

 public:
  /// `said`: where the next step is told, or why not.
  SeatRow(Station* station, Document& document, const Chain& chain, TrayGroup* group, QLabel* said);

  void show(const Part* part, const Derived& derived);
  /// Whether a click on the stand was waited for; the part then sits there, or it is told why not.
  bool takes(const Vec3& place);

 private:
  void wait(bool on);

  Document& m_document;
  const Chain& m_chain;
  QPushButton *m_across, *m_put;
  QLabel* m_said;
  Derived m_derived;
  int m_for = 0;  ///< the part a click is waited for
};

}  // namespace awl
