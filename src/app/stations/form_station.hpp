#pragma once
#include "app/stations/station.hpp"

namespace awl {

/// Form: the hood over the head, its layers of ease and its edges.
class FormStation : public Station {
  Q_OBJECT

 public:
  FormStation(Document& document, QWidget* parent);
  StandChoice standChoice() const override { return {true, true, false, false}; }
  void show(const Build& build, const Derived& derived) override;

 private:
  QComboBox* m_edge;
  LengthField *m_hair, *m_padding, *m_up, *m_face;
  QLabel *m_ease, *m_facts;
};

}  // namespace awl
