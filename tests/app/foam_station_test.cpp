#include <QDateTime>
#include <QListWidget>
#include <QSlider>
#include <QTableWidget>
#include <QTemporaryDir>

#include "app/stations/foam/foam_station.hpp"
#include "app/stations/foam/bench_sheet.hpp"
#include "app/stations/foam/section_view.hpp"
#include "core/steps/assembly.hpp"
#include "support/bench_window.hpp"

using namespace awl;
using awl::test::Bench;

namespace {

/// A bench whose shop book is its own and empty.
struct OwnBook {
  OwnBook() {
    const QString path = Book::path();
    for (const char* end : {"", "-wal", "-shm"}) QFile::remove(path + QLatin1String(end));
  }
};

int row_of(QTableWidget& table, const QString& begins) {
  for (int r = 0; r < table.rowCount(); ++r)
    if (table.item(r, 0)->text().startsWith(begins)) return r;
  return -1;
}

}  // namespace

TEST_CASE("a seam's cut is chosen, seen cut across, and comes to the pieces and back", "[app][foam][edges]") {
  Bench bench;
  bench.go("foam");
  auto& table = bench.find<QTableWidget>("edges");
  REQUIRE(table.rowCount() > 3);
  table.setCurrentCell(1, 0);
  const std::string letter = table.item(1, 0)->text().left(1).toStdString();
  auto& section = bench.find<SectionView>("edge-section");
  REQUIRE(section.section());
  CHECK(section.times() >= 1);
  const QString by_rule = table.item(1, 2)->text();
  bench.choose("edge-cut", "flap");
  CHECK(table.item(1, 2)->text() == QStringLiteral("flap"));
  CHECK(bench.text("edge-words").contains(QStringLiteral("12.0 mm beyond the line")));
  REQUIRE(bench.build().foam.cuts.size() == 1);
  int flaps = 0;
  for (const Piece& p : *bench.derived().pieces)
    for (const PieceEdge& e : p.edges)
      if (e.letter == letter) {
        CHECK(e.cut == EdgeCut::flap);
        flaps += e.margin_mm > 0.0 ? 1 : 0;
      }
  CHECK(flaps >= 1);
  bench.type("edge-margin", "2");
  CHECK(bench.find<LengthField>("edge-margin").isWrong());
  bench.type("edge-margin", "1.5 cm");
  CHECK(bench.build().foam.cuts[0].margin_mm == Approx(15.0));
  bench.choose("edge-cut", "rule");
  CHECK(bench.build().foam.cuts.empty());
  CHECK(table.item(1, 2)->text() == by_rule);
  bench.undo();
  CHECK(bench.build().foam.cuts.size() == 1);
}

TEST_CASE("sliding along a seam shows the blade where it stands there", "[app][foam][edges]") {
  Bench bench;
  bench.go("foam");
  auto& table = bench.find<QTableWidget>("edges");
  auto& slider = bench.find<QSlider>("edge-along");
  double most = 0.0;
  for (int r = 0; r < table.rowCount(); ++r) {
    table.setCurrentCell(r, 0);
    bench.choose("edge-cut", "tilted");
    table.setCurrentCell(r, 0);
    slider.setValue(0);
    const double first = bench.find<SectionView>("edge-section").section()->tilt_deg;
    slider.setValue(100);
    most = std::max(most, std::abs(bench.find<SectionView>("edge-section").section()->tilt_deg - first));
  }
  CHECK(most > 0.5);
}

TEST_CASE("a bend is told with its slots, its heat and what cannot be", "[app][foam][bend]") {
  Bench bench;
  bench.go("foam");
  bench.type("bend-radius", "12");
  CHECK(bench.text("bend-words").contains(QStringLiteral("slots on the inside")));
  bench.type("bend-radius", "200");
  CHECK(bench.text("bend-words").contains(QStringLiteral("without slots")));
  bench.type("bend-angle", "700");
  CHECK(bench.text("bend-words").contains(QStringLiteral("700 degrees")));
}

