#include <QDir>
#include <QListWidget>
#include <QPainter>
#include <QSlider>
#include <QTemporaryDir>

#include "app/stations/foam/cut_rehearsal.hpp"
#include "app/stations/foam/photo_trace.hpp"
#include "core/base/numbers.hpp"
#include "core/geom/mesh_file.hpp"
#include "support/bench_window.hpp"

using namespace awl;
using awl::test::Bench;

namespace {

void show_demo(Bench& bench, const char* name) {
  bench.window.document().replace(*demo_by_name(name, Day{20731}), {});
  bench.settle();
}

/// Where a copy lies on the mat: its number among the items.
int item_of(Bench& bench, const std::string& piece, int copy = 0) {
  const auto& items = bench.window.mat().items();
  for (int i = 0; i < static_cast<int>(items.size()); ++i)
    if ((*bench.derived().pieces)[items[i].piece].name == piece && items[i].copy == copy) return i;
  FAIL("no such copy: " << piece);
  return -1;
}

void drag(MatView& mat, QPointF from, QPointF to) {
  QTest::mousePress(&mat, Qt::LeftButton, {}, from.toPoint());
  for (int i = 1; i <= 4; ++i) {
    const QPointF at = from + (to - from) * i / 4.0;
    QMouseEvent move(
        QEvent::MouseMove, at, mat.mapToGlobal(at.toPoint()), Qt::NoButton, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(&mat, &move);
  }
}

}  // namespace

TEST_CASE("a part is made in slabs, its facts are told, and undo makes it a skin again", "[app][foam][make]") {
  Bench bench;
  show_demo(bench, "otter-pup");
  bench.go("foam");
  CHECK(bench.text("way-facts").contains(QStringLiteral("seams")));
  CHECK_FALSE(bench.find<QComboBox>("way-block").isVisible());
  const auto skins = bench.derived().pieces->size();
  bench.choose("way", "slabs");
  CHECK(bench.find<QComboBox>("way-block").isVisible());
  CHECK(bench.find<QLineEdit>("way-wall").isVisible());
  CHECK_FALSE(bench.find<QComboBox>("way-faces").isVisible());
  CHECK(bench.text("way-facts").contains(QStringLiteral("slabs")));
  CHECK(bench.derived().pieces->size() != skins);
  const auto blocks = [&] {
    return std::count_if(bench.derived().layout->blanks.begin(), bench.derived().layout->blanks.end(),
        [](const Blank& b) { return b.stuff == "soft-block"; });
  };
  CHECK(blocks() > 0);
  bench.type("way-wall", "900");
  CHECK(bench.text("way-wall-sentence").contains(QStringLiteral("200")));
  CHECK(bench.build().parts.front().way.wall_mm == 0.0);
  bench.type("way-wall", "30");
  CHECK(bench.build().parts.front().way.wall_mm == 30.0);
  CHECK(bench.text("way-facts").contains(QStringLiteral("hollow")));
  bench.undo();
  bench.undo();
  CHECK(bench.build().parts.front().way.way == Way::skin);
  CHECK(bench.derived().pieces->size() == skins);
  CHECK(blocks() == 0);
}

TEST_CASE("carving and a paper net come to templates and sheets of card", "[app][foam][make]") {
  Bench bench;
  show_demo(bench, "thicket-ram");
  bench.go("foam");
  const auto& parts = bench.build().parts;
  auto& part = bench.find<QComboBox>("way-part");
  const int horns = part.findText(QString::fromStdString(parts.back().name));
  REQUIRE(horns > 0);
  part.setCurrentIndex(horns);
  emit part.activated(horns);
  bench.settle();
  bench.choose("way", "carve");
  CHECK(bench.text("way-facts").contains(QStringLiteral("block")));
  const auto has = [&](const std::string& word) {
    return std::any_of(bench.derived().pieces->begin(), bench.derived().pieces->end(),
        [&](const Piece& p) { return p.name.find(word) != std::string::npos; });
  };
  CHECK(has("front template"));
  CHECK(has("side template"));
  bench.choose("way", "net");
  bench.choose("way-faces", "100");
  CHECK(bench.text("way-facts").contains(QStringLiteral("faces")));
  CHECK(has("net 1"));
  CHECK_FALSE(has("template"));
}

TEST_CASE("a visor is drawn over a buck, which is saved as a closed mesh", "[app][foam][make]") {
  Bench bench;
  show_demo(bench, "reed-mask");
  bench.go("foam");
  CHECK_FALSE(bench.find<QPushButton>("export-buck").isVisible());
  bench.choose("way", "drawn");
  CHECK(bench.find<QPushButton>("export-buck").isVisible());
  CHECK(bench.text("way-facts").contains(QStringLiteral("thinnest")));
  CHECK(bench.text("way-facts").contains(QStringLiteral("protective")));
  const QString at_first = bench.text("way-facts");
  bench.choose("way-thick", "2");
  CHECK(bench.text("way-facts") != at_first);
  const test::TempFolder folder;
  QString asked;
  bench.window.asking.path = [&](bool, const QString&, const QString& suggested, const QString&) {
    return asked = QString::fromStdString((folder / suggested.toStdString()).string());
  };
  bench.click("export-buck");
  const auto buck = read_mesh(asked.toStdString());
  REQUIRE(buck);
  CHECK(border_loops(*buck).empty());
}

TEST_CASE("a cover of fabric is added to the part at hand and cut from its own sheet", "[app][foam][cover]") {
  Bench bench;
  show_demo(bench, "reed-mask");
  bench.go("form");
  bench.trigger("add-cover");
  REQUIRE(std::holds_alternative<CoverSpec>(bench.build().parts.back().shape));
  CHECK(bench.build().parts.back().on == bench.build().parts.front().id);
  bench.go("foam");
  bench.choose("way-stuff", "fabric");
  CHECK(bench.build().parts.back().stuff == "fabric");
  CHECK(bench.build().parts.back().thickness_mm > 0.0);
  CHECK(bench.text("way-facts").contains(QStringLiteral("fabric")));
  CHECK(std::any_of(bench.derived().layout->blanks.begin(), bench.derived().layout->blanks.end(),
      [](const Blank& b) { return b.stuff == "fabric"; }));
}

TEST_CASE("a piece is dragged on the mat, stays there, and is let go again", "[app][foam][mat]") {
  Bench bench;
  bench.go("foam");
  auto& mat = bench.window.mat();
  const std::string name = bench.derived().pieces->front().name;
  const int item = item_of(bench, name);
  const Pose before = mat.items()[item].pose;
  const QPointF from = mat.middleOf(item), to = from + QPointF(0.0, -40.0);
  drag(mat, from, to);
  CHECK((mat.items()[item].pose.at - before.at).norm() > 5.0);
  QTest::mouseRelease(&mat, Qt::LeftButton, {}, to.toPoint());
  bench.settle();
  if (bench.build().foam.held.empty()) CHECK(bench.text("remark-text").contains(QStringLiteral("put back")));
  REQUIRE(bench.build().foam.held.size() == 1);
  const HeldCopy held = bench.build().foam.held.front();
  CHECK(held.piece == name);
  const int now = item_of(bench, name);
  CHECK(mat.items()[now].held);
  CHECK((mat.items()[now].pose.at - held.at).norm() < 1e-9);
  CHECK(bench.derived().layout->overlap_mm2 < 0.01);
  CHECK(bench.find<QPushButton>("held-release").isVisible());
  bench.click("held-release");
  CHECK(bench.build().foam.held.empty());
  bench.undo();
  CHECK(bench.build().foam.held.size() == 1);
}

TEST_CASE("what is dragged over the edge or over a held piece shows it and is put back", "[app][foam][mat]") {
  Bench bench;
  bench.go("foam");
  auto& mat = bench.window.mat();
  const std::string name = bench.derived().pieces->front().name;
  const int item = item_of(bench, name);
  const Pose before = mat.items()[item].pose;
  const QPointF from = mat.middleOf(item);
  drag(mat, from, QPointF(from.x(), mat.height() + 200.0));
  CHECK(mat.collides());
  QTest::mouseRelease(&mat, Qt::LeftButton, {}, QPoint(10, 10));
  bench.settle();
  CHECK(bench.build().foam.held.empty());
  CHECK(bench.text("remark-text").contains(QStringLiteral("edge of the sheet")));
  CHECK((mat.items()[item].pose.at - before.at).norm() < 1e-9);
  // One held, another dragged onto it.
  mat.setFocus();
  QTest::keyClick(&mat, Qt::Key_Escape);
  while (mat.inHand() != item) QTest::keyClick(&mat, Qt::Key_N);
  QTest::keyClick(&mat, Qt::Key_L);
  bench.settle();
  REQUIRE(bench.build().foam.held.size() == 1);
  const int held = item_of(bench, name), other = held == 0 ? 1 : 0;
  drag(mat, mat.middleOf(other), mat.middleOf(held));
  CHECK(mat.collides());
  QTest::mouseRelease(&mat, Qt::LeftButton, {}, QPoint(10, 10));
  bench.settle();
  CHECK(bench.text("remark-text").contains(QStringLiteral("which is held")));
  CHECK(bench.build().foam.held.size() == 1);
}

TEST_CASE("the mat is laid from the keyboard: next, turned, moved, held, let go", "[app][foam][mat][keys]") {
  Bench bench;
  bench.go("foam");
  auto& mat = bench.window.mat();
  mat.setFocus();
  QTest::keyClick(&mat, Qt::Key_N);
  REQUIRE(mat.inHand() == 0);
  QTest::keyClick(&mat, Qt::Key_N);
  REQUIRE(mat.inHand() == 1);
  QTest::keyClick(&mat, Qt::Key_B);
  REQUIRE(mat.inHand() == 0);
  const Pose before = mat.items()[0].pose;
  QTest::keyClick(&mat, Qt::Key_R);
  CHECK(mat.items()[0].pose.angle_rad == Approx(before.angle_rad + radians(15.0)));
  QTest::keyClick(&mat, Qt::Key_Escape);
  CHECK(mat.items()[0].pose.angle_rad == before.angle_rad);
  QTest::keyClick(&mat, Qt::Key_L);
  bench.settle();
  REQUIRE(bench.build().foam.held.size() == 1);
  CHECK(bench.build().foam.held[0].angle_rad == before.angle_rad);
  REQUIRE(mat.inHand() >= 0);
  CHECK(mat.items()[mat.inHand()].held);
  QTest::keyClick(&mat, Qt::Key_L);
  bench.settle();
  CHECK(bench.build().foam.held.empty());
}

TEST_CASE("pieces are laid by hand at Foam only", "[app][foam][mat]") {
  Bench bench;
  bench.go("seams");
  auto& mat = bench.window.mat();
  const Pose before = mat.items()[0].pose;
  drag(mat, mat.middleOf(0), mat.middleOf(0) + QPointF(30, 0));
  QTest::mouseRelease(&mat, Qt::LeftButton, {}, QPoint(10, 10));
  CHECK(mat.inHand() == -1);
  CHECK(mat.items()[0].pose.at == before.at);
}

TEST_CASE("files are saved one a piece, and the machine's one a mat", "[app][foam][machine]") {
  Bench bench;
  const test::TempFolder folder;
  bench.go("foam");
  bench.window.asking.path = [&](bool, const QString&, const QString& suggested, const QString&) {
    return QString::fromStdString((folder / suggested.toStdString()).string());
  };
  bench.choose("file-per", "-piece");
  bench.click("export-svg");
  const QDir dir(QString::fromStdString(folder.path().string()));
  CHECK(dir.entryList({QStringLiteral("*.svg")}).size() == static_cast<int>(bench.derived().pieces->size()));
  bench.choose("print-paper", "sheet");
  bench.click("export-pdf");
  CHECK(dir.entryList({QStringLiteral("*.pdf")}).size() == 1);
  bench.window.asking.folder = [&](const QString&) { return QString::fromStdString(folder.path().string()); };
  bench.unfold("group-cutting-machine");
  CHECK(bench.text("machine-said").contains(QStringLiteral("mats")));
  bench.type("machine-width", "20");
  CHECK(bench.text("machine-width-sentence").contains(QStringLiteral("50")));
  bench.type("machine-width", "400");
  bench.click("machine-save");
  const auto mats = dir.entryList({QStringLiteral("*-mat-*.svg")}).size();
  CHECK(mats > 0);
  CHECK(bench.text("machine-said").startsWith(QString::number(mats)));
}

TEST_CASE("every paper and every way to part the files is written from the tray", "[app][foam][files]") {
  Bench bench;
  show_demo(bench, "eel-catcher");
  const test::TempFolder folder;
  bench.go("foam");
  QString asked;
  bench.window.asking.path = [&](bool, const QString&, const QString& suggested, const QString&) {
    return asked = QString::fromStdString((folder / suggested.toStdString()).string());
  };
  std::map<QString, qint64> sizes;
  for (const char* paper : {"a4", "a3", "letter", "roll", "sheet"}) {
    bench.choose("print-paper", paper);
    bench.click("export-pdf");
    QFile file(asked);
    REQUIRE(file.open(QIODevice::ReadOnly));
    CHECK(file.read(5) == "%PDF-");
    sizes[QLatin1String(paper)] = file.size();
    file.close();
    REQUIRE(QFile::remove(asked));
  }
  CHECK(sizes.size() == 5);
  const auto& d = bench.derived();
  const QDir dir(QString::fromStdString(folder.path().string()));
  for (const char* kind : {"svg", "dxf"}) {
    const auto written = [&](const char* per) {
      for (const QString& old : dir.entryList({QStringLiteral("*.") + QLatin1String(kind)}))
        QFile::remove(dir.filePath(old));
      bench.choose("file-per", per);
      bench.click((std::string("export-") + kind).c_str());
      return static_cast<int>(dir.entryList({QStringLiteral("*.") + QLatin1String(kind)}).size());
    };
    INFO(kind);
    CHECK(written("") == 1);
    CHECK(written("-sheet") == d.layout->sheets);
    CHECK(written("-part") == static_cast<int>(bench.build().parts.size()));
    CHECK(written("-piece") == static_cast<int>(d.pieces->size()));
  }
  bench.choose("file-per", "");
}

TEST_CASE("a tinted visor tells how much light is left, and one too dark is warned of", "[app][foam][make]") {
  Bench bench;
  show_demo(bench, "reed-mask");
  bench.go("foam");
  bench.choose("way", "drawn");
  bench.choose("way-sheet", "clear-sheet");
  const auto light = [&]() -> std::string {
    for (const auto& way : bench.derived().ways)
      if (way)
        for (const std::string& fact : way->facts)
          if (fact.find("light") != std::string::npos) return fact;
    return {};
  };
  CHECK(light().find("90 % of the light through as a flat sheet") != std::string::npos);
  bench.choose("way-sheet", "tinted-sheet");
  CHECK(light().find("33 %") != std::string::npos);
  CHECK(std::none_of(bench.derived().remarks.begin(), bench.derived().remarks.end(),
      [](const Remark& r) { return r.id == "make.dim"; }));
}

TEST_CASE("the machine's facts are kept for the next time", "[app][foam][machine]") {
  {
    Bench bench;
    bench.go("foam");
    bench.unfold("group-cutting-machine");
    bench.type("machine-height", "655");
  }
  Bench again;
  again.go("foam");
  again.unfold("group-cutting-machine");
  CHECK(again.field("machine-height").contains(QStringLiteral("655")));
  again.type("machine-height", "600");
}

TEST_CASE("a cut is rehearsed: played, sought, and what would go wrong is listed", "[app][foam][machine]") {
  Bench bench;
  bench.go("foam");
  bench.unfold("group-cutting-machine");
  bench.type("machine-blade", "2");
  CHECK(bench.text("machine-said").contains(QStringLiteral("too short")));
  bench.click("machine-rehearse");
  auto* dialog = bench.window.findChild<CutRehearsal*>(QStringLiteral("cut-rehearsal"));
  REQUIRE(dialog != nullptr);
  auto* events = dialog->findChild<QListWidget*>(QStringLiteral("cut-events"));
  REQUIRE(events->count() >= 2);
  CHECK(events->item(0)->text().contains(QStringLiteral("reaches 2.0 mm")));
  CHECK(events->count() == 2);
  CHECK(events->item(events->count() - 1)->text().contains(QStringLiteral("Finished")));
  CHECK(dialog->state().at_s == 0.0);
  auto* slider = dialog->findChild<QSlider*>(QStringLiteral("cut-time"));
  slider->setValue(slider->maximum() / 2);
  CHECK(dialog->state().at_s == Approx(0.05 * slider->maximum()).margin(0.2));
  const double there = dialog->state().at_s;
  QTest::mouseClick(dialog->findChild<QPushButton*>(QStringLiteral("cut-play")), Qt::LeftButton);
  QTest::qWait(250);
  CHECK(dialog->state().at_s > there);
  QTest::mouseClick(dialog->findChild<QPushButton*>(QStringLiteral("cut-play")), Qt::LeftButton);
  dialog->close();
  bench.type("machine-blade", "6");
}

TEST_CASE("pieces are put in another order by hand, and a rule that forbids it is told of", "[app][foam][order]") {
  Bench bench;
  bench.go("foam");
  bench.unfold("group-what-goes-on-before-what");
  auto& list = bench.find<QListWidget>("order-pieces");
  REQUIRE(list.count() > 3);
  CHECK(list.visualItemRect(list.item(0)).height() > 5);
  CHECK(list.indexAt(list.visualItemRect(list.item(1)).center()).row() == 1);
  const QString first = list.item(0)->text(), second = list.item(1)->text();
  bench.click("order-down");
  CHECK(bench.text("order-said").contains(QStringLiteral("Choose a piece")));
  list.setCurrentRow(0);
  bench.click("order-down");
  CHECK(list.item(0)->text() == second);
  CHECK(list.item(1)->text() == first);
  CHECK(list.currentRow() == 1);
  CHECK(bench.build().sequence.size() == static_cast<std::size_t>(list.count()));
  CHECK(bench.text("order-said").contains(QStringLiteral("your own order")));
  // Dragged with the mouse: the rows move, the build follows.
  list.model()->moveRow({}, 0, {}, 3);
  bench.settle();
  QTest::qWait(20);
  CHECK(list.item(2)->text() == second);
  bench.click("order-again");
  CHECK(list.item(0)->text() == first);
  CHECK(bench.build().sequence.empty());
  bench.undo();
  CHECK_FALSE(bench.build().sequence.empty());
}

TEST_CASE("an offcut is traced on a photograph and put by", "[app][foam][stock]") {
  Bench bench;
  bench.go("foam");
  const test::TempFolder folder;
  // A made-up photograph seen straight from above, two pixels to the millimetre: a 100 mm card on a sheet of 300 x 200
  // mm.
  QImage photo(900, 640, QImage::Format_RGB32);
  photo.fill(Qt::darkGray);
  const QString path = QString::fromStdString((folder / "table.png").string());
  REQUIRE(photo.save(path));
  bench.window.asking.path = [&](bool, const QString&, const QString&, const QString&) { return path; };
  bench.click("offcut-photo");
  auto* trace = bench.window.findChild<PhotoTrace*>(QStringLiteral("photo-trace"));
  REQUIRE(trace != nullptr);
  auto* view = trace->findChild<PhotoView*>(QStringLiteral("photo-view"));
  auto* take = trace->findChild<QPushButton*>(QStringLiteral("photo-take"));
  const auto said = [&] { return trace->findChild<QLabel*>(QStringLiteral("photo-said"))->text(); };
  const auto at = [&](double x, double y) {
    QTest::mouseClick(view, Qt::LeftButton, {}, view->placeOf({x, y}).toPoint());
  };
  at(200, 200), at(400, 200), at(400, 400);
  CHECK(said().contains(QStringLiteral("3 of 4")));
  CHECK_FALSE(take->isEnabled());
  at(200, 400);
  at(100, 100), at(700, 100), at(700, 500);
  CHECK(take->isEnabled());
  QTest::mouseClick(trace->findChild<QPushButton*>(QStringLiteral("photo-back")), Qt::LeftButton);
  CHECK_FALSE(take->isEnabled());
  at(700, 500), at(100, 500);
  CHECK(said().contains(QStringLiteral("4 corners")));
  QTest::mouseClick(take, Qt::LeftButton);
  bench.settle();
  CHECK(bench.text("offcut-said").contains(QStringLiteral("4 corners")));
  bench.find<QLineEdit>("offcut-name").setText(QStringLiteral("traced"));
  bench.click("offcut-add");
  auto& list = bench.find<QListWidget>("offcuts");
  bool found = false;
  for (int i = 0; i < list.count(); ++i)
    found = found ||
        (list.item(i)->text().contains(QStringLiteral("traced")) &&
            (list.item(i)->text().contains(QStringLiteral("300")) ||
                list.item(i)->text().contains(QStringLiteral("301")) ||
                list.item(i)->text().contains(QStringLiteral("299"))));
  CHECK(found);
}

TEST_CASE("the square's corners are found near where they were clicked, and how sure the outline is is said",
    "[app][foam][stock]") {
  // The same made-up table with a card on it: the clicks miss its corners by three pixels.
  QImage photo(900, 640, QImage::Format_RGB32);
  photo.fill(QColor(70, 64, 58));
  QPainter painter(&photo);
  painter.setRenderHint(QPainter::Antialiasing);
  painter.fillRect(QRectF(200, 200, 200, 200), Qt::white);
  painter.end();
  PhotoTrace trace(photo, LengthUnit::mm);
  trace.show();
  QApplication::processEvents();
  auto* view = trace.findChild<PhotoView*>(QStringLiteral("photo-view"));
  const auto said = [&] { return trace.findChild<QLabel*>(QStringLiteral("photo-said"))->text(); };
  const auto at = [&](double x, double y) {
    QTest::mouseClick(view, Qt::LeftButton, {}, view->placeOf({x, y}).toPoint());
  };
  at(203, 198), at(397, 203), at(402, 403), at(197, 402);
  const Vec2 corners[] = {{200, 200}, {400, 200}, {400, 400}, {200, 400}};
  for (int i = 0; i < 4; ++i) CHECK((view->points()[i] - corners[i]).norm() < 0.3);
  CHECK(view->slipPx() < 0.5);
  at(100, 100), at(700, 100), at(700, 500), at(100, 500);
  CHECK(said().contains(QStringLiteral("Good to about")));
  CHECK_FALSE(said().contains(QStringLiteral("only")));
  const Box box = [&] {
    Box b;
    for (const Vec2& p : trace.outline()) b.include({p.x(), p.y(), 0.0});
    return b;
  }();
  CHECK(box.size().x() == Approx(300.0).margin(2.5));
  CHECK(box.size().y() == Approx(200.0).margin(2.5));
  // One dragged off its corner is the maker's own: as sure as a hand is.
  const QPointF from = view->placeOf(view->points()[0]), to = view->placeOf({230, 228});
  QTest::mousePress(view, Qt::LeftButton, {}, from.toPoint());
  QMouseEvent move(
      QEvent::MouseMove, to, view->mapToGlobal(to.toPoint()), Qt::NoButton, Qt::LeftButton, Qt::NoModifier);
  QApplication::sendEvent(view, &move);
  QTest::mouseRelease(view, Qt::LeftButton, {}, to.toPoint());
  CHECK((view->points()[0] - Vec2(230, 228)).norm() < 1.0);
  CHECK(view->slipPx() > 1.0);
  CHECK(said().contains(QStringLiteral("only")));
}

TEST_CASE("a picture that cannot be read says so", "[app][foam][stock]") {
  Bench bench;
  bench.go("foam");
  bench.window.asking.path = [](bool, const QString&, const QString&, const QString&) {
    return QStringLiteral("/nowhere/at/all.png");
  };
  bench.click("offcut-photo");
  CHECK(bench.window.findChild<PhotoTrace*>(QStringLiteral("photo-trace")) == nullptr);
  CHECK(bench.text("remark-text").contains(QStringLiteral("all.png")));
}

TEST_CASE(
    "sheets of several kinds are shown in rows, each with its name, and a piece is found on each", "[app][foam][mat]") {
  Bench bench;
  show_demo(bench, "otter-pup");
  bench.go("foam");
  bench.choose("way", "slabs");
  auto& mat = bench.window.mat();
  REQUIRE(bench.derived().layout->sheets >= 3);
  for (int i = 0; i < static_cast<int>(mat.items().size()); ++i) {
    const QPointF middle = mat.middleOf(i);
    CAPTURE(i, middle.x(), middle.y(), mat.width(), mat.height());
    CHECK(mat.rect().contains(middle.toPoint()));
    CHECK(mat.itemAt(middle) == i);
  }
}
