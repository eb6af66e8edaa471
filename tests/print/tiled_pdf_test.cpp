#include "print/tiled_pdf.hpp"

#include <QFile>
#include <QImage>
#include <QProcess>
#include <QRegularExpression>
#include <catch2/catch.hpp>
#include <cmath>

#include "core/seam/flatten.hpp"
#include "print/paint_drawing.hpp"
#include "support/bench_data.hpp"
#include "support/pdf_lines.hpp"

using namespace awl;

namespace {

constexpr int kDpi = 508;  // 20 dots to the millimetre

QImage page(const QString& pdf, int number) {
  const QString stem = pdf + QStringLiteral("-%1").arg(number);
  QProcess::execute(QStringLiteral("pdftoppm"),
      {QStringLiteral("-r"), QString::number(kDpi), QStringLiteral("-singlefile"), QStringLiteral("-f"),
          QString::number(number), QStringLiteral("-l"), QString::number(number), pdf, stem});
  return QImage(stem + QStringLiteral(".ppm")).convertToFormat(QImage::Format_RGB32);
}

bool isTestColour(QRgb c) {
  return std::abs(qRed(c) - 0x1f) < 50 && std::abs(qGreen(c) - 0x6f) < 50 && std::abs(qBlue(c) - 0x8b) < 50;
}

/// Middles of the long runs of the test colour along one direction, in millimetres.
std::vector<double> longLines(const QImage& image, bool columns) {
  const int across = columns ? image.width() : image.height();
  std::vector<int> hits_of(static_cast<std::size_t>(across) + 1, 0);
  for (int y = 0; y < image.height(); ++y) {
    const auto* row = reinterpret_cast<const QRgb*>(image.constScanLine(y));
    for (int x = 0; x < image.width(); ++x)
      if (isTestColour(row[x])) ++hits_of[static_cast<std::size_t>(columns ? x : y)];
  }
  std::vector<double> lines;
  double sum = 0.0, weight = 0.0;
  for (int i = 0; i <= across; ++i) {
    const int hits = hits_of[static_cast<std::size_t>(i)];
    if (hits > 40 * kDpi / 25.4) {
      sum += (i + 0.5) * hits, weight += hits;
    } else if (weight > 0.0) {
      lines.push_back(sum / weight * 25.4 / kDpi);
      sum = weight = 0.0;
    }
  }
  return lines;
}

}  // namespace

TEST_CASE("what is measured on a page is 100.0 mm within a tenth, or half that where it has no room", "[print][pdf]") {
  const auto paper = GENERATE(Paper::a4, Paper::letter);
  const auto what = GENERATE(PagesOf::patterns, PagesOf::sheets);
  const test::TempFolder folder;
  const QString path = QString::fromStdString((folder / "p.pdf").string());
  const auto made = writeTiledPdf(path, *test::derived().pieces, *test::derived().layout,
      {.paper = paper, .of = what, .title = QStringLiteral("Heron Warden")});
  REQUIRE(made);
  REQUIRE(made->pages >= 3);
  for (int number = 1; number <= made->pages; number += made->pages - 2) {
    const QImage image = page(path, number);
    REQUIRE_FALSE(image.isNull());
    CAPTURE(number, image.width(), image.height());
    for (const bool columns : {true, false}) {
      const auto lines = longLines(image, columns);
      if (number > 1 && lines.size() == 1) continue;  // a test line, whose length another test looks at
      REQUIRE(lines.size() == 2);
      const double side = lines[1] - lines[0];
      CHECK(std::min(std::abs(side - 100.0), number == 1 ? 1e9 : std::abs(side - 50.0)) < 0.1);
    }
  }
}

TEST_CASE("where pieces fill a page two lines are measured, and nothing runs through them", "[print][pdf][demos]") {
  int squares = 0, bars = 0;
  for (const char* demo : {"marsh-guard", "lamp-post", "reed-mask"}) {
    const Derived d = test::chain()->derive(*demo_by_name(demo, Day{20794}));
    REQUIRE(d.complete());
    const test::TempFolder folder;
    const QString path = QString::fromStdString((folder / "p.pdf").string());
    const auto made = writeTiledPdf(path, *d.pieces, *d.layout, {.of = PagesOf::patterns});
    REQUIRE(made);
    for (int number = 2; number <= made->pages; ++number) {
      CAPTURE(demo, number);
      std::vector<test::Stretch> marks, others;
      for (const auto& [a, b] : test::stretchesOn(path, number)) {
        const Vec2 off = (b - a).cwiseAbs();
        const double mm = off.maxCoeff();
        const bool measured = off.minCoeff() < 0.01 && std::min(std::abs(mm - 100.0), std::abs(mm - 50.0)) < 0.05;
        // Boxes that only clip what is painted stand upright, no edge of a piece does exactly; and what a clip cut off
        // is closed by long stretches that are not drawn.
        constexpr double kDrawnMm = 60.0;
        if (measured || (off.minCoeff() > 0.01 && (b - a).norm() < kDrawnMm))
          (measured ? marks : others).push_back({a, b});
      }
      squares += marks.size() == 4 ? 1 : 0, bars += marks.size() == 2 ? 1 : 0;
      CHECK((marks.size() == 4 || marks.size() == 2));
      if (marks.size() != 2) continue;
      for (const auto& [a, b] : marks)
        for (const auto& [c, e] : others) {
          // The ends of a test line cross it there.
          if (((c + e) / 2.0 - a).norm() < 0.1 || ((c + e) / 2.0 - b).norm() < 0.1) continue;
          CHECK_FALSE(edges_cross(a, b, c, e));
        }
    }
  }
  CAPTURE(squares, bars);
  CHECK(squares > 0);
  CHECK(bars > 0);
}

