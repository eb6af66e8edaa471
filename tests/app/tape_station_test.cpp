// Measuring through the window: fields, card, short list, contradictions, children, the digital tape.
#include <QElapsedTimer>
#include <QLocalServer>
#include <QSignalSpy>

#include "app/stations/tape/simulated_tape.hpp"
#include "app/stations/tape/tape_line.hpp"
#include "app/stations/tape/tape_station.hpp"
#include "support/bench_window.hpp"

using namespace awl;
using test::Bench;
using M = MeasureId;

namespace {

/// Coloured pixels of the measure being shown, the only ones of that colour.
int marked(const QImage& image) {
  int count = 0;
  for (int y = 0; y < image.height(); ++y)
    for (int x = 0; x < image.width(); ++x) {
      const QColor c = image.pixelColor(x, y);
      count += c.red() > 190 && c.green() > 70 && c.green() < 120 && c.blue() < 70 ? 1 : 0;
    }
  return count;
}

}  // namespace

TEST_CASE("the measure in hand is pictured, explained and lit on the stand", "[app][tape]") {
  Bench bench;
  const auto picture = [&] { return bench.find<QLabel>("measure-picture").pixmap().toImage(); };
  bench.find<QLineEdit>("measure-HC").setFocus();
  QApplication::processEvents();
  CHECK(bench.text("measure-title") == QStringLiteral("Head circumference"));
  CHECK(bench.text("how").contains(QStringLiteral("Round the head")));
  CHECK(bench.text("measure-facts").contains(QStringLiteral("With tape")));
  const QImage round = picture();
  CHECK(marked(round) > 100);
  bench.find<QLineEdit>("measure-TOP").setFocus();
  QApplication::processEvents();
  CHECK(bench.text("measure-title") == QStringLiteral("Ear to ear over the top"));
  CHECK(picture() != round);
  CHECK(marked(picture()) > 100);
  bench.settle();
  CHECK(marked(bench.window.stand().grab().toImage()) > 200);
}

TEST_CASE("every measure has a picture that shows its tape, a how, a tool and what it decides", "[app][tape]") {
  Bench bench;
  auto& station = bench.find<TapeStation>("station-tape");
  for (const MeasureFacts& f : measure_facts()) {
    CAPTURE(f.code);
    REQUIRE(station.focusPlace(QLatin1String(f.code)));
    QApplication::processEvents();
    CHECK(bench.text("measure-title") == QLatin1String(f.name));
    CHECK(bench.text("how").size() > 15);
    CHECK(bench.text("measure-facts").size() > 25);
    CHECK(marked(bench.find<QLabel>("measure-picture").pixmap().toImage()) > 15);
    CHECK(bench.find<QLineEdit>((std::string("measure-") + f.code).c_str()).isVisibleTo(&station));
  }
}

TEST_CASE("clicking a tape on the stand leads to its field", "[app][tape]") {
  Bench bench;
  auto& stand = bench.window.stand();
  stand.look(0.0f, 0.0f);
  bench.find<QLineEdit>("measure-HC").setFocus();
  QApplication::processEvents();
  stand.grab();
  QPoint neck(-1, -1);
  for (int y = 0; y < stand.height() && neck.x() < 0; y += 3)
    for (int x = 0; x < stand.width() && neck.x() < 0; x += 3)
      if (stand.measureAt(QPointF(x, y)) == index_of(M::NC)) neck = QPoint(x, y);
  REQUIRE(neck.x() >= 0);
  QTest::mouseClick(&stand, Qt::LeftButton, {}, neck);
  CHECK(bench.text("measure-title") == QStringLiteral("Neck circumference"));
  CHECK(bench.window.focusWidget() == &bench.find<QLineEdit>("measure-NC"));
}

