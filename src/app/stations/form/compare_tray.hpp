#pragma once
#include <QCheckBox>
#include <QComboBox>
#include <QPushButton>

#include "app/station/station.hpp"

namespace awl {

/// Compare and judge: pictures pinned behind the form, sides that have been compared, proportion, sections, symmetry.
class CompareTray : public QObject {
  Q_OBJECT

 public:
  CompareTray(Station* station, Document& document, TrayGroup* group);

  void show(const Build& build, const Derived& derived);
  void apply(StandChoice& choice) const;
  /// Seams, lines and grips are hidden while the form is being looked at.
  bool wantsPlainForm() const { return m_plain->isChecked(); }

  /// Pins a picture (PNG or JPEG) for the side chosen. False with a sentence told if it cannot be read.
  bool pin(const QString& path);
  /// The side that is looked at now; its picture belongs behind the form.
  void looked(const QString& view);
  const Reference* shown() const;
  /// Two places of the picture, the upper and the lower, stand `mm` apart; the lower one is the chin's.
  void scaleBy(QPointF upper_px, QPointF lower_px, double mm);
  /// A place of the picture was clicked while scaling.
  void pictureClicked(QPointF px);
  bool isScaling() const { return m_scaling; }

 signals:
  void pictureWanted();
  void lookWanted(const QString& view);
  void backdropChanged();

 private:
  QString side() const { return m_side->currentData().toString(); }

  Station* m_station;
  Document& m_document;
  QComboBox *m_side, *m_section;
  QPushButton *m_pin, *m_unpin, *m_scale;
  QCheckBox *m_plain, *m_shoulders, *m_symmetry;
  LengthField* m_apart;
  LengthField* m_sectionAt;
  std::array<QCheckBox*, kLooks> m_compared{};
  QLabel* m_said;
  QString m_looked;
  bool m_scaling = false;
  std::optional<QPointF> m_first;
  double m_sectionMm = 0.0, m_apartMm = 0.0, m_chinY = 0.0, m_shoulderMm = 0.0;
};

}  // namespace awl
