#include "app/desk/document.hpp"

#include <sys/stat.h>

#include <QDir>
#include <QFileInfo>
#include <QSignalSpy>
#include <QTest>
#include <QTimer>
#include <catch2/catch.hpp>
#include <thread>

#include "app/desk/deriver.hpp"
#include "core/base/data_files.hpp"
#include "core/io/build_file.hpp"
#include "support/bench_data.hpp"
#include "support/renaming.hpp"

using namespace awl;
using awl::test::rename;

TEST_CASE("changes are undone and redone whole", "[app][document]") {
  Document document(test::chain(), test::demo());
  QSignalSpy changed(&document, &Document::changed);
  CHECK(document.change(QStringLiteral("a"), rename("first")));
  CHECK(document.change(QStringLiteral("b"), rename("second")));
  CHECK(changed.count() == 2);
  document.undoStack().undo();
  CHECK(document.build().name == "first");
  document.undoStack().undo();
  CHECK(document.build() == test::demo());
  document.undoStack().redo();
  CHECK(document.build().name == "first");
}

TEST_CASE("a change that changes nothing leaves no step", "[app][document]") {
  Document document(test::chain(), test::demo());
  CHECK(document.change(QStringLiteral("none"), [](const Build& b) -> Result<Build> { return b; }));
  CHECK(document.undoStack().count() == 0);
}

TEST_CASE("a refused change tells its sentence and place, and leaves no step", "[app][document]") {
  Document document(test::chain(), test::demo());
  QSignalSpy refused(&document, &Document::refused);
  CHECK_FALSE(document.change(QStringLiteral("bad"), [](const Build& b) -> Result<Build> {
    Build next = b;
    next.tape.set(MeasureId::HC, 1200.0);
    return next;
  }));
  CHECK_FALSE(document.change(
      QStringLiteral("worse"), [](const Build&) -> Result<Build> { return fail(Errc::unknown_name, "No.", "here"); }));
  REQUIRE(refused.count() == 2);
  CHECK(refused[0][0].toString().contains(QStringLiteral("1200")));
  CHECK(refused[0][1].toString() == QStringLiteral("HC"));
  CHECK(refused[1][1].toString() == QStringLiteral("here"));
  CHECK(document.undoStack().count() == 0);
  CHECK(document.build() == test::demo());
}

TEST_CASE("steps of one gesture merge, other steps do not", "[app][document]") {
  Document document(test::chain(), test::demo());
  for (const char* name : {"a", "ab", "abc"})
    document.change(QStringLiteral("drag"), rename(name), QStringLiteral("drag-1"));
  CHECK(document.undoStack().count() == 1);
  document.change(QStringLiteral("drag"), rename("x"), QStringLiteral("drag-2"));
  CHECK(document.undoStack().count() == 2);
  document.undoStack().undo();
  CHECK(document.build().name == "abc");
  document.undoStack().undo();
  CHECK(document.build() == test::demo());
}

TEST_CASE("a gesture that comes back to its start leaves no step", "[app][document]") {
  Document document(test::chain(), test::demo());
  document.change(QStringLiteral("drag"), rename("away"), QStringLiteral("g"));
  document.change(QStringLiteral("drag"), rename(test::demo().name.c_str()), QStringLiteral("g"));
  CHECK(document.undoStack().count() == 0);
}

TEST_CASE("the saved state follows saving, changing and undoing back", "[app][document]") {
  const test::TempFolder folder;
  const QString path = QString::fromStdString((folder / "d.noggin").string());
  Document document(test::chain(), test::demo());
  CHECK_FALSE(document.isSaved());
  REQUIRE(document.save(path));
  CHECK(document.isSaved());
  document.change(QStringLiteral("a"), rename("changed"));
  CHECK_FALSE(document.isSaved());
  CHECK(document.hasUnsavedWork());
  document.undoStack().undo();
  CHECK(document.isSaved());
  REQUIRE(document.open(path));
  CHECK(document.build() == test::demo());
  CHECK_FALSE(document.open(path + QStringLiteral("x")));
  CHECK(document.build() == test::demo());
}

TEST_CASE("unsaved work is written to the recovery place and dropped after saving", "[app][document]") {
  const test::TempFolder folder;
  Document document(test::chain(), test::demo());
  document.change(QStringLiteral("a"), rename("nearly lost"));
  document.writeRecovery();
  const auto kept = open_build(document.recoveryFile().toStdString());
  REQUIRE(kept);
  CHECK(kept->name == "nearly lost");
  REQUIRE(document.save(QString::fromStdString((folder / "d.noggin").string())));
  CHECK_FALSE(QFileInfo::exists(document.recoveryFile()));
}

namespace {

/// A file that takes what is written to it only once somebody reads: a disk as slow as can be.
class SlowFile {
 public:
  explicit SlowFile(const QString& path) : m_path(path.toStdString()) {
    QFile::remove(path);
    REQUIRE(::mkfifo(m_path.c_str(), 0600) == 0);
    QObject::connect(&m_turns, &QTimer::timeout, [this] {
      if (++turns == 5) m_reader = std::thread([this] { got = *read_file(m_path); });
    });
    m_turns.start(2);
  }
  ~SlowFile() {
    if (m_reader.joinable()) m_reader.join();
  }
  int turns = 0;  ///< of the interface thread; at the fifth somebody reads
  std::string got;

 private:
  std::string m_path;
  QTimer m_turns;
  std::thread m_reader;
};

}  // namespace

