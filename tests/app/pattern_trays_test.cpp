#include <QListWidget>
#include <QTableWidget>

#include "app/stations/seams/seams_station.hpp"
#include "core/io/build_file.hpp"
#include "support/bench_window.hpp"

using namespace awl;
using awl::test::Bench;

namespace {

StandChoice shown(Bench& bench) { return bench.window.findChild<SeamsStation*>()->standChoice(); }

/// Until the label's text is another than before, at most a minute.
void waitForText(Bench& bench, const char* label, const QString& other_than) {
  for (int i = 0; i < 12000 && bench.text(label) == other_than; ++i) QTest::qWait(5);
  REQUIRE(bench.text(label) != other_than);
  QApplication::processEvents();
}

void keep(Bench& bench, const char* name) {
  bench.find<QLineEdit>("version-name").setText(QString::fromUtf8(name));
  bench.click("version-keep");
}

}  // namespace

TEST_CASE("the pieces are glued up before any foam is cut, and shown where they are off", "[app][seams][glue]") {
  Bench bench;
  bench.go("seams");
  auto& show = bench.find<QCheckBox>("glue-show");
  CHECK_FALSE(show.isEnabled());
  CHECK(shown(bench).worn_map == nullptr);
  QTest::mouseClick(&bench.find<QPushButton>("glue-up"), Qt::LeftButton);
  waitForText(bench, "glue-said", bench.text("glue-said"));
  CHECK(show.isChecked());
  auto& list = bench.find<QListWidget>("glue-findings");
  REQUIRE(list.count() > 0);
  const StandChoice choice = shown(bench);
  REQUIRE(choice.worn_map);
  CHECK(choice.worn_map->on == bench.derived().panels);
  CHECK(choice.worn_map->mm.size() == bench.derived().panels->form.mesh.vertices.size());
  // The stand shows the glued shape, in the colours of the distances.
  const StandScene glued = makeStandScene(bench.derived(), choice);
  StandChoice plain = choice;
  plain.worn_map.reset();
  const StandScene meant = makeStandScene(bench.derived(), plain);
  CHECK(glued.bodies[glued.worn].places != meant.bodies[meant.worn].places);
  CHECK(glued.overlay.legend.size() == 2);
  list.setCurrentRow(0);
  CHECK(shown(bench).spots.size() == 1);
  // Another pattern is not what was glued.
  bench.find<QSpinBox>("gores").setValue(3);
  bench.settle();
  CHECK_FALSE(show.isEnabled());
  CHECK(shown(bench).worn_map == nullptr);
  CHECK(bench.text("glue-said").contains(QStringLiteral("again")));
  // Back to it, what was glued holds again.
  bench.undo();
  CHECK(show.isEnabled());
  CHECK(bench.text("glue-said").contains(QStringLiteral("Most of it")));
}

TEST_CASE("gluing up is stopped without a trace", "[app][seams][glue]") {
  Bench bench;
  bench.go("seams");
  const Build before = bench.build();
  QTest::mouseClick(&bench.find<QPushButton>("glue-up"), Qt::LeftButton);
  QTest::mouseClick(&bench.find<QPushButton>("glue-stop"), Qt::LeftButton);
  for (int i = 0; i < 4000 && bench.find<QPushButton>("glue-stop").isEnabled(); ++i) QTest::qWait(5);
  CHECK(bench.text("glue-said").contains(QStringLiteral("Stopped")));
  CHECK_FALSE(bench.find<QCheckBox>("glue-show").isEnabled());
  CHECK(bench.build() == before);
}

TEST_CASE("a seam is taken in, seen in the girth, saved, and taken back", "[app][seams][alter]") {
  Bench bench;
  bench.go("seams");
  bench.unfold("group-take-in-and-let-out");
  auto& where = bench.find<QComboBox>("alter-where");
  REQUIRE(where.count() > 2);
  // The seam that runs to the lower edge.
  int at = -1;
  for (int i = 0; i < where.count(); ++i)
    if (where.itemText(i).contains(QStringLiteral("gore"))) at = i;
  REQUIRE(at >= 0);
  where.setCurrentIndex(at);
  bench.type("alter-first", "0");
  bench.type("alter-middle", "2");
  bench.type("alter-last", "8");
  const auto before = *bench.derived().pieces;
  bench.click("alter");
  REQUIRE(bench.build().alterations.size() == 1);
  CHECK(bench.build().alterations[0].last_mm == 8.0);
  CHECK(bench.build().alterations[0].mirrored);
  CHECK(bench.text("alter-effect").contains(QStringLiteral("round, was")));
  auto& list = bench.find<QListWidget>("alterations");
  REQUIRE(list.count() == 1);
  CHECK(list.item(0)->text().contains(QStringLiteral("8.0 mm taken in")));
  CHECK((*bench.derived().pieces).size() == before.size());
  CHECK(*build_from_bytes(*build_bytes(bench.build())) == bench.build());
  list.setCurrentRow(0);
  bench.click("alter-back");
  CHECK(bench.build().alterations.empty());
  bench.undo();
  CHECK(bench.build().alterations.size() == 1);
  bench.undo();
  CHECK(bench.build().alterations.empty());
}

