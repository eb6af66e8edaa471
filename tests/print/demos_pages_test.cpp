#include <catch2/catch.hpp>
#include <QDir>
#include <QFileInfo>
#include <QImage>
#include <QProcess>
#include <QRegularExpression>

#include "print/build_sheet.hpp"
#include "support/bench_data.hpp"
#include "support/pdf_lines.hpp"

using namespace awl;

namespace {

/// How one part of each demo is made here, so that every way is printed once; the rest are skins of sheet.
struct Carried {
  const char* demo;
  int part;
  Way way;
};
const Carried kCarried[] = {{"heron-warden", 0, Way::skin}, {"ferry-keeper", 0, Way::skin},
    {"almanac-seller", 1, Way::net}, {"toll-clerk", 2, Way::net}, {"thicket-ram", 2, Way::carve},
    {"reed-mask", 1, Way::drawn}, {"eel-catcher", 2, Way::slabs}, {"lamp-post", 2, Way::slabs},
    {"marsh-guard", 0, Way::skin}, {"otter-pup", 2, Way::slabs}};

struct Print {
  int pages = 0;
  double wide_pt = 0.0, tall_pt = 0.0;
};

Print print_of(const QString& pdf) {
  QProcess info;
  info.start(QStringLiteral("pdfinfo"), {pdf});
  REQUIRE(info.waitForFinished());
  const QString text = QString::fromUtf8(info.readAllStandardOutput());
  const auto pages = QRegularExpression(QStringLiteral("Pages:\\s+(\\d+)")).match(text),
             size = QRegularExpression(QStringLiteral("Page size:\\s+([0-9.]+) x ([0-9.]+)")).match(text);
  REQUIRE(pages.hasMatch());
  return {pages.captured(1).toInt(), size.captured(1).toDouble(), size.captured(2).toDouble()};
}

/// Share of dark pixels of each page.
std::vector<double> ink_of(const QString& pdf) {
  const QString to = pdf + QStringLiteral(".page");
  QProcess::execute(
      QStringLiteral("pdftoppm"), {QStringLiteral("-r"), QStringLiteral("40"), QStringLiteral("-gray"), pdf, to});
  const QFileInfo stem(to);
  std::vector<double> ink;
  for (const QFileInfo& page : stem.dir().entryInfoList({stem.fileName() + QStringLiteral("-*.pgm")})) {
    const QImage image(page.filePath());
    REQUIRE_FALSE(image.isNull());
    int dark = 0;
    for (int y = 0; y < image.height(); ++y)
      for (int x = 0; x < image.width(); ++x) dark += qGray(image.pixel(x, y)) < 170 ? 1 : 0;
    ink.push_back(static_cast<double>(dark) / (image.width() * image.height()));
  }
  return ink;
}

void carry_to_paper(const Carried& which) {
  const Materials& materials = test::chain()->materials();
  Build b = *demo_by_name(which.demo, Day{20731});
  if (which.way != Way::skin) {
    Part* part = find_part(b, which.part);
    REQUIRE(part != nullptr);
    part->way.way = which.way;
    if (which.way == Way::slabs) part->way.along = Axis::own;
  }
  const Derived d = test::chain()->derive(b);
  if (d.error) UNSCOPED_INFO(d.error->text);
  REQUIRE(d.complete());
  const auto made = std::count_if(d.ways.begin(), d.ways.end(), [](const auto& w) { return w != nullptr; });
  CHECK(made == (which.way == Way::skin ? 0 : 1));
  const test::TempFolder folder;
  const auto file = [&](const char* name) { return QString::fromStdString((folder / name).string()); };

  // The sheets: whole at 1:1, the same outlines as on the mat; and tiled, a page for the map and at least one a sheet.
  const TileOptions whole{.paper = Paper::sheet, .title = QString::fromStdString(b.name)};
  const auto sheets = writeTiledPdf(file("whole.pdf"), *d.pieces, *d.layout, whole);
  REQUIRE(sheets);
  CHECK(sheets->pages == 1 + d.layout->sheets);
  for (int s = 0; s < d.layout->sheets; ++s)
    CHECK(test::worstOutline(file("whole.pdf"), *d.pieces, *d.layout, s, whole.margin_mm) < 0.01);
  const auto tiled = writeTiledPdf(file("tiled.pdf"), *d.pieces, *d.layout, {.title = whole.title});
  REQUIRE(tiled);
  const Print print = print_of(file("tiled.pdf"));
  CHECK(print.pages == tiled->pages);
  CHECK(print.pages > d.layout->sheets);
  CHECK(print.wide_pt == Approx(595.0).margin(1.0));
  CHECK(print.tall_pt == Approx(842.0).margin(1.0));

  // The build sheet: every step, no page of it empty.
  const auto steps = writeBuildSheet(file("build.pdf"), b, d, materials, Paper::a4);
  REQUIRE(steps);
  CHECK(*steps == static_cast<int>(assemble(b, d, materials)->steps.size()));
  const int pages = print_of(file("build.pdf")).pages;
  CHECK(pages >= *steps / 8);
  const auto inks = ink_of(file("build.pdf"));
  CHECK(static_cast<int>(inks.size()) == pages);
  for (const double ink : inks) CHECK(ink > 0.002);

  // Shopping: printed and as a table, with every sheet in use that is no offcut.
  const auto list = shopping(b, d, materials);
  REQUIRE(list);
  REQUIRE(writeShopping(file("shopping.pdf"), b, *list, Paper::a4));
  CHECK(ink_of(file("shopping.pdf")).at(0) > 0.002);
  double bought = 0.0;
  for (const Purchase& p : list->lines)
    if (p.id.rfind("sheet/", 0) == 0) bought += p.need;
  CHECK(bought >= d.layout->sheets - 1e-9);
  CHECK(list->price > 0.0);
  const std::string csv = shopping_csv(*list);
  CHECK(std::count(csv.begin(), csv.end(), '\n') >= static_cast<long>(list->lines.size()));
}

}  // namespace

// One case each: what fails in one does not hide the others.
TEST_CASE("the Heron Warden goes to paper", "[print][demos]") { carry_to_paper(kCarried[0]); }
TEST_CASE("the Ferry Keeper goes to paper", "[print][demos]") { carry_to_paper(kCarried[1]); }
TEST_CASE("the Almanac Seller goes to paper, its buckle tried in card", "[print][demos]") {
  carry_to_paper(kCarried[2]);
}
TEST_CASE("the Toll Clerk goes to paper, its badge tried in card", "[print][demos]") { carry_to_paper(kCarried[3]); }
TEST_CASE("the Thicket Ram goes to paper, its horns carved", "[print][demos]") { carry_to_paper(kCarried[4]); }
TEST_CASE("the Reed Mask goes to paper, drawn over a buck", "[print][demos]") { carry_to_paper(kCarried[5]); }
TEST_CASE("the Eel Catcher goes to paper, its jaws in slabs", "[print][demos]") { carry_to_paper(kCarried[6]); }
TEST_CASE("the Lamp Post goes to paper, its aerials in slabs", "[print][demos]") { carry_to_paper(kCarried[7]); }
TEST_CASE("the Marsh Guard goes to paper", "[print][demos]") { carry_to_paper(kCarried[8]); }
TEST_CASE("the Otter Pup goes to paper, its snout in slabs", "[print][demos]") { carry_to_paper(kCarried[9]); }
