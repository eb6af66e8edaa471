#pragma once
#include <QLabel>
#include <QLineEdit>
#include <QTableWidget>

#include "core/base/units.hpp"
#include "core/io/shop_book.hpp"

namespace awl {

/// The open shop book: wearers on the left page, their dated measures and how they changed on the right.
class BookPage : public QWidget {
  Q_OBJECT

 public:
  explicit BookPage(QWidget* parent = nullptr);

  void showWearers(const std::vector<BookWearer>& wearers, int chosen);
  void showSheets(const std::vector<BookSheet>& sheets, LengthUnit unit);
  QString search() const { return m_search->text(); }
  int wearer() const;
  /// Numbers of the chosen sets, at most two, the older first.
  std::vector<int> chosenSheets() const;

 signals:
  void searchChanged();
  void wearerChosen();
  void sheetsChosen();

 private:
  QTableWidget* makeTable(const QString& name, const QString& accessible, const QStringList& headings);
  void showComparison();

  QLineEdit* m_search;
  QTableWidget *m_wearers, *m_sheets, *m_compare;
  QLabel *m_empty, *m_title;
  std::vector<BookSheet> m_shown;
  LengthUnit m_unit = LengthUnit::mm;
};

}  // namespace awl
