#pragma once
#include <QWidget>
#include <memory>

#include "app/stand/room_picture.hpp"

namespace awl {

/// A room with stairs, a doorway and people, seen out of what is worn: what stands in the way goes along with the head.
class RoomView : public QWidget {
  Q_OBJECT

 public:
  explicit RoomView(QWidget* parent = nullptr);
  using QWidget::show;
  void show(std::shared_ptr<const Worn> worn);
  /// The head turned to the left and bent down, degrees.
  void look(double left_deg, double down_deg);
  QSize sizeHint() const override { return {300, 260}; }
  double leftDeg() const { return m_left; }
  double downDeg() const { return m_down; }

 signals:
  void looked(double left_deg, double down_deg);

 protected:
  void paintEvent(QPaintEvent*) override;
  void resizeEvent(QResizeEvent*) override { m_picture = {}; }
  void mousePressEvent(QMouseEvent*) override;
  void mouseMoveEvent(QMouseEvent*) override;
  void keyPressEvent(QKeyEvent*) override;

 private:
  std::shared_ptr<const Worn> m_worn;
  std::vector<StandBody> m_room;
  double m_height = 0.0;  ///< of the eyes the room was made for
  QImage m_picture, m_shade;
  double m_left = 0.0, m_down = 12.0;
  QPoint m_pressed;
  double m_leftThen = 0.0, m_downThen = 0.0;
};

}  // namespace awl
