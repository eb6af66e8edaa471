#pragma once
#include <QComboBox>
#include <QLineEdit>
#include <QListWidget>
#include <QObject>
#include <QPushButton>

#include "app/station/station.hpp"

namespace awl {

/// What must go on before what: the rules that hold anyway, and the maker's own.
class OrderTray : public QObject {
  Q_OBJECT

 public:
  OrderTray(Station* station, Document& document, const Chain& chain);
  void show(const Build& build, const Derived& derived);

 private:
  void add();
  void drop();
  /// The pieces were dragged: as they lie now, where the rules allow it.
  void takeSequence();
  void moveChosen(int by);

  Document& m_document;
  const Chain& m_chain;
  Derived m_derived;
  QListWidget *m_list, *m_pieces;
  QComboBox *m_first, *m_then;
  QLineEdit* m_why;
  QPushButton *m_add, *m_drop, *m_up, *m_down, *m_again;
  QLabel* m_said;
};

}  // namespace awl