TEST_CASE("a second reading is averaged and its spread told, hair is taken off", "[app][tape]") {
  Bench bench;
  bench.find<QLineEdit>("measure-HC").setFocus();
  QApplication::processEvents();
  bench.type("second-reading", "588");
  CHECK(bench.build().tape.head.at(M::HC).mean_mm() == 586.0);
  CHECK(bench.text("measure-spread").contains(QStringLiteral("Mean of both 586 mm, 4 mm apart")));
  CHECK(bench.text("measure-HC-note").contains(QStringLiteral("586 mm")));
  CHECK(bench.derived().head->reading(M::HC).given_mm == Approx(586.0));
  bench.type("over-hair", "4");
  CHECK(bench.derived().head->reading(M::HC).given_mm == Approx(586.0 - 2 * M_PI * 4));
  bench.type("second-reading", "300");
  CHECK(bench.text("card-sentence").contains(QStringLiteral("not the same")));
  CHECK(*bench.build().tape.head.at(M::HC).second_mm == 588.0);
  QTest::keyClick(&bench.find<QLineEdit>("second-reading"), Qt::Key_Escape);
  bench.type("second-reading", "599");
  CHECK(bench.text("remark-text").contains(QStringLiteral("apart")));
  bench.type("second-reading", "");
  bench.type("over-hair", "");
  CHECK(bench.build().tape.head.at(M::HC) == test::demo().tape.head.at(M::HC));
}

TEST_CASE("the short list belongs to the build, and the next most telling measure is pointed at", "[app][tape]") {
  Bench bench;
  const auto listed = [&] {
    std::set<std::string> ids;
    for (const Telling& t : bench.derived().short_list) ids.insert(facts_of(t.id).code);
    return ids;
  };
  const auto hood = listed();
  CHECK(hood.size() == 6);
  CHECK(hood.count("HC") == 1);
  for (const auto& code : hood) CHECK(bench.find<QLineEdit>(("measure-" + code).c_str()).isVisible());
  REQUIRE(bench.derived().next);
  const auto next = bench.derived().next->id;
  CHECK(bench.text("next-measure").contains(QString::fromStdString(spoken_name(next))));
  CHECK(bench.build().tape.head.count(next) == 0);
  bench.go("form");
  bench.choose("dial-edge", "skull cap");
  CHECK(listed() != hood);
}

TEST_CASE("swapped measures are told, and one press swaps them back", "[app][tape][remarks]") {
  Bench bench;
  bench.unfold("group-more-of-the-skull");
  bench.type("measure-CCC", "572");
  bench.type("measure-HC", "618");
  CHECK(bench.text("remark-text").contains(QStringLiteral("each other's fields")));
  QTest::mouseClick(&bench.find<QPushButton>("remark-remedy"), Qt::LeftButton);
  bench.settle();
  CHECK(bench.build().tape.head.at(M::HC).first_mm == 572.0);
  CHECK(bench.build().tape.head.at(M::CCC).first_mm == 618.0);
  bench.undo();
  CHECK(bench.build().tape.head.at(M::HC).first_mm == 618.0);
}

TEST_CASE("a doubted value can be replaced by the expected one, or stood by", "[app][tape][remarks]") {
  Bench bench;
  bench.type("measure-HC", "545");
  REQUIRE(bench.text("remark-badge").contains(QStringLiteral("look")));
  auto& use = bench.find<QPushButton>("remark-remedy-2");
  auto& accept = bench.find<QPushButton>("remark-remedy-3");
  REQUIRE(use.isVisibleTo(&bench.window));
  REQUIRE(accept.text().contains(QStringLiteral("unusual")));
  QTest::mouseClick(&accept, Qt::LeftButton);
  bench.settle();
  // Nobody doubts it any more; that the headform cannot quite follow is another matter.
  for (const Remark& r : bench.derived().remarks) CHECK((r.id != "head.contradiction" && r.id != "head.roundness"));
  CHECK(bench.build().tape.head.at(M::HC).first_mm == 545.0);
  bench.undo();
  QTest::mouseClick(&use, Qt::LeftButton);
  bench.settle();
  CHECK(bench.build().tape.head.at(M::HC).first_mm > 560.0);
  CHECK(bench.text("remark-badge").contains(QStringLiteral("fine")));
}

