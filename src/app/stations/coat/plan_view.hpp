#pragma once
#include <QWidget>
#include <memory>

#include "core/coat/plan.hpp"

namespace awl {

/// The finishing plan as a day-by-day list: when, what, how long, with its wait as a hatched bar and its caution.
class PlanView : public QWidget {
  Q_OBJECT

 public:
  explicit PlanView(QWidget* parent = nullptr);
  using QWidget::show;
  void show(std::shared_ptr<const Plan> plan, const CoatSpec& spec);
  QString headline() const;

 protected:
  void paintEvent(QPaintEvent*) override;
  void resizeEvent(QResizeEvent*) override;

 private:
  void layOut();
  QRectF wordsOf(double y) const;
  QString detailOf(const PlannedStep& step) const;
  void paintDays(QPainter& painter, const QRectF& bars) const;
  void paintBars(QPainter& painter, const PlannedStep& step, const QRectF& row) const;
  QColor ink() const { return palette().color(QPalette::WindowText); }

  std::shared_ptr<const Plan> m_plan;
  CoatSpec m_spec;
  std::vector<double> m_tops;  ///< of the rows, and the end of the last
};

}  // namespace awl
