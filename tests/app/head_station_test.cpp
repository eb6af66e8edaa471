// The headform through the window: views, comparison, foam, check, scan, pages and meshes.
#include <QFileInfo>
#include <QProcess>
#include <QTableWidget>

#include "app/stations/head/head_station.hpp"
#include "core/geom/mesh_file.hpp"
#include "support/bench_window.hpp"

using namespace awl;
using test::Bench;
using M = MeasureId;

namespace {

void toggle(Bench& bench, const char* name) {
  QTest::mouseClick(
      &bench.find<QCheckBox>(name), Qt::LeftButton, {}, QPoint(8, bench.find<QCheckBox>(name).height() / 2));
  bench.settle();
}

void against(Bench& bench, int index) {
  auto& box = bench.find<QComboBox>("against");
  box.setCurrentIndex(index);
  emit box.activated(index);
  bench.settle();  // the stand is painted beside the window
}

/// Types a reading into the check table as a person does.
void read(Bench& bench, int row, const QString& text) {
  auto& table = bench.find<QTableWidget>("check-table");
  QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);  // the editor of the cell before
  table.setCurrentCell(row, 2);
  table.editItem(table.item(row, 2));
  auto* editor = table.findChild<QLineEdit*>();
  REQUIRE(editor != nullptr);
  editor->selectAll();
  QTest::keyClicks(editor, text);
  QTest::keyClick(editor, Qt::Key_Return);
  QApplication::processEvents();  // the table takes what was typed a moment later
  bench.settle();
}

double orange_share(const QImage& image) {
  int orange = 0, all = 0;
  for (int y = 0; y < image.height(); y += 2)
    for (int x = 0; x < image.width(); x += 2, ++all) {
      const QColor c = image.pixelColor(x, y);
      orange += c.red() > c.blue() + 70 && c.red() > 140 ? 1 : 0;
    }
  return static_cast<double>(orange) / all;
}

}  // namespace

TEST_CASE("tapes, landmarks and level lines are put on the stand and taken off", "[app][head]") {
  Bench bench;
  bench.go("head");
  const auto picture = [&] { return bench.window.stand().grab().toImage(); };
  const QImage with_tapes = picture();
  toggle(bench, "show-tapes");
  const QImage bare = picture();
  CHECK(with_tapes != bare);
  for (const char* box : {"show-guessed", "show-landmarks", "show-contours"}) {
    CAPTURE(box);
    toggle(bench, box);
    CHECK(picture() != bare);
    toggle(bench, box);
    CHECK(picture() == bare);
  }
}

TEST_CASE("a head is coloured against its other side, and the words say where it differs", "[app][head]") {
  Bench bench;
  bench.go("head");
  against(bench, 1);
  CHECK(bench.text("against-said") == QStringLiteral("No difference."));
  bench.go("tape");
  bench.unfold("group-more-of-the-skull");
  bench.type("measure-HBL", "83");
  bench.type("measure-HBR", "76");
  bench.go("head");
  against(bench, 1);
  CHECK(bench.text("against-said").contains(QStringLiteral("mm")));
  CHECK(bench.text("against-said").contains(QStringLiteral("left")));
}

TEST_CASE("another wearer of the book is laid over, with a map in millimetres", "[app][head]") {
  Bench bench;
  REQUIRE(bench.window.book().put("Ferry Keeper", sheet_of({{M::HC, 601}, {M::HL, 207}, {M::HB, 161}}, "adult")));
  bench.go("head");
  toggle(bench, "show-tapes");
  const double before = orange_share(bench.window.stand().grab().toImage());
  auto& box = bench.find<QComboBox>("against");
  int row = -1;
  for (int i = 0; i < box.count(); ++i)
    if (box.itemText(i).startsWith(QStringLiteral("Ferry Keeper"))) row = i;
  REQUIRE(row > 0);
  against(bench, row);
  CHECK(bench.text("against-said").contains(QStringLiteral("beside that head")));
  const QImage map = bench.window.stand().grab().toImage();
  int blue = 0;
  for (int y = 0; y < map.height(); y += 2)
    for (int x = 0; x < map.width(); x += 2)
      blue += map.pixelColor(x, y).blue() > map.pixelColor(x, y).red() + 40 ? 1 : 0;
  CHECK(blue > 2000);  // the demo's head lies inside the larger one
  CHECK(before < 0.2);
}

