#include <QMessageBox>
#include <QFile>
#include <QSignalSpy>

#include "app/desk/search.hpp"
#include "app/shell/bench_application.hpp"
#include "core/io/build_file.hpp"
#include "support/bench_window.hpp"
#include "support/renaming.hpp"

using namespace awl;
using awl::test::rename;

namespace {

/// What an earlier test left is not this one's.
void clearRecovered() {
  for (const Recovery::Left& left : Recovery::left()) left.throwAway();
}

/// Work of a window that ended without a word.
void leaveBehind(const char* name, const QString& path) {
  Recovery gone;
  Build build = test::demo();
  build.name = name;
  REQUIRE(gone.write(build, path));
}

}  // namespace

TEST_CASE(
    "recovered work is unsaved work: it knows its file, asks when the window closes, and stays on the disk until then",
    "[app][recovery]") {
  clearRecovered();
  const test::TempFolder folder;
  const QString path = QString::fromStdString((folder / "mask.noggin").string());
  leaveBehind("nearly lost", path);
  REQUIRE(Recovery::left().size() == 1);
  test::Bench bench;
  QString asked;
  bench.window.askRecovered = [&](const QString& words) { return asked = words, 0; };
  bench.window.offerRecovered();
  bench.settle();
  CHECK(asked.contains(QStringLiteral("nearly lost")));
  CHECK(asked.contains(QStringLiteral("mask.noggin")));
  CHECK(bench.build().name == "nearly lost");
  CHECK(bench.window.document().path() == path);
  CHECK(bench.window.document().hasUnsavedWork());
  // Its copy is this window's now, and nobody else's.
  CHECK(QFile::exists(bench.window.document().recoveryFile()));
  CHECK(Recovery::left().empty());
  int questions = 0;
  bench.window.askUnsaved = [&] { return ++questions, 2; };
  CHECK_FALSE(bench.window.close());
  CHECK(questions == 1);
  CHECK(QFile::exists(bench.window.document().recoveryFile()));
  bench.window.askUnsaved = [&] { return ++questions, 0; };
  CHECK(bench.window.close());
  CHECK(open_build(path.toStdString())->name == "nearly lost");
  CHECK_FALSE(QFile::exists(bench.window.document().recoveryFile()));
}

TEST_CASE(
    "leaving the question about lost work harms nothing; throwing it away is asked for by name", "[app][recovery]") {
  clearRecovered();
  leaveBehind("keep me", {});
  test::Bench bench;
  bench.window.askRecovered = [](const QString&) { return 2; };
  bench.window.offerRecovered();
  CHECK(bench.build().name == test::demo().name);
  REQUIRE(Recovery::left().size() == 1);
  bench.window.askRecovered = [](const QString&) { return 1; };
  bench.window.offerRecovered();
  CHECK(Recovery::left().empty());
}

TEST_CASE("the offer is a question whose Escape keeps the work", "[app][recovery]") {
  clearRecovered();
  leaveBehind("keep me", {});
  test::Bench bench;
  QStringList buttons;
  QTimer::singleShot(0, &bench.window, [&] {
    auto* box = qobject_cast<QMessageBox*>(QApplication::activeModalWidget());
    REQUIRE(box != nullptr);
    for (QAbstractButton* b : box->buttons()) buttons << b->text();
    QTest::keyClick(box, Qt::Key_Escape);
  });
  bench.window.offerRecovered();
  CHECK(buttons.size() == 3);
  CHECK(Recovery::left().size() == 1);
  clearRecovered();
}

TEST_CASE(
    "a living window's work is offered to nobody, and saving in one drops nothing of another", "[app][recovery]") {
  clearRecovered();
  const test::TempFolder folder;
  Document first(test::chain(), test::demo()), second(test::chain(), test::demo());
  REQUIRE(first.change(QStringLiteral("a"), rename("first window")));
  REQUIRE(second.change(QStringLiteral("b"), rename("second window")));
  REQUIRE(first.writeRecovery());
  REQUIRE(second.writeRecovery());
  CHECK(first.recoveryFile() != second.recoveryFile());
  CHECK(Recovery::left().empty());
  REQUIRE(second.save(QString::fromStdString((folder / "b.noggin").string())));
  CHECK_FALSE(QFile::exists(second.recoveryFile()));
  CHECK(open_build(first.recoveryFile().toStdString())->name == "first window");
}

