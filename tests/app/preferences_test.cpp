// What a maker sets once for all builds.
#include <catch2/catch.hpp>
#include <QDialogButtonBox>
#include <QDir>
#include <QDoubleSpinBox>
#include <QLineEdit>
#include <QTemporaryDir>

#include "app/desk/book.hpp"
#include "app/desk/preferences.hpp"
#include "app/widgets/theme.hpp"
#include "core/builds/fresh.hpp"
#include "print/money.hpp"
#include "support/bench_window.hpp"

using namespace awl;
using test::Bench;

TEST_CASE("the file of settings is its owner's alone, and stays so when it is written", "[app][preferences]") {
  QSettings settings;
  settings.setValue(QStringLiteral("kept-from-others"), 1);
  settings.sync();
  const QString file = settings.fileName();
  REQUIRE(QFile::setPermissions(file, QFile::permissions(file) | QFile::ReadGroup | QFile::ReadOther));
  constexpr QFile::Permissions others = QFile::ReadGroup | QFile::WriteGroup | QFile::ReadOther | QFile::WriteOther;
  REQUIRE((QFile::permissions(file) & others) != QFile::Permissions());
  Preferences::keepFromOthers();
  CHECK((QFile::permissions(file) & others) == QFile::Permissions());
  settings.setValue(QStringLiteral("kept-from-others"), 2);
  settings.sync();
  CHECK((QFile::permissions(file) & others) == QFile::Permissions());
  CHECK(QSettings().value(QStringLiteral("kept-from-others")).toInt() == 2);
  settings.remove(QStringLiteral("kept-from-others"));
}

TEST_CASE("preferences are kept, and what is spoilt counts as not set", "[app][preferences]") {
  QSettings().remove(QStringLiteral("prefs"));
  CHECK(Preferences::load() == Preferences{});
  Preferences mine;
  mine.unit = LengthUnit::inch, mine.type = 160, mine.rate = 31.5, mine.hours_a_day = 6.5, mine.opens_h = 13.0;
  mine.open_on = {true, true, false, true, true, false, false};
  mine.still = true, mine.next = false, mine.paper = QStringLiteral("letter"), mine.money = QStringLiteral("kr");
  mine.book = QStringLiteral("/somewhere");
  REQUIRE(mine.save());
  CHECK(Preferences::load() == mine);
  QSettings spoilt;
  spoilt.setValue(QStringLiteral("prefs/unit"), QStringLiteral("furlongs"));
  spoilt.setValue(QStringLiteral("prefs/paper"), QStringLiteral("papyrus"));
  spoilt.setValue(QStringLiteral("prefs/money"), QStringLiteral("a whole sentence"));
  spoilt.setValue(QStringLiteral("prefs/rate"), QStringLiteral("-7"));
  spoilt.setValue(QStringLiteral("prefs/hours-a-day"), QStringLiteral("nan"));
  spoilt.setValue(QStringLiteral("prefs/open-on"), QStringLiteral("0000000"));
  spoilt.sync();
  const Preferences read = Preferences::load();
  CHECK(read.unit == LengthUnit::mm);
  CHECK(read.rate == Preferences{}.rate);
  CHECK(read.paper == Preferences{}.paper);
  CHECK(read.money.size() <= 4);
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

TEST_CASE("money, paper, what comes next and stillness are the maker's choice", "[app][preferences]") {
  QSettings().remove(QStringLiteral("prefs"));
  Bench bench;
  const auto choose = [&](const std::function<void(PreferencesDialog&)>& set) {
    bench.trigger("act-preferences");
    auto* dialog = bench.window.findChild<PreferencesDialog*>();
    REQUIRE(dialog != nullptr);
    set(*dialog);
    QTest::mouseClick(dialog->findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok), Qt::LeftButton);
    QTest::qWait(1);
    QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
    bench.settle();
  };
  QSettings().setValue(kIgnoredKey, QStringList{QStringLiteral("next.jaw")});
  choose([](PreferencesDialog& d) {
    d.findChild<QLineEdit*>(QStringLiteral("prefs-money"))->setText(QStringLiteral("kr"));
    auto* paper = d.findChild<QComboBox*>(QStringLiteral("prefs-paper"));
    paper->setCurrentIndex(paper->findData(QStringLiteral("letter")));
    d.findChild<QCheckBox*>(QStringLiteral("prefs-next"))->setChecked(false);
    d.findChild<QCheckBox*>(QStringLiteral("prefs-still"))->setChecked(true);
  });
  CHECK(money(12.5) == QStringLiteral("12.50\u00a0kr"));
  CHECK(isStill());
  CHECK(bench.find<QComboBox>("print-paper").currentData().toString() == QLatin1String("letter"));
  CHECK(QSettings().value(kIgnoredKey).toStringList().size() == 1);
  bench.go("coat");
  bench.settle();
  CHECK(bench.text("coat-quote").contains(QStringLiteral("\u00a0kr")));
  choose([](PreferencesDialog& d) {
    d.findChild<QLineEdit*>(QStringLiteral("prefs-money"))->setText(QStringLiteral("$"));
    d.findChild<QCheckBox*>(QStringLiteral("prefs-next"))->setChecked(true);
    d.findChild<QCheckBox*>(QStringLiteral("prefs-still"))->setChecked(false);
  });
  CHECK(money(12.5) == QStringLiteral("$12.50"));
  CHECK_FALSE(isStill());
  CHECK(QSettings().value(kIgnoredKey).toStringList().isEmpty());  // all is said again
  setMoneySign({});
  QSettings().remove(QStringLiteral("prefs"));
}

TEST_CASE(
    "the shop book is moved where the maker wants it, and stays where that cannot be", "[app][preferences][book]") {
  QSettings().remove(QStringLiteral("prefs"));
  QTemporaryDir folder;
  Book book;
  const QString usual = Book::path();
  CHECK(usual == Book::usualPath());
  REQUIRE(book.put("Marsh Walker", sheet_of({{MeasureId::HC, 571.0}}, "adult")));
  const auto refused = book.moveTo(folder.filePath(QStringLiteral("nowhere")));
  REQUIRE_FALSE(refused);
  CHECK(refused.error().text.find("no such folder") != std::string::npos);
  CHECK(Book::path() == usual);
  REQUIRE(book.moveTo(folder.path()));
  CHECK(Book::path() == folder.path() + QStringLiteral("/shop-book.db"));
  CHECK(QFile::exists(usual));  // the one before stays
  const auto known = [&] {
    const auto open = book.get();
    REQUIRE(open);
    const auto all = (*open)->wearers();
    REQUIRE(all);
    return std::count_if(all->begin(), all->end(), [](const auto& w) { return w.name == "Marsh Walker"; });
  };
  CHECK(known() == 1);
  CHECK(QFile::exists(Book::path()));
  REQUIRE(book.put("Reed Cutter", sheet_of({{MeasureId::HC, 560.0}}, "adult")));
  REQUIRE(book.moveTo({}));
  CHECK(Book::path() == usual);
  CHECK(known() == 1);
  QSettings().remove(QStringLiteral("prefs"));
}
