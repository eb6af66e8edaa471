#include <QListWidget>
#include <QPlainTextEdit>
#include <set>

#include "app/stand/far_look.hpp"
#include "app/stations/book/book_station.hpp"
#include "app/stations/coat/coat_station.hpp"
#include "core/base/data_files.hpp"
#include "core/base/numbers.hpp"
#include "core/derived/colour_map.hpp"
#include "support/bench_window.hpp"

using namespace awl;
using awl::test::Bench;

namespace {

CoatStation& coatOf(Bench& bench, const char* demo) {
  bench.window.document().replace(*demo_by_name(demo, Day{20794}), {});
  bench.go("coat");
  bench.settle();
  return dynamic_cast<CoatStation&>(bench.window.station());
}

QString nextTitle(Bench& bench) { return bench.find<QLabel>("plan-next-title").text(); }

}  // namespace

TEST_CASE("the next thing to do stands largest, is begun, done, and the rest is planned from then on", "[app][coat]") {
  const test::TempFolder home;
  qputenv("XDG_DATA_HOME", QByteArray::fromStdString(home.path().string()));
  Bench bench;
  CoatStation& station = coatOf(bench, "ferry-keeper");
  Moment clock = midnight_of(Day{20794}) + 9 * 60 + 10;
  station.now = [&] { return clock; };
  const QString first = nextTitle(bench);
  CHECK(first == QStringLiteral("Trace and cut the pieces"));
  CHECK(bench.find<QLabel>("plan-next-caution").text().contains(QStringLiteral("blade")));
  bench.click("plan-begin");
  CHECK_FALSE(bench.find<QPushButton>("plan-begin").isVisible());
  clock += 95;
  bench.click("plan-done");
  bench.settle();
  REQUIRE(bench.build().coat.ticks.size() == 1);
  CHECK(bench.build().coat.ticks.front().start == "2026-12-07T09:10");
  CHECK(bench.build().coat.ticks.front().end == "2026-12-07T10:45");
  CHECK(nextTitle(bench) != first);
  CHECK(bench.derived().plan->next()->start >= clock);
  // The hours are in the book, and shown there.
  bench.go("book");
  CHECK(bench.text("job-hours").contains(QStringLiteral("1 h 35 min")));
  CHECK(bench.find<QListWidget>("job-work").count() == 1);
  // A tick is taken back by its box.
  bench.go("coat");
  PlanView& days = station.plan().days();
  const QRect box = days.boxOf(QStringLiteral("cut/all/1"));
  REQUIRE_FALSE(box.isEmpty());
  QTest::mouseClick(&days, Qt::LeftButton, Qt::NoModifier, box.center());
  bench.settle();
  CHECK(bench.build().coat.ticks.empty());
  CHECK(nextTitle(bench) == first);
  // A clock that was set back makes no negative hours.
  bench.click("plan-begin");
  clock -= 500;
  bench.click("plan-done");
  bench.settle();
  CHECK(bench.build().coat.ticks.front().start == bench.build().coat.ticks.front().end);
}

TEST_CASE("steps are chosen and ticked from the keyboard", "[app][coat]") {
  Bench bench;
  CoatStation& station = coatOf(bench, "reed-mask");
  PlanView& days = station.plan().days();
  days.setFocus();
  QTest::keyClick(&days, Qt::Key_Down);
  CHECK(days.chosen() == QString::fromStdString(bench.derived().plan->steps.front().id));
  QTest::keyClick(&days, Qt::Key_Space);
  bench.settle();
  CHECK(bench.build().coat.ticks.size() == 1);
  bench.undo();
  bench.settle();
  CHECK(bench.build().coat.ticks.empty());
}

