#pragma once
#include <QWidget>
#include <optional>

#include "app/desk/document.hpp"

namespace awl {

/// The drawing table of a plate: half an outline on the fold, over the wearer's own face true to size.
///
/// Drag a point to move it, double-click the line to add one, C makes a corner or a curve of it, Delete takes it away,
/// arrow keys move it by a millimetre. With several layers, PgUp and PgDn change the layer at hand.
class PlateTable : public QWidget {
  Q_OBJECT

 public:
  PlateTable(Document& document, QWidget* parent = nullptr);

  void show(const Build& build, int part);
  void showForm(const PartForm* form);
  void setDark(bool dark);
  bool hasPlate() const { return m_plate.has_value(); }
  int layer() const { return m_layer; }
  int pointAt(QPointF at) const;
  QPointF placeOf(int point) const;
  int picked() const { return m_picked; }

 protected:
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent*) override;
  void mouseMoveEvent(QMouseEvent*) override;
  void mouseReleaseEvent(QMouseEvent*) override;
  void mouseDoubleClickEvent(QMouseEvent*) override;
  void keyPressEvent(QKeyEvent*) override;

 private:
  void fit();
  QPointF onTable(const Vec2& sheet_mm) const;
  Vec2 onSheet(QPointF at) const;
  void paintFace(QPainter& painter) const;
  void paintLayer(QPainter& painter, int layer) const;
  void changePoint(int point, const Vec2& to_mm, const QString& gesture);
  void changeOutline(
      const QString& label, const std::function<void(std::vector<CurvePoint>&)>& edit, const QString& gesture = {});
  const std::vector<CurvePoint>& outline() const { return m_plate->layers[static_cast<std::size_t>(m_layer)].outline; }
  QColor ink() const { return m_dark ? QColor(0xe8, 0xe2, 0xd4) : QColor(0x2a, 0x24, 0x1c); }

  Document& m_document;
  std::optional<PlateSpec> m_plate;
  PlateLayout m_layout;
  LengthUnit m_unit = LengthUnit::mm;
  int m_part = 0, m_layer = 0, m_picked = -1, m_drag = 0;
  bool m_dragging = false, m_dark = false;
  double m_scale = 1.0;
  QPointF m_origin;
};

}  // namespace awl