TEST_CASE("the headform becomes a pattern of its own, with plates, and back again", "[app][head][foam]") {
  Bench bench;
  bench.go("head");
  bench.unfold("group-build-it-in-foam");
  CHECK_FALSE(bench.find<QLineEdit>("pipe").isEnabled());
  bench.choose("making", "headform");
  REQUIRE(bench.derived().complete());
  CHECK(bench.derived().form->is_headform);
  CHECK(bench.text("foam-head-summary").contains(QStringLiteral("The worst must give by")));
  bench.type("pipe", "2 in");
  CHECK(bench.derived().pieces->back().holes.size() == 1);
  const auto pieces = bench.derived().pieces->size();
  bench.choose("head-plan", "4");
  CHECK(bench.derived().pieces->size() > pieces);
  bench.go("foam");
  bench.choose("foam-thickness", "10");
  bench.go("head");
  bench.type("pipe", "79");
  CHECK(bench.text("remark-badge").contains(QStringLiteral("stop")));
  CHECK(bench.text("remark-text").contains(QStringLiteral("does not fit the neck")));
  bench.undo();
  CHECK(bench.derived().complete());
  bench.go("seams");
  CHECK_FALSE(bench.find<QSpinBox>("gores").isEnabled());
  CHECK(bench.find<QLabel>("seams-headform").isVisibleTo(&bench.window));
  bench.go("head");
  bench.choose("making", "parts");
  CHECK_FALSE(bench.derived().form->is_headform);
}

TEST_CASE("a crooked headform entered through its check sheet is described, and the build can follow it",
    "[app][head][check]") {
  Bench bench;
  bench.go("head");
  bench.unfold("group-check-the-built-form");
  auto& table = bench.find<QTableWidget>("check-table");
  const CheckPlan plan = *bench.derived().check;
  REQUIRE(table.rowCount() == static_cast<int>(plan.distances.size()));
  BuiltShape crooked = plan.meant;
  crooked.flaws[static_cast<int>(Flaw::left)] = 5.0;
  crooked.flaws[static_cast<int>(Flaw::twist)] = 4.0;
  const double area = bench.derived().form->area_mm2;
  for (int row = 0; row < table.rowCount(); ++row) {
    const BuiltDistance& d = plan.distances[row];
    if (!d.round.empty()) continue;
    read(bench, row, QString::number((crooked(plan.marks[d.to].at) - crooked(plan.marks[d.from].at)).norm(), 'f', 1));
  }
  CHECK(bench.text("check-findings").contains(QStringLiteral("The left side stands out")));
  CHECK(bench.text("check-findings").contains(QStringLiteral("turned")));
  CHECK(bench.derived().built->shape.flaws[static_cast<int>(Flaw::left)] == Approx(5.0).margin(1.0));
  CHECK(bench.derived().built->shape.flaws[static_cast<int>(Flaw::twist)] == Approx(4.0).margin(1.0));
  bool let_in = false;
  for (const Remark& r : bench.derived().remarks)
    let_in = let_in || (r.id == "check.let-in" && r.sentence.find("take in 2.") != std::string::npos);
  CHECK(let_in);
  bench.choose("fit-to", "built");
  CHECK(bench.build().fit_to_built);
  CHECK(bench.derived().form->area_mm2 > area * 1.005);
  bench.undo();
  CHECK(bench.derived().form->area_mm2 == Approx(area));
}

