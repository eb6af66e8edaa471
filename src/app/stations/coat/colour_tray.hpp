#pragma once
#include <QCheckBox>
#include <QComboBox>
#include <QHash>
#include <QListWidget>
#include <QPushButton>
#include <QSpinBox>

#include "app/station/station.hpp"
#include "core/derived/colour_map.hpp"

namespace awl {

/// Colours and where they go: the areas in a list with their swatches, and what is said of the one at hand.
class ColourTray : public QWidget {
  Q_OBJECT

 public:
  /// Adds itself to the drawer that is being filled.
  ColourTray(Station& station, const Workplace& place);
  void show(const Build& build, const Derived& derived);
  using QWidget::show;
  void choose(int area);
  int chosen() const;
  /// Metres the maker wants to look from; 0: near.
  double seenFrom() const;
  /// A triangle of what is painted was pointed at.
  void point(int face);
  std::vector<std::vector<Vec3>> offeredBorder() const;

 signals:
  void farChanged();
  /// A line is to be drawn at which colours meet.
  void lineWanted();

 private:
  void addList(TrayGroup* group);
  void addFacts(TrayGroup* group);
  void addFar(TrayGroup* group);
  void edit(const QString& label, const std::function<void(ColourArea&)>& change);
  void colourParts();
  void addArea();
  void takeColour(int index);
  void showChosen();
  void showOffers();
  void offerFields(const std::function<void(const QString&, const std::string&)>& offer);
  bool paintedAsField(int area) const;
  QString wordsOf(const ColourArea& area) const;

  Document& m_document;
  const Chain& m_chain;
  Derived m_shown;
  QListWidget* m_list;
  QComboBox *m_offer, *m_colour, *m_paint;
  QPushButton *m_all, *m_add, *m_gone, *m_draw;
  struct Field {
    int number;  ///< of the ground's fields
    QString name;
  };
  bool m_pointed = false;          ///< at what is offered: its border is lit
  QHash<QString, Field> m_fields;  ///< that are offered, by the words of their place
  QCheckBox *m_hard, *m_bears;
  QSpinBox* m_coats;
  QLabel *m_none, *m_words, *m_far;
  QComboBox *m_fade, *m_fadeWay;
  QDoubleSpinBox* m_readAt;
  QCheckBox* m_fromAfar;
  TrayGroup* m_facts;
};

}  // namespace awl
