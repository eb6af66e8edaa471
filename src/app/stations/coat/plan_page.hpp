#pragma once
#include <QFrame>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QScrollArea>

#include "app/stations/coat/plan_view.hpp"

namespace awl {

/// The plan beside the stand: whether it is ready, what to do next, largest of all, and the days below.
class PlanPage : public QWidget {
  Q_OBJECT

 public:
  explicit PlanPage(QWidget* parent = nullptr);
  void show(std::shared_ptr<const Plan> plan, const CoatSpec& spec);
  using QWidget::show;
  /// A step that was begun and is being worked at; empty: none.
  void setGoingOn(const QString& id, const QString& since);
  /// The step that is pointed at in the days: what slips with it is said, and notes go to it. Empty: the next.
  void setChosen(const QString& id);
  PlanView& days() { return *m_days; }
  /// It likes to be read without breaking every line.
  QSize sizeHint() const override { return {520, 600}; }
  QSize minimumSizeHint() const override;

 signals:
  void beginWanted(const QString& id);
  void tickWanted(const QString& id, bool done);
  void noteWanted(const QString& id, const QString& note);

 private:
  void showNext();
  void showAtHand();
  QString slipsOf(const PlannedStep& step) const;
  const PlannedStep* atHand() const;
  QLabel *m_headline, *m_bound, *m_over, *m_title, *m_when, *m_caution, *m_slips;
  QLineEdit* m_note;
  QFrame* m_card;
  QPushButton *m_begin, *m_done;
  QScrollArea *m_whole, *m_scroll;
  PlanView* m_days;
  std::shared_ptr<const Plan> m_plan;
  QString m_next, m_goingOn, m_since, m_chosen;
};

}  // namespace awl
