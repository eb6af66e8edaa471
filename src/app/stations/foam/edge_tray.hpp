#pragma once
#include <QCheckBox>
#include <QComboBox>
#include <QObject>
#include <QSlider>
#include <QTableWidget>

#include "app/station/dial_fields.hpp"
#include "app/stations/foam/section_view.hpp"

namespace awl {

/// How each seam is cut, a look across it, bends, and what is left beyond the line.
class EdgeTray : public QObject {
  Q_OBJECT

 public:
  EdgeTray(Station* station, Document& document, const Chain& chain);
  void show(const Build& build, const Derived& derived);

 private:
  void makeEdges();
  void makeBend();
  void makeMargins();
  void fillTable();
  void showSection();
  void choose(const std::string& cut);
  void showBend();
  /// The edge of the seam in hand, with its piece; nulls without one.
  std::pair<const Piece*, const PieceEdge*> inHand() const;

  Station* m_station;
  Document& m_document;
  const Chain& m_chain;
  Derived m_derived;
  QTableWidget* m_table;
  QComboBox* m_cut;
  LengthField *m_margin, *m_radius, *m_angle;
  DialFields *m_fields, *m_margins;
  QSlider* m_along;
  SectionView* m_section;
  QLabel *m_words, *m_bend;
  double m_radiusMm = 20.0, m_angleDeg = 90.0;
};

}  // namespace awl
