#include <QApplication>
#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <QSignalSpy>
#include <QTest>
#include <catch2/catch.hpp>

#include "app/widgets/length_field.hpp"
#include "app/stations/coat/plan_view.hpp"
#include "app/widgets/remarks_line.hpp"
#include "app/widgets/tray_group.hpp"
#include "support/bench_data.hpp"

using namespace awl;

namespace {

Remark remark(Severity severity, const char* sentence, const char* remedy = "", const char* act = "") {
  Remark r{"x", severity, "HC", sentence, {}, {}, {}};
  if (*remedy != 0) r.remedies.push_back({remedy, act});
  return r;
}

}  // namespace

TEST_CASE(
    "remedies leave a remark its half of the line; those without room stand behind one button", "[app][widgets]") {
  RemarksLine line;
  line.resize(1280, 64);
  line.QWidget::show();
  Remark r =
      remark(Severity::warning, "The panel must give by more than the foam bears.", "Cut one more gore a side", "a");
  r.remedies.push_back({"Move its seams to where it bends less", "b"});
  r.remedies.push_back({"Take foam of 4 mm in place of 5 mm", "c"});
  line.show({r});
  auto& more = *line.findChild<QPushButton*>(QStringLiteral("remark-more"));
  const auto shown = [&](const char* name) { return line.findChild<QPushButton*>(QLatin1String(name))->isVisible(); };
  const auto all = [&] {
    return (shown("remark-remedy") ? 1 : 0) + (shown("remark-remedy-2") ? 1 : 0) + (shown("remark-remedy-3") ? 1 : 0) +
        static_cast<int>(more.menu()->actions().size());
  };
  for (const int wide : {700, 900, 1280, 2560}) {
    line.resize(wide, 64);
    QApplication::processEvents();
    CAPTURE(wide);
    CHECK(all() == 3);
    CHECK(shown("remark-remedy"));
    CHECK(more.isVisible() == !more.menu()->isEmpty());
    if (wide >= 900) CHECK(line.findChild<QLabel*>(QStringLiteral("remark-text"))->width() > wide / 3);
  }
  CHECK_FALSE(more.isVisible());  // wide enough for all of them
  line.resize(700, 64);
  QApplication::processEvents();
  REQUIRE(!more.menu()->isEmpty());
  QSignalSpy pressed(&line, &RemarksLine::remedyPressed);
  more.menu()->actions().back()->trigger();
  REQUIRE(pressed.size() == 1);
  CHECK(pressed.front()[0].toString() == QLatin1String("c"));
}

TEST_CASE("a length field tells what was typed and keeps what is wrong", "[app][widgets]") {
  LengthField field(QStringLiteral("f"), QStringLiteral("F"), QStringLiteral("tip"));
  QSignalSpy entered(&field, &LengthField::entered), emptied(&field, &LengthField::emptied);
  field.showValue(570.0, LengthUnit::mm);
  field.show();
  field.selectAll();
  QTest::keyClicks(&field, QStringLiteral("22 1/2 in"));
  QTest::keyClick(&field, Qt::Key_Return);
  REQUIRE(entered.count() == 1);
  CHECK(entered[0][0].toDouble() == Approx(571.5));
  field.selectAll();
  QTest::keyClicks(&field, QStringLiteral("oops"));
  QTest::keyClick(&field, Qt::Key_Return);
  CHECK(entered.count() == 1);
  CHECK(field.isWrong());
  CHECK(field.text() == QStringLiteral("oops"));
  field.showValue(570.0, LengthUnit::mm);
  CHECK(field.text() == QStringLiteral("oops"));
  field.showValue(580.0, LengthUnit::mm);
  CHECK(field.text() == QStringLiteral("580 mm"));
  CHECK_FALSE(field.isWrong());
  field.selectAll();
  QTest::keyClick(&field, Qt::Key_Delete);
  QTest::keyClick(&field, Qt::Key_Return);
  CHECK(emptied.count() == 1);
}

