#include <QListWidget>

#include "app/stations/dress/dress_station.hpp"
#include "core/dress/dressed.hpp"
#include "support/bench_window.hpp"

using namespace awl;
using awl::test::Bench;

namespace {

/// A demo's build with nothing on it, at the station.
DressStation& bare(Bench& bench, const char* id) {
  Build b = *demo_by_name(id, Day{20731});
  b.dress = {};
  bench.window.document().replace(b, {});
  bench.go("dress");
  bench.settle();
  return dynamic_cast<DressStation&>(bench.window.station());
}

const Dressed& only(Bench& bench, int detail) {
  REQUIRE(bench.derived().dressed);
  for (const auto& one : *bench.derived().dressed)
    if (one->detail == detail) return *one;
  FAIL("no such detail");
  return *bench.derived().dressed->front();
}

/// A place of a part's outside, in this direction from the middle of the head.
Vec3 placeOf(Bench& bench, int part, const Vec3& direction) {
  const auto site = site_to_dress(bench.build(), bench.derived(), part);
  REQUIRE(site);
  const Box box = box_of((*site)->outer.vertices);
  return (*site)->onto(0.5 * (box.low + box.high) + 200.0 * direction.normalized());
}

}  // namespace

TEST_CASE("rivets are put on along a line drawn by clicks, counted, and undo takes them off", "[app][dress]") {
  Bench bench;
  DressStation& station = bare(bench, "ferry-keeper");
  CHECK(bench.find<QListWidget>("dress-list").count() == 0);
  bench.choose("dress-kind", "studs");
  bench.click("dress-add");
  bench.settle();
  REQUIRE(bench.build().dress.details.size() == 1);
  CHECK(bench.find<QPushButton>("dress-draw").isChecked());
  for (const double x : {0.9, 0.3, -0.3, -0.9}) {
    station.wornClicked(placeOf(bench, 1, {x, 0.3, 1.0}));
    bench.settle();
  }
  CHECK(bench.build().dress.details.front().track.points.size() == 4);
  CHECK(bench.text("dress-hint").contains(QLatin1String("long")));
  bench.click("dress-draw");
  const Dressed& made = only(bench, 1);
  CHECK(made.count > 4);
  CHECK(made.places.size() >= static_cast<std::size_t>(made.count));
  CHECK(bench.text("dress-numbers").contains(QString::number(made.count) + QStringLiteral(" rivets")));
  const auto bored = [&] {
    std::size_t n = 0;
    for (const Piece& p : *bench.derived().pieces)
      for (const PieceTrace& t : p.traces) n += t.kind == TraceKind::drill ? 1 : 0;
    return n;
  };
  CHECK(bored() > 2);
  const int before = made.count;
  bench.type("dress-dial-pitch", "12");
  bench.settle();
  CHECK(only(bench, 1).count > before);
  bench.window.stand().setFocus();
  for (int i = 0; i < 6; ++i) bench.undo();
  bench.settle();
  CHECK(bench.build().dress.details.empty());
  CHECK(bored() == 0);
}

TEST_CASE("a marker is dragged with its length beside the hand, and one drag is one undo", "[app][dress]") {
  Bench bench;
  DressStation& station = bare(bench, "ferry-keeper");
  bench.choose("dress-kind", "strip");
  bench.click("dress-add");
  for (const double x : {0.9, -0.9}) station.wornClicked(placeOf(bench, 1, {x, 0.1, 1.0})), bench.settle();
  bench.click("dress-draw");
  bench.settle();
  QString said;
  QObject::connect(&station, &Station::gripText, &station, [&](const QString& text) { said = text; });
  const auto before = bench.build().dress.details.front().track.points;
  const QString marker = QStringLiteral("seam1.0");
  station.markerMoved(marker, placeOf(bench, 1, {0.5, 0.3, 1.0}), false, false);
  CHECK(said.contains(QLatin1String("mm")));
  CHECK(bench.build().dress.details.front().track.points == before);
  station.markerMoved(marker, placeOf(bench, 1, {0.4, 0.4, 1.0}), false, true);
  bench.settle();
  CHECK(bench.build().dress.details.front().track.points != before);
  bench.undo();
  CHECK(bench.build().dress.details.front().track.points == before);
}

