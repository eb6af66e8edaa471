#pragma once
#include <QElapsedTimer>
#include <QThreadPool>
#include <QTimer>
#include <QWidget>
#include <atomic>
#include <memory>
#include <optional>

#include "app/stand/stand_scene.hpp"

namespace awl {

/// The form in 3D: orbit with the left button, shift it with the middle one, wheel to come nearer, F S B T for views.
class StandView : public QWidget {
  Q_OBJECT

 public:
  explicit StandView(QWidget* parent = nullptr);
  ~StandView() override;

  using QWidget::show;
  void show(const Derived& derived, const StandChoice& choice, double thickness_mm, double tolerance);
  void setRenewing(bool renewing);
  void setDark(bool dark);
  void setLitPanel(int panel);
  int litPanel() const { return m_options.owner_lit; }
  const StandCamera& camera() const { return m_camera; }
  void look(float yaw, float pitch);
  /// Panel under a place of the widget, -1 if none. For tests and hover.
  int panelAt(QPoint at);
  /// Index of the measure whose tape or value is under a place, -1 if none.
  int measureAt(QPointF at) const;
  /// Place on the first body under a place of the widget.
  std::optional<Vec3f> surfaceAt(QPoint at);
  /// Renders until nothing is left to refine, for pictures.
  QImage finishedPicture();

 signals:
  void panelPointed(int panel);
  void panelClicked(int panel);
  void measureClicked(int measure);
  /// A place on the first body was clicked, in its frame, millimetres.
  void surfaceClicked(double x, double y, double z);
  void firstPicture();

 protected:
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent*) override;
  void mouseMoveEvent(QMouseEvent*) override;
  void mouseReleaseEvent(QMouseEvent*) override;
  void leaveEvent(QEvent*) override;
  void wheelEvent(QWheelEvent*) override;
  void keyPressEvent(QKeyEvent*) override;
  void resizeEvent(QResizeEvent*) override;

 private:
  void moved();
  void renderNow(int scale);
  void bakeInBackground();
  void paintOverlay(QPainter& painter);
  void paintLine(QPainter& painter, const StandOverlay::Line& line);
  void paintWords(QPainter& painter);
  void paintCallouts(QPainter& painter);
  void paintLegend(QPainter& painter);
  QPointF onWindow(const Vec3f& p) const;
  QColor ink() const { return m_options.dark ? QColor(0xe8, 0xe2, 0xd4) : QColor(0x2a, 0x24, 0x1c); }

  struct Spot { int measure; QRectF label; QPolygonF line; };

  StandScene m_scene;
  StandCamera m_camera;
  StandRaster m_raster;
  StandRaster::Options m_options;
  QImage m_image;
  QTimer m_still;
  QThreadPool m_pool;
  std::shared_ptr<std::atomic<int>> m_bake = std::make_shared<std::atomic<int>>(0);
  std::vector<Spot> m_spots;  ///< what can be clicked over the bodies, as last painted
  QPoint m_last, m_pressed;
  bool m_lit = false;  ///< the light on the bodies is the final one
  bool m_dirty = true, m_renewing = false, m_shown = false;
};

}  // namespace awl
