// The whole job, done through the window as a maker would.
#include <QFileInfo>
#include <QImage>
#include <QListWidget>

#include "core/geom/mesh_file.hpp"
#include "core/io/build_file.hpp"
#include "support/bench_window.hpp"
#include "app/stations/coat/plan_view.hpp"

using namespace awl;
using test::Bench;

TEST_CASE("typing new measures changes headform, hood, pieces and sheets, and undo brings all back", "[app]") {
  Bench bench;
  bench.go("tape");
  const Derived before = bench.derived();
  REQUIRE(before.complete());
  bench.type("measure-HC", "61,2 cm");
  bench.type("measure-HL", "8 1/4 in");
  CHECK(bench.build().tape.head.at(MeasureId::HC).first_mm == Approx(612.0));
  CHECK(bench.build().tape.head.at(MeasureId::HL).first_mm == Approx(209.55));
  CHECK(bench.field("measure-HC") == QStringLiteral("612 mm"));
  const Derived after = bench.derived();
  CHECK(after.head->reading(MeasureId::HC).reads_mm == Approx(612.0).margin(2.0));
  CHECK(after.form->area_mm2 > before.form->area_mm2 * 1.02);
  CHECK((*after.pieces)[0].area_mm2 > (*before.pieces)[0].area_mm2);
  bench.undo();
  bench.undo();
  CHECK(bench.build() == test::demo());
  CHECK(bench.field("measure-HC") == QStringLiteral("584 mm"));
  const Derived back = bench.derived();
  CHECK(back.head->mesh == before.head->mesh);
  CHECK((*back.pieces)[3].outline == (*before.pieces)[3].outline);
  CHECK(back.layout->placements.size() == before.layout->placements.size());
  bench.redo();
  CHECK(bench.build().tape.head.at(MeasureId::HC).first_mm == Approx(612.0));
}

TEST_CASE("a measure left out is estimated in its field, clearly as a guess", "[app][tape]") {
  Bench bench;
  bench.type("measure-HB", "");
  CHECK(bench.build().tape.head.count(MeasureId::HB) == 0);
  auto& field = bench.find<QLineEdit>("measure-HB");
  CHECK(field.text().isEmpty());
  CHECK(field.placeholderText().startsWith(QStringLiteral("about ")));
  CHECK(field.placeholderText().contains(QChar(0x00b1)));
}

TEST_CASE("wrong input stays in its field, is explained there, and changes nothing", "[app][tape]") {
  Bench bench;
  const Build before = bench.build();
  const auto [typed, part] = GENERATE(table<const char*, const char*>({{"abc", "cannot be read"},
      {"560 in", "560.0 mm meant"}, {"57", "57.0 cm meant"}, {"1200", "510 to 640"}, {"5*", "cannot be read"}}));
  bench.type("measure-HC", typed);
  CHECK(bench.build() == before);
  CHECK(bench.field("measure-HC") == QString::fromUtf8(typed));
  const auto& sentence = bench.find<QLabel>("measure-HC-sentence");
  CHECK(sentence.isVisibleTo(&bench.window));
  CHECK(sentence.text().contains(QString::fromUtf8(part)));
  CHECK(bench.find<QLineEdit>("measure-HC").property("wrong").toBool());
  QTest::keyClick(&bench.find<QLineEdit>("measure-HC"), Qt::Key_Escape);
  CHECK(bench.field("measure-HC") == QStringLiteral("584 mm"));
  CHECK_FALSE(sentence.isVisibleTo(&bench.window));
}

TEST_CASE("the last measure cannot be taken away", "[app][tape]") {
  Bench bench;
  for (const char* code : {"measure-HL", "measure-HB", "measure-TOP", "measure-FH", "measure-NC", "measure-HC"})
    bench.type(code, "");
  CHECK(bench.build().tape.head.size() == 1);
  CHECK(bench.text("measure-HC-sentence").contains(QStringLiteral("No measure")));
}

