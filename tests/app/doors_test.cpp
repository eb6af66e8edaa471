// What the window's doors do with things that go wrong: meshes, remarks of every kind, places, builds that are none.
#include <QElapsedTimer>
#include <QListWidget>

#include "app/stations/form/form_station.hpp"
#include "core/geom/mesh_file.hpp"
#include "core/io/build_file.hpp"
#include "support/bench_window.hpp"
#include "support/plain_shapes.hpp"

using namespace awl;
using awl::test::Bench;

namespace {

QString markOf(Bench& bench, const char* station) {
  return bench.find<QPushButton>((std::string("rail-") + station).c_str()).text().section(QLatin1Char(' '), -1);
}

void waitForImport(Bench& bench) {
  auto& form = bench.find<FormStation>("station-form");
  for (int i = 0; i < 24'000 && form.isImporting(); ++i) QTest::qWait(5);
  REQUIRE_FALSE(form.isImporting());
  bench.settle();
}

}  // namespace

TEST_CASE("a mesh is brought in beside the window, and a fine one brought down", "[app][form][import]") {
  const test::TempFolder folder;
  const Mesh fine = test::structured(420, 200, true, false,
      [](double u, double v) { return Vec3(90.0 * std::cos(kTwoPi * u), 160.0 * v, -90.0 * std::sin(kTwoPi * u)); });
  REQUIRE(fine.triangles.size() > static_cast<std::size_t>(kFineEnough));
  const QString path = QString::fromStdString((folder / "Fine.stl").string());
  REQUIRE(write_mesh(path.toStdString(), fine));
  Bench bench;
  bench.go("form");
  auto& form = bench.find<FormStation>("station-form");
  const std::size_t before = bench.build().parts.size();
  QElapsedTimer clock;
  clock.start();
  form.importMesh(path);
  CHECK(form.isImporting());
  CHECK(bench.find<QPushButton>("import-stop").isVisible());
  waitForImport(bench);
  REQUIRE(bench.build().parts.size() == before + 1);
  const auto& spec = std::get<ImportSpec>(bench.build().parts.back().shape);
  CHECK(spec.mesh->triangles.size() <= static_cast<std::size_t>(kFineEnough));
  CHECK(bench.text("import-report").contains(QStringLiteral("finer than foam can show")));
  CHECK_FALSE(bench.find<QPushButton>("import-stop").isVisible());
  CHECK(area_mm2(*spec.mesh) == Approx(area_mm2(fine)).epsilon(0.01));
}

TEST_CASE("bringing in a mesh can be stopped, and what is no mesh is told; nothing is left of either",
    "[app][form][import]") {
  const test::TempFolder folder;
  const QString path = QString::fromStdString((folder / "m.stl").string());
  REQUIRE(write_mesh(path.toStdString(), test::structured(420, 200, true, false, [](double u, double v) {
    return Vec3(90.0 * std::cos(kTwoPi * u), 160.0 * v, -90.0 * std::sin(kTwoPi * u));
  })));
  Bench bench;
  bench.go("form");
  auto& form = bench.find<FormStation>("station-form");
  const Build before = bench.build();
  form.importMesh(path);
  QTest::mouseClick(&bench.find<QPushButton>("import-stop"), Qt::LeftButton);
  waitForImport(bench);
  CHECK(bench.build() == before);
  REQUIRE(write_file_safely(folder / "bad.obj", "v 0 0 0\nf 1 2 3\n"));
  form.importMesh(QString::fromStdString((folder / "bad.obj").string()));
  waitForImport(bench);
  CHECK(bench.build() == before);
  CHECK(bench.text("remark-text").contains(QStringLiteral("point 2")));
}

TEST_CASE("every remark marks a station, those of making and of a stopped chain too", "[app][rail]") {
  Bench bench;
  CHECK(markOf(bench, "foam") == QStringLiteral("\u2713"));
  Build build = *demo_by_name("reed-mask", Day{20731});
  build.parts.back().way.way = Way::drawn, build.parts.back().way.sheet = "eva-firm";
  bench.window.document().replace(build, {});
  bench.settle();
  REQUIRE(std::any_of(bench.derived().remarks.begin(), bench.derived().remarks.end(),
      [](const Remark& r) { return r.id == "make.not-drawn"; }));
  CHECK(markOf(bench, "foam") == QStringLiteral("\u25a0"));
  Build small = test::demo();
  small.foam.sheet = {60.0, 60.0};
  bench.window.document().replace(small, {});
  bench.settle();
  REQUIRE(bench.derived().error);
  CHECK(markOf(bench, "foam") == QStringLiteral("\u25a0"));
  CHECK(markOf(bench, "tape") == QStringLiteral("\u2713"));
}

TEST_CASE("a place on a part is shown with what there is, not as if nothing were", "[app][form]") {
  Bench bench;
  bench.go("form");
  const QString facts = bench.text("form-facts");
  REQUIRE_FALSE(facts.contains(QStringLiteral("Being worked out")));
  auto& form = bench.find<FormStation>("station-form");
  CHECK(form.focusPlace(QStringLiteral("parts/1/padding")));
  CHECK(bench.text("form-facts") == facts);
  CHECK_FALSE(form.focusPlace(QStringLiteral("parts/77/padding")));
}

TEST_CASE("seams of nobody cannot be changed", "[app][seams]") {
  Bench bench;
  bench.window.document().replace(*demo_by_name("almanac-seller", Day{20731}), {});
  bench.settle();
  bench.go("seams");
  const Build before = bench.build();
  bench.choose("seam-preset", "none");
  CHECK(bench.build() == before);
  CHECK_FALSE(bench.window.document().undoStack().canUndo());
}

TEST_CASE("a file that is no build is a sentence and leaves the bench as it was", "[app][files]") {
  const test::TempFolder folder;
  REQUIRE(write_file_safely(folder / "no.noggin", "PK rubbish"));
  Bench bench;
  const Build before = bench.build();
  CHECK_FALSE(bench.window.openFile(QString::fromStdString((folder / "no.noggin").string())));
  CHECK(bench.text("remark-text").contains(QStringLiteral("no.noggin")));
  CHECK(bench.build() == before);
}

TEST_CASE("a full disk is told for every file the window writes", "[app][files]") {
  Bench bench;
  bench.go("foam");
  for (const char* kind :
      {"pdf-a4", "svg", "dxf", "csv", "build-sheet", "shopping", "shopping-csv", "hood", "headform"}) {
    CAPTURE(kind);
    const QString to =
        QString::fromLatin1(kind) == QLatin1String("hood") || QString::fromLatin1(kind) == QLatin1String("headform")
        ? QString()
        : QStringLiteral("/dev/full");
    if (!to.isEmpty()) CHECK_FALSE(bench.window.exportTo(QLatin1String(kind), to));
    CHECK_FALSE(bench.window.exportTo(QLatin1String(kind), QStringLiteral("/proc/none/file.stl")));
    CHECK(bench.text("remark-badge").contains(QStringLiteral("not done")));
  }
  bench.window.asking.path = [](bool, const QString&, const QString&, const QString&) {
    return QStringLiteral("/dev/full");
  };
  bench.trigger("act-picture");
  CHECK(bench.text("remark-text").contains(QStringLiteral("/dev")));
  CHECK_FALSE(bench.window.saveTo(QStringLiteral("/proc/none/a.noggin")));
}
