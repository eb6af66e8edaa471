// The shop book through the window.
#include <QFile>
#include <QTableWidget>

#include "app/stations/book/book_station.hpp"
#include "core/io/build_file.hpp"
#include "support/bench_window.hpp"

using namespace awl;
using test::Bench;
using M = MeasureId;

namespace {

/// A bench with a book of its own, empty.
struct BookBench {
  BookBench() : before(qgetenv("XDG_DATA_HOME")) {
    qputenv("XDG_DATA_HOME", folder.path().string().c_str());
    bench.emplace();
    bench->go("book");
  }
  ~BookBench() { qputenv("XDG_DATA_HOME", before); }

  QTableWidget& table(const char* name) { return bench->find<QTableWidget>(name); }
  QString at(const char* name, int row, int column) { return table(name).item(row, column)->text(); }
  void press(const char* button) {
    QTest::mouseClick(&bench->find<QPushButton>(button), Qt::LeftButton);
    bench->settle();
  }
  int row_of(const QString& name) {
    for (int row = 0; row < table("book-wearers").rowCount(); ++row)
      if (at("book-wearers", row, 0) == name) return row;
    FAIL("no such wearer");
    return -1;
  }
  void click_row(const char* name, int row, Qt::KeyboardModifiers keys = {}) {
    QTest::mouseClick(
        table(name).viewport(), Qt::LeftButton, keys, table(name).visualItemRect(table(name).item(row, 0)).center());
    QApplication::processEvents();
  }

  QByteArray before;
  test::TempFolder folder;
  std::optional<Bench> bench;
};

}  // namespace

TEST_CASE("an empty book says what to do, the demo's wearers fill it", "[app][book]") {
  BookBench b;
  CHECK(b.table("book-wearers").rowCount() == 0);
  CHECK(b.bench->text("book-empty").contains(QStringLiteral("The book is empty")));
  CHECK_FALSE(b.bench->find<QPushButton>("book-use").isEnabled());
  b.press("book-demo");
  CHECK(b.table("book-wearers").rowCount() == 5);
  CHECK(b.bench->text("book-said").contains(QStringLiteral("6 sets")));
  CHECK(QFile::exists(QString::fromStdString((b.folder / "noggin-awl/shop-book.db").string())));
}

TEST_CASE("a wearer is found, and their set is put on the build, with undo", "[app][book]") {
  BookBench b;
  b.press("book-demo");
  auto& search = b.bench->find<QLineEdit>("book-search");
  search.setFocus();
  QTest::keyClicks(&search, QStringLiteral("ferry"));
  REQUIRE(b.table("book-wearers").rowCount() == 1);
  b.press("book-use");
  CHECK(b.bench->build().wearer == "Ferry Keeper");
  CHECK(b.bench->build().tape.head.at(M::HC).first_mm == 601.0);
  CHECK(b.bench->derived().head->reading(M::HC).reads_mm == Approx(601).margin(2));
  search.clear();
  b.bench->find<QTableWidget>("book-wearers").setFocus();
  b.bench->undo();
  CHECK(b.bench->build() == test::demo());
}

TEST_CASE("two dates stand beside each other with what changed", "[app][book]") {
  BookBench b;
  b.press("book-demo");
  b.click_row("book-wearers", b.row_of(QStringLiteral("Heron Warden")));
  REQUIRE(b.table("book-sheets").rowCount() == 2);
  CHECK(b.bench->text("book-title").isEmpty() == false);
  // The dates are read whole.
  auto& dates = b.table("book-sheets");
  CHECK(dates.columnWidth(0) >= dates.fontMetrics().horizontalAdvance(dates.item(0, 0)->text()) + 10);
  CHECK(b.at("book-compare", 0, 1) == QStringLiteral("586 mm"));
  CHECK(b.at("book-compare", 0, 2) == QStringLiteral("584 mm"));
  CHECK(b.at("book-compare", 0, 3) == QStringLiteral("\u22122 mm"));
  b.click_row("book-sheets", 1);
  CHECK(b.table("book-compare").isColumnHidden(1));
  b.click_row("book-sheets", 0, Qt::ControlModifier);
  CHECK_FALSE(b.table("book-compare").isColumnHidden(1));
}

