#include "print/bench_pages.hpp"

#include <catch2/catch.hpp>
#include <QImage>
#include <QProcess>

#include "print/head_figure.hpp"
#include "support/bench_data.hpp"

using namespace awl;

namespace {

/// The first page as grey pixels, 60 to the inch.
QImage page_of(const QString& pdf) {
  QProcess render;
  render.start(QStringLiteral("pdftoppm"),
      {QStringLiteral("-r"), QStringLiteral("60"), QStringLiteral("-png"), QStringLiteral("-singlefile"), pdf,
          pdf + QStringLiteral(".page")});
  REQUIRE(render.waitForFinished(20000));
  return QImage(pdf + QStringLiteral(".page.png")).convertToFormat(QImage::Format_Grayscale8);
}

double ink_share(const QImage& page, double from, double to) {
  int ink = 0, all = 0;
  for (int y = static_cast<int>(from * page.height()); y < static_cast<int>(to * page.height()); ++y)
    for (int x = 0; x < page.width(); ++x, ++all) ink += qGray(page.pixel(x, y)) < 140 ? 1 : 0;
  return static_cast<double>(ink) / all;
}

}  // namespace

TEST_CASE("the check sheet carries figures and a line for every distance, inside the page", "[print][check]") {
  const test::TempFolder folder;
  const auto paper = GENERATE(Paper::a4, Paper::letter);
  const QString path = QString::fromStdString((folder / "check.pdf").string());
  REQUIRE(writeCheckSheet(path, test::demo(), test::derived(), paper));
  const QImage page = page_of(path);
  REQUIRE_FALSE(page.isNull());
  CHECK(page.height() == Approx(60.0 / 25.4 * (paper == Paper::a4 ? 297.0 : 279.4)).margin(2.0));
  CHECK(ink_share(page, 0.0, 0.12) > 0.005);
  CHECK(ink_share(page, 0.12, 0.36) > 0.004);
  CHECK(ink_share(page, 0.40, 0.75) > 0.01);
  CHECK(ink_share(page, 0.985, 1.0) == 0.0);
}

TEST_CASE("the wrapping guide describes every seam of the build from brow and ear flaps", "[print][guide]") {
  const auto rows = wrapRows(test::demo(), test::derived());
  std::set<std::string> letters;
  for (const WrapRow& row : rows) {
    CAPTURE(row.letter, row.how);
    CHECK(letters.insert(row.letter).second);
    CHECK(row.how.size() > 25);
    CHECK(row.name.find(" left") == std::string::npos);
  }
  for (const Seam& seam : test::derived().panels->seams)
    if (!seam.letter.empty()) CHECK(letters.count(seam.letter) == 1);
  const auto belt = std::find_if(rows.begin(), rows.end(), [](const WrapRow& r) { return r.name.find("belt") == 0; });
  REQUIRE(belt != rows.end());
  CHECK(belt->how.find("level round the head") == 0);
  Build inches = test::demo();
  inches.shown = LengthUnit::inch;
  CHECK(wrapRows(inches, test::derived())[1].how.find(" in") != std::string::npos);
}

TEST_CASE("the middle strip's seams are described by their distance from the middle line", "[print][guide]") {
  Build build = test::demo();
  first_wrap(build).seams.preset = SeamPreset::side_middle_side;
  const Derived d = test::chain()->derive(build);
  REQUIRE(d.complete());
  const auto rows = wrapRows(build, d);
  CHECK(std::any_of(rows.begin(), rows.end(),
      [](const WrapRow& r) { return r.how.find("beside the middle line") != std::string::npos; }));
}

TEST_CASE("pages that cannot be made or written are a sentence", "[print]") {
  const test::TempFolder folder;
  const QString path = QString::fromStdString((folder / "p.pdf").string());
  CHECK(writeCheckSheet(path, test::demo(), {}, Paper::a4).error().code == Errc::no_solution);
  CHECK(writeWrapGuide(path, test::demo(), {}, Paper::a4).error().code == Errc::no_solution);
  CHECK(writeCheckSheet(QStringLiteral("/nowhere/p.pdf"), test::demo(), test::derived(), Paper::a4).error().code ==
      Errc::cannot_write);
}

TEST_CASE("a head's figure fits its box and keeps its proportions", "[print][figure]") {
  const Mesh& head = test::derived().head->mesh;
  for (const Side side : {Side::front, Side::left, Side::back, Side::top}) {
    QImage image(400, 400, QImage::Format_RGB32);
    image.fill(Qt::white);
    QPainter painter(&image);
    const double scale =
        paintHeadFigure(painter, {50, 50, 300, 300}, head, side, {}, {{head.vertices[0], QStringLiteral("x")}});
    painter.end();
    const Vec3 size = box_of(head.vertices).size();
    const double wide = side == Side::left ? size.z() : size.x(), tall = side == Side::top ? size.z() : size.y();
    CHECK(scale == Approx(300.0 / std::max(wide, tall)).epsilon(1e-6));
    int outside = 0;
    for (int y = 0; y < 400; ++y)
      for (int x = 0; x < 400; ++x)
        if ((x < 30 || x > 370 || y < 45 || y > 355) && qGray(image.pixel(x, y)) < 128) ++outside;
    CHECK(outside == 0);
  }
}