TEST_CASE("a strip is drawn wider by its grip on the stand, one drag one undo", "[app][dress][grips]") {
  Bench bench;
  DressStation& station = bare(bench, "ferry-keeper");
  const auto act = apply_act(bench.build(), "add-detail strip 1 rim 1 40");
  REQUIRE(act);
  bench.window.document().replace(*act, {});
  bench.settle();
  station.choose(1);
  bench.settle();
  const auto handles = station.standChoice().own_handles;
  REQUIRE(std::any_of(handles.begin(), handles.end(), [](const Handle& h) { return h.dial == "wide"; }));
  REQUIRE(std::any_of(handles.begin(), handles.end(), [](const Handle& h) { return h.dial == "off"; }));
  QString said;
  QObject::connect(&station, &Station::gripText, &station, [&](const QString& text) { said = text; });
  const auto wide = [&] { return std::get<Strip>(bench.build().dress.details.front().shape).wide_mm; };
  const double before = wide();
  // By the mouse, on the picture.
  auto& stand = bench.window.stand();
  int grip = -1;
  for (int i = 0; i < static_cast<int>(stand.grips().size()); ++i)
    if (stand.grips()[static_cast<std::size_t>(i)].dial == "wide") grip = i;
  REQUIRE(grip >= 0);
  for (const double by : {3.0, 6.2, 9.4}) station.gripMoved(QStringLiteral("wide"), by, by > 9.0);
  bench.settle();
  CHECK(wide() == Approx(std::round(before + 9.4)));
  CHECK(said.contains(QLatin1String("Width")));
  CHECK(said.contains(QString::number(wide())));
  CHECK(only(bench, 1).strips.front().second.length_mm > 100.0);
  bench.undo();
  CHECK(wide() == before);
  // Beyond its limit it stays there.
  station.gripMoved(QStringLiteral("wide"), 900.0, true);
  bench.settle();
  CHECK(wide() == 200.0);
}

TEST_CASE("a strip follows a rim of the part, is moved beside it, and its outline is on the sheets", "[app][dress]") {
  Bench bench;
  DressStation& station = bare(bench, "ferry-keeper");
  bench.choose("dress-kind", "strip");
  bench.click("dress-add");
  auto& lines = bench.find<QComboBox>("dress-line");
  for (int i = 0; i < 400 && lines.count() < 5; ++i) QTest::qWait(5);
  REQUIRE(lines.count() >= 5);
  int rim = -1;
  for (int i = 0; i < lines.count() && rim < 0; ++i)
    if (lines.itemText(i).startsWith(QLatin1String("rim 1"))) rim = i;
  REQUIRE(rim >= 0);
  lines.setCurrentIndex(rim);
  emit lines.activated(rim);
  bench.settle();
  CHECK(bench.build().dress.details.front().track.from == TrackFrom::rim);
  REQUIRE(!only(bench, 1).lines.empty());
  const double at_rim = only(bench, 1).lines.front().length_mm;
  bench.type("dress-dial-off", "25");
  bench.settle();
  REQUIRE(!only(bench, 1).lines.empty());
  CHECK(std::abs(only(bench, 1).lines.front().length_mm - at_rim) > 0.5);
  const auto& pieces = *bench.derived().pieces;
  CHECK(std::any_of(pieces.begin(), pieces.end(), [](const Piece& p) { return p.name.starts_with("strip"); }));
  CHECK(station.standChoice().own_lines.size() == 1);
  // Further than the part reaches: the field stays, a remark says why.
  bench.type("dress-dial-off", "590");
  bench.settle();
  const auto& remarks = bench.derived().remarks;
  CHECK(std::any_of(remarks.begin(), remarks.end(), [](const Remark& r) { return r.id == "dress.line"; }));
}