TEST_CASE("margins usual for fabric go round every piece and what it must not meet is said", "[app][foam][margins]") {
  Bench bench;
  bench.go("foam");
  bench.choose("foam-kind", "insulation-board");
  CHECK(bench.text("foam-facts").contains(QStringLiteral("Never hot glue: it melts a hole")));
  bench.choose("foam-kind", "fabric");
  bench.click("margin-usual");
  CHECK(bench.build().foam.margins.seam_mm == 12.0);
  CHECK(bench.field("margin-rim").startsWith(QStringLiteral("20")));
  for (const Piece& p : *bench.derived().pieces)
    CHECK(signed_area_mm2(p.knife_line()) > signed_area_mm2(p.outline) * 1.05);
  CHECK(bench.derived().layout->overlap_mm2 == 0.0);
}

TEST_CASE("an offcut is put by, ticked, cut from, and used up", "[app][foam][offcuts]") {
  const OwnBook fresh;
  Bench bench;
  bench.go("foam");
  auto& list = bench.find<QListWidget>("offcuts");
  REQUIRE(list.count() == 0);
  bench.type("offcut-outline", "0,0 100,100 100,0 0,100");
  bench.click("offcut-add");
  CHECK(bench.text("offcut-said").contains(QStringLiteral("crosses itself")));
  CHECK(list.count() == 0);
  bench.type("offcut-outline", "banana");
  bench.click("offcut-add");
  CHECK(bench.text("offcut-said").contains(QStringLiteral("banana")));
  bench.type("offcut-name", "blue, from the crest");
  bench.type("offcut-outline", "45 cm x 300");
  bench.click("offcut-add");
  REQUIRE(list.count() == 1);
  CHECK(list.item(0)->text().contains(QStringLiteral("450 \u00d7 300 mm")));
  list.item(0)->setCheckState(Qt::Checked);
  bench.settle();
  REQUIRE(bench.build().foam.offcuts.size() == 1);
  CHECK(bench.derived().layout->blanks[0].offcut == bench.build().foam.offcuts[0].id);
  CHECK(bench.text("foam-summary").contains(QStringLiteral("1 offcut")));
  // Cut: what is left goes into the book, what was cut up is gone from it.
  bench.click("offcut-keep");
  CHECK(list.count() >= 1);
  for (int i = 0; i < list.count(); ++i) CHECK(list.item(i)->text().contains(QStringLiteral("left of")));
  const int before = list.count();
  list.setCurrentRow(0);
  bench.click("offcut-remove");
  CHECK(list.count() == before - 1);
  bench.click("offcut-back");
  CHECK(list.count() == before);
}

TEST_CASE("a search lays the pieces tighter or as tight, and a grain keeps them straight", "[app][foam][nest]") {
  Bench bench;
  bench.go("foam");
  const double before = bench.derived().layout->density;
  const int sheets = bench.derived().layout->sheets;
  bench.choose("sheet-tries", "30");
  CHECK(bench.build().foam.nest_tries == 30);
  CHECK(bench.derived().layout->sheets <= sheets);
  CHECK(bench.derived().layout->density >= before - 1e-9);
  auto& grain = bench.find<QCheckBox>("sheet-grain");
  QTest::mouseClick(&grain, Qt::LeftButton, {}, QPoint(8, grain.height() / 2));
  bench.settle();
  CHECK_FALSE(bench.build().foam.turn_freely);
  for (const Placement& p : bench.derived().layout->placements) CHECK(std::abs(std::sin(p.pose.angle_rad)) < 1e-9);
}

