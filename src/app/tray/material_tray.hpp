#pragma once
#include <QLineEdit>
#include <QObject>
#include <QPushButton>

#include "app/models/book.hpp"
#include "app/stations/station.hpp"

namespace awl {

/// The numbers of the sheet in hand, to be put right: what the maker found out with scraps, and what was paid.
class MaterialTray : public QObject {
  Q_OBJECT

 public:
  MaterialTray(Station* station, Document& document, const Chain& chain, Book& book);
  void show(const Build& build);
  void renewBook();
  /// Kinds of the shop book, by their own ids.
  const std::vector<Foam>& own() const { return m_own; }

 signals:
  void kindsChanged();

 private:
  struct Row { QLineEdit* edit; double Foam::*field; double times; };
  void keep();
  void drop();
  Result<Foam> typed() const;

  Document& m_document;
  const Chain& m_chain;
  Book& m_book;
  std::vector<Foam> m_own;
  QLineEdit *m_name, *m_price, *m_thick;
  std::vector<Row> m_rows;
  QPushButton *m_keep, *m_drop;
  QLabel* m_said;
};

}  // namespace awl
