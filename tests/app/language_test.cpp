#include "print/language.hpp"

#include <QTemporaryDir>

#include "app/desk/preferences.hpp"
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
      QStringLiteral("horn endet 105 mm über hood; Teile treffen sich innerhalb von 60 mm. Näher rücken, oder am Fuß "
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
  CHECK(bench.find<QLineEdit>("part-name").text() == QStringLiteral("horns"));
  bench.open("form-shape");
  CHECK(bench.find<QLineEdit>("dial-length").accessibleName() == QStringLiteral("Länge entlang des Rückens"));
  CHECK(bench.text("remark-text").startsWith(QStringLiteral("Als Nächstes: ")));
  // No control is left without a name, and every name fits its purpose in any language.
  for (auto* box : bench.window.findChildren<QComboBox*>()) CHECK_FALSE(box->accessibleName().isEmpty());
  // Choices keep their ids, whatever they are called.
  bench.choose("dial-base", "at an angle");
  CHECK(std::get<SweepSpec>(find_part(bench.build(), 2)->shape).base == BaseCut::by_lean);
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