TEST_CASE("contradicting measures are remarked on and the remedy leads to the field", "[app][remarks]") {
  Bench bench;
  bench.type("measure-HC", "538");
  CHECK(bench.text("remark-badge").contains(QStringLiteral("look")));
  CHECK(bench.text("remark-text").contains(QStringLiteral("538 mm")));
  bench.go("foam");
  QTest::mouseClick(&bench.find<QPushButton>("remark-remedy"), Qt::LeftButton);
  CHECK(bench.window.stationId() == QStringLiteral("tape"));
  CHECK(bench.find<QPushButton>("rail-tape").text().contains(QChar(0x25b2)));
}

TEST_CASE("every station shows its tray and its views", "[app][stations]") {
  Bench bench;
  for (const auto& [id, mat] : std::vector<std::pair<const char*, bool>>{
           {"tape", false}, {"head", false}, {"form", false}, {"seams", true}, {"foam", true}}) {
    bench.go(id);
    CAPTURE(id);
    CHECK(bench.window.stand().isVisible());
    CHECK(bench.window.mat().isVisible() == mat);
    CHECK(bench.find<QWidget>((std::string("station-") + id).c_str()).isVisible());
  }
  bench.go("coat");
  bench.settle();
  CHECK(bench.find<QWidget>("plan").isVisible());
  CHECK(bench.window.stand().isVisible());
  QTest::keyClick(&bench.window, Qt::Key_3, Qt::ControlModifier);
  CHECK(bench.window.stationId() == QStringLiteral("form"));
}

TEST_CASE("ease layers add up and the hood stands off by their sum", "[app][form]") {
  Bench bench;
  bench.go("form");
  bench.type("dial-hair", "6");
  bench.type("dial-padding", "1,5 cm");
  CHECK(bench.text("form-facts").contains(QStringLiteral("21 mm")));
  CHECK(bench.derived().form->clearance.least_mm >= 0.95 * 21.0);
  bench.type("dial-padding", "60");
  CHECK(wrap_of(bench.build()).padding_mm == 15.0);
  CHECK(bench.text("dial-padding-sentence").contains(QStringLiteral("0 mm to 40 mm")));
}

TEST_CASE("the hood's edge is chosen, and one that leaves nothing is refused", "[app][form]") {
  Bench bench;
  bench.go("form");
  const double open = bench.derived().form->area_mm2;
  bench.choose("dial-edge", "skull cap");
  CHECK(bench.derived().form->area_mm2 < 0.8 * open);
  const Build before = bench.build();
  QTest::mouseClick(&bench.find<QToolButton>("group-edges"), Qt::LeftButton);
  bench.type("dial-up", "110");
  CHECK(bench.build() == before);
  CHECK(bench.text("dial-up-sentence").contains(QStringLiteral("only")));
  CHECK(bench.text("remark-badge").contains(QStringLiteral("not done")));
}

TEST_CASE("seams follow their controls, and one gesture is one undo", "[app][seams]") {
  Bench bench;
  bench.go("seams");
  auto& gores = bench.find<QSpinBox>("gores");
  for (int i = 0; i < 2; ++i) QTest::keyClick(&gores, Qt::Key_Up);
  bench.settle();
  CHECK(first_wrap(bench.build()).seams.gores_per_side == 6);
  CHECK(bench.derived().panels->panels.size() > 16);
  bench.undo();
  CHECK(first_wrap(bench.build()).seams.gores_per_side == 4);
  bench.choose("seam-preset", "side-middle-side");
  CHECK(bench.derived().complete());
  CHECK_FALSE(gores.isEnabled());
  CHECK(bench.text("strain-summary").contains(QStringLiteral("pieces to cut")));
}

TEST_CASE("too much strain is remarked on, and its remedy mends it when pressed", "[app][seams]") {
  Bench bench;
  bench.go("seams");
  bench.find<QSpinBox>("gores").setValue(3);
  bench.settle();
  CHECK(bench.text("remark-text").contains(QStringLiteral("must give by")));
  for (int presses = 0; presses < 3 && bench.text("remark-text").contains(QStringLiteral("must give by")); ++presses) {
    QTest::mouseClick(&bench.find<QPushButton>("remark-remedy"), Qt::LeftButton);
    bench.settle();
  }
  CHECK(first_wrap(bench.build()).seams.gores_per_side > 3);
  CHECK(bench.text("remark-badge").contains(QStringLiteral("fine")));
}

