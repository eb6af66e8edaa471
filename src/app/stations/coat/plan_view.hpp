#pragma once
#include <QWidget>
#include <map>
#include <memory>
#include <set>

#include "core/coat/plan.hpp"

namespace awl {

/// The finishing plan day by day: a strip of bench hours with what is done in them and what dries below, running into
/// the night; then each step with its time, its caution, and a box to tick it off.
class PlanView : public QWidget {
  Q_OBJECT

 public:
  explicit PlanView(QWidget* parent = nullptr);
  using QWidget::show;
  void show(std::shared_ptr<const Plan> plan, const CoatSpec& spec);
  QString headline() const;
  /// Days on which the wearer comes, with what is to be said of it.
  void setFittings(std::map<Day, QString> fittings);
  /// Where a step's box is; for tests and for scrolling to it. Empty if there is no such step.
  QRect boxOf(const QString& id) const;
  /// The step shown as pointed at: the look on the stand is that after it.
  void setChosen(const QString& id);
  QString chosen() const { return m_chosen; }

 signals:
  void tickWanted(const QString& id, bool done);
  void stepChosen(const QString& id);

 protected:
  void paintEvent(QPaintEvent*) override;
  void resizeEvent(QResizeEvent*) override;
  void changeEvent(QEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;

 private:
  struct Row {
    int step = 0;
    QRectF area;
  };
  /// A day with work, or a run of days without.
  struct DayCard {
    Day first, last;
    double top = 0.0;
    std::vector<Row> rows;  ///< of what begins on it
    bool works = false;
  };
  void layOut();
  std::set<Day> workingDays() const;
  QString benchWords(Day day) const;
  double headHigh(Day day) const;
  double quietHigh(const DayCard& day) const;
  void addQuiet(Day first, Day last, double& y);
  double rowHeight(const PlannedStep& step) const;
  double whenWide() const;
  double lineHigh() const;
  QRectF wordsOf(const QRectF& row) const;
  QString detailOf(const PlannedStep& step) const;
  void paintDay(QPainter& painter, const DayCard& day) const;
  void paintStrip(QPainter& painter, const DayCard& day, const QRectF& strip) const;
  void paintRow(QPainter& painter, const Row& row, int number) const;
  QString fittingsOf(Day first, Day last) const;
  QString quietWords(const DayCard& day) const;
  QRectF tickBox(const Row& row) const;
  /// A length of the usual type, in the type there is.
  double scaled(double usual) const;
  QColor ink() const { return palette().color(QPalette::WindowText); }
  QFont small() const;
  QFont bold() const;

  std::shared_ptr<const Plan> m_plan;
  CoatSpec m_spec;
  std::vector<DayCard> m_days;
  QString m_chosen;
  std::map<Day, QString> m_fittings;
};

}  // namespace awl
