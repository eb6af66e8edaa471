#include <QAbstractItemView>
#include <QScrollArea>
#include <QScrollBar>
#include <QSet>

#include "app/mat/mat_view.hpp"
#include "support/bench_window.hpp"

using namespace awl;
using awl::test::Bench;

namespace {

/// Widgets the Tab key comes to, until it comes round.
QList<QWidget*> round_by_tab(Bench& bench) {
  QList<QWidget*> way;
  QWidget* start = bench.window.findChild<QWidget*>(QStringLiteral("build-name"));
  start->setFocus();
  int stayed = 0;
  for (int i = 0; i < 400; ++i) {
    QWidget* now = QApplication::focusWidget();
    REQUIRE(now != nullptr);
    QTest::keyClick(now, Qt::Key_Tab);
    QWidget* next = QApplication::focusWidget();
    REQUIRE(next != nullptr);
    if (next == start) return way;
    // Within a date Tab goes from day to month to year first.
    stayed = next == now ? stayed + 1 : 0;
    INFO("Tab stays at " << now->objectName().toStdString());
    REQUIRE(stayed <= (qobject_cast<QDateEdit*>(now) != nullptr ? 3 : 0));
    if (next != now) way << next;
  }
  std::string last;
  for (int i = std::max(0, static_cast<int>(way.size()) - 12); i < way.size(); ++i)
    last += " " + way[i]->objectName().toStdString() + "/" + way[i]->metaObject()->className();
  FAIL("Tab does not come round:" << last);
  return way;
}

}  // namespace

TEST_CASE("Enter presses the button the keys go to", "[app][keyboard]") {
  Bench bench;
  bench.go("fit");
  auto& rail = bench.find<QPushButton>("rail-foam");
  rail.setFocus();
  QTest::keyClick(&rail, Qt::Key_Return);
  CHECK(bench.window.stationId() == QStringLiteral("foam"));
}

TEST_CASE("Tab leads through every station, out of its tables, over the rail and round again", "[app][keyboard]") {
  Bench bench;
  bench.window.activateWindow();
  for (const char* station : {"tape", "head", "form", "seams", "foam", "fit", "coat", "book"}) {
    CAPTURE(station);
    REQUIRE(bench.window.showStation(QLatin1String(station)));
    QApplication::processEvents();
    const QList<QWidget*> way = round_by_tab(bench);
    bool rail = false;
    for (const QWidget* w : way) rail = rail || w->objectName().startsWith(QLatin1String("rail-"));
    CHECK(rail);
    CHECK(way.size() > 5);
    // In the tray it goes as the eye does: along a row, and down.
    const auto& tray = bench.find<QWidget>((std::string("station-") + station).c_str());
    for (int i = 0; i + 1 < way.size(); ++i) {
      if (!tray.isAncestorOf(way[i]) || !tray.isAncestorOf(way[i + 1])) continue;
      if (way[i]->objectName().startsWith(QLatin1String("drawer-"))) continue;  // what lies in it may be scrolled
      const QRect from(way[i]->mapTo(&tray, QPoint(0, 0)), way[i]->size()),
          to(way[i + 1]->mapTo(&tray, QPoint(0, 0)), way[i + 1]->size());
      INFO(way[i]->objectName().toStdString() << " to " << way[i + 1]->objectName().toStdString());
      CHECK((to.center().y() >= from.top() || to.left() >= from.right()));
    }
  }
}

TEST_CASE(
    "on the start page Tab leads from the thing by whom and how large to what begins it", "[app][keyboard][start]") {
  Bench bench;
  bench.window.activateWindow();
  bench.trigger("act-new");
  bench.find<QWidget>("start-list").setFocus();
  std::string way;
  for (int i = 0; i < 16 && QApplication::focusWidget()->objectName() != QLatin1String("start-go"); ++i) {
    QWidget* was = QApplication::focusWidget();
    QTest::keyClick(was, Qt::Key_Tab);
    if (QApplication::focusWidget() != was) way += QApplication::focusWidget()->objectName().toStdString() + " ";
  }
  CHECK(way == "start-wearer start-hc start-top start-bna start-foam start-thickness start-due start-go ");
}

TEST_CASE("where the keys go is to be seen on Stand, Mat and lists", "[app][keyboard]") {
  Bench bench;
  bench.window.activateWindow();
  bench.go("foam");
  const QColor accent = bench.window.palette().color(QPalette::Highlight);
  const auto framed = [&](QWidget& w) {
    const QImage picture = w.grab().toImage();
    int hits = 0;
    for (int y = 0; y < picture.height(); ++y) hits += picture.pixelColor(1, y) == accent ? 1 : 0;
    return hits > picture.height() / 2;
  };
  for (const char* name : {"stand", "mat", "offcuts", "edges"}) {
    auto& view = bench.find<QWidget>(name);
    CAPTURE(name);
    bench.find<QWidget>("rail-foam").setFocus();
    QApplication::processEvents();
    CHECK_FALSE(framed(view));
    view.setFocus();
    QApplication::processEvents();
    CHECK(framed(view));
  }
}