TEST_CASE("foam, thickness and sheet follow their controls", "[app][foam]") {
  Bench bench;
  bench.go("foam");
  const double area = (*bench.derived().pieces)[0].area_mm2;
  bench.choose("foam-thickness", "10");
  CHECK(bench.build().foam.thickness_mm == 10.0);
  CHECK((*bench.derived().pieces)[0].area_mm2 > area);
  bench.choose("foam-kind", "insulation-board");
  CHECK(bench.find<QComboBox>("foam-thickness").currentText() == QStringLiteral("10 mm"));
  CHECK(bench.find<QComboBox>("foam-thickness").count() == 4);
  bench.choose("foam-kind", "eva-soft");
  bench.type("sheet-width", "30 cm");
  CHECK(bench.derived().layout->sheets > 1);
  CHECK(bench.text("foam-summary").contains(QStringLiteral("sheets")));
  bench.type("sheet-height", "8 cm");
  CHECK(bench.derived().layout == nullptr);
  CHECK(bench.text("remark-badge").contains(QStringLiteral("stop")));
  bench.open("foam-print");
  CHECK_FALSE(bench.find<QPushButton>("export-svg").isEnabled());
  bench.undo();
  CHECK(bench.derived().complete());
}

TEST_CASE("the plan says when it is ready and warns of what will not hold", "[app][coat]") {
  Bench bench;
  bench.go("coat");
  auto& plan = bench.find<PlanView>("plan");
  CHECK(plan.headline().contains(QStringLiteral("to spare")));
  bench.choose("coat-seal", "none");
  CHECK(bench.text("remark-text").contains(QStringLiteral("flakes")));
  QTest::mouseClick(&bench.find<QPushButton>("remark-remedy"), Qt::LeftButton);
  bench.settle();
  CHECK(bench.build().coat.seal == "rubber");
  bench.find<QDateEdit>("coat-due").setDate(QDate(1970, 1, 1).addDays(bench.build().coat.start.number + 1));
  bench.settle();
  CHECK(plan.headline().contains(QStringLiteral("too late")));
  CHECK(bench.text("remark-badge").contains(QStringLiteral("stop")));
  CHECK(bench.text("ticket-due").contains(QString::fromStdString(bench.build().coat.due.spoken())));
}

TEST_CASE("saved and opened again everything is identical", "[app][files]") {
  Bench bench;
  const test::TempFolder folder;
  const QString path = QString::fromStdString((folder / "heron.noggin").string());
  bench.type("measure-HB", "161");
  bench.type("build-wearer", "Ferry Keeper");
  bench.window.asking.path = [&](bool save, const QString&, const QString&, const QString&) {
    return save ? path.left(path.size() - 7) : path;
  };
  CHECK(bench.text("saved-state").contains(QStringLiteral("not yet")));
  bench.trigger("act-save");
  REQUIRE(QFileInfo::exists(path));
  CHECK(bench.text("saved-state").contains(QStringLiteral("saved")));
  const Build saved = bench.build();
  const auto outlines = (*bench.derived().pieces)[2].outline;
  bench.type("measure-HB", "150");
  CHECK(bench.text("saved-state").contains(QStringLiteral("unsaved")));
  bench.trigger("act-open");
  CHECK(bench.build() == saved);
  CHECK(bench.field("build-wearer") == QStringLiteral("Ferry Keeper"));
  CHECK((*bench.derived().pieces)[2].outline == outlines);
  CHECK_FALSE(bench.window.document().undoStack().canUndo());
}

TEST_CASE("files that cannot be opened or written are told and nothing is lost", "[app][files]") {
  Bench bench;
  const test::TempFolder folder;
  REQUIRE(write_file_safely(folder / "bad.noggin", "no archive"));
  bench.type("measure-HB", "160");
  const Build before = bench.build();
  CHECK_FALSE(bench.window.openFile(QString::fromStdString((folder / "bad.noggin").string())));
  CHECK(bench.text("remark-text").contains(QStringLiteral("bad.noggin")));
  CHECK(bench.build() == before);
  CHECK_FALSE(bench.window.saveTo(QString::fromStdString((folder / "bad.noggin" / "x").string())));
  CHECK(bench.text("remark-text").contains(QStringLiteral("Nothing was written")));
  CHECK(bench.window.document().hasUnsavedWork());
}

