#pragma once
#include <QObject>
#include <QPushButton>
#include <QTableWidget>

#include "app/desk/book.hpp"
#include "app/station/station.hpp"
#include "core/steps/shopping.hpp"

namespace awl {

/// What the build takes, what of it is in stock, and what the rest costs.
class ShopTray : public QObject {
  Q_OBJECT

 public:
  ShopTray(Station* station, Document& document, const Chain& chain, Book& book);
  void show(const Build& build, const Derived& derived);
  void renewBook();

 signals:
  /// "shopping" or "shopping-csv".
  void exportWanted(const QString& kind);

 private:
  void fill();

  Document& m_document;
  const Chain& m_chain;
  Book& m_book;
  Derived m_derived;
  std::map<std::string, double> m_stock;
  QTableWidget* m_table;
  QPushButton *m_print, *m_csv;
  QLabel* m_total;
  bool m_filling = false;
};

}  // namespace awl