TEST_CASE("a child's head is held against children, told by the measures or chosen", "[app][tape]") {
  Bench bench;
  bench.unfold("group-whose-head,-when,-by-whom");
  bench.choose("people", "auto");
  for (const char* code : {"measure-HL", "measure-HB", "measure-TOP", "measure-NC"}) bench.type(code, "");
  bench.type("measure-FH", "96");
  bench.type("measure-HC", "511");
  CHECK(bench.derived().head->people == "child-5");
  CHECK(bench.text("people-held").contains(QStringLiteral("Child of 4 to 6")));
  const double jaw = bench.derived().head->reading(M::JW).reads_mm;
  CHECK(jaw < 95.0);
  bench.choose("people", "adult");
  CHECK(bench.build().tape.people == "auto");
  CHECK(bench.text("remark-text").contains(QStringLiteral("99 to 137")));
}

TEST_CASE("what an extra needs is a to-do until it is measured", "[app][tape]") {
  Bench bench;
  bench.unfold("group-beside-the-head");
  QTest::mouseClick(&bench.find<QCheckBox>("extra-shoulder-piece"), Qt::LeftButton, {}, QPoint(8, 10));
  bench.settle();
  REQUIRE(bench.build().extras.count(Extra::shoulder_piece) == 1);
  CHECK(bench.text("remark-text").contains(QStringLiteral("Shoulder width is still to be measured")));
  QTest::mouseClick(&bench.find<QPushButton>("remark-remedy"), Qt::LeftButton);
  CHECK(bench.window.focusWidget() == &bench.find<QLineEdit>("measure-SHW"));
  bench.type("measure-SHW", "16 1/2 in");
  CHECK(bench.build().tape.body.at(BodyMeasure::shoulders) == Approx(419.1));
  CHECK(bench.text("remark-badge").contains(QStringLiteral("fine")));
}

TEST_CASE("who measured and when goes with every measure", "[app][tape]") {
  Bench bench;
  bench.unfold("group-whose-head,-when,-by-whom");
  auto& by = bench.find<QLineEdit>("tape-by");
  by.setFocus();
  by.selectAll();
  QTest::keyClicks(&by, QStringLiteral("a helper"));
  QTest::keyClick(&by, Qt::Key_Return);
  bench.find<QDateEdit>("tape-day").setDate(QDate(2026, 11, 3));
  bench.settle();
  bench.type("measure-HB", "156");
  const TapeEntry& e = bench.build().tape.head.at(M::HB);
  CHECK(e.by == "a helper");
  CHECK(e.day.iso() == "2026-11-03");
  CHECK(bench.build().tape.head.at(M::HC).by == "the workshop");
  CHECK(bench.text("measure-spread").contains(QStringLiteral("by a helper")));
}

TEST_CASE("lines of the digital tape carry a seal that tells spoilt ones", "[app][tape][digital]") {
  const QByteArray line = tape_line::sealed("READ 7 571.5");
  CHECK(line == "READ 7 571.5*" + line.mid(13, 2) + "\n");
  CHECK(*tape_line::opened(line) == "READ 7 571.5");
  for (int i = 0; i + 1 < line.size(); ++i) {
    QByteArray spoilt = line;
    spoilt[i] = spoilt[i] == '#' ? '$' : '#';
    CHECK_FALSE(tape_line::opened(spoilt));
  }
}

TEST_CASE(
    "pressing the simulated tape's button fills the field in hand and goes on to the next", "[app][tape][digital]") {
  Bench bench;
  bench.unfold("group-digital-tape");
  QTest::mouseClick(&bench.find<QPushButton>("tape-practise"), Qt::LeftButton);
  auto& press = bench.find<QPushButton>("tape-press");
  REQUIRE(QTest::qWaitFor([&] { return press.isEnabled(); }, 3000));
  CHECK(bench.text("tape-state").contains(QStringLiteral("simulated tape")));
  auto& station = bench.find<TapeStation>("station-tape");
  station.focusPlace(QStringLiteral("HC"));
  QTest::qWait(50);
  QTest::mouseClick(&press, Qt::LeftButton);
  REQUIRE(QTest::qWaitFor([&] { return bench.build().tape.head.at(M::HC).first_mm < 580.0; }, 3000));
  bench.settle();
  CHECK(bench.build().tape.head.at(M::HC).first_mm == Approx(571.0).margin(4.0));
  CHECK(bench.text("measure-title") != QStringLiteral("Head circumference"));
  bench.undo();
  CHECK(bench.build().tape.head.at(M::HC).first_mm == 584.0);
}