TEST_CASE("the stand wears the colours, and before a step what is on by then", "[app][coat][colours]") {
  Bench bench;
  CoatStation& station = coatOf(bench, "ferry-keeper");
  const auto look = station.standChoice().painted;
  REQUIRE(look);
  CHECK(look->on == bench.derived().form);
  const int iron = find_pigment(bench.build().coat, 1)->rgb;
  CHECK(look->rgb_of_face.front() == iron);
  CHECK_FALSE(look->rgb_of_detail.empty());
  emit station.plan().days().stepChosen(QStringLiteral("cut/all/1"));
  CHECK(station.standChoice().painted->rgb_of_face.front() == -1);
  emit station.plan().days().stepChosen(QStringLiteral("cut/all/1"));
  CHECK(station.standChoice().painted->rgb_of_face.front() == iron);
}

TEST_CASE("colours are given, changed and taken away in the tray", "[app][coat][colours]") {
  Bench bench;
  Build b = *demo_by_name("heron-warden", Day{20794});
  b.coat.areas.clear();
  b.coat.pigments.clear();
  bench.window.document().replace(b, {});
  bench.go("coat");
  bench.settle();
  bench.click("colour-parts");
  bench.settle();
  CHECK(bench.build().coat.areas.size() == 3);
  auto& list = bench.find<QListWidget>("colour-list");
  REQUIRE(list.count() == 3);
  list.setCurrentRow(1);
  CHECK(bench.text("colour-words").contains(QStringLiteral("of 3")));
  bench.choose("colour-paint", "spray");
  bench.settle();
  CHECK(bench.build().coat.areas[1].paint == "spray");
  bench.find<QSpinBox>("colour-coats").setValue(4);
  bench.settle();
  CHECK(bench.build().coat.areas[1].coats == 4);
  bench.find<QCheckBox>("colour-hard").click();
  bench.settle();
  CHECK(bench.build().coat.areas[1].hard_edge);
  // A click on the form chooses the colour there.
  auto& station = dynamic_cast<CoatStation&>(bench.window.station());
  const auto& faces = bench.derived().form->faces.outer;
  station.wornClicked(faces.vertices[bench.derived().form->surface.mesh.triangles.front()[0]]);
  CHECK(list.currentItem()->data(Qt::UserRole).toInt() == bench.derived().colours->area_of_face.front());
  bench.click("colour-gone");
  bench.settle();
  CHECK(bench.build().coat.areas.size() == 2);
  bench.click("colour-add");
  bench.settle();
  CHECK(bench.build().coat.areas.size() == 3);
}

TEST_CASE("what lies between lines is drawn round, offered, pointed at and painted", "[app][coat][colours]") {
  Bench bench;
  bench.go("coat");
  bench.settle();
  bench.click("colour-draw");
  bench.settle();
  CHECK(bench.window.station().id() == QStringLiteral("seams"));
  REQUIRE(bench.find<QPushButton>("seam-draw").isChecked());
  StandView& stand = bench.window.stand();
  stand.look(static_cast<float>(0.5 * kPi), 0.0f);
  const QPoint middle(stand.width() / 2, stand.height() / 2);
  for (int k = 0; k < 6; ++k) {
    stand.finishedPicture();
    QTest::mouseClick(&stand, Qt::LeftButton, {},
        middle +
            QPoint(
                20 + static_cast<int>(30 * std::cos(kPi * k / 3)), static_cast<int>(30 * std::sin(kPi * k / 3)) - 50));
    QApplication::processEvents();
  }
  QTest::keyClick(&bench.window, Qt::Key_Return);
  bench.settle();
  bench.click("seam-close");
  bench.settle();
  const auto& lines = find_part(bench.build(), bench.window.document().partAtHand())->drawn;
  REQUIRE(lines.size() == 1);
  CHECK(lines[0].role == LineRole::colours);
  CHECK(lines[0].closed);
  CHECK_FALSE(lines[0].cuts());
  bench.go("coat");
  bench.settle();
  auto& station = dynamic_cast<CoatStation&>(bench.window.station());
  station.drawers().setOpen(QStringLiteral("colours"));
  REQUIRE(bench.derived().colours);
  REQUIRE(bench.derived().colours->ground);
  const PaintGround& ground = *bench.derived().colours->ground;
  REQUIRE(ground.fields.size() == 3);
  // A click on it on the stand chooses what could be given a colour, and its border is lit.
  const auto small = std::min_element(ground.fields.begin(), ground.fields.end(),
      [](const PaintField& a, const PaintField& b) { return a.area_mm2 < b.area_mm2; });
  station.wornClicked(small->within);
  auto& offer = bench.find<QComboBox>("colour-offer");
  CHECK(offer.currentText().startsWith(QStringLiteral("between lines: ")));
  CHECK(offer.currentText().contains(QStringLiteral("both sides")));
  CHECK_FALSE(station.standChoice().own_lines.empty());
  bench.click("colour-add");
  bench.settle();
  REQUIRE(bench.build().coat.areas.size() == 1);
  CHECK(bench.build().coat.areas[0].of.starts_with("field 1 "));
  CHECK(bench.derived().colours->lost.empty());
  CHECK(bench.derived().colours->area_mm2.at(0) == Approx(2.0 * small->area_mm2).epsilon(0.03));
  CHECK(bench.text("colour-words").contains(QStringLiteral("cm")));
  const auto look = station.standChoice().painted;
  REQUIRE(look);
  REQUIRE(look->ground);
  const int own = bench.build().coat.pigments.at(0).rgb;
  CHECK(std::count(look->rgb_of_face.begin(), look->rgb_of_face.end(), own) > 20);
  CHECK(std::count(look->rgb_of_face.begin(), look->rgb_of_face.end(), -1) > 1000);
  // It is not offered twice.
  for (int i = 0; i < offer.count(); ++i) CHECK_FALSE(offer.itemText(i).contains(QStringLiteral("both sides")));
  // Without its line it says so, and nothing is lost.
  bench.undo();
  CHECK(bench.build().coat.areas.empty());
}