TEST_CASE("the shopping list takes off what the shop has, and is saved", "[app][foam][shopping]") {
  const OwnBook fresh;
  Bench bench;
  bench.go("foam");
  auto& table = bench.find<QTableWidget>("shopping");
  const int sheets = row_of(table, QStringLiteral("EVA foam sheet, firm"));
  REQUIRE(sheets >= 0);
  CHECK(bench.text("shopping-total").contains(QStringLiteral("of foam to buy")));
  CHECK(table.item(sheets, 3)->text() != QStringLiteral("\u2013"));
  table.item(sheets, 2)->setText(QStringLiteral("9"));
  CHECK(table.item(sheets, 3)->text() == QStringLiteral("\u2013"));
  table.item(sheets, 2)->setText(QStringLiteral("nine"));
  CHECK(bench.text("shopping-total").contains(QStringLiteral("no number")));
  QTemporaryDir folder;
  const QString csv = folder.filePath(QStringLiteral("list.csv"));
  REQUIRE(bench.window.exportTo(QStringLiteral("shopping-csv"), csv));
  CHECK(read_file(csv.toStdString())->find("EVA foam sheet, firm") != std::string::npos);
  const QString pdf = folder.filePath(QStringLiteral("list.pdf"));
  REQUIRE(bench.window.exportTo(QStringLiteral("shopping"), pdf));
  CHECK(read_file(pdf.toStdString())->rfind("%PDF", 0) == 0);
  CHECK_FALSE(bench.window.exportTo(QStringLiteral("shopping"), QStringLiteral("/nowhere/list.pdf")));
}

TEST_CASE("the build sheet is read step by step and starts the glue clock, which outlives the window",
    "[app][foam][sheet][clock]") {
  const OwnBook fresh;
  {
    Bench bench;
    bench.go("foam");
    bench.click("sheet-open");
    auto* sheet = bench.window.findChild<BenchSheet*>(QStringLiteral("bench-sheet"));
    REQUIRE(sheet != nullptr);
    CHECK(sheet->findChild<QLabel*>(QStringLiteral("sheet-title"))->text() == QStringLiteral("Cut the pieces"));
    CHECK(sheet->findChild<QLabel*>(QStringLiteral("sheet-caution"))->text().contains(QStringLiteral("blade")));
    auto* next = sheet->findChild<QPushButton*>(QStringLiteral("sheet-next"));
    auto* wait = sheet->findChild<QPushButton*>(QStringLiteral("sheet-wait"));
    while (next->isEnabled() && wait->isHidden()) QTest::mouseClick(next, Qt::LeftButton);
    REQUIRE_FALSE(wait->isHidden());
    CHECK(wait->text().contains(QStringLiteral("12 min")));
    QTest::mouseClick(wait, Qt::LeftButton);
    QTest::mouseClick(sheet->findChild<QPushButton*>(QStringLiteral("sheet-wait-fan")), Qt::LeftButton);
    REQUIRE(bench.window.clock().waits().size() == 2);
    CHECK(bench.window.clock().isVisibleTo(&bench.window));
    CHECK(bench.window.clock().waits()[0].ready_s < bench.window.clock().waits()[1].ready_s);
    sheet->close();
  }
  Bench later;
  REQUIRE(later.window.clock().waits().size() == 2);
  const RunningWait first = later.window.clock().waits()[0];
  auto* button = later.window.findChild<QPushButton*>(QStringLiteral("wait-%1").arg(first.id));
  REQUIRE(button != nullptr);
  CHECK(button->text().contains(QStringLiteral("still")));
  // Some minutes on: it is to be joined; long after: too late. Both are told.
  later.window.clock().now = [first] { return first.ready_s + 5; };
  later.window.clock().renew();
  button = later.window.findChild<QPushButton*>(QStringLiteral("wait-%1").arg(first.id));
  CHECK(later.text("remark-text").contains(QStringLiteral("dry to the touch")));
  later.window.clock().now = [first] { return first.open_until_s + 60; };
  later.window.clock().renew();
  CHECK(later.text("remark-text").contains(QStringLiteral("too long")));
  for (const RunningWait& w : std::vector<RunningWait>(later.window.clock().waits())) later.window.clock().end(w.id);
  CHECK(later.window.clock().waits().empty());
  CHECK_FALSE(later.window.clock().isVisibleTo(&later.window));
}

