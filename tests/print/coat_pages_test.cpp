#include "print/coat_pages.hpp"

#include <catch2/catch.hpp>
#include <QFile>
#include <QProcess>

#include "support/bench_data.hpp"

using namespace awl;

namespace {

QString words_in(const QString& pdf) {
  QProcess reader;
  reader.start(QStringLiteral("pdftotext"), {QStringLiteral("-layout"), pdf, QStringLiteral("-")});
  REQUIRE(reader.waitForFinished());
  return QString::fromUtf8(reader.readAllStandardOutput());
}

}  // namespace

TEST_CASE("plan, quote and care sheet carry every step, caution, price and way of keeping", "[print][coat]") {
  const test::TempFolder folder;
  const Build build = *demo_by_name("thicket-ram", Day{20794});
  const Derived d = test::chain()->derive(build);
  REQUIRE(d.complete());
  const auto path = [&](const char* name) { return QString::fromStdString((folder / name).string()); };
  REQUIRE(writePlan(path("plan.pdf"), build, *d.plan, Paper::a4));
  const QString plan = words_in(path("plan.pdf")).simplified();
  CHECK(plan.contains(QStringLiteral("Thicket Ram")));
  for (const PlannedStep& s : d.plan->steps) {
    CAPTURE(s.name, s.caution);
    CHECK(plan.contains(QString::fromStdString(s.name).section(QLatin1Char(' '), 0, 2)));
    if (!s.caution.empty()) CHECK(plan.contains(QString::fromStdString(s.caution).section(QLatin1Char(' '), 0, 3)));
  }
  for (const Need& n : d.plan->needs) CHECK(plan.contains(QString::fromStdString(n.name)));

  const WholeTime time = whole_time(stage_times(*d.plan, {}));
  const Quote quote = quote_of(53.0, time, build.coat.rates);
  REQUIRE(writeQuote(path("quote.pdf"), build, quote, time, Day{20794}, Paper::a4));
  const QString asked = words_in(path("quote.pdf"));
  CHECK(asked.contains(QString::number(quote.price, 'f', 2)));
  CHECK(asked.contains(QStringLiteral("no protective headgear")));

  const CareSheet care = care_sheet(build, d, test::chain()->materials());
  REQUIRE(writeCare(path("care.pdf"), build, care, Paper::a4));
  const QString kept = words_in(path("care.pdf"));
  CHECK(kept.contains(QStringLiteral("pacemaker")));  // its horns are held by magnets
  CHECK(kept.contains(QStringLiteral("Box:")));

  const auto refused = writePlan(path("no/such/folder/plan.pdf"), build, *d.plan, Paper::a4);
  REQUIRE_FALSE(refused);
  CHECK(refused.error().code == Errc::cannot_write);
}