TEST_CASE("ways, days and the room change the plan, and prices what is asked", "[app][coat]") {
  Bench bench;
  coatOf(bench, "ferry-keeper");
  bench.choose("coat-seams", "cover");
  bench.settle();
  CHECK_FALSE(bench.build().coat.fill_seams);
  CHECK(bench.build().coat.bare_seams == SeamLook::cover);
  bench.choose("coat-shade", "oil");
  bench.settle();
  const Moment slow = bench.derived().plan->ready;
  bench.choose("coat-shade", "none");
  bench.settle();
  CHECK(bench.derived().plan->ready < slow);
  bench.find<QToolButton>("coat-weekday-2").click();  // Wednesday
  bench.settle();
  for (const PlannedStep& s : bench.derived().plan->steps) CHECK(day_of(s.start).spoken().substr(0, 3) != "Wed");
  bench.find<QPushButton>("coat-closed-put").click();
  bench.settle();
  CHECK(bench.build().coat.closed.size() == 1);
  const Moment warm = bench.derived().plan->ready;
  bench.find<QDoubleSpinBox>("coat-temperature").setValue(8.0);
  bench.settle();
  CHECK(bench.derived().plan->ready >= warm);
  bench.choose("coat-joint-glue", "epoxy");
  bench.settle();
  REQUIRE(bench.build().coat.joint_glues.size() == 1);
  const QString before = bench.text("coat-quote");
  CHECK(before.contains(QStringLiteral("Ask for")));
  bench.find<QDoubleSpinBox>("coat-rate").setValue(40.0);
  bench.settle();
  CHECK(bench.text("coat-quote") != before);
  CHECK(bench.text("coat-needs").contains(QStringLiteral("ml")));
}

