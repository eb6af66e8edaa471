#pragma once
#include <QLabel>
#include <QPushButton>
#include <QWidget>
#include <array>

#include "core/base/remark.hpp"

namespace awl {

/// One remark at a time, the most serious first, with its remedies as buttons.
class RemarksLine : public QWidget {
  Q_OBJECT

 public:
  explicit RemarksLine(QWidget* parent = nullptr);
  using QWidget::show;
  void show(const std::vector<Remark>& remarks);
  /// What to do next, told before what is only a note, and in place of nothing.
  void setNext(const std::optional<Remark>& next);
  /// A refused change: shown first until something else happens.
  void showRefusal(const QString& sentence);
  /// Something else was done since.
  void dropRefusal();

 signals:
  void remedyPressed(const QString& act, const QString& label);
  void placeClicked(const QString& where);

 protected:
  void mousePressEvent(QMouseEvent*) override;
  void resizeEvent(QResizeEvent*) override;

 private:
  void renew();
  void step(int by);
  void fitRemedies();
  void press(std::size_t remedy);

  void compose();

  std::vector<Remark> m_judged, m_remarks;  ///< as they came; and with what is next among them
  std::optional<Remark> m_nextStep;
  QString m_refusal;
  int m_index = 0;
  QLabel *m_badge, *m_text, *m_count;
  std::array<QPushButton*, 3> m_remedies;
  QPushButton *m_more, *m_before, *m_next;  ///< more: what of the remedies has no room
};

}  // namespace awl
