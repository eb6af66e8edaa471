#include "print/tiled_pdf.hpp"

#include <QFile>
#include <QImage>
#include <QProcess>
#include <QRegularExpression>
#include <catch2/catch.hpp>
#include <cmath>

#include "print/paint_drawing.hpp"
#include "support/bench_data.hpp"

using namespace awl;

namespace {

constexpr int kDpi = 508;  // 20 dots to the millimetre

QImage page(const QString& pdf, int number) {
  const QString stem = pdf + QStringLiteral("-%1").arg(number);
  QProcess::execute(QStringLiteral("pdftoppm"), {QStringLiteral("-r"), QString::number(kDpi), QStringLiteral("-png"), QStringLiteral("-singlefile"), QStringLiteral("-f"), QString::number(number), QStringLiteral("-l"), QString::number(number), pdf, stem});
  return QImage(stem + QStringLiteral(".png")).convertToFormat(QImage::Format_RGB32);
}

bool isTestColour(QRgb c) {
  return std::abs(qRed(c) - 0x1f) < 50 && std::abs(qGreen(c) - 0x6f) < 50 && std::abs(qBlue(c) - 0x8b) < 50;
}

/// Middles of the long runs of the test colour along one direction, in millimetres.
std::vector<double> longLines(const QImage& image, bool columns) {
  const int across = columns ? image.width() : image.height(), along = columns ? image.height() : image.width();
  std::vector<double> lines;
  double sum = 0.0, weight = 0.0;
  for (int i = 0; i <= across; ++i) {
    int hits = 0;
    for (int k = 0; i < across && k < along; ++k) hits += isTestColour(columns ? image.pixel(i, k) : image.pixel(k, i)) ? 1 : 0;
    if (hits > 60 * kDpi / 25.4) {
      sum += (i + 0.5) * hits, weight += hits;
    } else if (weight > 0.0) {
      lines.push_back(sum / weight * 25.4 / kDpi);
      sum = weight = 0.0;
    }
  }
  return lines;
}

}  // namespace

TEST_CASE("the test square on every page measures 100.0 mm within a tenth", "[print][pdf]") {
  const auto paper = GENERATE(Paper::a4, Paper::letter);
  const test::TempFolder folder;
  const QString path = QString::fromStdString((folder / "p.pdf").string());
  const auto made = writeTiledPdf(path, *test::derived().pieces, *test::derived().layout, {.paper = paper, .title = QStringLiteral("Heron Warden")});
  REQUIRE(made);
  REQUIRE(made->pages >= 3);
  for (int number = 1; number <= made->pages; number += made->pages - 2) {
    const QImage image = page(path, number);
    REQUIRE_FALSE(image.isNull());
    CAPTURE(number, image.width(), image.height());
    for (const bool columns : {true, false}) {
      const auto lines = longLines(image, columns);
      REQUIRE(lines.size() == 2);
      CHECK(lines[1] - lines[0] == Approx(100.0).margin(0.1));
    }
  }
}

TEST_CASE("pages have the size of their paper and cover every piece", "[print][pdf]") {
  const test::TempFolder folder;
  const QString path = QString::fromStdString((folder / "p.pdf").string());
  const auto made = writeTiledPdf(path, *test::derived().pieces, *test::derived().layout, {.paper = Paper::letter, .title = QStringLiteral("t")});
  REQUIRE(made);
  QProcess info;
  info.start(QStringLiteral("pdfinfo"), {path});
  REQUIRE(info.waitForFinished());
  const QString text = QString::fromUtf8(info.readAllStandardOutput());
  CHECK(text.contains(QStringLiteral("612 x 792")));
  CHECK(text.contains(QRegularExpression(QStringLiteral("Pages:\\s+%1\\b").arg(made->pages))));
  CHECK(made->columns * made->rows >= made->pages - 1);
}

TEST_CASE("a PDF that cannot be written says so and leaves nothing", "[print][pdf]") {
  const test::TempFolder folder;
  const auto made = writeTiledPdf(QString::fromStdString((folder / "no" / "p.pdf").string()), *test::derived().pieces, *test::derived().layout, {});
  REQUIRE_FALSE(made);
  CHECK(made.error().code == Errc::cannot_write);
  CHECK(std::filesystem::is_empty(folder.path()));
}