TEST_CASE("what a wait says follows the clock", "[app][clock]") {
  const RunningWait w{1, "seam", "", "", 1000, 1000 + 245, 1000 + 245 + 600};
  CHECK(wordsOf(w, 1000) == QStringLiteral("4:05 still"));
  CHECK(wordsOf(w, 1245).startsWith(QStringLiteral("join it now")));
  CHECK(wordsOf(w, 1846) == QStringLiteral("left too long: brush it again"));
  CHECK(wordsOf({1, "coat", "", "", 0, 7500, 0}, 0) == QStringLiteral("2 h 5 min still"));
  CHECK(wordsOf({1, "coat", "", "", 0, 7500, 0}, 9000) == QStringLiteral("ready"));
}

TEST_CASE(
    "the build sheet is printed with every step, and a circle in the order is refused in words", "[app][foam][sheet]") {
  Bench bench;
  bench.go("foam");
  QTemporaryDir folder;
  const QString path = folder.filePath(QStringLiteral("sheet.pdf"));
  REQUIRE(bench.window.exportTo(QStringLiteral("build-sheet"), path));
  CHECK(read_file(path.toStdString())->size() > 20000);
  const std::string a = bench.derived().pieces->at(0).name, b = bench.derived().pieces->at(1).name;
  bench.window.document().change(QStringLiteral("order"), [&](const Build& build) -> Result<Build> {
    Build next = build;
    next.order = {{a, b, ""}, {b, a, ""}};
    return next;
  });
  bench.settle();
  CHECK_FALSE(bench.window.exportTo(QStringLiteral("build-sheet"), path));
  CHECK(bench.text("remark-text").contains(QStringLiteral("circle")));
}

TEST_CASE(
    "rules of order are added, refused in a circle, dropped, and the build sheet keeps to them", "[app][foam][order]") {
  Bench bench;
  bench.window.document().replace(*demo_by_name("eel-catcher", Day{20731}), {});
  bench.settle();
  bench.go("foam");
  auto& list = bench.find<QListWidget>("order-rules");
  const int given = list.count();
  CHECK(given == 2);  // jaws and crest sit on the hood
  const auto pick = [&](const char* box, const char* name) {
    auto& combo = bench.find<QComboBox>(box);
    REQUIRE(combo.findText(QLatin1String(name)) >= 0);
    combo.setCurrentIndex(combo.findText(QLatin1String(name)));
  };
  pick("order-first", "jaws"), pick("order-then", "hood");
  bench.click("order-add");
  CHECK(bench.text("order-said").contains(QStringLiteral("circle")));
  CHECK(bench.build().order.empty());
  pick("order-first", "crest"), pick("order-then", "jaws");
  bench.click("order-add");
  REQUIRE(bench.build().order.size() == 1);
  CHECK(list.count() == given + 1);
  const auto sheet = assemble(bench.build(), bench.derived(), test::chain()->materials());
  REQUIRE(sheet);
  int crest = -1, jaws = -1;
  for (int i = 0; i < static_cast<int>(sheet->order.size()); ++i) {
    const std::string& name = (*bench.derived().pieces)[sheet->order[i]].name;
    if (name.starts_with("crest")) crest = i;
    if (name.starts_with("jaws") && jaws < 0) jaws = i;
  }
  CHECK(crest < jaws);
  list.setCurrentRow(0);
  bench.click("order-drop");
  CHECK(bench.build().order.size() == 1);
  list.setCurrentRow(given);
  bench.click("order-drop");
  CHECK(bench.build().order.empty());
}