TEST_CASE("a crackling line and a lost connection cost no reading", "[app][tape][digital]") {
  SimulatedTape tape(
      [](const QString& code) { return code == QStringLiteral("HL") ? std::optional(195.0) : std::nullopt; },
      {0.5, 0.35, 9});
  const QString socket = QStringLiteral("noggin-awl-test-%1").arg(QCoreApplication::applicationPid());
  REQUIRE(tape.listen(socket));
  DigitalTape bench;
  QSignalSpy readings(&bench, &DigitalTape::reading);
  bench.want(QStringLiteral("HL"));
  bench.connectTo(socket);
  REQUIRE(QTest::qWaitFor([&] { return tape.wanted() == QStringLiteral("HL"); }, 5000));
  for (int n = 0; n < 12; ++n) {
    tape.press();
    REQUIRE(QTest::qWaitFor([&] { return readings.count() == n + 1 && tape.readingsTaken() == n + 1; }, 8000));
    CHECK(readings.last()[0].toDouble() == Approx(195.0).margin(2.5));
  }
  tape.dropLine();
  REQUIRE(QTest::qWaitFor([&] { return bench.state() == DigitalTape::State::looking; }, 3000));
  tape.press();
  REQUIRE(QTest::qWaitFor([&] { return readings.count() == 13; }, 8000));
  bench.disconnectTape();
  CHECK(bench.state() == DigitalTape::State::off);
}

TEST_CASE("whatever a hostile tape sends, nothing grows, nothing hangs, and a true one is heard after it",
    "[app][tape][digital]") {
  const auto hostile = GENERATE(0, 1, 2, 3);
  CAPTURE(hostile);
  const QString socket =
      QStringLiteral("noggin-awl-hostile-%1-%2").arg(QCoreApplication::applicationPid()).arg(hostile);
  DigitalTape bench;
  QSignalSpy readings(&bench, &DigitalTape::reading);
  {
    QLocalServer server;
    QLocalServer::removeServer(socket);
    REQUIRE(server.listen(socket));
    bench.want(QStringLiteral("HC"));
    bench.connectTo(socket);
    REQUIRE(server.waitForNewConnection(5000));
    QLocalSocket* line = server.nextPendingConnection();
    line->setReadBufferSize(1);  // it never listens
    bool gone = false;
    QObject::connect(line, &QLocalSocket::disconnected, line, [&] { gone = true; });
    if (hostile == 0) line->write(QByteArray(4'000'000, 'x'));                              // a line without an end
    if (hostile == 1) line->write(QByteArray("no such words at all\n").repeated(200'000));  // nothing but rubbish
    if (hostile == 2) line->write(tape_line::sealed("HELLO 1 " + QByteArray(400, 'n')));    // a name without an end
    if (hostile == 3)
      for (const char* body : {"READ 1 nan", "READ 2 1e400", "READ x 5", "READ 3", "READ 4 5 6", "HELLO", "", " "})
        line->write(tape_line::sealed(body));
    line->flush();
    QElapsedTimer clock;
    clock.start();
    while (!gone && clock.elapsed() < 1500) QTest::qWait(10);
    CHECK(gone == (hostile < 2));
    CHECK(bench.name().size() <= 60);
    CHECK(readings.count() == 0);
  }
  SimulatedTape tape([](const QString&) { return std::optional(571.0); }, {0.5, 0.0, 9});
  REQUIRE(tape.listen(socket));
  REQUIRE(QTest::qWaitFor([&] { return tape.wanted() == QStringLiteral("HC"); }, 8000));
  tape.press();
  REQUIRE(QTest::qWaitFor([&] { return readings.count() == 1; }, 8000));
  CHECK(readings.last()[0].toDouble() == Approx(571.0).margin(3.0));
}