TEST_CASE("a commission is written down, found again, and a wearer forgotten for good", "[app][book]") {
  const test::TempFolder home;
  qputenv("XDG_DATA_HOME", QByteArray::fromStdString(home.path().string()));
  Bench bench;
  bench.go("book");
  bench.click("book-put");
  bench.find<QPlainTextEdit>("job-wishes").setPlainText(QStringLiteral("a crest that folds"));
  bench.find<QDoubleSpinBox>("job-price").setValue(415.0);
  bench.find<QLineEdit>("job-fit-note").setText(QStringLiteral("tight at the temples"));
  bench.click("job-fit-add");
  CHECK(bench.find<QListWidget>("job-fittings").count() == 1);
  bench.find<QLineEdit>("job-change-text").setText(QStringLiteral("let out by 3 mm"));
  bench.click("job-change-add");
  CHECK(bench.find<QListWidget>("job-fittings").count() == 2);
  bench.find<QLineEdit>("job-search").setText(QStringLiteral("fold"));
  CHECK(bench.find<QListWidget>("job-found").count() == 1);
  bench.find<QLineEdit>("job-search").setText(QStringLiteral("nothing such"));
  CHECK(bench.find<QListWidget>("job-found").count() == 0);
  auto& book = dynamic_cast<BookStation&>(bench.window.station());
  CHECK(bench.text("book-all-of").contains(QStringLiteral("1 jobs")));
  book.carryOut(QString::fromStdString((home / "out").string()));
  CHECK(std::filesystem::exists(home / "out" / "notes.txt"));
  // What was saved of the build is known, and deleted at the second press.
  const auto saved = home / "heads" / "bream.noggin";
  std::filesystem::create_directories(saved.parent_path());
  REQUIRE(bench.window.saveTo(QString::fromStdString(saved.string())));
  bench.go("coat");
  bench.go("book");
  CHECK(bench.text("book-files").contains(QStringLiteral("bream.noggin")));
  bench.click("book-files-delete");
  CHECK(std::filesystem::exists(saved));
  bench.click("book-files-delete");
  CHECK_FALSE(std::filesystem::exists(saved));
  CHECK(bench.text("book-files").contains(QStringLiteral("No files")));
  bench.click("book-forget");
  CHECK(bench.find<QPushButton>("book-forget").text().contains(QStringLiteral("again")));
  bench.click("book-forget");
  CHECK(bench.text("book-all-of").contains(QStringLiteral("Nobody")));
  const auto bytes = read_file(Book::path().toStdString());
  REQUIRE(bytes);
  CHECK(bytes->find("temples") == std::string::npos);
}

TEST_CASE("what slips is said, notes go into the book, fittings stand in the days", "[app][coat]") {
  const test::TempFolder home;
  qputenv("XDG_DATA_HOME", QByteArray::fromStdString(home.path().string()));
  Bench bench;
  CoatStation& station = coatOf(bench, "reed-mask");
  Moment clock = midnight_of(Day{20794}) + 9 * 60;
  station.now = [&] { return clock; };
  const Plan& plan = *bench.derived().plan;
  CHECK(bench.text("plan-slips").contains(QStringLiteral("A day later")));
  // A step with slack to spare moves nothing of the end; the first one does.
  const auto slips = what_slips(plan.project, plan.found, plan.steps.front().id, 1440);
  REQUIRE(slips);
  CHECK(bench.text("plan-slips").contains(QString::fromStdString(day_of(slips->ready).spoken())));
  const PlannedStep last = plan.steps.back();
  emit station.plan().days().stepChosen(QString::fromStdString(last.id));
  CHECK(bench.text("plan-slips").startsWith(QString::fromStdString(last.name)));
  auto& note = bench.find<QLineEdit>("plan-note");
  CHECK(note.placeholderText().contains(QString::fromStdString(last.name)));
  QTest::keyClicks(&note, QStringLiteral("thinner next time"));
  QTest::keyClick(&note, Qt::Key_Return);
  CHECK(note.text().isEmpty());
  QTest::keyClicks(&note, QStringLiteral("and warmer"));
  QTest::keyClick(&note, Qt::Key_Return);
  auto book = ShopBook::open(Book::path().toStdString());
  REQUIRE(book);
  JobPages pages(*book);
  const int job = pages.jobs()->front().id;
  REQUIRE(pages.work(job)->size() == 1);
  CHECK(pages.work(job)->front().note == "thinner next time and warmer");
  CHECK(pages.work(job)->front().step == last.id);
  CHECK(pages.logs()->empty());  // a note alone is no hour
  // A fitting to come is seen in the plan's days.
  REQUIRE(pages.keep(Fitting{0, job, day_of(plan.steps.front().start), Day{0}, "strap and snout"}));
  const QImage before = station.plan().days().grab().toImage();
  bench.go("book");
  CHECK(bench.find<QListWidget>("job-work").item(0)->text().contains(QStringLiteral("warmer")));
  bench.go("coat");
  CHECK(station.plan().days().grab().toImage() != before);
}

