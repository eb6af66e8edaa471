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

/// The form in 3D: orbit with the left button, shift it with the middle one, wheel to come nearer, F S B T for views, A
/// for all of it.
class StandView : public QWidget {
  Q_OBJECT

 public:
  explicit StandView(QWidget* parent = nullptr);
  ~StandView() override;

  using QWidget::show;
  void show(const Derived& derived, const StandChoice& choice, double tolerance);
  void setRenewing(bool renewing);
  void setDark(bool dark);
  /// Plain light and coarse pixels: for slow machines and for tests, which look at what is where and not how fine.
  void setRough(bool rough) { m_rough = rough; }
  void setLitPanel(int panel);
  int litPanel() const { return m_options.owner_lit; }
  const StandCamera& camera() const { return m_camera; }
  void look(float yaw, float pitch);
  /// Steps back or nearer until everything is in view.
  void frameAll();
  /// Panel under a place of the widget, -1 if none. For tests and hover.
  int panelAt(QPoint at);
  /// Index of the measure whose tape or value is under a place, -1 if none.
  int measureAt(QPointF at) const;
  /// Place on the first body, or on what is worn, under a place of the widget.
  std::optional<Vec3f> surfaceAt(QPoint at);
  /// Number of the grip under a place of the widget, -1 if none; and where a grip is painted.
  int gripAt(QPointF at) const;
  QPointF gripPlace(int grip) const;
  const std::vector<StandOverlay::Grip>& grips() const { return m_scene.overlay.grips; }
  /// Text shown beside the grip that is being dragged.
  void setGripText(const QString& text);
  /// A picture behind the form, for comparing; placed by two points of known distance. Null: none.
  void setBackdrop(const QImage& picture, double mm_per_pixel, const QPointF& origin_px, double strength);
  /// Place of the backdrop under a place of the widget, in its pixels.
  QPointF backdropPixel(QPointF at) const;
  bool hasBackdrop() const { return !m_backdrop.isNull(); }
  /// Whether a newer picture is still being painted.
  bool isPainting() const { return m_painting || (m_dirty && isVisible()); }
  /// Renders until nothing is left to refine, for pictures.
  QImage finishedPicture();
  /// What is on the screen right now.
  const QImage& shownPicture() const { return m_image; }

 signals:
  void panelPointed(int panel);
  void panelClicked(int panel);
  void measureClicked(int measure);
  /// A place on the first body was clicked, in its frame, millimetres.
  void surfaceClicked(double x, double y, double z);
  void firstPicture();
  /// A place on the outside of what is worn was clicked, millimetres.
  void wornClicked(double x, double y, double z);
  /// A grip is being dragged: by so much of its dial since it was taken hold of. `last` once it is let go.
  void gripMoved(const QString& dial, double by, bool last);
  /// A marker is being dragged over the outside of what is worn; with Shift the whole line goes along.
  void markerMoved(const QString& marker, double x, double y, double z, bool whole, bool last);
  /// The camera was turned to one of the plain views: "front", "left", "right", "back", "top".
  void looked(const QString& view);
  /// A place of the backdrop was clicked, in its pixels.
  void backdropClicked(QPointF pixel);

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
  double soon() const;
  /// Paints the bodies at once; the window waits.
  void renderNow(double scale);
  /// Has them painted beside the window; until then the picture before stays.
  void requestFrame(double scale);
  void bakeInBackground();
  void paintOverlay(QPainter& painter);
  void paintStretches(QPainter& painter);
  void paintLine(QPainter& painter, const StandOverlay::Line& line);
  void paintWords(QPainter& painter);
  void paintCallouts(QPainter& painter);
  void paintLegend(QPainter& painter);
  void paintGrips(QPainter& painter);
  void paintBackdrop(QPainter& painter);
  void paintFromAfar(QPainter& painter);
  double mmPerPixel() const;
  void tellView();
  double dragged(QPointF to) const;
  void tellGrip(QPointF at, bool whole, bool last);
  QPointF onWindow(const Vec3f& p) const;
  QColor ink() const { return m_options.dark ? QColor(0xe8, 0xe2, 0xd4) : QColor(0x2a, 0x24, 0x1c); }

  struct Spot {
    int measure;
    QRectF label;
    QPolygonF line;
  };

  StandSceneMaker m_maker;
  StandScene m_scene;
  StandCamera m_camera;
  bool m_framed = false;  ///< all of it is to be seen, whatever the size; until the maker comes nearer or moves it
  StandRaster m_raster;
  StandRaster::Options m_options;
  QImage m_image;
  QTimer m_still;
  QThreadPool m_pool, m_painters;
  int m_frame = 0, m_newest = 0;  ///< number of the frame asked for last, and of the one that is shown
  bool m_painting = false;
  bool m_stale = true;  ///< the picture is of other bodies or another eye than there are now
  std::shared_ptr<std::atomic<int>> m_bake = std::make_shared<std::atomic<int>>(0);
  std::vector<Spot> m_spots;  ///< what can be clicked over the bodies, as last painted
  QPoint m_last, m_pressed;
  int m_grip = -1;            ///< being dragged
  StandOverlay::Grip m_held;  ///< as it was when taken hold of
  QString m_gripText;
  QImage m_backdrop;
  double m_backdropMmPerPixel = 1.0, m_backdropStrength = 0.5;
  QPointF m_backdropOrigin;
  double m_seenFrom = 0.0;  ///< metres; 0: near
  bool m_rough = false;
  bool m_lit = false;  ///< the light on the bodies is the final one
  bool m_dirty = true, m_renewing = false, m_shown = false;
};

}  // namespace awl