TEST_CASE("a detail is made one-sided, copied across, named, and taken off", "[app][dress]") {
  Bench bench;
  DressStation& station = bare(bench, "ferry-keeper");
  bench.choose("dress-kind", "scored");
  bench.click("dress-add");
  for (const double y : {-0.3, 0.4}) station.wornClicked(placeOf(bench, 1, {0.8, y, 0.8})), bench.settle();
  bench.click("dress-draw");
  bench.settle();
  CHECK(only(bench, 1).lines.size() == 2);
  bench.click("dress-across");
  bench.settle();
  REQUIRE(bench.build().dress.details.size() == 2);
  CHECK_FALSE(bench.build().dress.details[0].mirrored);
  CHECK(only(bench, 1).lines.size() == 1);
  CHECK(only(bench, 2).lines.front().at.front().x() < 0.0);
  station.choose(2);
  bench.type("dress-name", "scar, right");
  CHECK(bench.build().dress.details[1].name == "scar, right");
  bench.click("dress-gone");
  CHECK(bench.build().dress.details.size() == 1);
}

TEST_CASE("a place measured on a flat piece becomes a place on the form", "[app][dress]") {
  Bench bench;
  DressStation& station = bare(bench, "ferry-keeper");
  bench.choose("dress-kind", "foot");
  bench.click("dress-add");
  bench.settle();
  int piece = 0;
  while (!(*bench.derived().pieces)[piece].panel.valid()) ++piece;
  station.pieceClicked(piece, (*bench.derived().pieces)[piece].label_at, false);
  bench.settle();
  REQUIRE(bench.build().dress.details.front().track.points.size() == 1);
  const auto& traces = (*bench.derived().pieces)[piece].traces;
  CHECK(std::any_of(traces.begin(), traces.end(), [](const PieceTrace& t) { return t.kind == TraceKind::foot; }));
  QString said;
  QObject::connect(&station, &Station::told, &station, [&](const QString& text) { said = text; });
  station.pieceClicked(piece, Vec2(5000.0, 5000.0), false);
  CHECK(said.contains(QLatin1String("beside the piece")));
}

TEST_CASE("every kind of detail is put on in the window, told in numbers, and taken off", "[app][dress]") {
  Bench bench;
  DressStation& station = bare(bench, "hood");
  bench.window.document().takeInHand(1);
  bench.settle();
  const auto& kinds = detail_kinds();
  for (const DetailShape& shape : kinds) {
    CAPTURE(kind_of(shape));
    bench.open("dress-details");
    bench.choose("dress-kind", kind_of(shape));
    bench.click("dress-add");
    bench.settle();
    REQUIRE(bench.build().dress.details.size() == 1);
    const bool place = std::holds_alternative<Lens>(shape) || std::holds_alternative<Outline>(shape);
    if (bench.find<QPushButton>("dress-draw").isChecked()) {
      station.wornClicked(placeOf(bench, 1, {0.35, 0.75, 0.1}));
      if (!place) station.wornClicked(placeOf(bench, 1, {0.75, 0.6, -0.4}));
      bench.click("dress-draw");
    }
    bench.settle();
    const Dressed& made = only(bench, 1);
    CHECK(made.kind == kind_of(shape));
    // A wire in the middle of a horn is no thing for a hood: it says so, with a way on.
    const bool says = !made.yield.remarks.empty();
    CHECK((says || !made.yield.facts.empty()));
    if (!says) CHECK_FALSE(bench.text("dress-numbers").isEmpty());
    for (const Remark& r : made.yield.remarks)
      for (const Remedy& remedy : r.remedies) CHECK(apply_act(bench.build(), remedy.act));
    bench.open("dress-details");
    bench.click("dress-gone");
    bench.settle();
    CHECK(bench.build().dress.details.empty());
  }
}
