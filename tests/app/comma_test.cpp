// One way through every station, run under a decimal comma as well: what is typed, shown, chosen and saved is the same
// number.
#include <QDoubleSpinBox>
#include <QTableWidget>
#include <clocale>

#include "core/base/text.hpp"
#include "core/io/build_file.hpp"
#include "support/bench_window.hpp"

using namespace awl;
using awl::test::Bench;

namespace {

double strain_sum(const Derived& d) {
  double sum = 0.0;
  for (const Panel& p : d.panels->panels) sum += p.strain.p99;
  return sum;
}

}  // namespace

TEST_CASE("the window keeps points for the program's own numbers, whatever the user's locale", "[app][comma]") {
  Bench bench;
  CHECK(std::string(std::localeconv()->decimal_point) == ".");
  // The head is whole: torn by misread numbers, the panels of the demo's hood gave by ten in sum.
  CHECK(strain_sum(bench.derived()) == Approx(strain_sum(test::derived())).epsilon(1e-9));
  CHECK(strain_sum(bench.derived()) < 0.6);
}

TEST_CASE("Tape takes lengths with a comma or a point", "[app][comma]") {
  Bench bench;
  bench.go("tape");
  bench.type("measure-HC", "57,5 cm");
  CHECK(bench.build().tape.head.at(MeasureId::HC).first_mm == Approx(575.0));
  bench.type("measure-HC", "58.25 cm");
  CHECK(bench.build().tape.head.at(MeasureId::HC).first_mm == Approx(582.5));
}

TEST_CASE("Head takes readings, and a remedy takes the number it names", "[app][comma]") {
  Bench bench;
  bench.go("head");
  bench.choose("making", "headform");
  bench.type("pipe", "40,5");
  CHECK(bench.build().foam_head.pipe_mm == Approx(40.5));
  REQUIRE(bench.window.document().change(
      QStringLiteral("a"), [](const Build& b) { return apply_act(b, "use-expected HC 571.5"); }));
  bench.settle();
  CHECK(bench.build().tape.head.at(MeasureId::HC).first_mm == Approx(571.5));
}

TEST_CASE("Form turns dials by parts of a millimetre", "[app][comma]") {
  Bench bench;
  bench.go("form");
  bench.type("dial-padding", "6,5");
  CHECK(wrap_of(bench.build()).padding_mm == Approx(6.5));
}

TEST_CASE("Seams takes a width with a comma", "[app][comma]") {
  Bench bench;
  bench.go("seams");
  bench.choose("seam-preset", "side-middle-side");
  bench.type("middle-width", "100,5");
  CHECK(first_wrap(bench.build()).seams.middle_mm == Approx(100.5));
}

TEST_CASE("Foam's thicknesses with a decimal are what they say", "[app][comma]") {
  Bench bench;
  bench.go("foam");
  for (const auto& [kind, thicknesses] : {std::pair{"card", std::vector<const char*>{"0.3", "0.5"}},
           {"thermoplastic", {"1.5"}}, {"clear-sheet", {"0.5", "1.5"}}, {"mesh", {"0.5"}}}) {
    bench.choose("foam-kind", kind);
    for (const char* mm : thicknesses) {
      CAPTURE(kind, mm);
      bench.choose("foam-thickness", mm);
      CHECK(bench.build().foam.thickness_mm == number_in(mm).value());
    }
  }
}

TEST_CASE("Coat keeps half hours, and what is saved is read alike", "[app][comma]") {
  const test::TempFolder folder;
  Bench bench;
  bench.go("coat");
  bench.find<QDoubleSpinBox>("coat-hours").setValue(2.5);
  bench.settle();
  CHECK(bench.build().coat.hours_a_day == 2.5);
  REQUIRE(bench.window.saveTo(QString::fromStdString((folder / "a.noggin").string())));
  CHECK(*open_build(folder / "a.noggin") == bench.build());
  for (const char* kind : {"svg", "dxf", "csv"}) {
    const auto path = folder / (std::string("a.") + kind);
    REQUIRE(bench.window.exportTo(QLatin1String(kind), QString::fromStdString(path.string())));
    CHECK_FALSE(read_file(path)->empty());
  }
  CHECK(read_file(folder / "a.csv")->find("5.0") != std::string::npos);
}

TEST_CASE("Book carries wearers out and in without losing a tenth", "[app][comma]") {
  const test::TempFolder folder;
  Bench bench;
  bench.go("book");
  TapeSheet sheet;
  sheet.set(MeasureId::HC, 571.25);
  REQUIRE(bench.window.book().put("Comma Keeper", sheet));
  const QString file = QString::fromStdString((folder / "w.csv").string());
  REQUIRE(bench.window.book().writeCsv(file));
  CHECK(read_file(folder / "w.csv")->find("571.25") != std::string::npos);
  CHECK(bench.window.book().readCsv(file).value() >= 1);
}
