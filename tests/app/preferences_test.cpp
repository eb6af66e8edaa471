// What a maker sets once for all builds.
#include <catch2/catch.hpp>
#include <QDialogButtonBox>
#include <QDir>
#include <QDoubleSpinBox>

#include "app/desk/preferences.hpp"
#include "core/builds/fresh.hpp"
#include "support/bench_window.hpp"

using namespace awl;
using test::Bench;

TEST_CASE("preferences are kept, and what is spoilt counts as not set", "[app][preferences]") {
  QSettings().remove(QStringLiteral("prefs"));
  CHECK(Preferences::load() == Preferences{});
  Preferences mine;
  mine.unit = LengthUnit::inch, mine.large = true, mine.rate = 31.5, mine.hours_a_day = 6.5, mine.opens_h = 13.0;
  mine.open_on = {true, true, false, true, true, false, false};
  REQUIRE(mine.save());
  CHECK(Preferences::load() == mine);
  QSettings spoilt;
  spoilt.setValue(QStringLiteral("prefs/unit"), QStringLiteral("furlongs"));
  spoilt.setValue(QStringLiteral("prefs/rate"), QStringLiteral("-7"));
  spoilt.setValue(QStringLiteral("prefs/hours-a-day"), QStringLiteral("nan"));
  spoilt.setValue(QStringLiteral("prefs/open-on"), QStringLiteral("0000000"));
  spoilt.sync();
  const Preferences read = Preferences::load();
  CHECK(read.unit == LengthUnit::mm);
  CHECK(read.rate == Preferences{}.rate);
  CHECK(read.hours_a_day == Preferences{}.hours_a_day);
  CHECK(read.open_on == Preferences{}.open_on);
  QSettings().remove(QStringLiteral("prefs"));
}

TEST_CASE("preferences set in the window hold at once and for builds begun later", "[app][preferences][start]") {
  QSettings().remove(QStringLiteral("prefs"));
  Bench bench;
  const Build before = bench.build();
  bench.trigger("act-preferences");
  auto* dialog = bench.window.findChild<PreferencesDialog*>();
  REQUIRE(dialog != nullptr);
  for (const auto* control : dialog->findChildren<QWidget*>())
    if (control->objectName().startsWith(QLatin1String("prefs-"))) {
      CAPTURE(control->objectName().toStdString());
      CHECK_FALSE(control->accessibleName().isEmpty());
      CHECK_FALSE(control->toolTip().isEmpty());
    }
  dialog->findChild<QComboBox*>(QStringLiteral("prefs-unit"))->setCurrentText(QStringLiteral("in"));
  dialog->findChild<QDoubleSpinBox*>(QStringLiteral("prefs-rate"))->setValue(25.0);
  QTest::mouseClick(dialog->findChild<QCheckBox*>(QStringLiteral("prefs-day-7")), Qt::LeftButton);
  dialog->findChild<QCheckBox*>(QStringLiteral("prefs-day-7"))->setChecked(false);
  dialog->findChild<QCheckBox*>(QStringLiteral("prefs-dark"))->setChecked(true);
  QTest::mouseClick(dialog->findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok), Qt::LeftButton);
  CHECK(bench.window.findChild<QAction*>(QStringLiteral("act-dark"))->isChecked());
  CHECK(bench.build() == before);  // the open build is the maker's as it is
  bench.trigger("act-new");
  QTest::mouseClick(bench.window.findChild<QPushButton*>(QStringLiteral("start-go")), Qt::LeftButton);
  bench.settle();
  CHECK(bench.build().shown == LengthUnit::inch);
  CHECK(bench.build().coat.rates.rate == 25.0);
  CHECK_FALSE(bench.build().coat.open_on[6]);
  bench.window.setDark(false);
  QSettings().remove(QStringLiteral("prefs"));
}

TEST_CASE("where settings cannot be written preferences hold for now, and that is said", "[app][preferences]") {
  const QString was = QFileInfo(QSettings().fileName()).dir().absolutePath();
  const QString users = QDir(was).filePath(QStringLiteral(".."));
  Bench bench;
  // A folder under what is no folder: nothing can be made there, not even by root.
  QSettings::setPath(QSettings::NativeFormat, QSettings::UserScope, QStringLiteral("/dev/null/settings"));
  Preferences mine;
  mine.rate = 19.0;
  CHECK_FALSE(mine.save());
  bench.trigger("act-preferences");
  auto* dialog = bench.window.findChild<PreferencesDialog*>();
  REQUIRE(dialog != nullptr);
  dialog->findChild<QCheckBox*>(QStringLiteral("prefs-dark"))->setChecked(true);
  QTest::mouseClick(dialog->findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok), Qt::LeftButton);
  CHECK(bench.window.findChild<QAction*>(QStringLiteral("act-dark"))->isChecked());
  bool said = false;
  for (const auto* label : bench.window.findChildren<QLabel*>())
    said = said || label->text().contains(QLatin1String("settings folder cannot be written"));
  CHECK(said);
  QSettings::setPath(QSettings::NativeFormat, QSettings::UserScope, QDir::cleanPath(users));
  bench.window.setDark(false);
  QSettings().remove(QStringLiteral("prefs"));
}
