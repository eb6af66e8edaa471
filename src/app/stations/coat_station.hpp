#pragma once
#include <QCheckBox>
#include <QDateEdit>
#include <QDoubleSpinBox>

#include "app/stations/station.hpp"

namespace awl {

/// Coat: glue, seal, paint, and the plan that says whether it is ready by the day.
class CoatStation : public Station {
  Q_OBJECT

 public:
  CoatStation(Document& document, const Chain& chain, QWidget* parent);
  View view() const override { return View::plan; }
  bool isDone(const Derived& d) const override { return d.plan != nullptr; }
  bool owns(const Remark& r) const override {
    return isOf(r, {"coat."}) || (isOf(r, {"chain."}) && r.where.starts_with("coat"));
  }
  void show(const Build& build, const Derived& derived) override;

 private:
  void addDays(TrayGroup* group);
  QComboBox *m_glue, *m_seal, *m_paint, *m_clear;
  QCheckBox *m_fill, *m_heatSeal;
  QDateEdit *m_start, *m_due;
  QDoubleSpinBox* m_hours;
  QLabel* m_needs;
};

}  // namespace awl
