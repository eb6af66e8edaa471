#pragma once
#include "app/stations/station.hpp"

namespace awl {

/// Tape: what the tape said. Any subset will do; the rest is estimated beside it.
class TapeStation : public Station {
  Q_OBJECT

 public:
  TapeStation(Document& document, QWidget* parent);
  StandChoice standChoice() const override { return {true, false, false, false}; }
  void show(const Build& build, const Derived& derived) override;

 private:
  void addMeasure(TrayGroup* group, MeasureId id);
  std::map<MeasureId, LengthField*> m_fields;
  QLabel* m_how;
};

}  // namespace awl
