#include "print/coat_pages.hpp"

#include <catch2/catch.hpp>
#include <QImage>
#include <QProcess>
#include <QRegularExpression>

#include "support/bench_data.hpp"

using namespace awl;

namespace {

int pages_of(const QString& pdf) {
  QProcess info;
  info.start(QStringLiteral("pdfinfo"), {pdf});
  REQUIRE(info.waitForFinished());
  const auto pages =
      QRegularExpression(QStringLiteral("Pages:\\s+(\\d+)")).match(QString::fromUtf8(info.readAllStandardOutput()));
  REQUIRE(pages.hasMatch());
  return pages.captured(1).toInt();
}

/// How many rows of the first page have ink on them, and whether any has it within 10 mm of the right edge.
struct Inked {
  int rows = 0;
  bool over_the_edge = false;
};
Inked ink_on(const QString& pdf) {
  QProcess painter;
  painter.start(QStringLiteral("pdftoppm"),
      {QStringLiteral("-r"), QStringLiteral("50"), QStringLiteral("-png"), QStringLiteral("-f"), QStringLiteral("1"),
          QStringLiteral("-singlefile"), pdf, pdf});
  REQUIRE(painter.waitForFinished());
  const QImage page(pdf + QStringLiteral(".png"));
  REQUIRE_FALSE(page.isNull());
  Inked inked;
  const int edge = page.width() - 20;
  for (int y = 0; y < page.height(); ++y) {
    bool any = false;
    for (int x = 0; x < page.width(); ++x)
      if (qGray(page.pixel(x, y)) < 160) {
        any = true;
        inked.over_the_edge = inked.over_the_edge || x > edge;
      }
    inked.rows += any ? 1 : 0;
  }
  return inked;
}

}  // namespace

TEST_CASE("plan, quote and care sheet fill their pages and stay on them", "[print][coat]") {
  const test::TempFolder folder;
  const Build build = *demo_by_name("thicket-ram", Day{20794});
  const Derived d = test::chain()->derive(build);
  REQUIRE(d.complete());
  const auto path = [&](const char* name) { return QString::fromStdString((folder / name).string()); };
  REQUIRE(writePlan(path("plan.pdf"), build, *d.plan, Paper::a4));
  const WholeTime time = whole_time(stage_times(*d.plan, {}));
  REQUIRE(writeQuote(path("quote.pdf"), build, quote_of(53.0, time, build.coat.rates), time, Day{20794}, Paper::a4));
  const CareSheet care = care_sheet(build, d, test::chain()->materials());
  REQUIRE(writeCare(path("care.pdf"), build, care, Paper::a4));
  CHECK(pages_of(path("plan.pdf")) >= 2);
  CHECK(pages_of(path("quote.pdf")) == 1);
  CHECK(pages_of(path("care.pdf")) == 1);
  for (const auto& [name, least] : {std::pair{"plan.pdf", 250}, {"quote.pdf", 60}, {"care.pdf", 90}}) {
    const Inked inked = ink_on(path(name));
    CAPTURE(name, inked.rows);
    CHECK(inked.rows >= least);
    CHECK_FALSE(inked.over_the_edge);
  }
  const auto refused = writePlan(path("no/such/folder/plan.pdf"), build, *d.plan, Paper::a4);
  REQUIRE_FALSE(refused);
  CHECK(refused.error().code == Errc::cannot_write);
}
