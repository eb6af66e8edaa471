// The start page, recent builds, and what is dropped on the window.
#include <catch2/catch.hpp>
#include <QListWidget>
#include <QMenu>
#include <QMimeData>

#include "app/desk/recent.hpp"
#include "app/widgets/length_field.hpp"
#include "core/base/data_files.hpp"
#include "core/geom/mesh_file.hpp"
#include "core/io/build_file.hpp"
#include "support/bench_window.hpp"
#include "support/plain_shapes.hpp"

using namespace awl;
using test::Bench;

namespace {

void forgetRecent() {
  for (const QString& path : Recent::list()) Recent::remove(path);
}

QListWidget& starts(Bench& bench) { return *bench.window.findChild<QListWidget*>(QStringLiteral("start-list")); }

void choose(Bench& bench, const char* id) {
  for (int i = 0; i < starts(bench).count(); ++i)
    if (starts(bench).item(i)->data(Qt::UserRole).toString() == QLatin1String(id))
      return starts(bench).setCurrentRow(i);
  FAIL("no such start");
}

void press(Bench& bench, const char* button) {
  QTest::mouseClick(bench.window.findChild<QPushButton*>(QString::fromLatin1(button)), Qt::LeftButton);
}

void typeIn(Bench& bench, const char* field, const char* text) {
  auto* edit = bench.window.findChild<LengthField*>(QString::fromLatin1(field));
  edit->setFocus();
  edit->selectAll();
  QTest::keyClicks(edit, QString::fromUtf8(text));
  QTest::keyClick(edit, Qt::Key_Tab);
}

QString words(Bench& bench) { return bench.window.findChild<QLabel*>(QStringLiteral("start-words"))->text(); }

}  // namespace

TEST_CASE("from three measures typed on the start page to one's own hood, undo and all", "[app][start]") {
  forgetRecent();
  Bench bench;
  bench.trigger("act-new");
  REQUIRE(bench.window.isAtStart());
  choose(bench, "cowl");
  CHECK(bench.window.findChild<QLabel*>(QStringLiteral("start-chosen"))->text().contains(QStringLiteral("Cowl")));
  typeIn(bench, "start-hc", "57 cm");
  typeIn(bench, "start-top", "34.5 cm");
  typeIn(bench, "start-bna", "13 3/4 in");
  bench.window.findChild<QComboBox*>(QStringLiteral("start-wearer"))->setEditText(QStringLiteral("Marsh Guard"));
  press(bench, "start-go");
  REQUIRE_FALSE(bench.window.isAtStart());
  bench.settle();
  CHECK(bench.window.stationId() == QStringLiteral("tape"));
  const Build& b = bench.build();
  CHECK(b.name == "Cowl for Marsh Guard");
  CHECK(b.tape.head.at(MeasureId::HC).first_mm == Approx(570.0));
  CHECK(b.tape.head.at(MeasureId::BNA).first_mm == Approx(349.25));
  REQUIRE(bench.derived().pieces);
  CHECK_FALSE(bench.window.document().hasUnsavedWork());
}

TEST_CASE("a number without a unit is taken in the only one a head has it in, and shown with it", "[app][start]") {
  Bench bench;
  bench.trigger("act-new");
  const auto typed = [&](const char* text) {
    typeIn(bench, "start-hc", text);
    return std::pair(bench.window.findChild<QLineEdit*>(QStringLiteral("start-hc"))->text(),
        bench.window.startPage().wish().tape.head.at(MeasureId::HC).first_mm);
  };
  CHECK(typed("582") == std::pair(QStringLiteral("582"), 582.0));
  CHECK(typed("58,2") == std::pair(QStringLiteral("58.2 cm"), 582.0));
  CHECK(typed("60").second == 600.0);  // in the unit it was left in
  typeIn(bench, "start-hc", "");
  const auto inch = typed("22.5 in");
  CHECK(inch.second == Approx(571.5));
  choose(bench, "cowl");
  typeIn(bench, "start-top", "37");
  CHECK(bench.window.startPage().wish().tape.head.at(MeasureId::TOP).first_mm == Approx(370.0));
}

TEST_CASE("what is typed wrong on the start page stays and is explained; nothing is begun", "[app][start]") {
  Bench bench;
  const Build before = bench.build();
  bench.trigger("act-new");
  typeIn(bench, "start-hc", "wide");
  press(bench, "start-go");
  CHECK(bench.window.isAtStart());
  CHECK_FALSE(words(bench).isEmpty());
  typeIn(bench, "start-hc", "5700");
  press(bench, "start-go");
  CHECK(bench.window.isAtStart());
  CHECK(words(bench).contains(QStringLiteral("5700")));
  QTest::keyClick(&bench.window.startPage(), Qt::Key_Escape);
  CHECK_FALSE(bench.window.isAtStart());
  CHECK(bench.build() == before);
}

TEST_CASE("starts are sorted by the thing, every one with its picture", "[app][start]") {
  Bench bench;
  bench.trigger("act-new");
  const int all = starts(bench).count();
  for (int i = 0; i < all; ++i) {
    CAPTURE(starts(bench).item(i)->text().toStdString());
    CHECK_FALSE(starts(bench).item(i)->icon().isNull());
    CHECK_FALSE(starts(bench).item(i)->toolTip().isEmpty());
  }
  int sum = 0;
  for (const char* thing : {"hoods-and-caps", "masks", "hats", "helms", "horns-and-tusks", "ears", "crests-and-tails",
           "neck-and-arms", "fittings"}) {
    auto* word = bench.window.findChild<QToolButton*>(QStringLiteral("start-thing-") + QLatin1String(thing));
    REQUIRE(word != nullptr);
    QTest::mouseClick(word, Qt::LeftButton);
    CHECK(starts(bench).count() > 0);
    sum += starts(bench).count();
  }
  CHECK(sum + 1 == all);  // and the headform
}

