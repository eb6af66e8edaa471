#include <QShortcut>
#include <QTableWidget>

#include "app/stations/seams/seams_station.hpp"
#include "core/base/numbers.hpp"
#include "support/bench_window.hpp"

using namespace awl;
using awl::test::Bench;

namespace {

LineTray& atSeams(Bench& bench) {
  bench.go("seams");
  return bench.window.findChild<SeamsStation*>()->lines();
}

const std::vector<DrawnSeam>& drawn(Bench& bench) {
  return find_part(bench.build(), bench.window.document().partAtHand())->drawn;
}

/// Clicks on the stand where a place of the outside is seen.
void clickAt(Bench& bench, QPoint at) {
  bench.window.stand().finishedPicture();
  QTest::mouseClick(&bench.window.stand(), Qt::LeftButton, {}, at);
  QApplication::processEvents();
}

void pressKey(Bench& bench, Qt::Key key) {
  QTest::keyClick(&bench.window, key);
  bench.settle();
}

/// A line down the wearer's left side, seen from there.
void drawDownTheSide(Bench& bench) {
  StandView& stand = bench.window.stand();
  stand.look(static_cast<float>(0.5 * kPi), 0.0f);
  QTest::mouseClick(&bench.find<QPushButton>("seam-draw"), Qt::LeftButton);
  const QPoint middle(stand.width() / 2, stand.height() / 2);
  for (const int dy : {-90, -50, -10}) clickAt(bench, middle + QPoint(30, dy));
  pressKey(bench, Qt::Key_Return);
}

void waitFor(Bench& bench, const char* cancel) {
  constexpr int kLongest = 24000;  // two minutes: the machine may be doing other things
  for (int i = 0; i < kLongest && bench.find<QPushButton>(cancel).isEnabled(); ++i) QTest::qWait(5);
  REQUIRE_FALSE(bench.find<QPushButton>(cancel).isEnabled());
  bench.settle();
}

}  // namespace

TEST_CASE("a seam is drawn by clicking along the form: in pencil first, then inked, and undone", "[app][seams]") {
  Bench bench;
  atSeams(bench);
  bench.choose("seam-preset", "side-middle-side");
  const std::size_t panels = bench.derived().panels->panels.size();
  drawDownTheSide(bench);
  REQUIRE(drawn(bench).size() == 1);
  CHECK_FALSE(drawn(bench)[0].inked);
  CHECK(drawn(bench)[0].points.size() == 3);
  CHECK(bench.derived().panels->panels.size() == panels);
  auto& table = bench.find<QTableWidget>("seam-lines");
  REQUIRE(table.rowCount() == 1);
  CHECK(table.item(0, 1)->text() == QStringLiteral("pencil"));
  CHECK_FALSE(bench.find<QPushButton>("seam-draw").isChecked());
  bool shown = false;
  for (const auto& grip : bench.window.stand().grips()) shown = shown || grip.free;
  CHECK(shown);
  QTest::mouseClick(&bench.find<QPushButton>("seam-ink"), Qt::LeftButton);
  bench.settle();
  CHECK(drawn(bench)[0].inked);
  CHECK(table.item(0, 1)->text() == QStringLiteral("ink"));
  bench.undo();
  bench.undo();
  CHECK(drawn(bench).empty());
}

TEST_CASE("a line half drawn is shown, shortened and dropped without a trace", "[app][seams]") {
  Bench bench;
  LineTray& lines = atSeams(bench);
  const Build before = bench.build();
  StandView& stand = bench.window.stand();
  QTest::mouseClick(&bench.find<QPushButton>("seam-draw"), Qt::LeftButton);
  CHECK(lines.isDrawing());
  clickAt(bench, QPoint(stand.width() / 2, stand.height() / 2 - 80));
  clickAt(bench, QPoint(stand.width() / 2 + 40, stand.height() / 2 - 80));
  CHECK(bench.text("seam-hint").contains(QStringLiteral("2 places")));
  pressKey(bench, Qt::Key_Backspace);
  pressKey(bench, Qt::Key_Return);
  CHECK(bench.text("seam-hint").contains(QStringLiteral("two places at least")));
  pressKey(bench, Qt::Key_Escape);
  CHECK_FALSE(lines.isDrawing());
  CHECK(bench.build() == before);
}

