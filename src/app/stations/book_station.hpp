#pragma once
#include <QPushButton>

#include "app/models/book.hpp"
#include "app/stations/station.hpp"
#include "app/widgets/book_page.hpp"

namespace awl {

/// Book: who was measured on which day, to be used again, compared, carried in and out as a table.
class BookStation : public Station {
  Q_OBJECT

 public:
  BookStation(Document& document, Book& book, QWidget* parent);
  View view() const override { return View::page; }
  QWidget* page() override { return m_page; }
  void show(const Build& build, const Derived& derived) override;
  void entered() override;

  void readCsv(const QString& path);
  void writeCsv(const QString& path);

 signals:
  void csvWanted(bool save);

 private:
  QPushButton* addButton(TrayGroup* group, const QString& name, const QString& text, const QString& tip, const std::function<void()>& press);
  void addButtons();
  void renew();
  void renewSheets();
  void renewButtons();
  void useInBuild();
  void putBuild();
  template <class T>
  bool good(const Result<T>& result);

  Book& m_book;
  BookPage* m_page;
  QPushButton *m_put, *m_use, *m_removeSheet, *m_removeWearer, *m_bringBack;
  QLabel* m_said;
};

}  // namespace awl