TEST_CASE("an estimate never hides a measured value", "[app][widgets]") {
  LengthField field(QStringLiteral("f"), QStringLiteral("F"), {});
  field.showValue(std::nullopt, LengthUnit::cm);
  field.showEstimate(152.4, 3.6);
  CHECK(field.placeholderText().contains(QStringLiteral("15.2 cm")));
  field.showValue(150.0, LengthUnit::cm);
  field.showEstimate(152.4, 3.6);
  CHECK(field.placeholderText().isEmpty());
  CHECK(field.text() == QStringLiteral("15.0 cm"));
}

TEST_CASE("remarks are shown one at a time with word, sign and remedy", "[app][widgets]") {
  RemarksLine line;
  line.show();
  auto* badge = line.findChild<QLabel*>(QStringLiteral("remark-badge"));
  auto* text = line.findChild<QLabel*>(QStringLiteral("remark-text"));
  auto* remedy = line.findChild<QPushButton*>(QStringLiteral("remark-remedy"));
  CHECK(badge->text().contains(QStringLiteral("fine")));
  CHECK(text->text().contains(QStringLiteral("protective")));
  line.show({remark(Severity::stop, "First.", "Mend it", "set-belt on"), remark(Severity::note, "Second.")});
  CHECK(badge->text().contains(QStringLiteral("stop")));
  CHECK(text->text() == QStringLiteral("First."));
  QSignalSpy pressed(&line, &RemarksLine::remedyPressed);
  QTest::mouseClick(remedy, Qt::LeftButton);
  REQUIRE(pressed.count() == 1);
  CHECK(pressed[0][0].toString() == QStringLiteral("set-belt on"));
  QTest::mouseClick(line.findChild<QPushButton*>(QStringLiteral("remark-next")), Qt::LeftButton);
  CHECK(text->text() == QStringLiteral("Second."));
  CHECK_FALSE(remedy->isVisibleTo(&line));
  QTest::mouseClick(line.findChild<QPushButton*>(QStringLiteral("remark-next")), Qt::LeftButton);
  CHECK(text->text() == QStringLiteral("First."));
  line.showRefusal(QStringLiteral("Refused."));
  CHECK(text->text() == QStringLiteral("Refused."));
  CHECK(badge->text().contains(QStringLiteral("not done")));
  line.show({remark(Severity::warning, "Other.")});
  CHECK(text->text() == QStringLiteral("Other."));
  QSignalSpy place(&line, &RemarksLine::placeClicked);
  QTest::mouseClick(&line, Qt::LeftButton, {}, QPoint(3, 3));
  CHECK(place.count() == 1);
}

TEST_CASE("a tray group folds by mouse and by key", "[app][widgets]") {
  TrayGroup group(QStringLiteral("Edges"), false);
  auto* label = group.addText(QStringLiteral("inside"));
  group.show();
  auto* title = group.findChild<QToolButton*>(QStringLiteral("group-edges"));
  REQUIRE(title != nullptr);
  CHECK_FALSE(label->isVisible());
  QTest::mouseClick(title, Qt::LeftButton);
  CHECK(label->isVisible());
  QTest::keyClick(title, Qt::Key_Space);
  CHECK_FALSE(label->isVisible());
}

TEST_CASE("the plan's rows are as high as their cautions need", "[app][widgets]") {
  PlanView view;
  view.resize(760, 600);
  CHECK(view.headline() == QStringLiteral("No plan yet"));
  const Derived d = test::chain()->derive(test::demo());
  view.show(d.plan, test::demo().coat);
  CHECK(view.headline().contains(QStringLiteral("Ready")));
  const int narrow = view.minimumHeight();
  CHECK(narrow > static_cast<int>(d.plan->steps.size()) * 40);
  view.resize(1400, 600);
  QTest::qWait(1);
  view.show();
  QTest::qWait(1);
  CHECK(view.minimumHeight() < narrow);
  CHECK(view.accessibleDescription() == view.headline());
}
