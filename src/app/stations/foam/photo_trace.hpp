#pragma once
#include <QImage>
#include <QLabel>
#include <QPushButton>

#include "app/widgets/length_field.hpp"
#include "app/desk/tab_order.hpp"
#include "core/stock/trace.hpp"

namespace awl {

/// The photograph with the corners clicked so far.
class PhotoView : public QWidget {
  Q_OBJECT

 public:
  explicit PhotoView(QWidget* parent = nullptr);
  void setPhoto(const QImage& photo);
  const std::vector<Vec2>& points() const { return m_points; }
  /// How far each corner of the square may be off its true place, pixels: less where a sharp one was found.
  double slipPx() const;
  void removeLast();
  void clear();
  /// Widget place of a pixel of the photograph.
  QPointF placeOf(const Vec2& pixel) const;

 signals:
  void pointsChanged();

 protected:
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent*) override;
  void mouseMoveEvent(QMouseEvent*) override;
  void mouseReleaseEvent(QMouseEvent*) override;

 private:
  double zoom() const;
  QPointF corner() const;  ///< upper left one of the picture: it lies in the middle of the widget
  Vec2 pixelAt(QPointF at) const;

  QImage m_photo;
  GreyPicture m_grey;
  std::vector<Vec2> m_points;  ///< the square's four corners first, then the outline
  std::vector<char> m_sharp;   ///< of each: drawn to a corner of the picture
  QPointF m_pressed;
  int m_dragged = -1;
};

/// An offcut's outline from a photograph: the corners of a square of known side lying on it, then its own corners.
class PhotoTrace : public EyeDialog {
  Q_OBJECT

 public:
  PhotoTrace(const QImage& photo, LengthUnit unit, QWidget* parent = nullptr);
  /// Millimetres; empty until the outline is whole.
  std::vector<Vec2> outline() const { return m_outline; }

 private:
  void renew();

  PhotoView* m_view;
  LengthField* m_side;
  QLabel* m_said;
  QPushButton *m_back, *m_again, *m_take;
  LengthUnit m_unit;
  double m_sideMm = 100.0;
  std::vector<Vec2> m_outline;
};

}  // namespace awl
