#pragma once
#include <QWidget>

#include "core/chain/chain.hpp"
#include "core/piece/changes.hpp"

namespace awl {

/// The pieces flat on their sheets, true to one another, over a 10 mm grid. Middle drag to shift, wheel to come nearer.
/// Where it may be laid by hand, pieces are dragged, turned and held; what they would lie over is shown before they are
/// let go.
class MatView : public QWidget {
  Q_OBJECT

 public:
  explicit MatView(QWidget* parent = nullptr);

  using QWidget::show;
  void show(const Derived& derived, bool strain, double tolerance);
  void setDark(bool dark);
  void setLitPanel(int panel);
  /// Outlines of another version, laid over the pieces of the same name; empty: none.
  void setFormer(std::vector<PieceChange> changes);
  const std::vector<PieceChange>& former() const { return m_former; }
  void setRenewing(bool renewing);
  void setMovable(bool movable);
  void zoomToFit();

  struct Item {
    int panel = -1;  ///< the panel this copy makes
    int piece = -1;
    int sheet = 0;
    Pose pose;
    int copy = 0;
    bool held = false;  ///< laid down by the maker
  };
  const std::vector<Item>& items() const { return m_items; }
  /// Copy under a place of the widget, -1 if none.
  int itemAt(QPointF at) const;
  /// Widget place of the middle of a copy.
  QPointF middleOf(int item) const;
  /// The copy in hand, -1 without one; and whether it lies over another or the edge where it is now.
  int inHand() const { return m_hand; }
  bool collides() const { return m_collides; }

 signals:
  void panelPointed(int panel);
  void panelClicked(int panel);
  /// A place of a piece, in its own frame.
  void pieceClicked(int piece, double x, double y, bool flipped);
  /// A copy was laid down by hand, or let go again.
  void copyLaid(const HeldCopy& copy);
  void copyReleased(const QString& piece, int copy);
  void told(const QString& sentence);

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
  /// Room a sheet or offcut takes, from its low corner.
  Vec2 sizeOf(int sheet) const;
  Vec2 sheetLow(int sheet) const { return m_lows[static_cast<std::size_t>(sheet)]; }
  /// Sheets in as many rows as lets them be shown largest; one alone as far as it is used.
  void arrangeSheets();
  Vec2 rowsSize(int columns, std::vector<Vec2>& lows) const;
  QString sheetWords(int sheet) const;
  QPointF toWidget(const Vec2& mm) const { return {m_origin.x() + m_zoom * mm.x(), m_origin.y() - m_zoom * mm.y()}; }
  Vec2 toSheet(QPointF at, int sheet) const {
    return Vec2((at.x() - m_origin.x()) / m_zoom, (m_origin.y() - at.y()) / m_zoom) - sheetLow(sheet);
  }
  void paintSheet(QPainter& painter, int sheet) const;
  void paintItem(QPainter& painter, const Item& item) const;
  void paintStrain(QPainter& painter, const Item& item) const;
  void paintStrain(QPainter& painter, const Panel& panel, const Pose& pose, const Pose& own) const;
  bool makes(const Item& item, int panel) const;
  void paintFormer(QPainter& painter, const Item& item) const;
  void paintScale(QPainter& painter) const;
  void zoomAt(QPointF at, double factor);
  void paintHand(QPainter& painter) const;
  void moveHand(const Vec2& by);
  void turnHand(double by_rad);
  void judgeHand();
  /// Lays down what is in hand, or puts it back if it lies over something.
  void layDown();
  void putBack();
  std::string whatIsUnder(bool& blocks) const;

  std::shared_ptr<const std::vector<Piece>> m_pieces;
  std::shared_ptr<const PanelSet> m_panels;
  std::shared_ptr<const Layout> m_layout;
  std::vector<PieceChange> m_former;
  std::vector<Item> m_items;
  std::vector<Vec2> m_lows;         ///< where each sheet's low corner is shown
  std::vector<Drawing> m_drawings;  ///< per item, placed
  double m_zoom = 1.0, m_tolerance = 0.04;
  QPointF m_origin;
  QPoint m_last;
  int m_lit = -1;
  int m_hand = -1;
  Pose m_before;  ///< of the copy in hand
  int m_beforeSheet = 0;
  bool m_dragging = false, m_collides = false, m_movable = false;
  std::string m_under;
  bool m_dark = false, m_strain = false, m_fitted = true, m_renewing = false;
};

}  // namespace awl
