// What to do next, at every station.
#include <catch2/catch.hpp>

#include "core/builds/fresh.hpp"
#include "core/judge/next.hpp"
#include "support/bench_window.hpp"

using namespace awl;
using test::Bench;

TEST_CASE("a build begun without a measure asks for the head first, then for what tells most", "[app][next]") {
  FreshBuild wish;
  wish.today = Day{20731};
  Build b = *fresh_build(wish, test::chain()->materials(), test::chain()->fitter().populations());
  const Derived guessed = test::chain()->derive(b);
  const auto first = next_step("tape", b, guessed);
  REQUIRE(first);
  CHECK(first->id == "next.own-head");
  CHECK(first->remedies.front().act == "edit-measure HC");
  b.tape.set(MeasureId::HC, 571.0), b.tape.head[MeasureId::HC].by.clear();
  const Derived known = test::chain()->derive(b);
  const auto second = next_step("head", b, known);
  REQUIRE(second);
  CHECK(second->id == "next.measure");
  REQUIRE(known.next);
  CHECK(second->where == facts_of(known.next->id).code);  // the one the list at Tape points at
  CHECK(b.tape.head.count(known.next->id) == 0);
  CHECK(second->sentence.find(facts_of(*measure_from_code(second->where)).name) != std::string::npos);
  // Left out for good, the next reason comes forward; with all of them left out, nothing.
  CHECK(next_step("head", b, known, {"next.measure"})->id == "next.go-on");
  CHECK_FALSE(next_step("head", b, known, {"next.measure", "next.go-on"}));
  CHECK(next_step("foam", b, known)->id == "next.print");
  CHECK_FALSE(next_step("book", b, known));
}

TEST_CASE("where nothing is wrong the next step stands in the line, is gone to, and can be left out for good",
    "[app][next]") {
  Bench bench;
  bench.go("seams");
  bench.settle();
  auto& text = bench.find<QLabel>("remark-text");
  for (int i = 0; i < 12 && !text.text().startsWith(QStringLiteral("Next: ")); ++i)
    QTest::mouseClick(&bench.find<QPushButton>("remark-next"), Qt::LeftButton);
  REQUIRE(text.text().startsWith(QStringLiteral("Next: Foam")));
  QTest::mouseClick(&bench.find<QPushButton>("remark-remedy"), Qt::LeftButton);
  CHECK(bench.window.stationId() == QStringLiteral("foam"));
  for (int i = 0; i < 12 && !text.text().startsWith(QStringLiteral("Next: ")); ++i)
    QTest::mouseClick(&bench.find<QPushButton>("remark-next"), Qt::LeftButton);
  REQUIRE(text.text().contains(QStringLiteral("print the patterns")));
  QTest::mouseClick(&bench.find<QPushButton>("remark-remedy-2"), Qt::LeftButton);
  CHECK_FALSE(text.text().contains(QStringLiteral("print the patterns")));
  bench.go("seams");
  bench.go("foam");
  CHECK_FALSE(text.text().contains(QStringLiteral("print the patterns")));
}

TEST_CASE("the first walk waits at each stop for the maker's own hands", "[app][walk]") {
  Bench bench;
  auto* walk = bench.window.findChild<Walk*>();
  REQUIRE(walk != nullptr);
  CHECK_FALSE(walk->isVisible());
  bench.trigger("act-walk");
  bench.settle();
  REQUIRE(walk->isVisible());
  REQUIRE(walk->stop() == 0);
  const QLabel& words = *walk->findChild<QLabel*>(QStringLiteral("walk-words"));
  CHECK(words.text().contains(QStringLiteral("Stop 1 of %1").arg(Walk::stops())));
  bench.go("seams");  // not what was asked for
  CHECK(walk->stop() == 0);
  bench.go("tape");
  bench.type("measure-HC", "60 cm");
  bench.settle();
  CHECK(walk->stop() == 1);
  bench.undo();
  CHECK(walk->stop() == 2);
  bench.go("head");
  CHECK(walk->stop() == 3);
  bench.go("form");
  CHECK(walk->stop() == 3);
  bench.window.document().changePart(
      bench.window.document().partAtHand(), QStringLiteral("padding"), [](Part p) -> Result<Part> {
        std::get<WrapSpec>(p.shape).padding_mm += 3.0;
        return p;
      });
  bench.settle();
  CHECK(walk->stop() == 4);
  bench.trigger("add-cat-ears");
  bench.settle();
  CHECK(walk->stop() == 5);
  QTest::mouseClick(walk->findChild<QPushButton*>(QStringLiteral("walk-skip")), Qt::LeftButton);
  QTest::mouseClick(walk->findChild<QPushButton*>(QStringLiteral("walk-skip")), Qt::LeftButton);
  CHECK(walk->stop() == 7);
  bench.go("foam");
  bench.open("foam-print");
  CHECK(walk->stop() == 8);
  bench.go("fit");
  CHECK(walk->stop() == 9);
  bench.go("coat");
  CHECK(walk->stop() == Walk::stops());
  CHECK(words.text().contains(QStringLiteral("That was the walk")));
  QTest::mouseClick(walk->findChild<QPushButton*>(QStringLiteral("walk-end")), Qt::LeftButton);
  CHECK_FALSE(walk->isVisible());
}