TEST_CASE("this build's measures go into the book and come back out", "[app][book]") {
  BookBench b;
  b.press("book-put");
  REQUIRE(b.table("book-wearers").rowCount() == 1);
  CHECK(b.at("book-wearers", 0, 0) == QStringLiteral("Heron Warden"));
  const TapeSheet before = b.bench->build().tape;
  b.bench->go("tape");
  b.bench->type("measure-HC", "600");
  b.bench->go("book");
  b.press("book-use");
  CHECK(b.bench->build().tape == before);
}

TEST_CASE("what is removed can be brought back, wearer or set", "[app][book]") {
  BookBench b;
  b.press("book-demo");
  b.click_row("book-wearers", b.row_of(QStringLiteral("Otter Pup")));
  b.press("book-remove-wearer");
  CHECK(b.table("book-wearers").rowCount() == 4);
  b.click_row("book-wearers", b.row_of(QStringLiteral("Heron Warden")));
  b.click_row("book-sheets", 0);
  b.press("book-remove-sheet");
  CHECK(b.table("book-sheets").rowCount() == 1);
  b.press("book-bring-back");
  CHECK(b.table("book-sheets").rowCount() == 2);
  b.press("book-bring-back");
  CHECK(b.table("book-wearers").rowCount() == 5);
  CHECK_FALSE(b.bench->find<QPushButton>("book-bring-back").isEnabled());
}

TEST_CASE("tables are written and read, and a bad one is told with its line and adds nothing", "[app][book]") {
  BookBench b;
  b.press("book-demo");
  const QString path = QString::fromStdString((b.folder / "out.csv").string());
  b.bench->window.asking.path = [&](bool, const QString&, const QString&, const QString&) { return path; };
  b.press("book-write");
  REQUIRE(QFile::exists(path));
  CHECK(read_file(path.toStdString())->find("Ferry Keeper,2026-09-21") != std::string::npos);
  b.press("book-read");
  CHECK(b.table("book-wearers").rowCount() == 5);
  CHECK(b.bench->text("book-said").contains(QStringLiteral("6 sets")));
  REQUIRE(write_file_safely(path.toStdString(), "wearer,HC\nNew One,570\nOther,57x\n"));
  b.press("book-read");
  CHECK(b.bench->text("remark-text").contains(QStringLiteral("Line 3, column 2")));
  CHECK(b.table("book-wearers").rowCount() == 5);
}

TEST_CASE("a damaged book is told and set aside, and the bench works on", "[app][book]") {
  test::TempFolder folder;
  std::filesystem::create_directories(folder / "noggin-awl");
  REQUIRE(write_file_safely(folder / "noggin-awl/shop-book.db", std::string(5000, '!')));
  const QByteArray before = qgetenv("XDG_DATA_HOME");
  qputenv("XDG_DATA_HOME", folder.path().string().c_str());
  {
    Bench bench;
    bench.go("book");
    CHECK(bench.text("remark-text").contains(QStringLiteral("shop-book.db.damaged")));
    CHECK(bench.find<QTableWidget>("book-wearers").rowCount() == 0);
  }
  qputenv("XDG_DATA_HOME", before);
}