TEST_CASE("a spoilt copy is told of, set aside, and not offered again", "[app][recovery]") {
  clearRecovered();
  leaveBehind("spoilt", {});
  const QString file = Recovery::left().front().file;
  REQUIRE(write_file_safely(file.toStdString(), "PK rubbish"));
  test::Bench bench;
  bool asked = false;
  bench.window.askRecovered = [&](const QString&) { return asked = true, 2; };
  bench.window.offerRecovered();
  CHECK_FALSE(asked);
  CHECK(bench.text("remark-text").contains(QStringLiteral("cannot be read")));
  CHECK(QFile::exists(file + QStringLiteral(".damaged")));
  CHECK(Recovery::left().empty());
}

TEST_CASE("the one file of earlier versions is still found", "[app][recovery]") {
  clearRecovered();
  const QString old = QFileInfo(Recovery::folder()).absolutePath() + QStringLiteral("/recovery.noggin");
  REQUIRE(make_folder(Recovery::folder().toStdString()));
  REQUIRE(save_build(old.toStdString(), test::demo()));
  REQUIRE(Recovery::left().size() == 1);
  CHECK(Recovery::left().front().file == old);
  clearRecovered();
  CHECK_FALSE(QFile::exists(old));
}

TEST_CASE("saving over what another window has saved is asked for first", "[app][files]") {
  const test::TempFolder folder;
  const QString path = QString::fromStdString((folder / "shared.noggin").string());
  test::Bench bench;
  REQUIRE(bench.window.saveTo(path));
  bench.window.document().change(QStringLiteral("a"), rename("mine"));
  Build other = test::demo();
  other.name = "theirs";
  REQUIRE(save_build(path.toStdString(), other));
  QString asked;
  bench.window.askOver = [&](const QString& words) { return asked = words, 2; };
  CHECK_FALSE(bench.window.saveTo(path));
  CHECK(asked.contains(QStringLiteral("shared.noggin")));
  CHECK(open_build(path.toStdString())->name == "theirs");
  CHECK(bench.window.document().hasUnsavedWork());
  const QString mine = QString::fromStdString((folder / "mine.noggin").string());
  bench.window.askOver = [](const QString&) { return 1; };
  bench.window.asking.path = [&](bool, const QString&, const QString&, const QString&) { return mine; };
  CHECK(bench.window.saveTo(path));
  CHECK(open_build(path.toStdString())->name == "theirs");
  CHECK(open_build(mine.toStdString())->name == "mine");
}

TEST_CASE("what is thrown while the window works becomes a sentence, with a copy of the work", "[app][guard]") {
  clearRecovered();
  auto* app = dynamic_cast<BenchApplication*>(QApplication::instance());
  REQUIRE(app != nullptr);
  test::Bench bench;
  app->onFault = [&](const Error& fault) { bench.window.tellFault(fault); };
  bench.window.document().change(QStringLiteral("a"), rename("in work"));
  bench.settle();
  QTimer::singleShot(0, &bench.window, [] { throw ContractViolation("a mistake made for this test"); });
  for (int i = 0; i < 20; ++i) QTest::qWait(5);
  CHECK(bench.text("remark-text").contains(QStringLiteral("mistake of its own")));
  CHECK(bench.text("remark-text").contains(QStringLiteral("copy of your work was saved")));
  CHECK(open_build(bench.window.document().recoveryFile().toStdString())->name == "in work");
  // And work goes on.
  CHECK(bench.window.document().change(QStringLiteral("b"), rename("still here")));
  bench.settle();
  CHECK(bench.build().name == "still here");
  app->onFault = {};
}

TEST_CASE("a worker that throws ends as a failure, not the program", "[app][guard]") {
  QObject owner;
  std::optional<Error> failed;
  Search<int> search(&owner, [&](Result<int> found) {
    if (!found) failed = found.error();
  });
  search.begin([](const Progress&) -> Result<int> { throw ContractViolation("in a worker"); });
  for (int i = 0; i < 200 && !failed; ++i) QTest::qWait(5);
  REQUIRE(failed);
  CHECK(failed->code == Errc::internal);
}