TEST_CASE("the mat fits its sheets again when its window gets another size", "[app][mat]") {
  Bench bench;
  bench.go("foam");
  const auto covered = [&] {
    const QImage picture = bench.window.mat().grab().toImage();
    int left = picture.width(), right = 0;
    const QColor bare = picture.pixelColor(2, picture.height() / 2);
    for (int x = 4; x < picture.width() - 4; ++x)
      for (int y = 40; y < picture.height() - 40; y += 7)
        if (picture.pixelColor(x, y) != bare) left = std::min(left, x), right = std::max(right, x);
    return std::pair(left, static_cast<int>(picture.width()) - right);
  };
  for (const QSize& size : {QSize(1280, 800), QSize(1000, 700), QSize(1600, 900)}) {
    bench.window.resize(size);
    bench.settle();
    QTest::qWait(20);
    CAPTURE(size.width());
    CHECK(covered().first < 60);
    CHECK(covered().second >= 4);
  }
}

TEST_CASE("the window goes down to 800 by 600 with nothing cut that must be read", "[app][layout]") {
  Bench bench;
  for (const bool large : {false, true}) {
    bench.window.setType(large ? 125 : 100);
    for (const char* station : {"tape", "head", "form", "seams", "foam", "fit", "coat", "book"}) {
      REQUIRE(bench.window.showStation(QLatin1String(station)));
      bench.window.resize(800, 600);
      QApplication::processEvents();
      CAPTURE(station, large, bench.window.width(), bench.window.height());
      CHECK(bench.window.width() <= (large ? 900 : 800));
      CHECK(bench.window.height() <= (large ? 660 : 600));
      auto& foot = bench.find<QLabel>("rail-foot");
      CHECK(foot.height() >= foot.heightForWidth(foot.width()));
    }
  }
  bench.window.setType(100);
}

TEST_CASE("in the least window the plan scrolls rather than cut a caution short", "[app][layout]") {
  Bench bench;
  for (const int type : {100, 125}) {
    bench.window.setType(type);
    bench.go("coat");
    bench.window.resize(800, 600);
    bench.settle();
    CAPTURE(type, bench.window.width());
    const auto& page = bench.find<QWidget>("plan-page");
    const auto& area = *page.findChild<QScrollArea*>("plan-whole");
    int looked_at = 0;
    for (const char* name : {"plan-headline", "plan-bound", "plan-next-title", "plan-next-caution", "plan-slips"}) {
      const auto& label = bench.find<QLabel>(name);
      CAPTURE(name, label.width());
      CHECK(label.height() >= label.heightForWidth(label.width()));
      CHECK(label.mapTo(area.viewport(), QPoint(label.width(), 0)).x() <= area.viewport()->width());
      looked_at += label.isVisible();
    }
    CHECK(looked_at == 5);
    for (const char* name : {"plan-begin", "plan-done"}) {
      const auto& button = bench.find<QPushButton>(name);
      CHECK(button.size().expandedTo(button.minimumSizeHint()) == button.size());
    }
    // In an ordinary window the next step stays where it is, and only the days scroll.
    bench.window.resize(1280, 800);
    bench.settle();
    CHECK(area.verticalScrollBar()->maximum() == 0);
  }
  bench.window.setType(100);
}

TEST_CASE("what is larger than the rest stays so in larger type, seen or not when it is chosen", "[app][layout]") {
  Bench bench;
  const auto times = [&](const char* name) {
    return bench.find<QWidget>(name).font().pointSizeF() / QApplication::font().pointSizeF();
  };
  for (const int type : {200, 125, 100}) {
    bench.go("tape");
    bench.window.setType(type);
    CAPTURE(type);
    CHECK(times("build-name") == Approx(1.25).epsilon(0.02));
    bench.go("coat");
    bench.settle();
    CHECK(times("plan-next-title") == Approx(1.45).epsilon(0.02));
    CHECK(bench.find<QLabel>("plan-next-title").font().weight() == QFont::DemiBold);
    // The days below are laid out for the type there is, though no wider than before.
    auto& days = bench.find<QWidget>("plan");
    const QSize size = days.size();
    const int high = days.minimumHeight();
    days.resize(size.width() + 40, size.height());
    days.resize(size);
    CHECK(days.minimumHeight() == high);
  }
}

TEST_CASE("lists show as many rows in larger type, seen or not when it is chosen", "[app][layout]") {
  Bench bench;
  const std::pair<const char*, const char*> lists[] = {{"form", "parts"}, {"seams", "seam-lines"},
      {"seams", "alterations"}, {"seams", "versions"}, {"foam", "offcuts"}, {"foam", "order-pieces"},
      {"foam", "order-rules"}, {"foam", "edges"}, {"foam", "shopping"}, {"coat", "colour-list"},
      {"book", "job-fittings"}, {"book", "job-work"}};
  std::vector<double> usual;
  for (const int type : {100, 200, 125, 100}) {
    bench.go("tape");
    bench.window.setType(type);
    std::vector<double> rows;
    for (const auto& [station, list] : lists) {
      if (bench.window.stationId() != QLatin1String(station)) bench.go(station);
      const auto& widget = bench.find<QAbstractItemView>(list);
      bench.settle();
      rows.push_back(static_cast<double>(widget.height()) / widget.fontMetrics().lineSpacing());
    }
    if (usual.empty()) usual = rows;
    for (std::size_t i = 0; i < usual.size(); ++i) {
      CAPTURE(type, lists[i].second, usual[i], rows[i]);
      // A line of type is whole pixels high, so that it is not quite twice as high in type twice as large.
      CHECK(rows[i] > 0.95 * usual[i]);
      CHECK(rows[i] < 1.15 * usual[i]);
    }
  }
}