TEST_CASE("pages have the size of their paper and cover every piece", "[print][pdf]") {
  const test::TempFolder folder;
  const QString path = QString::fromStdString((folder / "p.pdf").string());
  const auto made = writeTiledPdf(
      path, *test::derived().pieces, *test::derived().layout, {.paper = Paper::letter, .title = QStringLiteral("t")});
  REQUIRE(made);
  QProcess info;
  info.start(QStringLiteral("pdfinfo"), {path});
  REQUIRE(info.waitForFinished());
  const QString text = QString::fromUtf8(info.readAllStandardOutput());
  CHECK(text.contains(QStringLiteral("612 x 792")));
  CHECK(text.contains(QRegularExpression(QStringLiteral("Pages:\\s+%1\\b").arg(made->pages))));
  CHECK(made->columns * made->rows >= made->pages - 1);
}

TEST_CASE("of patterns far fewer pages are glued together than of sheets", "[print][pdf]") {
  const test::TempFolder folder;
  const QString path = QString::fromStdString((folder / "p.pdf").string());
  const auto sheets = writeTiledPdf(path, *test::derived().pieces, *test::derived().layout, {.of = PagesOf::sheets});
  const auto patterns =
      writeTiledPdf(path, *test::derived().pieces, *test::derived().layout, {.of = PagesOf::patterns});
  REQUIRE(sheets);
  REQUIRE(patterns);
  CAPTURE(sheets->joins, patterns->joins, sheets->pages, patterns->pages);
  CHECK(patterns->joins <= 0.6 * sheets->joins);
  CHECK(patterns->pages < sheets->pages);
  CHECK(pagesOf("patterns").value() == PagesOf::patterns);
  CHECK(pagesOf("boxes").error().text.find("patterns or sheets") != std::string::npos);
}

TEST_CASE("a PDF that cannot be written says so and leaves nothing", "[print][pdf]") {
  const test::TempFolder folder;
  const auto made = writeTiledPdf(
      QString::fromStdString((folder / "no" / "p.pdf").string()), *test::derived().pieces, *test::derived().layout, {});
  REQUIRE_FALSE(made);
  CHECK(made.error().code == Errc::cannot_write);
  CHECK(std::filesystem::is_empty(folder.path()));
}

TEST_CASE("margins that leave no room for the square are refused", "[print][pdf]") {
  const test::TempFolder folder;
  const auto made = writeTiledPdf(QString::fromStdString((folder / "p.pdf").string()), *test::derived().pieces,
      *test::derived().layout, {.margin_mm = 60.0});
  REQUIRE_FALSE(made);
  CHECK(made.error().text.find("no room") != std::string::npos);
}

TEST_CASE("painted text is as high and wide as asked, centred where asked", "[print][paint]") {
  QImage image(400, 200, QImage::Format_RGB32);
  image.fill(Qt::white);
  QPainter painter(&image);
  paintText(painter, QStringLiteral("HEN"), {200, 100}, 50, 0.0, Qt::black);
  painter.end();
  int left = 400, right = 0, top = 200, bottom = 0;
  for (int y = 0; y < 200; ++y)
    for (int x = 0; x < 400; ++x)
      if (qGray(image.pixel(x, y)) < 128)
        left = std::min(left, x), right = std::max(right, x), top = std::min(top, y), bottom = std::max(bottom, y);
  CHECK(bottom - top + 1 == Approx(50).margin(2));
  CHECK(0.5 * (left + right) == Approx(200).margin(4));
  CHECK(right - left == Approx(textWidth(QStringLiteral("HEN"), 50)).margin(16));
}

TEST_CASE("the outlines are the same in the PDF as on the mat, to a hundredth of a millimetre", "[print][pdf]") {
  const auto paper = GENERATE(Paper::sheet, Paper::roll);
  const test::TempFolder folder;
  const QString path = QString::fromStdString((folder / "whole.pdf").string());
  const TileOptions options{.paper = paper, .roll_mm = 914.0, .title = QStringLiteral("Heron Warden")};
  const Layout& layout = *test::derived().layout;
  const auto made = writeTiledPdf(path, *test::derived().pieces, layout, options);
  REQUIRE(made);
  CHECK(made->pages == 1 + layout.sheets);
  CHECK(made->columns * made->rows == 1);
  for (int s = 0; s < layout.sheets; ++s) {
    const double worst = test::worstOutline(path, *test::derived().pieces, layout, s, options.margin_mm);
    CAPTURE(s, worst);
    CHECK(worst < 0.01);
  }
}

TEST_CASE("a narrow roll is tiled across, A3 has its own size, and an unknown paper is refused", "[print][pdf]") {
  const test::TempFolder folder;
  const QString path = QString::fromStdString((folder / "p.pdf").string());
  const auto roll =
      writeTiledPdf(path, *test::derived().pieces, *test::derived().layout, {.paper = Paper::roll, .roll_mm = 430.0});
  REQUIRE(roll);
  CHECK(roll->columns == 1);
  CHECK(roll->rows == 2);
  const auto a3 = writeTiledPdf(path, *test::derived().pieces, *test::derived().layout, {.paper = Paper::a3});
  REQUIRE(a3);
  QProcess info;
  info.start(QStringLiteral("pdfinfo"), {path});
  REQUIRE(info.waitForFinished());
  CHECK(QString::fromUtf8(info.readAllStandardOutput()).contains(QStringLiteral("842 x 1191")));
  CHECK_FALSE(
      writeTiledPdf(path, *test::derived().pieces, *test::derived().layout, {.paper = Paper::roll, .roll_mm = 120.0}));
  CHECK(paperFrom("a3").value() == Paper::a3);
  CHECK(paperFrom("foolscap").error().text.find("roll") != std::string::npos);
}