TEST_CASE(
    "a material's numbers are put right, kept for the shop, and a new kind is made of it", "[app][foam][materials]") {
  const OwnBook fresh;
  Bench bench;
  bench.go("foam");
  bench.type("material-heated", "lots");
  bench.click("material-keep");
  CHECK(bench.text("material-said").contains(QStringLiteral("lots")));
  CHECK_FALSE(bench.build().foam.own_kind);
  bench.type("material-heated", "0,5");
  bench.type("material-cold", "0.5");
  bench.type("material-price", "21.50");
  bench.click("material-keep");
  REQUIRE(bench.build().foam.own_kind);
  CHECK(bench.build().foam.own_kind->strain_heated == Approx(0.005));
  // One sheet, and a can each of rubber coat, colour and clear coat: 22, 5 and 8.
  CHECK(bench.text("shopping-total").startsWith(QStringLiteral("56.50")));
  // What it bears now is what panels are judged by.
  CHECK(std::any_of(bench.derived().remarks.begin(), bench.derived().remarks.end(),
      [](const Remark& r) { return r.id == "seam.strain"; }));
  bench.click("material-drop");
  CHECK_FALSE(bench.build().foam.own_kind);
  CHECK(bench.text("shopping-total").startsWith(QStringLiteral("48.00")));
  bench.type("material-name", "Blue mat of the harbour shop");
  bench.click("material-keep");
  CHECK(bench.build().foam.foam == "own-blue-mat-of-the-harbour-shop");
  CHECK(bench.derived().complete());
  CHECK(bench.find<QComboBox>("foam-kind").currentText() == QStringLiteral("Blue mat of the harbour shop"));
  bench.choose("foam-kind", "eva-soft");
  bench.choose("foam-kind", "own-blue-mat-of-the-harbour-shop");
  CHECK(bench.build().foam.own_kind->name == "Blue mat of the harbour shop");
}

TEST_CASE("the thicknesses a kind comes in are typed, kept and offered", "[app][foam][materials]") {
  const OwnBook book;
  Bench bench;
  bench.go("foam");
  bench.unfold("group-its-numbers");
  const QString before = bench.field("material-thick");
  CHECK(before.contains(QStringLiteral("5")));
  bench.find<QLineEdit>("material-name").setText(QStringLiteral("Beach mat"));
  emit bench.window.deriver().updated();  // what comes in meanwhile takes nothing away
  bench.find<QLineEdit>("material-thick").setText(QStringLiteral("3, seven"));
  CHECK(bench.field("material-name") == QStringLiteral("Beach mat"));
  bench.click("material-keep");
  CHECK(bench.text("material-said").contains(QStringLiteral("seven")));
  CHECK_FALSE(bench.build().foam.own_kind);
  bench.find<QLineEdit>("material-thick").setText(QStringLiteral("7; 3"));
  bench.click("material-keep");
  REQUIRE(bench.build().foam.own_kind);
  CHECK(bench.build().foam.own_kind->thickness_mm == std::vector<double>{3.0, 7.0});
  CHECK((bench.build().foam.thickness_mm == 3.0 || bench.build().foam.thickness_mm == 7.0));
  auto& offered = bench.find<QComboBox>("foam-thickness");
  CHECK(offered.count() == 2);
  CHECK(offered.currentText() == QStringLiteral("%1 mm").arg(bench.build().foam.thickness_mm));
  bench.undo();
  CHECK(bench.build().foam.thickness_mm == 5.0);
}

