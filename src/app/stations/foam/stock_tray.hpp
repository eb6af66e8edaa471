#pragma once
#include <QCheckBox>
#include <QListWidget>
#include <QObject>
#include <QPushButton>

#include "app/desk/book.hpp"
#include "app/station/dial_fields.hpp"

namespace awl {

/// Sheets and offcuts: which ones this build is cut from, and what is kept of what is left.
class StockTray : public QObject {
  Q_OBJECT

 public:
  StockTray(Station* station, Document& document, const Chain& chain, Book& book);
  void show(const Build& build, const Derived& derived);
  void renewBook();

  /// Its two groups, put where the station wants them; both must be made before anything is shown.
  void makeSheet();
  void makeOffcuts();

  /// An outline traced elsewhere, put into the field as corners; it still wants a name.
  void takeOutline(const std::vector<Vec2>& outline);

 signals:
  void photoWanted();

 private:
  void addOffcut();
  void keepLeftovers();
  void removeOffcut();
  void useOffcut(QListWidgetItem* item);
  void fillList(const Build& build);
  template <class T>
  bool good(const Result<T>& result);

  Station* m_station;
  Document& m_document;
  const Chain& m_chain;
  Book& m_book;
  Derived m_derived;
  std::vector<Offcut> m_kept;  ///< as the book has them
  DialFields* m_fields;
  QComboBox* m_size;
  QCheckBox* m_grain;
  QListWidget* m_list;
  QLineEdit *m_name, *m_outline;
  QPushButton *m_keep, *m_add, *m_remove, *m_bring, *m_held, *m_photo;
  QLabel *m_summary, *m_said;
  std::vector<int> m_removed;
};

}  // namespace awl
