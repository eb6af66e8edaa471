#include <QAction>
#include <QLineEdit>
#include <QListWidget>
#include <set>

#include "app/shell/finder.hpp"
#include "support/bench_window.hpp"

using namespace awl;

namespace {

/// The finder as it is opened from the menu, with all trays looked through.
Finder& opened(test::Bench& bench) {
  bench.find<QAction>("act-find").trigger();
  for (int i = 0; i < 40; ++i) QApplication::processEvents();
  return bench.find<Finder>("finder");
}

QStringList rowsOf(const Finder& finder) {
  QStringList rows;
  const auto* list = finder.findChild<QListWidget*>(QStringLiteral("finder-list"));
  for (int i = 0; i < list->count(); ++i) rows << list->item(i)->text();
  return rows;
}

QLineEdit& wordsOf(Finder& finder) { return *finder.findChild<QLineEdit*>(QStringLiteral("finder-words")); }

}  // namespace

TEST_CASE("a word or two finds where something is set, and Enter goes there", "[app][finder]") {
  test::Bench bench;
  bench.go("tape");
  Finder& finder = opened(bench);
  CHECK(rowsOf(finder).isEmpty());
  QTest::keyClicks(&wordsOf(finder), QStringLiteral("laser"));
  // Its tip has the word; its name is what the row says.
  REQUIRE(rowsOf(finder).contains(QStringLiteral("What the cut takes   (Foam, Margins)")));
  wordsOf(finder).clear();
  QTest::keyClicks(&wordsOf(finder), QStringLiteral("hours a day"));
  REQUIRE_FALSE(rowsOf(finder).isEmpty());
  CHECK(rowsOf(finder).front() == QStringLiteral("Hours a day   (Coat, Days)"));
  QTest::keyClick(&wordsOf(finder), Qt::Key_Return);
  QApplication::processEvents();
  CHECK(bench.window.stationId() == QStringLiteral("coat"));
  CHECK(bench.window.station().drawers().open() == QStringLiteral("days"));
  const QWidget& hours = *bench.window.findChild<QWidget*>(QStringLiteral("coat-hours"));
  CHECK(hours.isVisibleTo(&bench.window));
  const QWidget* at = bench.window.focusWidget();
  CHECK((at == &hours || hours.isAncestorOf(at)));
}

TEST_CASE("up and down go through what is found, and what is folded away is unfolded", "[app][finder]") {
  test::Bench bench;
  Finder& finder = opened(bench);
  QTest::keyClicks(&wordsOf(finder), QStringLiteral("glue"));
  auto& list = *finder.findChild<QListWidget*>(QStringLiteral("finder-list"));
  REQUIRE(list.count() > 2);
  CHECK(list.currentRow() == 0);
  QTest::keyClick(&wordsOf(finder), Qt::Key_Down);
  QTest::keyClick(&wordsOf(finder), Qt::Key_Down);
  CHECK(list.currentRow() == 2);
  QTest::keyClick(&wordsOf(finder), Qt::Key_Up);
  CHECK(list.currentRow() == 1);
  for (int i = 0; i < 500; ++i) QTest::keyClick(&wordsOf(finder), Qt::Key_Down);
  CHECK(list.currentRow() == list.count() - 1);
  wordsOf(finder).setText(QStringLiteral("its glue"));
  REQUIRE(list.count() > 0);
  QTest::keyClick(&wordsOf(finder), Qt::Key_Return);
  QApplication::processEvents();
  CHECK(bench.window.findChild<QWidget*>(QStringLiteral("coat-joint-glue"))->isVisibleTo(&bench.window));
}

TEST_CASE("what is not there now is not found, in plain words", "[app][finder]") {
  test::Bench bench;
  Finder& finder = opened(bench);
  const auto* said = finder.findChild<QLabel*>(QStringLiteral("finder-said"));
  wordsOf(finder).setText(QStringLiteral("skirt frame buck"));
  CHECK(rowsOf(finder).isEmpty());
  CHECK(said->text().contains(QLatin1String("Nothing at the stations")));
  QTest::keyClick(&wordsOf(finder), Qt::Key_Return);
  CHECK(finder.isVisible());
  wordsOf(finder).setText(QStringLiteral("skirt"));  // of a drawn visor alone
  CHECK(rowsOf(finder).filter(QStringLiteral("Skirt")).isEmpty());
  // Trays that are filled when they are shown are looked through as well.
  wordsOf(finder).setText(QStringLiteral("hair or wig"));
  CHECK(rowsOf(finder).contains(QStringLiteral("Hair or wig   (Form, Shape)")));
}

TEST_CASE("what goes away while one looks for it is told by its name", "[app][finder]") {
  test::Bench bench;
  Finder& finder = opened(bench);
  wordsOf(finder).setText(QStringLiteral("put a battery at the back"));
  auto& button = bench.find<QPushButton>("fit-battery-back");
  REQUIRE(rowsOf(finder).filter(button.text()).size() == 1);
  button.hide();
  QTest::keyClick(&wordsOf(finder), Qt::Key_Return);
  QApplication::processEvents();
  CHECK(bench.find<QLabel>("remark-text").text().startsWith(button.text() + QStringLiteral(": as things are")));
}

TEST_CASE("every drawer of every station has something that is found by a name of its own", "[app][finder]") {
  test::Bench bench;
  Finder& finder = opened(bench);
  std::set<QString> places;
  for (const char* vowel : {"a", "e", "i", "o", "u"}) {
    wordsOf(finder).setText(QLatin1String(vowel));
    for (const QString& row : rowsOf(finder))
      places.insert(row.section(QLatin1Char('('), -1).section(QLatin1Char(','), 0, 0));
  }
  for (const Station* station : bench.window.stations()) {
    CAPTURE(station->word().toStdString());
    const QString word = station->word();
    CHECK(std::any_of(places.begin(), places.end(), [&](const QString& p) { return p.startsWith(word); }));
  }
}