TEST_CASE("markers are dragged over the form, one drag one undo, locked ones cannot be", "[app][seams][stand]") {
  Bench bench;
  atSeams(bench);
  bench.choose("seam-preset", "side-middle-side");
  drawDownTheSide(bench);
  StandView& stand = bench.window.stand();
  const auto marker = [&](const char* name) {
    stand.finishedPicture();
    for (int i = 0; i < static_cast<int>(stand.grips().size()); ++i)
      if (stand.grips()[i].dial == name) return i;
    return -1;
  };
  const int grip = marker("seam1.1");
  REQUIRE(grip >= 0);
  const auto drag = [&](int which, QPoint by, Qt::KeyboardModifiers with) {
    const QPoint from = stand.gripPlace(which).toPoint();
    QTest::mousePress(&stand, Qt::LeftButton, with, from);
    for (int i = 1; i <= 3; ++i) {
      QMouseEvent move(QEvent::MouseMove, QPointF(from + by * i / 3), stand.mapToGlobal(from + by * i / 3),
          Qt::NoButton, Qt::LeftButton, with);
      QApplication::sendEvent(&stand, &move);
    }
    QTest::mouseRelease(&stand, Qt::LeftButton, with, from + by);
    bench.settle();
  };
  const auto before = drawn(bench)[0].points;
  const int steps = bench.window.document().undoStack().count();
  drag(grip, QPoint(24, 0), {});
  CHECK((drawn(bench)[0].points[1] - before[1]).norm() > 4.0);
  CHECK(drawn(bench)[0].points[0] == before[0]);
  CHECK(bench.window.document().undoStack().count() == steps + 1);
  bench.undo();
  drag(marker("seam1.1"), QPoint(20, 0), Qt::ShiftModifier);
  CHECK((drawn(bench)[0].points[0] - before[0]).norm() > 3.0);
  bench.undo();
  bench.find<QTableWidget>("seam-lines").selectRow(0);
  QTest::mouseClick(&bench.find<QPushButton>("seam-lock"), Qt::LeftButton);
  bench.settle();
  CHECK(drawn(bench)[0].locked);
  CHECK(marker("seam1.1") == -1);
}

TEST_CASE(
    "while a marker of an inked seam is dragged, the strain is reckoned roughly and told", "[app][seams][stand]") {
  Bench bench;
  atSeams(bench);
  bench.choose("seam-preset", "side-middle-side");
  drawDownTheSide(bench);
  QTest::mouseClick(&bench.find<QPushButton>("seam-ink"), Qt::LeftButton);
  bench.settle();
  QString told;
  QObject::connect(&bench.window.findChild<SeamsStation*>()->lines(), &LineTray::gripText,
      [&told](const QString& text) { told = text; });
  LineTray& lines = bench.window.findChild<SeamsStation*>()->lines();
  const PartForm& form = *bench.derived().form->parts[0];
  const Vec3 from = form.drawn.at(0).markers[1];
  lines.markerMoved(QStringLiteral("seam1.1"), from + Vec3(0, 0, 6), false, false);
  for (int i = 0; i < 4000 && !told.contains(QStringLiteral("%")); ++i) QTest::qWait(5);
  CHECK(told.contains(QStringLiteral("about ")));
  CHECK(bench.window.findChild<SeamsStation*>()->standChoice().sketch != nullptr);
  CHECK(drawn(bench)[0].points.size() == 3);  // nothing is changed yet
  lines.markerMoved(QStringLiteral("seam1.1"), from + Vec3(0, 0, 8), false, true);
  bench.settle();
  CHECK(bench.window.findChild<SeamsStation*>()->standChoice().sketch == nullptr);
}

TEST_CASE("a line says where seams hide, how wide, and does not cut", "[app][seams]") {
  Bench bench;
  atSeams(bench);
  const std::size_t panels = bench.derived().panels->panels.size();
  drawDownTheSide(bench);
  QTest::mouseClick(&bench.find<QPushButton>("seam-ink"), Qt::LeftButton);
  bench.settle();
  CHECK(bench.derived().panels->panels.size() > panels - 1);
  CHECK_FALSE(bench.find<QLineEdit>("seam-reach").isEnabled());
  bench.find<QTableWidget>("seam-lines").selectRow(0);
  bench.choose("seam-role", "hides");
  CHECK(drawn(bench)[0].role == LineRole::hides);
  CHECK(bench.derived().panels->panels.size() == panels);
  CHECK(bench.find<QTableWidget>("seam-lines").item(0, 1)->text().contains(QStringLiteral("hides")));
  REQUIRE(bench.find<QLineEdit>("seam-reach").isEnabled());
  bench.type("seam-reach", "32");
  CHECK(drawn(bench)[0].reach_mm == 32.0);
  bench.type("seam-reach", "400");
  CHECK(drawn(bench)[0].reach_mm == 32.0);
  CHECK(bench.find<LengthField>("seam-reach").isWrong());
}

