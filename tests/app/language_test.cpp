#include "print/language.hpp"

#include <QDir>
#include <QRegularExpression>
#include <QTemporaryDir>
#include <QTextBrowser>
#include <set>

#include "app/desk/preferences.hpp"
#include "app/shell/help_pages.hpp"
#include "app/stations/tape/tape_station.hpp"
#include "core/base/data_files.hpp"
#include "core/chain/questions.hpp"
#include "core/steps/assembly.hpp"
#include "core/steps/care.hpp"
#include "core/steps/shopping.hpp"
#include "print/text.hpp"
#include "support/bench_window.hpp"

using namespace awl;
using awl::test::Bench;

namespace {

/// German for as long as it lives.
class German {
 public:
  German() : m_language(Language::load(QStringLiteral("de"))) {
    REQUIRE(m_language);
    REQUIRE(qApp->installTranslator(m_language->get()));
    Language::use(m_language->get());
  }
  ~German() {
    Language::use(nullptr);
    qApp->removeTranslator(m_language->get());
  }
  const Language& operator*() const { return **m_language; }

 private:
  Result<std::unique_ptr<Language>> m_language;
};

}  // namespace

TEST_CASE(
    "German has words for the window, forms for one and more, and patterns for what the core says", "[app][language]") {
  const auto choices = Language::choices();
  REQUIRE(std::any_of(choices.begin(), choices.end(),
      [](const Language::Choice& c) { return c.code == QLatin1String("de") && c.name == QLatin1String("Deutsch"); }));
  const German german;
  CHECK((*german).size() > 2400);
  CHECK(QCoreApplication::translate("any", "Stop") == QStringLiteral("Halt"));
  CHECK(QCoreApplication::translate("any", "%n measure(s) from the book.", nullptr, 1) ==
      QStringLiteral("1 Maß aus dem Buch."));
  CHECK(QCoreApplication::translate("any", "%n measure(s) from the book.", nullptr, 7) ==
      QStringLiteral("7 Maße aus dem Buch."));
  CHECK(qs("Length along the spine") == QStringLiteral("Länge entlang des Rückens"));
  CHECK(qs("The horn ends 105 mm above the hood; parts meet within 60 mm. Move it nearer, or make it longer at its "
           "foot.") ==
      QStringLiteral("horn endet 105 mm über Haube; Teile treffen sich innerhalb von 60 mm. Näher rücken, oder am Fuß "
                     "verlängern."));
  // Asked again it says the same; what it does not know it leaves.
  CHECK(qs("Slit it and lace it") == QStringLiteral("Schlitzen und schnüren"));
  CHECK(qs("A sentence nobody wrote.") == QStringLiteral("A sentence nobody wrote."));
  CHECK(qs("") == QString());
}

TEST_CASE("The whole window speaks German, and nothing a maker typed is touched", "[app][language]") {
  const German german;
  Bench bench;
  CHECK(bench.find<QPushButton>("rail-tape").text().contains(QStringLiteral("Maße")));
  CHECK(bench.find<QPushButton>("rail-seams").text().contains(QStringLiteral("Nähte")));
  bench.go("form");
  CHECK(bench.find<QPushButton>("part-add").text() == QStringLiteral("Ein Teil dazu"));
  bench.trigger("add-horn");
  CHECK(bench.find<QLineEdit>("part-name").text() ==
      QStringLiteral("Hörner"));  // what comes ready-made is called in the language
  bench.open("form-shape");
  CHECK(bench.find<QLineEdit>("dial-length").accessibleName() == QStringLiteral("Länge entlang des Rückens"));
  CHECK(bench.text("remark-text").startsWith(QStringLiteral("Als Nächstes: ")));
  // No control is left without a name, and every name fits its purpose in any language.
  for (auto* box : bench.window.findChildren<QComboBox*>()) CHECK_FALSE(box->accessibleName().isEmpty());
  // Choices keep their ids, whatever they are called.
  bench.choose("dial-base", "at an angle");
  CHECK(std::get<SweepSpec>(find_part(bench.build(), 2)->shape).base == BaseCut::by_lean);
}