TEST_CASE("a wearer of the book brings their measures; the keyboard alone begins a build", "[app][start][keyboard]") {
  Bench bench;
  TapeSheet sheet;
  sheet.set(MeasureId::HC, 588.0), sheet.set(MeasureId::HL, 200.0);
  REQUIRE(bench.window.book().put("Lamp Post of the start page", sheet));
  bench.trigger("act-new");
  bench.window.findChild<QComboBox*>(QStringLiteral("start-wearer"))
      ->setEditText(QStringLiteral("Lamp Post of the start page"));
  auto* hc = bench.window.findChild<LengthField*>(QStringLiteral("start-hc"));
  CHECK_FALSE(hc->isEnabled());
  CHECK(hc->text().contains(QStringLiteral("588")));
  choose(bench, "great-helm");
  QTest::keyClick(&starts(bench), Qt::Key_Return);
  bench.settle();
  REQUIRE_FALSE(bench.window.isAtStart());
  CHECK(bench.build().tape.head.at(MeasureId::HL).first_mm == Approx(200.0));
}

TEST_CASE("what was saved is listed with its picture and gone on with; what is gone is told and taken off",
    "[app][start][recent]") {
  forgetRecent();
  Bench bench;
  const test::TempFolder folder;
  const QString path = QString::fromStdString((folder / "mine.noggin").string());
  REQUIRE(bench.window.saveTo(path));
  const Build saved = bench.build();
  CHECK(picture_in_build(path.toStdString()));
  bench.trigger("act-new");
  auto& recent = *bench.window.findChild<QListWidget*>(QStringLiteral("start-recent"));
  REQUIRE(recent.count() == 1);
  CHECK(recent.item(0)->text() == QStringLiteral("mine"));
  choose(bench, "tall-hat");
  press(bench, "start-go");
  bench.settle();
  CHECK_FALSE(bench.build() == saved);
  bench.trigger("act-new");
  emit recent.itemActivated(recent.item(0));
  bench.settle();
  CHECK(bench.build() == saved);
  CHECK_FALSE(bench.window.isAtStart());
  // Gone from the disk.
  std::filesystem::remove(path.toStdString());
  bench.trigger("act-new");
  emit recent.itemActivated(recent.item(0));
  CHECK(words(bench).contains(QStringLiteral("not there any more")));
  CHECK(Recent::list().isEmpty());
  // The menu says so too.
  auto* menu = bench.window.findChild<QMenu*>(QStringLiteral("menu-recent"));
  emit menu->aboutToShow();
  REQUIRE(menu->actions().size() == 1);
  CHECK_FALSE(menu->actions().front()->isEnabled());
}

TEST_CASE("a build dropped is opened, a mesh brought in, anything else told", "[app][start][drop]") {
  Bench bench;
  const test::TempFolder folder;
  const auto drop = [&](const std::filesystem::path& path) {
    QMimeData data;
    data.setUrls({QUrl::fromLocalFile(QString::fromStdString(path.string()))});
    QDragEnterEvent enter(QPoint(400, 300), Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(&bench.window, &enter);
    CHECK(enter.isAccepted());
    QDropEvent event(QPointF(400, 300), Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(&bench.window, &event);
    bench.settle();
  };
  const Build other = *demo_by_name("ferry-keeper", Day{20731});
  REQUIRE(save_build(folder / "other.noggin", other));
  drop(folder / "other.noggin");
  CHECK(bench.build() == other);
  REQUIRE(write_mesh(folder / "ball.obj", test::icosphere(110.0, 3)));
  const std::size_t parts = bench.build().parts.size();
  drop(folder / "ball.obj");
  for (int i = 0; i < 4000 && bench.build().parts.size() == parts; ++i) QTest::qWait(5);
  CHECK(bench.build().parts.size() == parts + 1);
  bench.settle();
  CHECK(bench.window.stationId() == QStringLiteral("form"));
  REQUIRE(write_file_safely(folder / "song.mp3", "la"));
  const Build before = bench.build();
  drop(folder / "song.mp3");
  CHECK(bench.text("remark-text").contains(QStringLiteral("song.mp3")));
  CHECK(bench.build() == before);
}

TEST_CASE("before any build there is nothing to save or print, and that is said", "[app][start]") {
  Bench bench;
  bench.window.asking.path = [](bool, const QString&, const QString&, const QString&) {
    FAIL("asked for a file");
    return QString();
  };
  bench.window.showStart(false);
  CHECK_FALSE(bench.window.windowTitle().contains(QStringLiteral("hood")));
  for (const char* act : {"act-save", "act-save-as", "act-print", "act-hood", "act-headform", "act-picture"}) {
    bench.window.startPage().tell({});
    bench.trigger(act);
    CAPTURE(act);
    CHECK(words(bench).contains(QStringLiteral("no build yet")));
  }
  QTest::keyClick(&bench.window.startPage(), Qt::Key_Escape);
  CHECK(bench.window.isAtStart());  // there is no bench to go back to
  press(bench, "start-go");
  bench.settle();
  CHECK_FALSE(bench.window.isAtStart());
  CHECK(bench.window.windowTitle().contains(QStringLiteral("Hood")));
}