TEST_CASE("a kind nobody shipped is made from a clean slate, and what is missing is named", "[app][foam][materials]") {
  const OwnBook book;
  Bench bench;
  bench.go("foam");
  bench.unfold("group-its-numbers");
  const Build before = bench.build();
  bench.click("material-new");
  for (const char* field :
      {"material-name", "material-thick", "material-density", "material-cold", "material-taboos", "material-caution"})
    CHECK(bench.field(field).isEmpty());
  // Nothing is kept of what is not complete: each time the field is named, and the build stays as it was.
  bench.click("material-keep");
  CHECK(bench.text("material-said").contains(QStringLiteral("Name")));
  const auto put = [&](const char* field, const char* text) {
    bench.find<QLineEdit>(field).setText(QString::fromUtf8(text));
  };
  put("material-name", "Cork of the net loft");
  bench.click("material-keep");
  CHECK(bench.text("material-said").contains(QStringLiteral("kg a cubic metre")));
  CHECK(bench.build() == before);
  const std::pair<const char*, const char*> numbers[] = {{"material-density", "180"}, {"material-cold", "1"},
      {"material-heated", "2"}, {"material-bend", "3"}, {"material-bend-heated", "6"}, {"material-keeps", "50"},
      {"material-squeeze", "0,8"}, {"material-seam-margin", "0"}, {"material-rim-margin", "4"},
      {"material-hole-margin", "0"}, {"material-forming-low", "0"}, {"material-forming-high", "0"},
      {"material-light", "0"}};
  for (const auto& [field, text] : numbers) put(field, text);
  bench.click("material-keep");
  CHECK(bench.text("material-said").contains(QStringLiteral("thickness")));
  put("material-thick", "4, 2");
  put("material-taboos", "hot-glue");
  bench.click("material-keep");
  CHECK(bench.text("material-said").contains(QStringLiteral("no reason")));
  put("material-taboos", "hot-glue: it chars; heat: it crumbles");
  put("material-squeeze", "9");
  bench.click("material-keep");
  CHECK(bench.text("material-said").contains(QStringLiteral("9.000")));
  put("material-squeeze", "0,8");
  put("material-price", "12");
  put("material-caution", "Dust: wear a mask when sanding.");
  auto& kind = bench.find<QComboBox>("material-kind");
  kind.setCurrentIndex(kind.findData(static_cast<int>(SheetKind::board)));
  bench.click("material-keep");
  REQUIRE(bench.build().foam.own_kind);
  const Foam& cork = *bench.build().foam.own_kind;
  CHECK(cork.id == "own-cork-of-the-net-loft");
  CHECK(cork.kind == SheetKind::board);
  CHECK(cork.thickness_mm == std::vector<double>{2.0, 4.0});
  CHECK(cork.squeeze_stiffness == Approx(0.8));
  CHECK(cork.strain_heated == Approx(0.02));
  REQUIRE(cork.taboos.size() == 2);
  CHECK(cork.taboo("heat")->why == "it crumbles");
  REQUIRE(cork.sold.size() == 1);
  CHECK(cork.sold[0].price == 12.0);
  CHECK(bench.build().foam.thickness_mm == 4.0);
  CHECK(bench.find<QComboBox>("foam-kind").currentText() == QStringLiteral("Cork of the net loft"));
  // What it must not meet is told of the build made of it.
  CHECK(std::any_of(bench.derived().remarks.begin(), bench.derived().remarks.end(),
      [](const Remark& r) { return r.id == "foam.heat" && r.sentence.find("crumbles") != std::string::npos; }));
  // It is in the book for the next build, and its name is taken.
  bench.choose("foam-kind", "eva-firm");
  bench.click("material-new");
  put("material-name", "Cork of the net loft");
  for (const auto& [field, text] : numbers) put(field, text);
  put("material-thick", "3");
  bench.click("material-keep");
  CHECK(bench.text("material-said").contains(QStringLiteral("already")));
  CHECK(bench.build().foam.foam == "eva-firm");
  // And left again without a trace.
  bench.click("material-new");
  CHECK(bench.field("material-name") ==
      QString::fromStdString(foam_of(bench.build().foam, test::chain()->materials())->name));
  bench.choose("foam-kind", "own-cork-of-the-net-loft");
  CHECK(bench.field("material-taboos") == QStringLiteral("hot-glue: it chars; heat: it crumbles"));
  CHECK(bench.field("material-squeeze") == QStringLiteral("0.8"));
  // A shipped kind under its name would overwrite it: refused as well.
  bench.choose("foam-kind", "eva-firm");
  bench.type("material-name", "Cork of the net loft");
  bench.click("material-keep");
  CHECK(bench.text("material-said").contains(QStringLiteral("already")));
  bench.choose("foam-kind", "own-cork-of-the-net-loft");
  CHECK(bench.build().foam.own_kind->density_kg_m3 == 180.0);
}