TEST_CASE("a reading that is none is kept, marked and explained", "[app][head][check]") {
  Bench bench;
  bench.go("head");
  bench.unfold("group-check-the-built-form");
  read(bench, 0, QStringLiteral("about 20"));
  CHECK(bench.text("remark-badge").contains(QStringLiteral("not done")));
  CHECK(bench.find<QTableWidget>("check-table").item(0, 2)->text() == QStringLiteral("about 20"));
  CHECK(bench.build().built.empty());
  read(bench, 0, QStringLiteral("900"));
  CHECK(bench.build().built.size() == 1);
  CHECK(bench.text("remark-text").contains(QStringLiteral("off its target")));
  CHECK(bench.derived().complete());  // the hood does not wait for it
  bench.find<QTableWidget>("check-table").clearFocus();
  bench.window.document().undoStack().undo();
  bench.settle();
  CHECK(bench.build().built.empty());
}

TEST_CASE("a simulated scan becomes the headform, with its points on the stand, and goes again", "[app][head][scan]") {
  Bench bench;
  bench.go("head");
  bench.unfold("group-from-a-scan");
  for (const char* code : {"measure-HL", "measure-HB", "measure-TOP", "measure-FH", "measure-NC"}) bench.type(code, "");
  const Mesh before = bench.derived().head->mesh;
  QTest::mouseClick(&bench.find<QPushButton>("scan-simulated"), Qt::LeftButton);
  bench.settle();
  REQUIRE(bench.derived().scan != nullptr);
  CHECK(bench.derived().complete());
  CHECK(bench.text("scan-state").contains(QStringLiteral("lie on the head")));
  CHECK(bench.derived().head->mesh != before);
  CHECK(bench.derived().scan->p95_mm < 2.0);
  toggle(bench, "scan-use");
  bench.settle();
  CHECK(bench.derived().scan == nullptr);
  CHECK(bench.derived().head->mesh == before);
  QTest::mouseClick(&bench.find<QPushButton>("scan-remove"), Qt::LeftButton);
  bench.settle();
  CHECK(bench.build().scan.scan == nullptr);
  CHECK(bench.text("scan-state").contains(QStringLiteral("No scan")));
}

TEST_CASE("a scan read from a file is placed by clicking its places on the stand", "[app][head][scan]") {
  Bench bench;
  const test::TempFolder folder;
  // A scan in centimetres, as a mesh, looking the same way as the stand does.
  Mesh mesh = bench.derived().head->mesh;
  for (Vec3& p : mesh.vertices) p *= 0.1;
  REQUIRE(write_mesh(folder / "head.ply", mesh));
  bench.go("head");
  bench.unfold("group-from-a-scan");
  bench.window.asking.path = [&](bool, const QString&, const QString&, const QString&) {
    return QString::fromStdString((folder / "head.ply").string());
  };
  QTest::mouseClick(&bench.find<QPushButton>("scan-read"), Qt::LeftButton);
  bench.settle();
  REQUIRE(bench.build().scan.scan);
  CHECK(box_of(bench.build().scan.scan->mesh.vertices).size().y() ==
      Approx(box_of(bench.derived().head->mesh.vertices).size().y()).margin(0.01));
  auto& stand = bench.window.stand();
  const Box box = box_of(bench.build().scan.scan->mesh.vertices);
  const Vec3 middle = 0.5 * (box.low + box.high);
  const auto click_at = [&](Landmark l, float yaw, float pitch) {
    stand.look(yaw, pitch);
    stand.grab();
    const Vec3f wanted = (bench.derived().head->at(l) - middle).cast<float>();
    QPoint best;
    float nearest = 1e9f;
    for (int y = 0; y < stand.height(); y += 2)
      for (int x = 0; x < stand.width(); x += 2)
        if (const auto p = stand.surfaceAt(QPoint(x, y)); p && (*p - wanted).norm() < nearest)
          nearest = (*p - wanted).norm(), best = QPoint(x, y);
    REQUIRE(nearest < 8.0f);
    QTest::mouseClick(&stand, Qt::LeftButton, {}, best);
    bench.settle();
  };
  const auto side = static_cast<float>(0.5 * M_PI);
  click_at(Landmark::glabella, 0.0f, 0.0f);
  click_at(Landmark::pronasale, 0.0f, 0.0f);
  CHECK(bench.text("scan-state").contains(QStringLiteral("2 of at least 3")));
  click_at(Landmark::tragion_l, side, 0.0f);
  CHECK(bench.build().scan.scan->marks.size() == 3);
  CHECK(bench.derived().scan != nullptr);
  click_at(Landmark::tragion_r, -side, 0.0f);
  click_at(Landmark::vertex, 0.0f, 1.4f);
  CHECK(bench.build().scan.scan->marks.size() == 5);
  CHECK(bench.derived().scan->used_share > 0.8);
  CHECK(bench.derived().scan->p95_mm < 1.5);
  const QString saved = QString::fromStdString((folder / "scanned.noggin").string());
  REQUIRE(bench.window.saveTo(saved));
  const Build before = bench.build();
  REQUIRE(bench.window.openFile(saved));
  bench.settle();
  CHECK(bench.build() == before);
}

