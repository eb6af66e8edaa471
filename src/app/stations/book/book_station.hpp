#pragma once
#include <QPushButton>

#include "app/desk/search.hpp"
#include "app/desk/book.hpp"
#include "app/station/station.hpp"
#include "app/stations/book/book_page.hpp"
#include "app/stations/book/job_tray.hpp"
#include "core/io/batch.hpp"

namespace awl {

/// Book: who was measured on which day, to be used again, compared, carried in and out as a table.
class BookStation : public Station {
  Q_OBJECT

 public:
  BookStation(const Workplace& place, QWidget* parent);
  View view() const override { return View::page; }
  QWidget* page() override { return m_page; }
  bool isDone(const Derived&) const override { return true; }
  bool isStep() const override { return false; }
  bool owns(const Remark& r) const override { return isOf(r, {"book."}); }
  void show(const Build& build, const Derived& derived) override;
  void entered() override;

  void readCsv(const QString& path);
  void writeCsv(const QString& path);
  /// Makes this build for every wearer of the book, each from the newest set, with sheets, into a folder.
  void makeForAll(const QString& folder);
  /// All the book holds of the chosen wearer, into a folder.
  void carryOut(const QString& folder);
  /// Takes the chosen wearer out for good, if it is asked for twice.
  void forget();
  void deleteFiles();

 private:
  void askCsv(bool save);
  void addButtons();
  void renew();
  void renewSheets();
  void renewButtons();
  void useInBuild();
  void putBuild();
  Result<std::vector<NamedSheet>> newestSheets();
  void madeForAll(const Result<std::vector<Result<Regraded>>>& made);
  template <class T>
  bool good(const Result<T>& result);

  const Chain& m_chain;
  Book& m_book;
  BookPage* m_page;
  JobTray* m_job;
  QLabel *m_all_of, *m_files;
  QPushButton *m_forget, *m_deleteFiles;
  int m_forgetting = 0, m_deleting = 0;  ///< the wearer that was asked for once
  QPushButton *m_put, *m_use, *m_removeSheet, *m_removeWearer, *m_bringBack;
  QPushButton *m_all, *m_stop;
  QProgressBar* m_progress;
  QLabel* m_said;
  Derived m_derived;
  std::unique_ptr<Search<std::vector<Result<Regraded>>>> m_making;
};

}  // namespace awl