TEST_CASE("lines are named, set to one side, hidden and deleted in the list", "[app][seams]") {
  Bench bench;
  atSeams(bench);
  drawDownTheSide(bench);
  auto& table = bench.find<QTableWidget>("seam-lines");
  table.selectRow(0);
  table.item(0, 0)->setText(QStringLiteral("behind the ear"));
  bench.settle();
  CHECK(drawn(bench)[0].name == "behind the ear");
  QTest::mouseClick(&bench.find<QPushButton>("seam-side"), Qt::LeftButton);
  bench.settle();
  CHECK_FALSE(drawn(bench)[0].mirrored);
  CHECK(table.item(0, 1)->text().contains(QStringLiteral("one side")));
  QTest::mouseClick(&bench.find<QPushButton>("seam-hide"), Qt::LeftButton);
  bench.settle();
  CHECK(drawn(bench)[0].hidden);
  QTest::mouseClick(&bench.find<QPushButton>("seam-delete"), Qt::LeftButton);
  bench.settle();
  CHECK(drawn(bench).empty());
  QTest::mouseClick(&bench.find<QPushButton>("seam-hide"), Qt::LeftButton);
  CHECK(table.rowCount() == 0);
}

TEST_CASE("the seams of a preset are freed and then are lines of their own", "[app][seams]") {
  Bench bench;
  atSeams(bench);
  bench.choose("seam-preset", "side-middle-side");
  const std::size_t panels = bench.derived().panels->panels.size();
  QTest::mouseClick(&bench.find<QPushButton>("seam-take-up"), Qt::LeftButton);
  bench.settle();
  CHECK(drawn(bench).size() >= 2);
  CHECK(find_part(bench.build(), 1)->seams.preset == SeamPreset::none);
  CHECK(bench.derived().panels->panels.size() == panels);
}

TEST_CASE("suggested ways stand side by side, are looked at in pencil and taken in one step", "[app][seams][suggest]") {
  Bench bench;
  bench.go("form");
  bench.choose("dial-edge", "skull cap");  // little to look through
  atSeams(bench);
  bench.unfold("group-suggested-panels");
  const Build before = bench.build();
  QTest::mouseClick(&bench.find<QPushButton>("seam-suggest"), Qt::LeftButton);
  waitFor(bench, "seam-suggest-cancel");
  auto& ways = bench.find<QTableWidget>("seam-ways");
  REQUIRE(ways.rowCount() >= 2);
  CHECK(ways.item(0, 2)->text().contains(QStringLiteral("%")));
  CHECK(bench.build() == before);
  ways.selectRow(0);
  QTest::mouseClick(&bench.find<QPushButton>("seam-way-pencil"), Qt::LeftButton);
  bench.settle();
  CHECK(find_part(bench.build(), 1)->seams == find_part(before, 1)->seams);
  CHECK_FALSE(drawn(bench).empty());
  bench.undo();
  QTest::mouseClick(&bench.find<QPushButton>("seam-way-ink"), Qt::LeftButton);
  bench.settle();
  CHECK(bench.derived().panels->panels.size() == static_cast<std::size_t>(ways.item(0, 0)->text().toInt()));
  bench.undo();
  CHECK(bench.build() == before);
}

TEST_CASE("pieces are shown apart with their numbers and the letters of their seams", "[app][seams][stand]") {
  Bench bench;
  atSeams(bench);
  StandChoice together = bench.window.findChild<SeamsStation*>()->standChoice();
  QTest::mouseClick(&bench.find<QCheckBox>("pieces-apart"), Qt::LeftButton);
  const StandChoice apart = bench.window.findChild<SeamsStation*>()->standChoice();
  CHECK(apart.apart_mm > 0.0);
  const StandScene whole = makeStandScene(bench.derived(), together), parts = makeStandScene(bench.derived(), apart);
  const auto& was = whole.bodies[static_cast<std::size_t>(whole.worn)].places;
  const auto& is = parts.bodies[static_cast<std::size_t>(parts.worn)].places;
  CHECK(is.size() > was.size());  // along every seam twice
  std::set<std::string> words;
  for (const auto& word : parts.overlay.words) words.insert(word.text);
  for (const Piece& p : *bench.derived().pieces) CHECK(words.count(std::to_string(p.number)) == 1);
  for (const Seam& s : bench.derived().panels->seams)
    if (!s.letter.empty()) CHECK(words.count(s.letter) == 1);
}