TEST_CASE("one joint's seams, a fade, and a look from afar are chosen in the trays", "[app][coat][colours]") {
  Bench bench;
  CoatStation& station = coatOf(bench, "ferry-keeper");
  bench.choose("coat-seam-look", "leave");
  bench.settle();
  REQUIRE(bench.build().coat.joint_looks.size() == 1);
  CHECK(bench.build().coat.joint_looks.front().joint ==
      bench.find<QComboBox>("coat-seam-joint").currentText().toStdString());
  bench.choose("coat-seam-look", "-");
  bench.settle();
  CHECK(bench.build().coat.joint_looks.empty());
  const int area = bench.build().coat.areas.front().id;
  emit station.wornClicked(bench.derived().form->faces.outer.vertices.front());
  auto& fade = bench.find<QComboBox>("colour-fade");
  REQUIRE(fade.count() > 1);
  fade.setCurrentIndex(1);
  emit fade.activated(1);
  bench.settle();
  const auto& areas = bench.build().coat.areas;
  const auto faded = std::find_if(areas.begin(), areas.end(), [](const ColourArea& a) { return a.fades_to != 0; });
  REQUIRE(faded != areas.end());
  CHECK(area > 0);
  const auto look = station.standChoice().painted;
  REQUIRE(look);
  std::set<int> seen(look->rgb_of_face.begin(), look->rgb_of_face.end());
  CHECK(seen.size() > 4);
  CHECK(seen.count(find_pigment(bench.build().coat, faded->fades_to)->rgb) == 1);
  CHECK(bench.text("colour-words").contains(QStringLiteral("mixes")));
  CHECK(station.standChoice().seen_from_m == 0.0);
  auto& at = bench.find<QDoubleSpinBox>("colour-read-at");
  at.setValue(20.0);
  bench.settle();
  CHECK(bench.build().coat.read_at_m == 20.0);
  CHECK(bench.text("colour-far").contains(QStringLiteral("17.5")));
  bench.find<QCheckBox>("colour-from-afar").click();
  CHECK(station.standChoice().seen_from_m == 20.0);
}

TEST_CASE("from afar fine stripes run into one and broad ones do not", "[app][stand]") {
  const auto stripes = [](int wide) {
    QImage image(240, 80, QImage::Format_RGB32);
    for (int y = 0; y < image.height(); ++y)
      for (int x = 0; x < image.width(); ++x) image.setPixel(x, y, x / wide % 2 == 0 ? 0xff000000 : 0xffffffff);
    return image;
  };
  const auto contrast = [](const QImage& image) {
    int least = 255, most = 0;
    for (int x = 40; x < 200; ++x) {
      least = std::min(least, qGray(image.pixel(x, 40)));
      most = std::max(most, qGray(image.pixel(x, 40)));
    }
    return most - least;
  };
  // From 20 m a stroke of 5.8 mm is what the eye resolves.
  CHECK(contrast(madeOutFrom(stripes(1), 1.0, 20.0)) < 60);
  CHECK(contrast(madeOutFrom(stripes(24), 1.0, 20.0)) > 200);
  CHECK(madeOutFrom(stripes(1), 1.0, 2.0) == stripes(1));
  CHECK(apparentScale(1.0, 20.0, 0.25) == Approx(0.12));
  QImage alone(100, 60, QImage::Format_RGB32);
  alone.fill(0xffc0c0c0);
  CHECK(withoutBackground(alone) == alone.rect());
  for (int x = 40; x < 50; ++x)
    for (int y = 20; y < 30; ++y) alone.setPixel(x, y, 0xff202020);
  CHECK(withoutBackground(alone) == QRect(36, 16, 18, 18));
}