TEST_CASE("a file that is no scan of a head is told", "[app][head][scan]") {
  Bench bench;
  const test::TempFolder folder;
  REQUIRE(write_file_safely(folder / "x.ply", "not a scan"));
  bench.go("head");
  const Build before = bench.build();
  bench.find<HeadStation>("station-head").scan().read(QString::fromStdString((folder / "x.ply").string()));
  CHECK(bench.text("remark-badge").contains(QStringLiteral("not done")));
  CHECK(bench.build() == before);
}

TEST_CASE("check sheet and wrapping guide are printed, one page each", "[app][head][print]") {
  Bench bench;
  const test::TempFolder folder;
  bench.go("head");
  bench.unfold("group-check-the-built-form");
  bench.unfold("group-by-hand,-and-as-a-mesh");
  QString asked;
  bench.window.asking.path = [&](bool, const QString&, const QString& suggested, const QString&) {
    return asked = QString::fromStdString((folder / suggested.toStdString()).string());
  };
  for (const char* button : {"check-sheet", "wrap-guide"}) {
    QTest::mouseClick(&bench.find<QPushButton>(button), Qt::LeftButton);
    CAPTURE(button);
    REQUIRE(QFileInfo(asked).size() > 8000);
    QProcess info;
    info.start(QStringLiteral("pdfinfo"), {asked});
    REQUIRE(info.waitForFinished(10000));
    CHECK(info.readAllStandardOutput().contains("Pages:           1"));
  }
  bench.window.asking.path = [&](bool, const QString&, const QString&, const QString&) {
    return QStringLiteral("/nowhere/at/all.pdf");
  };
  QTest::mouseClick(&bench.find<QPushButton>("check-sheet"), Qt::LeftButton);
  CHECK(bench.text("remark-badge").contains(QStringLiteral("not done")));
}

TEST_CASE("headform and hood are saved as closed meshes in millimetres", "[app][head][files]") {
  Bench bench;
  const test::TempFolder folder;
  bench.go("head");
  bench.unfold("group-by-hand,-and-as-a-mesh");
  for (const auto& [button, name] :
      {std::pair{"mesh-headform", "a.stl"}, {"mesh-hood", "b.obj"}, {"mesh-hood", "c.ply"}}) {
    const auto path = folder / name;
    bench.window.asking.path = [&](bool, const QString&, const QString&, const QString&) {
      return QString::fromStdString(path.string());
    };
    QTest::mouseClick(&bench.find<QPushButton>(button), Qt::LeftButton);
    const auto mesh = read_mesh(path);
    CAPTURE(name);
    REQUIRE(mesh);
    CHECK(border_loops(*mesh).empty());
    CHECK(volume_mm3(*mesh) > 1e5);
  }
}