TEST_CASE("What stands on the Stand and on a new build's ticket is German too", "[app][language][stand]") {
  const German german;
  Bench bench;
  bench.go("tape");
  const StandScene scene = makeStandScene(bench.derived(), bench.find<TapeStation>("station-tape").standChoice());
  REQUIRE(!scene.overlay.callouts.empty());
  bool found = false;
  for (const auto& callout : scene.overlay.callouts)
    found = found || QString::fromStdString(callout.text).startsWith(QStringLiteral("Kopfumfang  "));
  CHECK(found);
  bench.trigger("act-new");
  auto& things = bench.find<QListWidget>("start-list");
  for (int k = 0; k < things.count(); ++k)
    if (things.item(k)->text() == QStringLiteral("Kapuze")) things.setCurrentRow(k);
  bench.find<QComboBox>("start-wearer").setEditText(QStringLiteral("Marsh Walker"));
  QTest::mouseClick(&bench.find<QPushButton>("start-go"), Qt::LeftButton);
  bench.settle();
  CHECK(bench.build().name == "Kapuze f\u00fcr Marsh Walker");
  bool due = false;
  for (const auto* label : bench.find<QWidget>("ticket").findChildren<QLabel*>())
    due = due || label->text() == qs(bench.build().coat.due.spoken());
  CHECK(due);
}

TEST_CASE("Figures stay, days are turned round, and a sentence in a sentence is said too", "[app][language]") {
  const German german;
  CHECK(qs("Sat 5 Dec 2026") == QStringLiteral("Sa 5. Dez 2026"));
  CHECK(qs("hood, crown front 2") == QStringLiteral("Haube, Scheitel vorn 2"));
  CHECK(qs("Air the room. Never cover nose and mouth.") == QStringLiteral("Lüften. Nie Nase und Mund bedecken."));
  // A pattern of few letters does not grab what it was not made for.
  CHECK(qs("a hat of the people") == QStringLiteral("a hat of the people"));
  CHECK(qs("Paint: hood, 1 of 2") == QStringLiteral("Farbe: Haube, 1 von 2"));
  CHECK(qs("4.7 % stretch, left, near the ear rim, 15 mm below seam B") ==
      QStringLiteral("4.7 % gedehnt, links, nahe Ohrrand, 15 mm unter Naht B"));
  CHECK(qs("cut 2, flip 1, 5 mm") == QStringLiteral("2 \u00d7 schneiden, 1 gewendet, 5 mm"));
  CHECK(qs("cut 1, 5 mm") == QStringLiteral("1 \u00d7 schneiden, 5 mm"));
  CHECK(spokenLocale().language() == QLocale::German);
  CHECK(printed("Shopping list") == QStringLiteral("Einkaufsliste"));
}

TEST_CASE(
    "All that the demos say is German: remarks, facts, steps, shopping, plan and care", "[app][language][demos]") {
  const German german;
  const auto chain = Chain::load(data_folder());
  REQUIRE(chain);
  const QRegularExpression english(QStringLiteral("\\b(the|of|and|is|with|from|their|its|two|each|that|are)\\b"));
  std::set<std::string> asked;
  // What is counted too, one and many.
  CHECK(qs("30 rivets, 24.8 mm from middle to middle.") == QStringLiteral("30 Nieten, 24.8 mm von Mitte zu Mitte."));
  CHECK(qs("Mitred at 1 corner: its ends are cut at half the turn and meet there.").contains(QStringLiteral("1 Ecke")));
  QStringList left;
  const auto say = [&](const std::string& text) {
    if (text.empty() || !asked.insert(text).second) return;
    if (english.match(qs(text)).hasMatch()) left << qs(text);
  };
  for (const char* id : {"heron-warden", "toll-clerk", "thicket-ram", "marsh-guard"}) {
    const Build b = *demo_by_name(id, Day{20731});
    const Derived d = with_worn(**chain, b, (*chain)->derive(b));
    REQUIRE(d.complete());
    for (const Remark& r : d.remarks) {
      say(r.sentence);
      for (const Remedy& m : r.remedies) say(m.text);
    }
    for (const Yield* y : yields_of(d)) {
      for (const std::string& fact : y->facts) say(fact);
      for (const Want& want : y->wants) say(want.what), say(want.why);
    }
    for (const Piece& p : *d.pieces) say(p.name), say(p.face_up);
    const auto sheet = assemble(b, d, (*chain)->materials());
    REQUIRE(sheet);
    for (const BuildStep& s : sheet->steps) {
      say(s.title), say(s.caution);
      for (const std::string& line : s.lines) say(line);
    }
    const auto list = shopping(b, d, (*chain)->materials(), {});
    REQUIRE(list);
    for (const Purchase& p : list->lines) say(p.what), say(p.why);
    for (const auto& s : care_sheet(b, d, (*chain)->materials()).sections) {
      say(s.title);
      for (const std::string& line : s.lines) say(line);
    }
    for (const PlannedStep& s : d.plan->steps) say(s.name), say(s.caution);
  }
  INFO(left.join(QLatin1Char('\n')).toStdString());
  CHECK(asked.size() > 500);
  CHECK(left.isEmpty());
}