TEST_CASE("everything is exported from the tray and the menu", "[app][files]") {
  Bench bench;
  const test::TempFolder folder;
  bench.go("foam");
  QString asked;
  bench.window.asking.path = [&](bool, const QString&, const QString& suggested, const QString&) {
    return asked = QString::fromStdString((folder / suggested.toStdString()).string());
  };
  for (const char* button : {"export-pdf", "export-svg", "export-dxf", "export-csv"}) {
    QTest::mouseClick(&bench.find<QPushButton>(button), Qt::LeftButton);
    CAPTURE(button);
    CHECK(QFileInfo(asked).size() > 200);
  }
  bench.trigger("act-hood");
  CHECK(read_mesh(asked.toStdString()).has_value());
  bench.trigger("act-headform");
  const auto head = read_mesh(asked.toStdString());
  REQUIRE(head);
  CHECK(border_loops(*head).empty());
  bench.trigger("act-picture");
  CHECK(QImage(asked).width() == bench.window.stand().width());
}

TEST_CASE("leaving with unsaved work asks first", "[app][files]") {
  Bench bench;
  int asked = 0, answer = 2;
  bench.window.askUnsaved = [&] { return ++asked, answer; };
  CHECK(bench.window.close());
  bench.window.show();
  bench.type("measure-HB", "160");
  CHECK_FALSE(bench.window.close());
  CHECK(asked == 1);
  answer = 1;
  CHECK(bench.window.close());
  CHECK(asked == 2);
}

TEST_CASE("units change what is shown, never what is stored", "[app][units]") {
  Bench bench;
  bench.find<QComboBox>("units").setCurrentIndex(2);
  emit bench.find<QComboBox>("units").activated(2);
  bench.settle();
  CHECK(bench.field("measure-HC") == QStringLiteral("23 in"));
  CHECK(bench.build().tape.head.at(MeasureId::HC).first_mm == 584.0);
  bench.type("measure-HC", "22 1/2");
  CHECK(bench.build().tape.head.at(MeasureId::HC).first_mm == Approx(571.5));
}

TEST_CASE("pointing at a piece lights its panel on the stand, and back", "[app][views]") {
  Bench bench;
  bench.go("seams");
  auto& mat = bench.window.mat();
  auto& stand = bench.window.stand();
  REQUIRE(mat.items().size() == bench.derived().layout->placements.size());
  const QPointF middle = mat.middleOf(4);
  QTest::mouseMove(&mat, middle.toPoint());
  QApplication::processEvents();
  CHECK(mat.itemAt(middle) == 4);
  CHECK(stand.litPanel() == mat.items()[4].panel);
  QTest::mouseMove(&mat, QPoint(2, 2));
  QApplication::processEvents();
  CHECK(stand.litPanel() == -1);
  stand.look(0.5f, 0.3f);
  int panel = -1;
  QPoint at;
  for (int y = 20; y < stand.height() && panel < 0; y += 10)
    for (int x = 20; x < stand.width() && panel < 0; x += 10) panel = stand.panelAt(at = QPoint(x, y));
  REQUIRE(panel >= 0);
  QTest::mouseClick(&stand, Qt::LeftButton, {}, at);
  CHECK(stand.litPanel() == panel);
  const QImage lit = mat.grab().toImage();
  int marked = 0;
  for (int y = 0; y < lit.height(); y += 3)
    for (int x = 0; x < lit.width(); x += 3)
      marked += qRed(lit.pixel(x, y)) > 200 && qBlue(lit.pixel(x, y)) < 170 ? 1 : 0;
  CHECK(marked > 20);
}