TEST_CASE("margins that leave no room for the square are refused", "[print][pdf]") {
  const test::TempFolder folder;
  const auto made = writeTiledPdf(QString::fromStdString((folder / "p.pdf").string()), *test::derived().pieces, *test::derived().layout, {.margin_mm = 60.0});
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
      if (qGray(image.pixel(x, y)) < 128) left = std::min(left, x), right = std::max(right, x), top = std::min(top, y), bottom = std::max(bottom, y);
  CHECK(bottom - top + 1 == Approx(50).margin(2));
  CHECK(0.5 * (left + right) == Approx(200).margin(4));
  CHECK(right - left == Approx(textWidth(QStringLiteral("HEN"), 50)).margin(16));
}

namespace {

/// Every corner of every path on a page, in millimetres from its upper left corner, as poppler reads the file.
std::vector<Vec2> cornersOn(const QString& pdf, int number) {
  const QString to = pdf + QStringLiteral("-%1.svg").arg(number);
  QProcess::execute(QStringLiteral("pdftocairo"), {QStringLiteral("-svg"), QStringLiteral("-f"), QString::number(number), QStringLiteral("-l"), QString::number(number), pdf, to});
  QFile file(to);
  REQUIRE(file.open(QIODevice::ReadOnly));
  const QString svg = QString::fromUtf8(file.readAll());
  static const QRegularExpression path(QStringLiteral("<path[^>]*?\\sd=\"([^\"]*)\"(?:[^>]*?transform=\"matrix\\(([^)]*)\\)\")?[^>]*/>")), number_at(QStringLiteral("-?[0-9.]+(?:e-?[0-9]+)?"));
  std::vector<Vec2> corners;
  for (auto it = path.globalMatch(svg); it.hasNext();) {
    const auto match = it.next();
    double m[6] = {1, 0, 0, 1, 0, 0};
    int k = 0;
    for (auto n = number_at.globalMatch(match.captured(2)); n.hasNext() && k < 6;) m[k++] = n.next().captured().toDouble();
    std::vector<double> values;
    for (auto n = number_at.globalMatch(match.captured(1)); n.hasNext();) values.push_back(n.next().captured().toDouble());
    for (std::size_t i = 0; i + 1 < values.size(); i += 2) corners.push_back(25.4 / 72.0 * Vec2(m[0] * values[i] + m[2] * values[i + 1] + m[4], m[1] * values[i] + m[3] * values[i + 1] + m[5]));
  }
  return corners;
}

}  // namespace

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
  const SheetSize room = room_of(layout);
  for (int s = 0; s < layout.sheets; ++s) {
    const auto corners = cornersOn(path, 2 + s);
    REQUIRE(corners.size() > 100);
    // The sheet's low corner: the page is the sheet, its margins and a footer.
    const double left = options.margin_mm, foot = options.margin_mm + room.height_mm;
    double worst = 0.0;
    for (const Placement& p : layout.placements) {
      if (p.sheet != s) continue;
      for (const Vec2& q : (*test::derived().pieces)[p.piece.value].knife_line()) {
        const Vec2 at(left + p.pose(q).x(), foot - p.pose(q).y());
        double best = 1e9;
        for (const Vec2& c : corners) best = std::min(best, (c - at).norm());
        worst = std::max(worst, best);
      }
    }
    CAPTURE(s, worst);
    CHECK(worst < 0.01);
  }
}

TEST_CASE("a narrow roll is tiled across, A3 has its own size, and an unknown paper is refused", "[print][pdf]") {
  const test::TempFolder folder;
  const QString path = QString::fromStdString((folder / "p.pdf").string());
  const auto roll = writeTiledPdf(path, *test::derived().pieces, *test::derived().layout, {.paper = Paper::roll, .roll_mm = 430.0});
  REQUIRE(roll);
  CHECK(roll->columns == 1);
  CHECK(roll->rows == 2);
  const auto a3 = writeTiledPdf(path, *test::derived().pieces, *test::derived().layout, {.paper = Paper::a3});
  REQUIRE(a3);
  QProcess info;
  info.start(QStringLiteral("pdfinfo"), {path});
  REQUIRE(info.waitForFinished());
  CHECK(QString::fromUtf8(info.readAllStandardOutput()).contains(QStringLiteral("842 x 1191")));
  CHECK_FALSE(writeTiledPdf(path, *test::derived().pieces, *test::derived().layout, {.paper = Paper::roll, .roll_mm = 120.0}));
  CHECK(paperFrom("a3").value() == Paper::a3);
  CHECK(paperFrom("foolscap").error().text.find("roll") != std::string::npos);
}