TEST_CASE("the window goes on while a slow disk takes a file, and is clean once it has it", "[app][document][disk]") {
  const test::TempFolder folder;
  const QString path = QString::fromStdString((folder / "slow.noggin").string());
  Document document(test::chain(), test::demo());
  document.change(QStringLiteral("a"), rename("slowly kept"));
  {
    SlowFile slow(path);
    QTimer::singleShot(4, &document, [&] {
      CHECK(document.isAtFile());
      // A second door to the same disk is shut meanwhile, in words.
      const auto second = document.save(path + QStringLiteral("2"));
      REQUIRE_FALSE(second);
      CHECK(second.error().text.find("already") != std::string::npos);
      CHECK_FALSE(document.open(path));
    });
    REQUIRE(document.save(path));
    CHECK(slow.turns >= 5);
  }
  CHECK_FALSE(document.isAtFile());
  CHECK(document.isSaved());
  CHECK(document.path() == path);
}

TEST_CASE("what is changed while a slow disk takes a file is not saved yet", "[app][document][disk]") {
  const test::TempFolder folder;
  const QString path = QString::fromStdString((folder / "slow.noggin").string());
  Document document(test::chain(), test::demo());
  document.change(QStringLiteral("a"), rename("kept"));
  SlowFile slow(path);
  QTimer::singleShot(4, &document, [&] { document.change(QStringLiteral("b"), rename("later")); });
  REQUIRE(document.save(path));
  CHECK(document.build().name == "later");
  CHECK_FALSE(document.isSaved());
  REQUIRE(document.writeRecovery());
  CHECK(open_build(document.recoveryFile().toStdString())->name == "later");
  document.dropRecovery();
}

TEST_CASE("the copy kept every 20 s is written beside the window, the newest in the end", "[app][document][disk]") {
  Document document(test::chain(), test::demo());
  document.change(QStringLiteral("a"), rename("first"));
  REQUIRE(document.writeRecovery());
  {
    SlowFile slow(document.recoveryFile());
    document.autosave();
    CHECK(slow.turns == 0);  // nothing was waited for
    document.change(QStringLiteral("b"), rename("second"));
    while (slow.turns < 8) QTest::qWait(2);
  }
  // A copy that waits for a disk is waited for before it is thrown away: it would come back as lost work.
  QFile::remove(document.recoveryFile());
  document.autosave();
  document.dropRecovery();
  CHECK_FALSE(QFileInfo::exists(document.recoveryFile()));
  QTest::qWait(5);
  CHECK_FALSE(QFileInfo::exists(document.recoveryFile()));
  document.change(QStringLiteral("c"), rename("third"));
  document.autosave();
  for (int i = 0; i < 1000 && !QFileInfo::exists(document.recoveryFile()); ++i) QTest::qWait(2);
  REQUIRE(document.writeRecovery());
  CHECK(open_build(document.recoveryFile().toStdString())->name == "third");
  document.dropRecovery();
}

TEST_CASE("a copy that cannot be written is told of", "[app][document][disk]") {
  Document document(test::chain(), test::demo());
  QSignalSpy refused(&document, &Document::refused);
  QDir(document.recoveryFile()).mkpath(QStringLiteral("."));  // a folder where the file should be
  document.change(QStringLiteral("a"), rename("first"));
  document.autosave();
  for (int i = 0; i < 1000 && refused.isEmpty(); ++i) QTest::qWait(2);
  REQUIRE(refused.count() == 1);
  CHECK(refused[0][0].toString().contains(QStringLiteral("folder")));
  QDir(document.recoveryFile()).removeRecursively();
}

TEST_CASE("the newest request wins, older results are dropped", "[app][deriver]") {
  Deriver deriver(test::chain());
  int finished = 0;
  QObject::connect(&deriver, &Deriver::busyChanged, [&](bool busy) { finished += busy ? 0 : 1; });
  Build build = test::demo();
  for (int i = 0; i < 6; ++i) {
    build.tape.set(MeasureId::HC, 570.0 + i);
    deriver.request(build);
    QTest::qWait(12);
  }
  for (int i = 0; i < 1000 && deriver.isBusy(); ++i) QTest::qWait(5);
  REQUIRE_FALSE(deriver.isBusy());
  CHECK(finished == 1);
  REQUIRE(deriver.latest().complete());
  CHECK(deriver.latest().head->reading(MeasureId::HC).given_mm == 575.0);
}

TEST_CASE("the head comes first, ahead of the rest, and the last whole one stays till then", "[app][deriver]") {
  Deriver deriver(test::chain());
  Build build = test::demo();
  deriver.request(build);
  for (int i = 0; i < 1000 && deriver.isBusy(); ++i) QTest::qWait(5);
  const auto old_layout = deriver.latest().layout;
  bool seen = false;
  QObject::connect(&deriver, &Deriver::updated, [&] {
    if (!deriver.isBusy() || seen) return;
    seen = true;
    CHECK(deriver.ahead().head->reading(MeasureId::HC).given_mm == 603.0);
    CHECK(deriver.ahead().layout == nullptr);
    CHECK(deriver.latest().head->reading(MeasureId::HC).given_mm != 603.0);
    CHECK(deriver.latest().layout == old_layout);
  });
  build.tape.set(MeasureId::HC, 603.0);
  deriver.request(build);
  for (int i = 0; i < 1000 && deriver.isBusy(); ++i) QTest::qWait(5);
  CHECK(seen);
  CHECK(deriver.ahead().head == nullptr);
  CHECK(deriver.latest().layout != old_layout);
}

TEST_CASE("a deriver may go away while it works", "[app][deriver]") {
  for (int i = 0; i < 5; ++i) {
    Deriver deriver(test::chain());
    Build build = test::demo();
    build.tape.set(MeasureId::HL, 190.0 + i);
    deriver.request(build);
    QTest::qWait(3 * i);
  }
  SUCCEED("no crash, no wait for the whole chain");
}
