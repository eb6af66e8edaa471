#pragma once
#include <QCheckBox>

#include "app/station/station.hpp"

namespace awl {

/// Part of the tray: the headform's own pattern in foam.
class FoamHeadTray : public QObject {
  Q_OBJECT

 public:
  FoamHeadTray(Station* station, Document& document, const Chain& chain, TrayGroup* group);
  void show(const Build& build, const Derived& derived);

 private:
  const Chain& m_chain;
  QComboBox *m_making, *m_plan;
  LengthField *m_neck, *m_pipe;
  QCheckBox* m_mirrored;
  QLabel* m_summary;
};

}  // namespace awl