TEST_CASE("looking for panels can be stopped, and nothing is changed", "[app][seams][suggest]") {
  Bench bench;
  atSeams(bench);
  const Build before = bench.build();
  bench.unfold("group-suggested-panels");
  QTest::mouseClick(&bench.find<QPushButton>("seam-suggest"), Qt::LeftButton);
  QTest::mouseClick(&bench.find<QPushButton>("seam-suggest-cancel"), Qt::LeftButton);
  for (int i = 0; i < 2000 && !bench.text("seam-hint").contains(QStringLiteral("Stopped")); ++i) QTest::qWait(5);
  CHECK(bench.text("seam-hint").contains(QStringLiteral("Stopped")));
  CHECK(bench.build() == before);
}

TEST_CASE("darts are added to the piece that gives too much, from its remark", "[app][seams][darts]") {
  Bench bench;
  atSeams(bench);
  bench.choose("seam-preset", "side-middle-side");
  QTest::mouseClick(&bench.find<QCheckBox>("belt"), Qt::LeftButton);
  bench.settle();
  double before = 0.0;
  for (const Panel& p : bench.derived().panels->panels) before = std::max(before, p.strain.p99);
  REQUIRE(before > 0.04);
  int worst = 0;
  for (const Panel& p : bench.derived().panels->panels)
    if (!p.mirror_of && p.strain.p99 >= before - 1e-9) worst = p.id.value;
  const std::string name = bench.derived().panels->panels[worst].name;
  bench.window.findChild<SeamsStation*>()->lines().addDarts(worst);
  waitFor(bench, "seam-suggest-cancel");
  INFO(bench.text("seam-hint").toStdString());
  CHECK_FALSE(drawn(bench).empty());
  CHECK(bench.text("seam-hint").contains(QStringLiteral("with darts by")));
  double after = 1.0;
  for (const Panel& p : bench.derived().panels->panels)
    if (p.name == name) after = p.strain.p99;
  CHECK(after < 0.75 * before);
}

TEST_CASE(
    "outlines are corrected from the window, kept with the build, undone and taken back", "[app][seams][truing]") {
  Bench bench;
  bench.window.document().edit("one band", [](Build& b) {
    b = *demo_by_name("thicket-ram", Day{20731});
    std::erase_if(b.parts, [](const Part& p) { return p.name != "band"; });
    b.dress = {}, b.fit = {}, b.coat.areas.clear(), b.coat.joint_looks.clear(), b.alterations.clear();
  });
  bench.settle();
  REQUIRE(bench.build().parts.size() == 1);
  bench.go("seams");
  auto& correct = bench.find<QPushButton>("correct-outlines");
  auto& drawn = bench.find<QPushButton>("correct-drop");
  auto& said = bench.find<QLabel>("correct-said");
  CHECK(correct.isEnabled());
  CHECK_FALSE(drawn.isEnabled());
  CHECK(said.text().contains("No outline is corrected"));
  const auto before = bench.derived().panels->panels.front().flat;

  QTest::mouseClick(&correct, Qt::LeftButton);
  CHECK_FALSE(correct.isEnabled());
  waitFor(bench, "glue-stop");
  CAPTURE(said.text().toStdString());
  CHECK(said.text().contains("instead of"));
  REQUIRE(bench.build().corrections.size() == 1);
  CHECK(bench.build().corrections[0].after_mm < bench.build().corrections[0].before_mm);
  CHECK(bench.derived().panels->panels.front().flat != before);
  CHECK(drawn.isEnabled());

  bench.window.document().undoStack().undo();
  bench.settle();
  CHECK(bench.build().corrections.empty());
  CHECK(bench.derived().panels->panels.front().flat == before);
  bench.window.document().undoStack().redo();
  bench.settle();
  REQUIRE(bench.build().corrections.size() == 1);
  QTest::mouseClick(&drawn, Qt::LeftButton);
  bench.settle();
  CHECK(bench.build().corrections.empty());
  CHECK(bench.derived().panels->panels.front().flat == before);
}