TEST_CASE("Every page of help written by hand is there in German, and its pictures", "[app][language][help]") {
  const German german;
  Bench bench;
  const QDir folder(helpFolder());
  for (const QString& file : folder.entryList({QStringLiteral("*.md")}, QDir::Files)) {
    INFO(file.toStdString());
    CHECK(QFile::exists(folder.filePath(QStringLiteral("de/") + file)));
  }
  bench.go("fit");
  bench.trigger("act-help");
  auto* text = bench.window.findChild<QTextBrowser*>(QStringLiteral("help-text"));
  REQUIRE(text != nullptr);
  CHECK(text->toPlainText().startsWith(QStringLiteral("Sitz")));
  CHECK(text->toPlainText().contains(QStringLiteral("Getragen, bevor es geschnitten ist")));
}

TEST_CASE("Stand and mat say in words what they show", "[app][stand][mat][heard]") {
  Bench bench;
  const QString stand = bench.window.stand().accessibleDescription();
  CHECK(stand.startsWith(QStringLiteral("The head of ")));
  CHECK(stand.contains(QStringLiteral("hood: ")));
  CHECK(stand.contains(QStringLiteral(" wide, ")));
  auto* mat = bench.window.findChild<MatView*>();
  REQUIRE(mat != nullptr);
  CHECK(mat->accessibleDescription().contains(QStringLiteral(" pieces on ")));
  CHECK(mat->accessibleDescription().contains(QStringLiteral("1, crown front, twice.")));
  bench.go("form");
  bench.trigger("add-horn");
  CHECK(bench.window.stand().accessibleDescription().contains(QStringLiteral("horns: ")));
  CHECK(bench.window.stand().accessibleDescription().contains(QStringLiteral(", on hood.")));
}

TEST_CASE("At twice the size German stays inside the window", "[app][language]") {
  const German german;
  Bench bench;
  bench.trigger("act-large");
  for (const char* station : {"tape", "head", "form", "seams", "foam", "fit", "dress", "coat", "book"}) {
    bench.go(station);
    INFO(station);
    CHECK(bench.window.minimumSizeHint().width() <= 1280);
  }
}

TEST_CASE("The language is chosen at Preferences and kept", "[app][language][prefs]") {
  Preferences wished;
  wished.language = QStringLiteral("de");
  REQUIRE(wished.save());
  CHECK(Preferences::load().language == QStringLiteral("de"));
  PreferencesDialog dialog(Preferences::load(), nullptr);
  auto* languages = dialog.findChild<QComboBox*>(QStringLiteral("prefs-language"));
  REQUIRE(languages != nullptr);
  CHECK(languages->currentText() == QStringLiteral("Deutsch"));
  languages->setCurrentIndex(0);
  CHECK(dialog.chosen().language.isEmpty());
  REQUIRE(Preferences{}.save());
  const auto none = Language::load(QStringLiteral("xx"));
  REQUIRE_FALSE(none);
  CHECK(none.error().text.find("xx.json") != std::string::npos);
}
