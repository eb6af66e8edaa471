#include <catch2/catch.hpp>

#include <QScrollArea>
#include <QScrollBar>
#include <QSettings>
#include <set>

#include "core/chain/questions.hpp"
#include "support/bench_window.hpp"

using namespace awl;
using test::Bench;

namespace {

const std::vector<const char*> kStations{"tape", "head", "form", "seams", "foam", "fit", "coat", "book"};

/// Drawers that hold one list, which may be longer than the screen.
const std::set<QString> kLists{QStringLiteral("drawer-tape-first"), QStringLiteral("drawer-tape-skull"),
    QStringLiteral("drawer-tape-face"), QStringLiteral("drawer-tape-body"), QStringLiteral("drawer-form-shape")};

std::vector<QToolButton*> words(Bench& bench) {
  std::vector<QToolButton*> all;
  for (auto* tab : bench.window.station().findChildren<QToolButton*>())
    if (tab->objectName().startsWith(QLatin1String("tab-"))) all.push_back(tab);
  return all;
}

QString openWord(Bench& bench) {
  QString open;
  for (auto* tab : words(bench))
    if (tab->isChecked()) open = tab->objectName();
  return open;
}

void load(Bench& bench, const char* demo) {
  bench.window.document().replace(*demo_by_name(demo, Day{20731}), {});
  bench.settle();
}

}  // namespace

TEST_CASE("every station's tray is a row of words, one drawer open, none in need of scrolling", "[app][drawers]") {
  Bench bench;
  for (const char* demo : {"heron-warden", "thicket-ram", "lamp-post"}) {
    load(bench, demo);
    for (const char* station : kStations) {
      bench.go(station);
      const auto tabs = words(bench);
      CHECK(tabs.size() >= 3);
      for (auto* tab : tabs) {
        QTest::mouseClick(tab, Qt::LeftButton);
        bench.settle();
        CAPTURE(demo, tab->objectName().toStdString());
        CHECK(openWord(bench) == tab->objectName());
        int seen = 0;
        for (auto* drawer : bench.window.station().findChildren<QScrollArea*>())
          if (drawer->objectName().startsWith(QLatin1String("drawer-")) && drawer->isVisible()) {
            ++seen;
            if (kLists.count(drawer->objectName()) == 0) CHECK(drawer->verticalScrollBar()->maximum() == 0);
            CHECK(drawer->widget()->minimumSizeHint().width() <= drawer->viewport()->width());
          }
        CHECK(seen == 1);
      }
    }
  }
}

TEST_CASE("Ctrl and Tab step through the drawers, and the open one is remembered for each station", "[app][drawers]") {
  QString at_foam;
  {
    Bench bench;
    bench.go("foam");
    const auto tabs = words(bench);
    CHECK(openWord(bench) == tabs.front()->objectName());
    QTest::keyClick(&bench.window, Qt::Key_Tab, Qt::ControlModifier);
    CHECK(openWord(bench) == tabs[1]->objectName());
    QTest::keyClick(&bench.window, Qt::Key_Backtab, Qt::ControlModifier | Qt::ShiftModifier);
    CHECK(openWord(bench) == tabs[0]->objectName());
    bench.trigger("act-previous-drawer");
    CHECK(openWord(bench) == tabs.back()->objectName());
    bench.trigger("act-previous-drawer");
    at_foam = openWord(bench);
    bench.go("seams");
    CHECK(openWord(bench) == words(bench).front()->objectName());
    bench.go("foam");
    CHECK(openWord(bench) == at_foam);
  }
  Bench again(Bench::Drawers::as_left);
  again.go("foam");
  CHECK(openWord(again) == at_foam);
}

TEST_CASE("a remark's place opens the drawer its control lies in", "[app][drawers]") {
  Bench bench;
  bench.go("foam");
  bench.open("foam-machine");
  bench.go("form");
  bench.open("form-compare");
  bench.go("tape");
  bench.open("tape-whose");
  QMetaObject::invokeMethod(&bench.find<QWidget>("remarks"), "placeClicked", Q_ARG(QString, QStringLiteral("EPL")));
  CHECK(openWord(bench) == "tab-tape-face");
  CHECK(bench.find<QLineEdit>("measure-EPL").hasFocus());
  QMetaObject::invokeMethod(
      &bench.find<QWidget>("remarks"), "placeClicked", Q_ARG(QString, QStringLiteral("parts/1/padding")));
  CHECK(bench.window.stationId() == "form");
  CHECK(openWord(bench) == "tab-form-shape");
  CHECK(bench.find<QLineEdit>("dial-padding").isVisible());
}

TEST_CASE("one edit of a measure shows a station ten times at most", "[app][drawers]") {
  Bench bench;
  load(bench, "heron-warden");
  for (const char* station : {"tape", "seams", "foam"}) {
    bench.go(station);
    const int before = bench.window.shows();
    bench.window.document().change(QStringLiteral("Head circumference"), [](const Build& b) -> Result<Build> {
      Build next = b;
      next.tape.head[MeasureId::HC].first_mm += 1.0;
      return next;
    });
    bench.settle();
    CAPTURE(station);
    CHECK(bench.window.shows() - before <= 10);
    CHECK(bench.window.shows() - before >= 2);
  }
}

TEST_CASE("what is shown is of one generation: a form never stands beside panels of another", "[app][drawers]") {
  Bench bench;
  load(bench, "ferry-keeper");
  bench.go("seams");
  int looked = 0;
  QObject::connect(&bench.window.deriver(), &Deriver::updated, [&] {
    ++looked;
    const auto whole = [](const Derived& d) {
      return !d.form || !d.panels || d.panels->form.mesh.vertices.size() == d.form->surface.mesh.vertices.size();
    };
    CHECK(whole(bench.window.deriver().latest()));
    CHECK(whole(bench.window.deriver().ahead()));
    if (bench.window.deriver().latest().panels) CHECK(bench.window.deriver().latest().complete());
  });
  for (const double up : {60.0, 90.0}) {
    bench.window.document().change(
        QStringLiteral("Higher"), [up](const Build& b) { return turn_dial(b, 1, "cap", up); });
    bench.settle();
  }
  CHECK(looked >= 4);
}
