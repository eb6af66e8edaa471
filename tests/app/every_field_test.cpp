// Every field there is takes anything that can be typed. NOGGIN_AWL_HARD=1 types all words into all demos: ./run hard.
#include "support/bench_window.hpp"
#include "support/differing.hpp"
#include "support/effort.hpp"

using namespace awl;

namespace {

/// What somebody may type who never read a manual, or paste by mistake; the plainest first.
std::vector<QString> anything() {
  return {QStringLiteral("12.5"), QStringLiteral("560"), QStringLiteral("0"), QStringLiteral("-0"),
      QStringLiteral("reed & moss"), QStringLiteral("22 3/8 in"), QStringLiteral("1e-9"), QStringLiteral("1:30"),
      // In hours all of these too:
      QString(), QStringLiteral("-1"), QStringLiteral("0.1"), QStringLiteral("0.30000000000000004"),
      QStringLiteral("333.33333333"), QStringLiteral("7.05"), QStringLiteral("1e2"), QStringLiteral("1e9"),
      QStringLiteral("1e308"), QStringLiteral("1/3 in"), QStringLiteral("3,5 cm"), QStringLiteral("%1 %n"),
      QStringLiteral("99999999999999999999"), QStringLiteral("nan"), QStringLiteral("inf"),
      QStringLiteral("\u00e4\u00f6\u00fc \u2713"), QStringLiteral("2026-12-18"), QStringLiteral("<b>x</b>"),
      QString(QChar(0xD800)), QStringLiteral("a") + QChar(0) + QStringLiteral("b"), QStringLiteral("a\tb\u0001"),
      QString(QChar(0xFFFE)), QString(5000, QLatin1Char('x')), QStringLiteral("  lead "),
      QStringLiteral("a\\b\"c/../d")};
}

class Typist {
 public:
  explicit Typist(test::Bench& bench) : m_bench(bench) {}

  /// Types each of the words into each field of the open station, and takes back what came of it.
  void typeInAll(const std::vector<QString>& words) {
    QStringList names;
    for (const auto* edit : m_bench.window.station().findChildren<QLineEdit*>()) names << edit->objectName();
    for (const char* of_ticket : {"build-name", "build-wearer"}) names << QLatin1String(of_ticket);
    names.removeDuplicates();
    for (const QString& name : names) {
      if (name.isEmpty() || name == QLatin1String("qt_spinbox_lineedit")) continue;
      for (const QString& word : words) type(name, word);
    }
  }
  int typed() const { return m_typed; }
  int taken() const { return m_taken; }

 private:
  void type(const QString& name, const QString& word) {
    // Looked for each time: what is typed can make the tray anew.
    auto* edit = m_bench.window.findChild<QLineEdit*>(name);
    if (edit == nullptr) return;
    auto& drawers = m_bench.window.station().drawers();
    if (!drawers.shows(edit)) drawers.reveal(edit);
    if (!edit->isVisible() || !edit->isEnabled() || edit->isReadOnly()) return;
    QUndoStack& undo = m_bench.window.document().undoStack();
    const int before = undo.index();
    edit->setFocus();
    edit->selectAll();
    edit->insert(word);
    QTest::keyClick(edit, Qt::Key_Return);
    ++m_typed;
    if (undo.index() == before) return;
    ++m_taken;
    INFO(m_bench.window.stationId().toStdString() << ", " << name.toStdString() << ": " << word.left(40).toStdString());
    CHECK(test::lost_on_reading(m_bench.build()) == "");
    while (undo.index() > before) undo.undo();
  }

  test::Bench& m_bench;
  int m_typed = 0, m_taken = 0;
};

}  // namespace

TEST_CASE("every field takes anything that can be typed, and what came of it is read back", "[app][long][fields]") {
  test::Bench bench;
  bench.window.asking.path = [](bool, const QString&, const QString&, const QString&) { return QString(); };
  bench.window.asking.folder = [](const QString&) { return QString(); };
  std::vector<QString> words = anything();
  words.resize(static_cast<std::size_t>(test::tries(8, static_cast<int>(words.size()))));
  Typist typist(bench);
  for (const DemoEntry& entry : demo_gallery()) {
    const Build first = entry.make(Day{20731});
    bench.window.document().replace(first, {});
    bench.settle();
    for (const char* station : {"tape", "head", "form", "seams", "foam", "fit", "dress", "coat", "book"}) {
      REQUIRE(bench.window.showStation(QLatin1String(station)));
      bench.settle();
      typist.typeInAll(words);
    }
    CHECK(test::differing(first, bench.build()) == "");
    if (!test::hard()) break;
  }
  // Most words are refused by most fields; neither all nor none.
  CHECK(typist.typed() > 400);
  CHECK(typist.taken() > typist.typed() / 20);
  CHECK(typist.taken() < typist.typed());
}