TEST_CASE("an amount that cannot be is kept, marked and explained", "[app][seams][alter]") {
  Bench bench;
  bench.go("seams");
  bench.unfold("group-take-in-and-let-out");
  bench.type("alter-middle", "99");
  auto& field = bench.find<LengthField>("alter-middle");
  CHECK(field.isWrong());
  CHECK(field.text() == QStringLiteral("99"));
  bench.click("alter");
  CHECK(bench.build().alterations.empty());
  // What was cut on the foam at a free edge is noted with its reason.
  bench.type("alter-middle", "4");
  auto& where = bench.find<QComboBox>("alter-where");
  for (int i = 0; i < where.count(); ++i)
    if (where.itemText(i).startsWith(QStringLiteral("Free edge"))) where.setCurrentIndex(i);
  CHECK_FALSE(bench.find<QComboBox>("alter-side").isEnabled());
  bench.find<QCheckBox>("alter-on-foam").setChecked(true);
  bench.find<QLineEdit>("alter-note").setText(QStringLiteral("rubbed the neck"));
  bench.click("alter");
  REQUIRE(bench.build().alterations.size() == 1);
  CHECK(bench.build().alterations[0].on_foam);
  CHECK(bench.build().alterations[0].seam.empty());
  CHECK(bench.find<QListWidget>("alterations").item(0)->text().contains(QStringLiteral("rubbed the neck")));
}

TEST_CASE(
    "versions are kept by name, laid over what is now on mat and stand, and gone back to", "[app][seams][versions]") {
  Bench bench;
  bench.go("seams");
  bench.unfold("group-versions-of-the-pattern");
  bench.click("version-keep");
  CHECK(bench.build().versions.empty());
  CHECK(bench.text("remark-text").contains(QStringLiteral("needs a name")));
  keep(bench, "first cut");
  CHECK_FALSE(bench.text("remark-text").contains(QStringLiteral("needs a name")));
  REQUIRE(bench.build().versions.size() == 1);
  const double was = wrap_of(bench.build()).padding_mm;
  bench.window.document().change(
      QStringLiteral("Padding"), [&](const Build& b) { return turn_dial(b, first_wrap(b).id, "padding", was + 3.0); });
  bench.settle();
  auto& table = bench.find<QTableWidget>("versions");
  table.selectRow(0);
  const QString before = bench.text("version-said");
  QTest::mouseClick(&bench.find<QPushButton>("version-compare"), Qt::LeftButton);
  waitForText(bench, "version-said", before);
  waitForText(bench, "version-said", bench.text("version-said"));
  CHECK(bench.text("version-said").contains(QStringLiteral("pieces differ")));
  const StandChoice choice = shown(bench);
  REQUIRE(choice.worn_map);
  double mean = 0.0;
  for (const double mm : choice.worn_map->mm) mean += mm / static_cast<double>(choice.worn_map->mm.size());
  CHECK(mean == Approx(3.0).margin(0.5));
  CHECK(bench.window.mat().former().size() == bench.derived().pieces->size());
  QTest::mouseClick(&bench.find<QCheckBox>("version-show"), Qt::LeftButton);
  CHECK(bench.window.mat().former().empty());
  table.selectRow(0);
  bench.click("version-back");
  CHECK(wrap_of(bench.build()).padding_mm == was);
  CHECK(table.rowCount() == 2);
  table.item(1, 2)->setText(QStringLiteral("too wide at the temples"));
  bench.settle();
  CHECK(bench.build().versions[1].note == "too wide at the temples");
  table.selectRow(1);
  bench.click("version-forget");
  CHECK(bench.build().versions.size() == 1);
  bench.undo();
  CHECK(bench.build().versions.size() == 2);
}
