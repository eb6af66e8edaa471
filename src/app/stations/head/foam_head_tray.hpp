#pragma once
#include "app/station/dial_fields.hpp"

namespace awl {

/// Part of the tray: the headform's own pattern in foam.
class FoamHeadTray : public QObject {
  Q_OBJECT

 public:
  FoamHeadTray(Station* station, const Chain& chain, TrayGroup* group);
  void show(const Build& build, const Derived& derived);

 private:
  /// How it is made otherwise than as a skin, and what that comes to.
  QString tellWay(const Derived& derived) const;

  TrayGroup* m_group;
  const Chain& m_chain;
  DialFields *m_fields, *m_made;  ///< of the headform, and of the way it is made
  QComboBox *m_making, *m_plan, *m_way;
  std::vector<std::pair<QWidget*, std::vector<Way>>> m_only;  ///< fields, and the ways that need them
  LengthField *m_neck, *m_pipe;
  QCheckBox* m_mirrored;
  QLabel* m_summary;
};

}  // namespace awl
