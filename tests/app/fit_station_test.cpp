#include <QListWidget>
#include <QPointer>
#include <QScrollArea>
#include <QSlider>
#include <QSpinBox>
#include <QTemporaryDir>

#include "app/stations/fit/fit_station.hpp"
#include "app/widgets/pages_view.hpp"
#include "support/bench_window.hpp"

using namespace awl;
using awl::test::Bench;

namespace {

void settleFit(Bench& bench) {
  bench.settle();
  for (int i = 0; i < 12000 && bench.window.deriver().isFitting(); ++i) QTest::qWait(5);
  REQUIRE_FALSE(bench.window.deriver().isFitting());
  bench.settle();
}

void tryOn(Bench& bench, const char* id) {
  bench.window.document().replace(*demo_by_name(id, Day{20731}), {});
  bench.go("fit");
  settleFit(bench);
}

}  // namespace

TEST_CASE("a great helm is tried on, its slit made and in the pieces, and undo takes it away", "[app][fit]") {
  Bench bench;
  tryOn(bench, "ferry-keeper");
  CHECK(bench.text("fit-on-words").contains(QLatin1String("It goes on")));
  CHECK(bench.find<SightView>("sight-map").accessibleDescription().contains(QLatin1String("of the field ahead")));
  const std::size_t pieces = bench.derived().pieces->size();
  bench.click("fit-slit-back");
  settleFit(bench);
  REQUIRE(bench.build().fit.slits.size() == 1);
  CHECK(bench.derived().pieces->size() == pieces + 1);
  CHECK(bench.text("fit-slit-words").contains(QLatin1String("eyelets")));
  // The slit, the round hole at its end and its eyelets are seen on the stand, behind and outside.
  auto& station = bench.find<FitStation>("station-fit");
  const auto lines = station.standChoice().own_lines;
  REQUIRE(lines.size() > 4);
  const Box helm = box_of(bench.derived().form->of(bench.build().fit.slits.front().part)->surface.mesh.vertices);
  for (const auto& line : lines)
    for (const Vec3& at : line) CHECK(at.z() < 0.5 * (helm.low.z() + helm.high.z()));
  bench.type("fit-slit-long", "130");
  CHECK(bench.build().fit.slits.front().long_mm == 130.0);
  bench.type("fit-slit-long", "9 m");
  CHECK(bench.build().fit.slits.front().long_mm == 130.0);
  CHECK(bench.find<LengthField>("fit-slit-long").isWrong());
  bench.window.stand().setFocus();  // in the field it would take back what was typed
  bench.undo();
  bench.undo();
  CHECK(bench.build().fit.slits.empty());
  settleFit(bench);
  CHECK(bench.derived().pieces->size() == pieces);
}

TEST_CASE("the way on is dragged along, and the form moves with it", "[app][fit]") {
  Bench bench;
  tryOn(bench, "ferry-keeper");
  auto& way = bench.find<QSlider>("fit-way");
  REQUIRE(way.isEnabled());
  const auto highest = [&] {
    const auto choice = bench.window.station().standChoice();
    double most = 0.0;
    if (choice.worn_map)
      for (const Vec3& by : choice.worn_map->moved) most = std::max(most, by.y());
    return most;
  };
  CHECK(highest() == 0.0);
  way.setValue(0);
  const double far = highest();
  way.setValue(50);
  const double half = highest();
  CHECK(far > 100.0);
  CHECK(half < far);
  CHECK(half > 10.0);
}

TEST_CASE("a battery is put in, told whether it fits, moved by its grip, and taken out", "[app][fit]") {
  Bench bench;
  tryOn(bench, "lamp-post");
  const std::size_t before = bench.build().fit.rooms.size();
  bench.choose("fit-room-kind", "battery");
  bench.click("fit-room-add");
  settleFit(bench);
  REQUIRE(bench.build().fit.rooms.size() == before + 1);
  auto& list = bench.find<QListWidget>("fit-rooms");
  REQUIRE(list.count() == static_cast<int>(before) + 1);
  CHECK(list.item(static_cast<int>(before))->text().contains(QLatin1String("fit")));
  list.setCurrentRow(static_cast<int>(before));
  bench.settle();
  const double z = bench.build().fit.rooms.back().at_mm.z();
  auto& station = bench.window.station();
  station.gripMoved(QStringLiteral("room.2"), -12.0, false);
  station.gripMoved(QStringLiteral("room.2"), -25.0, true);
  bench.settle();
  CHECK(bench.build().fit.rooms.back().at_mm.z() == Approx(std::round(z - 25.0)).margin(0.6));
  bench.undo();  // one drag, one undo
  CHECK(bench.build().fit.rooms.back().at_mm.z() == Approx(z));
  bench.click("fit-room-gone");
  CHECK(bench.build().fit.rooms.size() == before);
}

