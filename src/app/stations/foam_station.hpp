#pragma once
#include <QCheckBox>

#include "app/stations/station.hpp"

namespace awl {

/// Foam: what it is cut from, the sheets, and everything that goes to printer, knife or machine.
class FoamStation : public Station {
  Q_OBJECT

 public:
  FoamStation(Document& document, const Chain& chain, QWidget* parent);
  View view() const override { return View::standAndMat; }
  StandChoice standChoice() const override { return {false, true, false, true}; }
  void show(const Build& build, const Derived& derived) override;

 signals:
  /// "pdf-a4", "pdf-letter", "svg", "dxf" or "csv".
  void exportWanted(const QString& kind);

 private:
  void offerThickness(const Build& build);
  const Chain& m_chain;
  QComboBox *m_foam, *m_thickness;
  QCheckBox* m_heated;
  LengthField *m_width, *m_height, *m_gap;
  QLabel* m_summary;
  std::string m_offered;
};

}  // namespace awl
