#pragma once
#include <QComboBox>
#include <QLineEdit>
#include <QObject>
#include <QPushButton>

#include "app/desk/book.hpp"
#include "app/station/station.hpp"

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
  struct Row {
    QLineEdit* edit;
    double Foam::*field;
    double times;
  };
  void addFields(Station* station, TrayGroup* group);
  void addButtons(Station* station, TrayGroup* group);
  /// Every field empty, for a kind there is nothing like yet.
  void startAnew();
  void keep();
  void drop();
  Result<Foam> typed() const;
  Result<void> typeNumbers(Foam& foam) const;
  Result<void> typeTaboos(Foam& foam) const;
  Result<void> typePrice(Foam& foam) const;

  Document& m_document;
  const Chain& m_chain;
  Book& m_book;
  std::vector<Foam> m_own;
  std::optional<FoamSpec> m_shown;
  bool m_anew = false;  ///< what is typed is a kind of its own, not a change of the one in hand
  QComboBox* m_kind = nullptr;
  QLineEdit *m_name = nullptr, *m_price = nullptr, *m_thick = nullptr, *m_taboos = nullptr, *m_caution = nullptr;
  std::vector<Row> m_rows;
  QPushButton *m_new = nullptr, *m_keep = nullptr, *m_drop = nullptr;
  QLabel* m_said = nullptr;
};

}  // namespace awl