TEST_CASE(
    "nothing is clipped at 1280 by 800 in ordinary and in large type, nor twice as large at 1920", "[app][layout]") {
  Bench bench;
  const int type = GENERATE(100, 125, 200), wide = type > 125 ? 1920 : 1280, high = type > 125 ? 1080 : 800;
  bench.window.setType(type);
  bench.window.resize(wide, high);
  for (TrayGroup* group : bench.window.findChildren<TrayGroup*>()) group->setOpen(true);
  for (const char* id : {"tape", "head", "form", "seams", "foam", "fit", "dress", "coat", "book"}) {
    bench.go(id);
    QApplication::processEvents();
    CAPTURE(id, type);
    CHECK(bench.window.width() == wide);
    CHECK(bench.window.height() == high);
    const auto& tray = bench.find<QStackedWidget>("tray");
    auto& station = bench.find<QWidget>((std::string("station-") + id).c_str());
    CHECK(station.width() <= tray.width());
    // Nothing keeps the size it had before.
    const int points = QApplication::font().pointSize();
    CHECK(bench.find<QPushButton>("rail-tape").fontInfo().pointSize() >= points);
    for (const QComboBox* box : station.findChildren<QComboBox*>())
      if (box->isVisible()) CHECK(box->font().pointSize() >= points);
    for (const QPushButton* button : station.findChildren<QPushButton*>())
      if (button->isVisible()) {
        CAPTURE(button->objectName().toStdString(), button->text().toStdString());
        CHECK(button->fontMetrics().horizontalAdvance(button->text()) + 8 <= button->width());
      }
  }
  bench.window.setType(100);
}

TEST_CASE("light and type changed before the window has settled reach what is hidden", "[app][layout]") {
  MainWindow window(test::chain(), test::demo());
  window.askUnsaved = [] { return 1; };
  window.stand().setRough(true);
  window.show();
  window.setDark(true);
  window.setType(125);
  for (int i = 0; i < 8000 && window.deriver().isBusy(); ++i) QTest::qWait(5);
  int boxes = 0, lists = 0;
  for (const char* id : {"tape", "form", "seams", "foam", "coat"}) {
    QTest::mouseClick(window.findChild<QPushButton*>(QStringLiteral("rail-") + QLatin1String(id)), Qt::LeftButton);
    QApplication::processEvents();
    CAPTURE(id);
    for (const QComboBox* box : window.station().findChildren<QComboBox*>()) {
      ++boxes;
      CHECK(box->font().pointSize() == QApplication::font().pointSize());
    }
    for (const QListWidget* list : window.station().findChildren<QListWidget*>()) {
      ++lists;
      CHECK(list->font().pointSize() == QApplication::font().pointSize());
    }
  }
  CHECK(boxes > 10);
  CHECK(lists > 3);
  window.setType(100);
  window.setDark(false);
  window.close();
}

TEST_CASE("every control has a name, an accessible name and a tip", "[app][access]") {
  Bench bench;
  for (const auto* edit : bench.window.findChildren<LengthField*>()) {
    CAPTURE(edit->objectName().toStdString());
    CHECK_FALSE(edit->objectName().isEmpty());
    CHECK_FALSE(edit->accessibleName().isEmpty());
    CHECK_FALSE(edit->toolTip().isEmpty());
  }
  for (const auto* box : bench.window.findChildren<QComboBox*>()) {
    CAPTURE(box->objectName().toStdString());
    CHECK_FALSE(box->objectName().isEmpty());
    CHECK_FALSE(box->accessibleName().isEmpty());
    CHECK_FALSE(box->toolTip().isEmpty());
  }
}

TEST_CASE("the pictures of the documentation are those the stations and the shell declare", "[app][pictures]") {
  test::Bench bench;
  std::set<std::string> declared{"gallery", "start", "help"};
  for (Station* station : bench.window.stations()) {
    const auto shots = station->shots();
    CHECK_FALSE(shots.empty());
    for (const Shot& shot : shots) {
      CAPTURE(shot.name.toStdString());
      CHECK(declared.insert(shot.name.toStdString()).second);
    }
  }
  std::set<std::string> there;
  for (const auto& file :
      std::filesystem::directory_iterator(std::filesystem::path(NOGGIN_AWL_SOURCE) / "docs" / "screenshots"))
    if (file.path().extension() == ".png") there.insert(file.path().stem().string());
  CHECK(declared == there);
}
