#pragma once
#include <QComboBox>
#include <QDateEdit>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>

#include "app/desk/book.hpp"
#include "app/widgets/length_field.hpp"
#include "core/builds/fresh.hpp"
#include "core/chain/chain.hpp"

class QFormLayout;

namespace awl {

/// Before there is a build: what it is to be, for whom, of what and by when; and what was worked on of late.
class StartPage : public QWidget {
  Q_OBJECT

 public:
  StartPage(const Chain& chain, Book& book, QWidget* parent);

  /// Shown anew: recent builds and wearers as they are now. `back`: there is a bench to go back to.
  void renew(bool back);
  bool offersBack() const { return m_offersBack; }
  void tell(const QString& sentence) { m_words->setText(sentence); }
  /// What is chosen so far.
  FreshBuild wish() const;

 signals:
  void startWanted(const awl::FreshBuild& wish);
  void openWanted(const QString& path);
  void browseWanted();
  void galleryWanted();
  void backWanted();

 protected:
  void keyPressEvent(QKeyEvent* event) override;
  void changeEvent(QEvent* event) override;

 private:
  QWidget* makeChoice();
  QWidget* makeWish();
  void addMeasures(QFormLayout& form);
  QWidget* makeRecent();
  void fitType();
  void showThing(const QString& thing);
  void renewStart();
  void renewWearer();
  void renewThickness();
  void start();

  const Chain& m_chain;
  Book& m_book;
  QListWidget *m_starts, *m_recent;
  QLabel *m_chosen, *m_known, *m_words, *m_recentWords;
  QComboBox *m_wearer, *m_foam, *m_thickness;
  QDateEdit* m_due;
  QPushButton *m_go, *m_back;
  std::vector<std::pair<MeasureId, LengthField*>> m_measures;
  std::map<MeasureId, double> m_typed;
  bool m_offersBack = false;
  std::optional<TapeSheet> m_sheet;  ///< of the wearer chosen, from the book
};

}  // namespace awl
