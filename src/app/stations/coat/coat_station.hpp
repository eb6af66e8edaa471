#pragma once
#include <QScrollArea>
#include <QCheckBox>
#include <QDateEdit>
#include <QDoubleSpinBox>

#include "app/station/station.hpp"
#include "app/stations/coat/plan_view.hpp"

namespace awl {

/// Coat: glue, seal, paint, and the plan that says whether it is ready by the day.
class CoatStation : public Station {
  Q_OBJECT

 public:
  CoatStation(const Workplace& place, QWidget* parent);
  View view() const override { return View::page; }
  QWidget* page() override { return m_page; }
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
  PlanView* m_plan;
  QScrollArea* m_page;
};

}  // namespace awl