TEST_CASE("holds are added, counted and taken away; the map tells what a place is", "[app][fit]") {
  Bench bench;
  tryOn(bench, "thicket-ram");
  bench.window.document().edit(QStringLiteral("none"), [](Build& b) { b.fit = {}; });
  bench.settle();
  bench.choose("fit-hold-kind", "magnets");
  auto& part = bench.find<QComboBox>("fit-hold-part");
  part.setCurrentIndex(1);
  bench.click("fit-hold-add");
  settleFit(bench);
  REQUIRE(bench.build().fit.holds.size() == 1);
  CHECK(bench.build().fit.holds.front().by == HoldBy::magnets);
  CHECK(bench.text("fit-hold-words").contains(QLatin1String("magnets")));
  bench.find<QSpinBox>("fit-hold-count").setValue(5);
  bench.settle();
  CHECK(bench.build().fit.holds.front().count == 5);
  bench.click("fit-hold-gone");
  CHECK(bench.build().fit.holds.empty());
  tryOn(bench, "reed-mask");
  auto& view = static_cast<FitStation&>(bench.window.station()).sight();
  CHECK(view.wordsAt(view.map().placeOf(0.0, 0.0)).startsWith(QLatin1String("seen")));
  CHECK(view.wordsAt(view.map().placeOf(0.0, -48.0)) == QLatin1String("covered"));
  CHECK(view.wordsAt(QPointF(1, 1)).isEmpty());
}

TEST_CASE("the room is turned by keys, and the report is written", "[app][fit][files]") {
  Bench bench;
  tryOn(bench, "reed-mask");
  auto& room = static_cast<FitStation&>(bench.window.station()).wearersView();
  const double left = room.leftDeg();
  QTest::keyClick(&room, Qt::Key_Left);
  CHECK(room.leftDeg() > left);
  const double down = room.downDeg();
  QTest::keyClick(&room, Qt::Key_Down);
  CHECK(room.downDeg() > down);
  const test::TempFolder folder;
  const QString path = QString::fromStdString((folder / "fit.pdf").string());
  bench.window.asking.path = [&](bool, const QString&, const QString&, const QString&) { return path; };
  bench.click("fit-report");
  REQUIRE(QFile::exists(path));
  CHECK(QFileInfo(path).size() > 20000);
}

TEST_CASE("an eye hole dragged wider is seen in the map while it is dragged, one drag one undo", "[app][fit]") {
  Bench bench;
  tryOn(bench, "reed-mask");
  bench.open("fit-sight");
  const auto choice = bench.window.station().standChoice();
  REQUIRE(std::any_of(
      choice.own_handles.begin(), choice.own_handles.end(), [](const Handle& h) { return h.dial.starts_with("eye"); }));
  auto& station = static_cast<FitStation&>(bench.window.station());
  const auto share = [&] {
    const QString words = station.sight().accessibleDescription();
    return words.section(QLatin1Char(' '), 1, 1).toInt();
  };
  const int before = share();
  const double wide = *dial_value(bench.build().parts.front(), "eye-wide");
  REQUIRE(before > 10);
  station.gripMoved(QStringLiteral("eye-wide"), 6.0, false);
  station.gripMoved(QStringLiteral("eye-wide"), 14.0, true);
  for (int i = 0; i < 1000 && share() <= before; ++i) QTest::qWait(5);
  CHECK(share() > before);
  CHECK(*dial_value(bench.build().parts.front(), "eye-wide") == Approx(wide + 14.0));
  settleFit(bench);
  CHECK(share() > before);
  bench.window.stand().setFocus();
  bench.undo();
  CHECK(*dial_value(bench.build().parts.front(), "eye-wide") == Approx(wide));
}

TEST_CASE("an eye point dragged is seen at once, and traced anew at rest", "[app][fit]") {
  Bench bench;
  tryOn(bench, "reed-mask");
  bench.open("fit-sight");
  auto& station = static_cast<FitStation&>(bench.window.station());
  const auto share = [&] { return station.sight().accessibleDescription().section(QLatin1Char(' '), 1, 1).toInt(); };
  const int before = share();
  for (const double by : {3.0, 6.0, 9.0, 12.0}) {
    station.gripMoved(QStringLiteral("eye3"), by, false);
    QTest::qWait(20);
  }
  station.gripMoved(QStringLiteral("eye3"), 14.0, true);
  for (int i = 0; i < 1000 && share() <= before; ++i) QTest::qWait(5);
  const int dragged = share();
  CHECK(dragged > before);
  settleFit(bench);
  CHECK(std::abs(share() - dragged) <= 2);
  CHECK(std::get<WrapSpec>(bench.build().parts.front().shape).eye_mm[2] == Approx(14.0));
}

TEST_CASE("a jaw is hung on its hinge in the window, and told where it turns", "[app][fit]") {
  Bench bench;
  tryOn(bench, "hood");
  bench.go("form");
  bench.trigger("add-jaw");
  bench.go("fit");
  settleFit(bench);
  bench.open("fit-hold");
  const int jaw = bench.build().parts.back().id;
  bench.choose("fit-hold-part", QString::number(jaw).toUtf8().constData());
  bench.choose("fit-hold-kind", "jaw");
  bench.click("fit-hold-add");
  settleFit(bench);
  REQUIRE(bench.build().fit.holds.size() == 1);
  CHECK(bench.build().fit.holds.front().part == jaw);
  CHECK(bench.text("fit-hold-words").contains(QLatin1String("before and 5 mm below the notch")));
  CHECK(bench.text("fit-hold-words").contains(QLatin1String("A hinge, not a hold")));
  CHECK_FALSE(bench.find<QSpinBox>("fit-hold-count").isVisible());
  bench.undo();
  CHECK(bench.build().fit.holds.empty());
}