TEST_CASE(
    "one build is made for everyone in the book, each with sheets, and who cannot be is told", "[app][book][batch]") {
  BookBench b;
  const test::TempFolder folder;
  b.bench->window.asking.folder = [&](const QString&) { return QString::fromStdString(folder.path().string()); };
  b.press("book-all");
  CHECK(b.bench->text("book-said").isEmpty());  // nobody is in it: told in the remarks
  NamedSheet small{"Otter", sheet_of({{M::HC, 540.0}}, "adult")}, large{"Heron", sheet_of({{M::HC, 600.0}}, "adult")},
      wrong{"Pike", sheet_of({{M::HC, 560.0}, {M::HL, 300.0}}, "adult")};
  for (const NamedSheet& w : {small, large, wrong}) REQUIRE(b.bench->window.book().put(w.wearer, w.sheet));
  const Build before = b.bench->build();
  b.press("book-all");
  for (int i = 0; i < 12000 && b.bench->find<QPushButton>("book-all-stop").isEnabled(); ++i) QTest::qWait(5);
  QApplication::processEvents();
  const QString said = b.bench->text("book-said");
  CHECK(said.contains(QStringLiteral("2 of 3 made")));
  CHECK(said.contains(QStringLiteral("Pike: ")));
  CHECK(b.bench->build() == before);
  for (const char* name : {"Otter", "Heron"}) {
    CAPTURE(name);
    CHECK(QFile::exists(QString::fromStdString((folder / (std::string(name) + ".svg")).string())));
    const auto made = open_build(folder / (std::string(name) + ".noggin"));
    REQUIRE(made);
    CHECK(made->wearer == name);
    CHECK(made->parts == before.parts);
  }
  CHECK_FALSE(QFile::exists(QString::fromStdString((folder / "Pike.noggin").string())));
  CHECK(names_for({small, small, {"a/b.c", {}}, {"", {}}}) ==
      std::vector<std::string>{"Otter", "Otter 2", "a-b-c", "nobody"});
}

TEST_CASE("what is typed of a job is written when the hands rest, and before anything else is read", "[app][book]") {
  BookBench b;
  auto& wishes = b.bench->find<QPlainTextEdit>("job-wishes");
  const auto in_book = [&] {
    auto other = ShopBook::open(b.folder / "noggin-awl/shop-book.db");
    REQUIRE(other);
    const auto jobs = JobPages(*other).jobs();
    REQUIRE(jobs);
    return jobs->empty() ? std::string("no page") : jobs->front().wishes;
  };
  const auto log_bytes = [&] {
    return QFileInfo(QString::fromStdString((b.folder / "noggin-awl/shop-book.db-wal").string())).size();
  };
  CHECK(in_book() == "no page");
  // The first letter begins the page, and stays.
  QTest::keyClicks(&wishes, QStringLiteral("a"));
  CHECK(wishes.toPlainText() == QStringLiteral("a"));
  CHECK(in_book() == "a");
  const qint64 before = log_bytes();
  const QString words = QStringLiteral(" crest that folds, lenses that do not fog, and room for a plait");
  QTest::keyClicks(&wishes, words);
  CHECK(log_bytes() == before);
  CHECK(in_book() == "a");
  for (int i = 0; i < 400 && in_book() == "a"; ++i) QTest::qWait(10);
  CHECK(in_book() == "a" + words.toStdString());
  // Once it is read by anything, it is there at once; and the window that closes leaves nothing behind.
  QTest::keyClicks(&wishes, QStringLiteral(", soon"));
  REQUIRE(b.bench->window.book().get());
  CHECK(in_book() == "a" + words.toStdString() + ", soon");
  QTest::keyClicks(&wishes, QStringLiteral("er"));
  b.bench->find<QDoubleSpinBox>("job-price").setValue(90.0);
  b.bench.reset();
  CHECK(in_book() == "a" + words.toStdString() + ", sooner");
}

TEST_CASE("another build has its own page of the book, shown as soon as it is opened", "[app][book]") {
  BookBench b;
  auto& wishes = b.bench->find<QPlainTextEdit>("job-wishes");
  const Build first = b.bench->build();
  QTest::keyClicks(&wishes, QStringLiteral("folds"));
  b.bench->window.document().replace(*demo_by_name("otter-pup", Day{20794}), {});
  b.bench->settle();
  CHECK(wishes.toPlainText() == QString());
  QTest::keyClicks(&wishes, QStringLiteral("floats"));
  b.bench->window.document().replace(first, {});
  b.bench->settle();
  CHECK(wishes.toPlainText() == QStringLiteral("folds"));
  b.bench->go("tape");
  b.bench->go("book");
  CHECK(wishes.toPlainText() == QStringLiteral("folds"));
}
