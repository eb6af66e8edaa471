#pragma once
#include <QCheckBox>

#include "app/stations/station.hpp"

namespace awl {

/// Part of the tray: the headform's own pattern in foam.
class FoamHeadTray : public QObject {
  Q_OBJECT

 public:
  FoamHeadTray(Station* station, Document& document, TrayGroup* group);
  void show(const Build& build, const Derived& derived);

 private:
  QComboBox *m_making, *m_plan;
  LengthField *m_neck, *m_pipe;
  QCheckBox* m_mirrored;
  QLabel* m_summary;
};

}  // namespace awl