TEST_CASE("the zone of the nose is put on the pieces, and taken back", "[app][fit]") {
  Bench bench;
  tryOn(bench, "reed-mask");
  bench.open("fit-inside");
  bench.click("fit-nose");
  settleFit(bench);
  REQUIRE(bench.build().fit.cutouts.size() == 1);
  CHECK(bench.build().fit.cutouts.front().kind == CutoutKind::nose);
  REQUIRE(bench.derived().fittings);
  CHECK(std::any_of(bench.derived().fittings->begin(), bench.derived().fittings->end(),
      [](const Yield& y) { return y.name.ends_with(", nose") && y.marks.size() == 1; }));
  bench.undo();
  CHECK(bench.build().fit.cutouts.empty());
}

TEST_CASE("the fit report is looked at before it is saved", "[app][fit][files]") {
  Bench bench;
  tryOn(bench, "reed-mask");
  bench.open("fit-moving");
  bench.click("fit-report-look");
  QPointer<PagesView> view = bench.window.findChild<PagesView*>(QStringLiteral("pages-view"));
  REQUIRE(view != nullptr);
  const auto pages = view->findChildren<QLabel*>(QStringLiteral("page-picture"));
  REQUIRE_FALSE(pages.empty());
  const QImage page = pages.front()->pixmap().toImage();
  CHECK(page.width() == 860);
  // It is drawn on: neither blank nor all of one colour.
  int dark = 0;
  for (int y = 0; y < page.height(); y += 3)
    for (int x = 0; x < page.width(); x += 3) dark += qGray(page.pixel(x, y)) < 128 ? 1 : 0;
  CHECK(dark > 500);
  CHECK(view->findChild<QScrollArea*>(QStringLiteral("pages-scroll"))
            ->accessibleDescription()
            .contains(QLatin1String("of the field ahead is left")));
  QTemporaryDir folder;
  const QString path = folder.filePath(QStringLiteral("report.pdf"));
  bench.window.asking.path = [&](bool, const QString&, const QString&, const QString&) { return path; };
  view->findChild<QPushButton*>(QStringLiteral("pages-save"))->click();
  CHECK(QFile::exists(path));
  QTest::keyClick(view, Qt::Key_Escape);
  QTest::qWait(20);
  CHECK(view.isNull());
}

TEST_CASE("the view out of a kept version stands beside the present one", "[app][fit]") {
  Bench bench;
  bench.window.document().replace(
      *keep_version(*demo_by_name("reed-mask", Day{20731}), "narrow eyes", "", Day{20731}), {});
  bench.window.document().change(
      QStringLiteral("wider"), [](const Build& b) { return turn_dial(b, 1, "eye-wide", 60.0); });
  bench.go("fit");
  settleFit(bench);
  auto& station = static_cast<FitStation&>(bench.window.station());
  auto& against = bench.find<QComboBox>("fit-against");
  REQUIRE(against.count() == 2);
  against.setCurrentIndex(1);
  emit against.activated(1);
  for (int i = 0; i < 4000 && !station.other().hasPicture(); ++i) QTest::qWait(5);
  REQUIRE(station.other().hasPicture());
  CHECK(station.other().isVisible());
  const auto share = [](const SightView& v) {
    return v.accessibleDescription().section(QLatin1Char(' '), 1, 1).toInt();
  };
  CHECK(share(station.sight()) > share(station.other()));
  against.setCurrentIndex(0);
  emit against.activated(0);
  CHECK_FALSE(station.other().isVisible());
}

TEST_CASE("Fit waits for what is worn, it is not stopped meanwhile", "[app][fit]") {
  Bench bench;
  // A head that no other test has, so that nothing of it is remembered.
  bench.window.document().edit(QStringLiteral("measure"), [](Build& b) { b.tape.set(MeasureId::HC, 583.37); });
  const auto& deriver = bench.window.deriver();
  const auto& fit = bench.find<QPushButton>("rail-fit");
  int awaited = 0;
  for (int i = 0; i < 60'000 && (i == 0 || deriver.isBusy() || deriver.isFitting()); ++i) {
    if (deriver.isBusy() || deriver.isFitting()) {
      CHECK(fit.text().endsWith(QChar(0x2026)));
      ++awaited;
    }
    QTest::qWait(1);
  }
  CHECK(awaited > 0);
  REQUIRE(bench.derived().worn);
  CHECK_FALSE(fit.text().endsWith(QChar(0x2026)));
  CHECK_FALSE(fit.text().endsWith(QChar(0x25a0)));
}
