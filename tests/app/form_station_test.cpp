#include <QDoubleSpinBox>
#include <QListWidget>
#include <QPainter>

#include "app/shell/gallery.hpp"
#include "app/stations/form/form_station.hpp"
#include "core/base/numbers.hpp"
#include "core/geom/mesh_file.hpp"
#include "core/io/build_file.hpp"
#include "support/bench_window.hpp"

using namespace awl;
using awl::test::Bench;

namespace {

Bench& atForm(Bench& bench) {
  bench.go("form");
  return bench;
}

void add(Bench& bench, const char* preset) { bench.trigger((std::string("add-") + preset).c_str()); }

double dialOf(Bench& bench, const char* id) {
  return *dial_value(*find_part(bench.build(), bench.window.document().partAtHand()), id);
}

/// Drags the grip of a dial across the stand.
void dragGrip(Bench& bench, const char* dial, QPoint by) {
  StandView& stand = bench.window.stand();
  stand.finishedPicture();
  int grip = -1;
  for (int i = 0; i < static_cast<int>(stand.grips().size()); ++i)
    if (stand.grips()[i].dial == dial) grip = i;
  INFO("grip of " << dial);
  REQUIRE(grip >= 0);
  const QPoint at = stand.gripPlace(grip).toPoint();
  QTest::mousePress(&stand, Qt::LeftButton, {}, at);
  for (int i = 1; i <= 4; ++i) {
    QMouseEvent move(QEvent::MouseMove, QPointF(at + by * i / 4), stand.mapToGlobal(at + by * i / 4), Qt::NoButton,
        Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(&stand, &move);
  }
  QTest::mouseRelease(&stand, Qt::LeftButton, {}, at + by);
  bench.settle();
}

}  // namespace

TEST_CASE("every ready start is added by its menu, worked out, and taken back by undo", "[app][form][presets]") {
  Bench bench;
  atForm(bench);
  const Build before = bench.build();
  for (const PartPreset& preset : part_presets()) {
    CAPTURE(preset.id);
    add(bench, preset.id.c_str());
    CHECK(bench.build().parts.size() == 2);
    REQUIRE(bench.derived().form);
    const bool wants_brim = preset.id == "brim-layer";  // and the hood has none: told, with the way on
    CHECK(bench.derived().part_errors.empty() == !wants_brim);
    CHECK((bench.derived().form->of(bench.window.document().partAtHand()) != nullptr) == !wants_brim);
    if (wants_brim) CHECK(bench.derived().part_errors.front().text.find("cover all of it") != std::string::npos);
    CHECK(bench.find<QListWidget>("parts").count() == 2);
    bench.window.document().undoStack().undo();
    bench.settle();
    CHECK(bench.build() == before);
  }
}

TEST_CASE("dials are typed, spun and chosen, and what is shown follows", "[app][form]") {
  Bench bench;
  atForm(bench);
  add(bench, "horn");
  CHECK(bench.field("dial-length").contains(QStringLiteral("200")));
  bench.type("dial-length", "26 cm");
  CHECK(dialOf(bench, "length") == Approx(260.0));
  auto& curl = bench.find<QDoubleSpinBox>("dial-curl");
  curl.setFocus();
  QTest::keyClick(&curl, Qt::Key_Up);
  bench.settle();
  CHECK(dialOf(bench, "curl") == Approx(-70.0));
  bench.choose("dial-base", "at an angle");
  CHECK(std::get<SweepSpec>(find_part(bench.build(), 2)->shape).base == BaseCut::by_lean);
  bench.type("dial-length", "9 m");
  CHECK(dialOf(bench, "length") == Approx(260.0));
  CHECK(bench.text("dial-length-sentence").contains(QStringLiteral("nearest that works")));
  CHECK(bench.field("dial-length") == QStringLiteral("9 m"));
}

TEST_CASE("a shape that cannot be is refused before it is made, and the sentence stands at the part", "[app][form]") {
  Bench bench;
  atForm(bench);
  add(bench, "horn");
  bench.type("dial-length", "60");
  const Build before = bench.build();
  bench.find<QDoubleSpinBox>("dial-curl").setValue(-300);
  bench.settle();
  CHECK(bench.build() == before);
  CHECK(bench.text("part-sentence").contains(QStringLiteral("too tight")));
  CHECK(bench.find<QDoubleSpinBox>("dial-curl").value() == Approx(-75.0));
}

TEST_CASE("grips on the stand turn the dial they belong to, one drag one undo", "[app][form][stand]") {
  Bench bench;
  atForm(bench);
  add(bench, "cone-hat");
  bench.window.stand().look(0.0f, 0.0f);
  const double before = dialOf(bench, "cap");
  const int steps = bench.window.document().undoStack().count();
  dragGrip(bench, "cap", QPoint(0, -40));
  CHECK(dialOf(bench, "cap") > before + 15.0);
  CHECK(bench.window.document().undoStack().count() == steps + 1);
  bench.undo();
  CHECK(dialOf(bench, "cap") == before);
  // Dragged beyond what can be it stops at its least, or at the nearest that works; it is lower in any case.
  dragGrip(bench, "cap", QPoint(0, 4000));
  CHECK(dialOf(bench, "cap") < before);
}

TEST_CASE("the edge of a wrap is drawn point by point on the stand, on both sides or on one", "[app][form][stand]") {
  Bench bench;
  atForm(bench);
  bench.window.stand().look(static_cast<float>(0.5 * kPi), 0.0f);
  dragGrip(bench, "edge4", QPoint(0, -30));
  const double raised = dialOf(bench, "edge4");
  CHECK(raised > 8.0);
  CHECK(bench.derived().pieces->size() == 7);
  for (const Piece& p : *bench.derived().pieces) CHECK(p.copies == 2);
  bench.unfold("group-edges");
  auto& one_sided = bench.find<QComboBox>("dial-one-sided");
  one_sided.setCurrentIndex(1);
  emit one_sided.activated(1);
  bench.settle();
  dragGrip(bench, "left4", QPoint(0, -25));
  CHECK(dialOf(bench, "left4") > 6.0);
  CHECK(dialOf(bench, "edge4") == Approx(raised));
  for (const Piece& p : *bench.derived().pieces) CHECK(p.copies == 1);
}

TEST_CASE("a pair is copied across by its button, and undo makes it one pair again", "[app][form]") {
  Bench bench;
  atForm(bench);
  auto& across = bench.find<QPushButton>("part-across");
  CHECK_FALSE(across.isVisible());  // a hood covers both sides
  add(bench, "horn");
  REQUIRE(across.isVisible());
  QTest::mouseClick(&across, Qt::LeftButton);
  bench.settle();
  REQUIRE(bench.build().parts.size() == 3);
  CHECK(bench.build().parts.back().name == bench.build().parts[1].name + ", right");
  REQUIRE(bench.derived().form);
  CHECK(box_of(bench.derived().form->of(3)->surface.mesh.vertices).high.x() < 0.0);
  bench.undo();
  CHECK(bench.build().parts.size() == 2);
}

TEST_CASE("parts are named, moved to another base and removed, what sat on them sits lower", "[app][form]") {
  Bench bench;
  atForm(bench);
  add(bench, "horn");
  CHECK(find_part(bench.build(), 2)->on == 1);
  CHECK(bench.find<QListWidget>("parts").currentItem()->text().contains(QStringLiteral("on hood")));
  auto& name = bench.find<QLineEdit>("part-name");
  name.setFocus();
  name.setText(QStringLiteral("left and right horn"));
  QTest::keyClick(&name, Qt::Key_Return);
  bench.settle();
  CHECK(find_part(bench.build(), 2)->name == "left and right horn");
  CHECK(std::any_of(bench.derived().pieces->begin(), bench.derived().pieces->end(),
      [](const Piece& p) { return p.name.find("left and right horn") == 0; }));
  auto& on = bench.find<QComboBox>("part-on");
  on.setCurrentIndex(0);
  emit on.activated(0);
  bench.settle();
  CHECK(find_part(bench.build(), 2)->on == 0);
  CHECK(find_part(bench.build(), 2)->meets.empty());
  // Its foot is cut to what it sits on, whichever way that was told.
  on.setCurrentIndex(1);
  emit on.activated(1);
  bench.settle();
  CHECK(find_part(bench.build(), 2)->meets == std::vector<Meet>{{1, MeetHow::sits}});
  bench.undo();
  bench.undo();
  bench.find<QListWidget>("parts").setCurrentRow(0);
  QTest::mouseClick(&bench.find<QPushButton>("part-remove"), Qt::LeftButton);
  bench.settle();
  CHECK(bench.build().parts.size() == 1);
  CHECK(bench.build().parts[0].on == 0);
  QTest::mouseClick(&bench.find<QPushButton>("part-remove"), Qt::LeftButton);
  bench.settle();
  CHECK(bench.build().parts.empty());
  CHECK(bench.text("part-sentence").contains(QStringLiteral("No part yet")));
  CHECK(bench.text("remark-text").contains(QStringLiteral("no part yet")));
  bench.undo();
  bench.undo();
  CHECK(bench.build().parts.size() == 2);
}

TEST_CASE("cards under the tape, rings and layers are added and taken away", "[app][form]") {
  Bench bench;
  atForm(bench);
  QTest::mouseClick(&bench.find<QPushButton>("part-more"), Qt::LeftButton);
  bench.settle();
  CHECK(wrap_of(bench.build()).cards.size() == 1);
  CHECK(bench.window.findChild<QLineEdit*>(QStringLiteral("dial-card1.reach")) != nullptr);
  CHECK_FALSE(bench.derived().form->parts[0]->features.empty());
  const StandChoice choice = bench.window.findChild<FormStation*>()->standChoice();
  CHECK(choice.cards.size() == 1);
  StandChoice without = choice;
  without.cards.clear();
  CHECK(makeStandScene(bench.derived(), choice).overlay.lines.size() >
      makeStandScene(bench.derived(), without).overlay.lines.size());
  add(bench, "tall-hat");
  QTest::mouseClick(&bench.find<QPushButton>("part-more"), Qt::LeftButton);
  bench.settle();
  CHECK(std::get<RingsSpec>(find_part(bench.build(), 2)->shape).rings.size() == 3);
  CHECK(bench.derived().complete());
  QTest::mouseClick(&bench.find<QPushButton>("part-less"), Qt::LeftButton);
  bench.settle();
  CHECK(std::get<RingsSpec>(find_part(bench.build(), 2)->shape).rings.size() == 2);
}

TEST_CASE("a plate's points are dragged, added, made corners and deleted on the drawing table", "[app][form][plate]") {
  Bench bench;
  atForm(bench);
  add(bench, "face-plate");
  auto& table = bench.find<PlateTable>("plate-table");
  REQUIRE(table.isVisible());
  table.grab();
  const auto outline = [&] { return std::get<PlateSpec>(find_part(bench.build(), 2)->shape).layers[0].outline; };
  const auto before = outline();
  const QPoint at = table.placeOf(2).toPoint();
  QTest::mousePress(&table, Qt::LeftButton, {}, at);
  QMouseEvent move(QEvent::MouseMove, QPointF(at + QPoint(20, 0)), table.mapToGlobal(at + QPoint(20, 0)), Qt::NoButton,
      Qt::LeftButton, Qt::NoModifier);
  QApplication::sendEvent(&table, &move);
  QTest::mouseRelease(&table, Qt::LeftButton, {}, at + QPoint(20, 0));
  bench.settle();
  CHECK(outline()[2].at.x() > before[2].at.x() + 3.0);
  CHECK(table.picked() == 2);
  QTest::keyClick(&table, Qt::Key_C);
  bench.settle();
  CHECK(outline()[2].corner != before[2].corner);
  const double x = outline()[2].at.x();
  QTest::keyClick(&table, Qt::Key_Left);
  bench.settle();
  CHECK(outline()[2].at.x() < x - 0.5);
  QTest::keyClick(&table, Qt::Key_Delete);
  bench.settle();
  CHECK(outline().size() == before.size() - 1);
  table.grab();
  const QPointF between = 0.5 * (table.placeOf(1) + table.placeOf(2));
  QTest::mouseDClick(&table, Qt::LeftButton, {}, between.toPoint());
  bench.settle();
  CHECK(outline().size() == before.size());
  QTest::keyClick(&table, Qt::Key_PageDown);
  CHECK(table.layer() == 1);
  bench.find<QListWidget>("parts").setCurrentRow(0);
  QApplication::processEvents();
  CHECK_FALSE(table.isVisible());
}

namespace {

/// From the menu, and waited for.
void bringIn(Bench& bench) {
  bench.trigger("add-import");
  for (int i = 0; i < 4000 && bench.find<FormStation>("station-form").isImporting(); ++i) QTest::qWait(5);
  bench.settle();
}

}  // namespace

TEST_CASE("a mesh is brought in beside the head, its unit and mending told in words", "[app][form][import]") {
  Bench bench;
  atForm(bench);
  const test::TempFolder folder;
  Mesh bust = bench.derived().head->mesh;
  for (Vec3& p : bust.vertices) p *= 0.1;
  REQUIRE(write_mesh(folder / "bust.stl", bust));
  bench.window.asking.path = [&](bool, const QString&, const QString&, const QString&) {
    return QString::fromStdString((folder / "bust.stl").string());
  };
  bringIn(bench);
  REQUIRE(bench.build().parts.size() == 2);
  CHECK(std::get<ImportSpec>(bench.build().parts[1].shape).to_mm == 10.0);
  CHECK(bench.text("import-report").contains(QStringLiteral("centimetres")));
  const Box box = box_of(bench.derived().form->of(2)->surface.mesh.vertices);
  CHECK(box.size().z() > 150.0);
  const auto bytes = build_bytes(bench.build());
  REQUIRE(bytes);
  CHECK(*build_from_bytes(*bytes) == bench.build());
  const auto triangles = [&] {
    return std::get<ImportSpec>(find_part(bench.build(), 2)->shape).mesh->triangles.size();
  };
  const std::size_t before = triangles();
  bench.trigger("mend-simplify");
  CHECK(triangles() < 0.7 * before);
  const std::size_t fewer = triangles();
  bench.trigger("mend-outer");
  CHECK(triangles() <= fewer);
  CHECK(bench.text("part-sentence").size() > 10);
  QTest::mouseClick(&bench.find<QPushButton>("part-more"), Qt::LeftButton);
  auto* station = bench.window.findChild<FormStation*>();
  station->placeClicked({0, 0, 0}, true);
  CHECK(bench.text("part-sentence").contains(QStringLiteral("First a place of the mesh")));
  const Mesh now = bench.derived().form->of(2)->surface.mesh;
  for (const int v : {0, static_cast<int>(now.vertices.size()) / 2, static_cast<int>(now.vertices.size()) - 1}) {
    station->placeClicked(now.vertices[v], false);
    station->placeClicked(1.1 * now.vertices[v] + Vec3(5, 0, 0), true);
  }
  bench.settle();
  CHECK(std::get<ImportSpec>(find_part(bench.build(), 2)->shape).scale == Approx(1.1).epsilon(1e-3));
  REQUIRE(write_file_safely(folder / "bad.obj", "v 0 0 nan\nf 1 1 1\n"));
  bench.window.asking.path = [&](bool, const QString&, const QString&, const QString&) {
    return QString::fromStdString((folder / "bad.obj").string());
  };
  bringIn(bench);
  CHECK(bench.build().parts.size() == 2);
  CHECK(bench.text("remark-badge").contains(QStringLiteral("not done")));
}

TEST_CASE("a picture is pinned behind a side, scaled by two points, and kept with the build", "[app][form][compare]") {
  Bench bench;
  atForm(bench);
  const test::TempFolder folder;
  QImage picture(400, 600, QImage::Format_RGB32);
  picture.fill(Qt::darkGreen);
  REQUIRE(picture.save(QString::fromStdString((folder / "front.png").string())));
  CompareTray& compare = bench.window.findChild<FormStation*>()->compare();
  emit compare.lookWanted(QStringLiteral("front"));
  bench.window.asking.path = [&](bool, const QString&, const QString&, const QString&) {
    return QString::fromStdString((folder / "front.png").string());
  };
  emit compare.pictureWanted();
  bench.settle();
  REQUIRE(bench.build().references.size() == 1);
  CHECK(bench.window.stand().hasBackdrop());
  compare.scaleBy({200, 100}, {200, 500}, 230.0);
  bench.settle();
  const Reference& r = bench.build().references[0];
  CHECK(r.mm_per_pixel == Approx(230.0 / 400.0));
  const double chin = bench.derived().head->at(Landmark::menton).y();
  CHECK((r.origin_px.y() - 500.0) * r.mm_per_pixel == Approx(chin).margin(1e-6));
  CHECK(*build_from_bytes(*build_bytes(bench.build())) == bench.build());
  const auto unseen = [&] {
    return std::any_of(bench.derived().remarks.begin(), bench.derived().remarks.end(),
        [](const Remark& m) { return m.id == "form.unseen"; });
  };
  CHECK(unseen());
  for (const char* side : {"front", "left", "right", "back", "top"}) {
    auto& box = bench.find<QCheckBox>((std::string("compared-") + side).c_str());
    box.click();
    bench.settle();
  }
  CHECK_FALSE(unseen());
  REQUIRE(write_file_safely(folder / "no.png", "no picture"));
  CHECK_FALSE(compare.pin(QString::fromStdString((folder / "no.png").string())));
  CHECK(bench.text("remark-text").contains(QStringLiteral("no picture that can be read")));
}

TEST_CASE("sections, shoulders and symmetry are shown when asked for", "[app][form][compare]") {
  Bench bench;
  atForm(bench);
  auto* station = bench.window.findChild<FormStation*>();
  bench.find<QCheckBox>("compare-shoulders").setChecked(true);
  bench.choose("compare-section", "level");
  bench.type("compare-section-at", "60");
  const StandChoice choice = station->standChoice();
  CHECK(choice.shoulders);
  REQUIRE(choice.section);
  CHECK(choice.section->origin.y() == Approx(60.0).margin(0.01));
  const StandScene scene = makeStandScene(bench.derived(), choice);
  StandChoice plain = choice;
  plain.shoulders = false, plain.section.reset();
  const auto lowest = [](const StandScene& of) {
    float y = 1e9f;
    for (const StandBody& body : of.bodies)
      for (const Vec3f& p : body.places) y = std::min(y, p.y());
    return y;
  };
  CHECK(lowest(scene) < lowest(makeStandScene(bench.derived(), plain)) - 100.0f);  // in place of the plinth
  REQUIRE(scene.overlay.callouts.size() == 2);
  CHECK(scene.overlay.callouts[0].text.rfind("head  ", 0) == 0);
  bench.find<QCheckBox>("compare-symmetry").setChecked(true);
  station->show(bench.build(), bench.derived());
  CHECK(bench.text("compare-said").contains(QStringLiteral("the same")));
}

TEST_CASE("the gallery shows ten builds on their heads and opens the chosen one", "[app][gallery]") {
  Bench bench;
  Gallery gallery(&bench.window, Day{20731});
  auto* list = gallery.findChild<QListWidget*>(QStringLiteral("gallery-list"));
  REQUIRE(list != nullptr);
  CHECK(list->count() == 10);
  gallery.show();
  for (int i = 0; i < 20000 && !gallery.isFinished(); ++i) QTest::qWait(5);
  REQUIRE(gallery.isFinished());
  std::set<qint64> different;
  for (int i = 0; i < list->count(); ++i) different.insert(list->item(i)->icon().cacheKey());
  CHECK(different.size() == 10);
  list->setCurrentRow(4);
  CHECK(gallery.chosen() == QStringLiteral("thicket-ram"));
}

TEST_CASE("each demo build opens, is complete, and comes back from its file the same", "[app][gallery][files]") {
  std::set<std::string> wearers;
  for (const DemoEntry& entry : demo_gallery()) {
    CAPTURE(entry.id);
    const Build build = entry.make(Day{20731});
    const Derived d = test::chain()->derive(build);
    CHECK(d.complete());
    CHECK(d.part_errors.empty());
    CHECK(d.form->parts.size() == build.parts.size());
    for (const Remark& r : d.remarks) CHECK(r.severity != Severity::stop);
    CHECK(*build_from_bytes(*build_bytes(build)) == build);
    wearers.insert(std::to_string(build.tape.head.at(MeasureId::HC).first_mm));
  }
  CHECK(wearers.size() == 5);
}

TEST_CASE("a part is put on a spot by a click on the stand, and undone in one step", "[app][form][seat]") {
  Bench bench;
  atForm(bench);
  const auto& put = bench.find<QPushButton>("part-spot");
  CHECK_FALSE(put.isVisibleTo(&bench.window));  // a hood lies by its own measures
  bench.trigger("add-knob");
  bench.settle();
  const int knob = bench.build().parts.back().id;
  const auto seat = [&] {
    Part copy = *find_part(bench.build(), knob);
    return *seat_of(copy);
  };
  REQUIRE(put.isVisibleTo(&bench.window));
  CHECK(seat().by == SeatBy::angles);
  const int steps = bench.window.document().undoStack().count();
  QTest::mouseClick(&bench.find<QPushButton>("part-spot"), Qt::LeftButton);
  CHECK(bench.text("part-sentence").contains(QStringLiteral("Click the spot on the stand")));
  auto* station = bench.window.findChild<FormStation*>();
  station->wornClicked({0.0, 0.0, 1500.0});
  CHECK(bench.text("part-sentence").contains(QStringLiteral("from every part made before the knob")));
  CHECK(put.isChecked());  // another click may hit
  StandView& stand = bench.window.stand();
  stand.look(0.0f, 0.0f);
  QTest::mouseClick(&stand, Qt::LeftButton, {}, QPoint(stand.width() / 2 + 60, stand.height() / 2 - 30));
  bench.settle();
  CHECK_FALSE(put.isChecked());
  CHECK(bench.text("part-sentence").isEmpty());
  CHECK(seat().by == SeatBy::spot);
  CHECK(seat().spot_across != 0.0);
  CHECK(bench.window.document().undoStack().count() == steps + 1);
  bench.open("form-shape");
  CHECK(bench.window.findChild<QWidget*>("dial-spot_up") != nullptr);
  CHECK(bench.window.findChild<QWidget*>("dial-around") == nullptr);
  bench.window.document().undoStack().undo();
  bench.settle();
  CHECK(seat().by == SeatBy::angles);
  CHECK(bench.derived().complete());
}
