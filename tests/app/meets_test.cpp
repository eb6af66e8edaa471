#include <QImage>
#include <QListWidget>
#include <QPainter>
#include <QTemporaryDir>

#include "app/stations/form/form_station.hpp"
#include "core/base/numbers.hpp"
#include "core/io/build_file.hpp"
#include "core/judge/judge.hpp"
#include "support/bench_window.hpp"

using namespace awl;
using awl::test::Bench;

namespace {

const PartForm& formOf(Bench& bench, int part) {
  const auto d = bench.derived();
  REQUIRE(d.form);
  const PartForm* form = d.form->of(part);
  REQUIRE(form != nullptr);
  return *form;
}

const Part& hand(Bench& bench) { return *find_part(bench.build(), bench.window.document().partAtHand()); }

int tracesOf(Bench& bench, TraceKind kind) {
  int count = 0;
  for (const Piece& p : *bench.derived().pieces)
    for (const PieceTrace& t : p.traces) count += t.kind == kind ? 1 : 0;
  return count;
}

}  // namespace

TEST_CASE("a horn put on a hood is cut to it, and every other way of meeting is a choice away", "[app][form][meets]") {
  Bench bench;
  bench.go("form");
  bench.trigger("add-horn");
  REQUIRE(hand(bench).meets.size() == 1);
  CHECK(hand(bench).meets.front().how == MeetHow::sits);
  const int horn = hand(bench).id;
  CHECK_FALSE(formOf(bench, horn).surface.rim_tilt.empty());
  bench.open("form-meets");
  CHECK(bench.text("meets-said").contains(QStringLiteral("Meets the hood along ")));
  CHECK(bench.text("meets-said").contains(QStringLiteral("degrees from square")));
  const double area = formOf(bench, 1).area_mm2;

  bench.choose("meets-1", "opens");
  CHECK(formOf(bench, 1).area_mm2 < area - 500.0);
  CHECK(bench.text("meets-said").contains(QStringLiteral("are cut out of it")));
  REQUIRE(bench.derived().complete());

  bench.choose("meets-1", "through");
  CHECK(formOf(bench, horn).surface.rim_tilt.empty());

  bench.choose("meets-1", "skin");
  REQUIRE(bench.derived().complete());
  CHECK(bench.derived().form->of(horn) == nullptr);
  CHECK(bench.derived().form->holding(horn) == bench.derived().form->of(1));
  CHECK(bench.derived().form->shape_of(horn) != nullptr);
  CHECK(bench.text("meets-said").contains(QStringLiteral("One skin with the hood")));
  // What is dressed on a part that is no more by itself is said, not lost.
  Build dressed = bench.build();
  Detail rivets;
  rivets.id = 1, rivets.part = horn, rivets.name = "rivets of the horn";
  dressed.dress.details = {rivets};
  Hold magnets;
  magnets.id = 4, magnets.part = horn, magnets.by = HoldBy::magnets;
  dressed.fit.holds = {magnets};
  const auto said = judge(dressed, bench.derived(), test::materials());
  const auto skin = std::find_if(said.begin(), said.end(), [](const Remark& r) { return r.id == "dress.one-skin"; });
  REQUIRE(skin != said.end());
  CHECK(skin->sentence.find("is one skin with the hood now") != std::string::npos);
  CHECK(skin->where == "dress/1");
  const auto held = std::find_if(said.begin(), said.end(), [](const Remark& r) { return r.id == "fit.one-skin"; });
  REQUIRE(held != said.end());
  CHECK(held->where == "fit/hold/4");
  REQUIRE(held->remedies.size() == 1);
  CHECK(apply_act(dressed, held->remedies[0].act)->fit.holds.empty());
  const auto& seams = bench.derived().panels->seams;
  CHECK(std::count_if(seams.begin(), seams.end(), [](const Seam& s) {
    return s.name.find("horns on hood") != std::string::npos && !s.letter.empty() && s.length_3d_mm > 60.0;
  }) >= 2);
  for (const Panel& p : bench.derived().panels->panels) CHECK(p.flipped == 0);

  bench.choose("meets-1", "");
  CHECK(hand(bench).meets.empty());
  CHECK(formOf(bench, 1).area_mm2 == Approx(area));
  for (int i = 0; i < 4; ++i) bench.window.document().undoStack().undo();
  bench.settle();
  CHECK(hand(bench).meets.front().how == MeetHow::sits);
  // A first part has none before it, and says what would be here.
  bench.window.document().takeInHand(1);
  bench.settle();
  CHECK(bench.text("meets-empty").contains(QStringLiteral("The first part has none before it")));
}

TEST_CASE("what cannot meet stays as it is, and its remark takes it apart", "[app][form][meets]") {
  Bench bench;
  bench.go("form");
  bench.trigger("add-horn");
  const int horn = hand(bench).id;
  bench.type("dial-gap", "75");
  REQUIRE(bench.derived().complete());
  const auto& remarks = bench.derived().remarks;
  const auto told = std::find_if(remarks.begin(), remarks.end(), [](const Remark& r) { return r.id == "form.meets"; });
  REQUIRE(told != remarks.end());
  CHECK(told->sentence.find("mm above the hood; parts meet within 60 mm") != std::string::npos);
  CHECK(formOf(bench, horn).surface.rim_tilt.empty());
  const auto apart = apply_act(bench.build(), told->remedies.front().act);
  REQUIRE(apart);
  CHECK(find_part(*apart, horn)->meets.empty());
  // An act says the same to the shell.
  const auto again = apply_act(*apart, "meet " + std::to_string(horn) + " 1 through 2.5");
  REQUIRE(again);
  CHECK(find_part(*again, horn)->meets.front() == Meet{1, MeetHow::through, 2.5});
  CHECK(apply_act(*apart, "meet 1 9 sits").error().text == "There is no part number 9.");
}

TEST_CASE("bodies are added, kept in a file, and take their outline from a picture", "[app][form][bodies]") {
  Bench bench;
  bench.go("form");
  bench.trigger("add-leaf");
  REQUIRE(std::holds_alternative<BodySpec>(hand(bench).shape));
  CHECK(hand(bench).meets.size() == 1);
  REQUIRE(bench.derived().complete());
  QTemporaryDir folder;
  QImage picture(300, 200, QImage::Format_RGB32);
  picture.fill(Qt::white);
  QPainter painter(&picture);
  painter.setRenderHint(QPainter::Antialiasing);
  painter.setBrush(QColor(40, 50, 40));
  painter.setPen(Qt::NoPen);
  painter.drawEllipse(QRectF(90, 20, 80, 160));
  painter.end();
  const QString path = folder.filePath(QStringLiteral("egg.png"));
  REQUIRE(picture.save(path));
  auto& station = static_cast<FormStation&>(bench.window.station());
  station.takeOutline(path);
  bench.settle();
  const auto& body = std::get<BodySpec>(hand(bench).shape);
  CHECK(body.outline.size() > 8);
  CHECK(body.wide_mm == Approx(0.5 * body.tall_mm).epsilon(0.03));
  CHECK(bench.text("part-sentence").contains(QStringLiteral("The outline of egg.png was taken")));
  REQUIRE(bench.derived().complete());
  REQUIRE(save_build(folder.filePath(QStringLiteral("a.noggin")).toStdString(), bench.build()));
  const auto back = open_build(folder.filePath(QStringLiteral("a.noggin")).toStdString());
  REQUIRE(back);
  CHECK(back->parts == bench.build().parts);
  // A blank picture changes nothing and says so.
  picture.fill(Qt::white);
  REQUIRE(picture.save(path));
  const Build before = bench.build();
  station.takeOutline(path);
  CHECK(bench.build() == before);
  CHECK(bench.text("part-sentence").contains(QStringLiteral("There is nothing on this picture")));
  station.takeOutline(folder.filePath(QStringLiteral("none.png")));
  CHECK(bench.text("part-sentence").contains(QStringLiteral("none.png could not be opened")));
}

TEST_CASE("a headform is cast, stacked or carved from its own drawer", "[app][head][ways]") {
  Bench bench;
  bench.go("head");
  bench.choose("making", "headform");
  bench.choose("head-way", "cast");
  CHECK(bench.build().head_way.way == Way::cast);
  REQUIRE(bench.derived().complete());
  CHECK(bench.text("foam-head-summary").contains(QStringLiteral(" l of expanding foam")));
  CHECK(bench.text("foam-head-summary").contains(QStringLiteral("airways free")));
  CHECK_FALSE(bench.find<QComboBox>("head-block").isVisible());
  bench.choose("head-fill", "plaster");
  CHECK(bench.text("foam-head-summary").contains(QStringLiteral(" l of plaster")));
  bench.choose("head-way", "slabs");
  CHECK(bench.find<QComboBox>("head-block").isVisible());
  CHECK_FALSE(bench.find<QComboBox>("head-fill").isVisible());
  CHECK(bench.text("foam-head-summary").contains(QStringLiteral("slabs")));
  for (const Piece& p : *bench.derived().pieces) CHECK_FALSE(p.panel.valid());
  bench.choose("head-way", "skin");
  CHECK(bench.text("foam-head-summary").contains(QStringLiteral("of seam")));
}

TEST_CASE("guide lines are drawn on the pieces when asked for", "[app][foam][guides]") {
  Bench bench;
  bench.go("foam");
  CHECK(tracesOf(bench, TraceKind::level) == 0);
  auto& guides = bench.find<QCheckBox>("guides");
  bench.reveal(guides);
  guides.click();
  bench.settle();
  CHECK(bench.build().foam.guides);
  CHECK(tracesOf(bench, TraceKind::level) > 8);
  // Front and back on the belt, where it crosses the middle; both sides of a seam carry the word.
  std::map<std::string, int> words;
  for (const Piece& p : *bench.derived().pieces)
    for (const PieceEdge& e : p.edges)
      for (const Tick& t : e.ticks)
        if (!t.word.empty()) {
          ++words[t.word];
          CHECK(t.number == 0);
        }
  CHECK(words["left"] + words["right"] >= 2);
  // Levels lie where they say: 50 mm apart on the form, within the sheet's give on the piece.
  for (const Piece& p : *bench.derived().pieces)
    for (const PieceTrace& t : p.traces)
      if (t.kind == TraceKind::level) CHECK(t.label.rfind("level ", 0) == 0);
}

TEST_CASE("notches and slots are put on the pieces when asked for", "[app][foam][guides]") {
  Bench bench;
  bench.go("foam");
  const auto clips = [&] {
    std::size_t count = 0;
    for (const Piece& p : *bench.derived().pieces) count += p.clips.size();
    return count;
  };
  CHECK(clips() == 0);
  auto& notches = bench.find<QCheckBox>("notches");
  bench.reveal(notches);
  notches.click();
  bench.settle();
  CHECK(bench.build().foam.notched);
  CHECK(clips() > 20);
  bench.undo();
  CHECK(clips() == 0);
  // Thick cold foam does not go round a small head: the remark draws slots where they help.
  Build tight = bench.build();
  tight.foam.thickness_mm = 10.0, tight.foam.heated = false;
  bench.window.document().replace(tight, {});
  bench.settle();
  auto& tightOnes = bench.find<QCheckBox>("slots");
  bench.reveal(tightOnes);
  tightOnes.click();
  bench.settle();
  CHECK(bench.build().foam.slotted);
  CHECK(bench.derived().complete());
}

TEST_CASE("a hat's ring is told as a circle to draft by hand, and a rim is held by a band", "[app][form][card]") {
  Bench bench;
  bench.go("form");
  bench.trigger("add-cone-hat");
  const PartForm& hat = formOf(bench, hand(bench).id);
  const auto card = drafting_card(hat);
  REQUIRE(card);
  CHECK(card->radius_mm == Approx(hat.lower_girth_mm / kTwoPi));
  CHECK(card->wide_mm > 3.0);  // a head is longer than it is wide
  CHECK(card->short_mm > 3.0);
  bench.open("form-result");
  CHECK(bench.text("form-facts").contains(QStringLiteral("By hand: a circle of ")));
  const auto held = apply_act(bench.build(), "hold-rim 1 2");
  REQUIRE(held);
  const Detail& band = held->dress.details.back();
  CHECK(band.track.from == TrackFrom::rim);
  CHECK(band.track.number == 2);
  CHECK(std::get<Strip>(band.shape).lies == Strip::Lies::inside);
  CHECK(check_inputs(*held));
  CHECK(apply_act(bench.build(), "hold-rim 7 1").error().text == "There is no part number 7.");
}

TEST_CASE("a seam no blade can be tilted for is told once, with what a hand can do instead", "[app][form][steep]") {
  Bench bench;
  bench.go("form");
  bench.trigger("add-leaf");
  bench.window.document().change(QStringLiteral("whole"), [](Build b) {
    std::get<BodySpec>(b.parts.back().shape).deep_mm = 14.0;  // flat, so sharp at its edge
    return b;
  });
  bench.settle();
  const auto steep = [&]() -> const Remark* {
    static Derived d;
    d = bench.derived();
    for (const Remark& r : d.remarks)
      if (r.id == "seam.steep") return &r;
    return nullptr;
  };
  const Remark* told = steep();
  REQUIRE(told != nullptr);
  CHECK(told->sentence.find("a hand cuts 45\u00b0: cut it in two") != std::string::npos);
  REQUIRE(told->remedies.size() == 2);
  const std::string twice = told->remedies[0].act, strip = told->remedies[1].act;
  bench.window.document().change(QStringLiteral("x"), [&](const Build& b) { return apply_act(b, twice); });
  bench.settle();
  CHECK(steep() == nullptr);
  double out = 0.0;
  for (const Piece& p : *bench.derived().pieces)
    for (const PieceEdge& e : p.edges)
      if (e.cut == EdgeCut::two_cuts) {
        out = std::max(out, e.margin_mm);
        CHECK(std::abs(signed_area_mm2(p.cut_line)) > p.area_mm2);
      }
  CHECK(out > bench.build().foam.thickness_mm);  // more than a blade at 45 degrees would leave
  bench.window.document().undoStack().undo();
  bench.settle();
  bench.window.document().change(QStringLiteral("x"), [&](const Build& b) { return apply_act(b, strip); });
  bench.settle();
  REQUIRE(bench.derived().complete());
  CHECK(steep() == nullptr);
  REQUIRE(bench.build().foam.cuts.size() == 1);
  CHECK(bench.build().foam.cuts.front().cut == EdgeCut::square);
  CHECK(bench.build().dress.details.back().track.from == TrackFrom::seam);
  bench.window.document().undoStack().undo();
  bench.settle();
  CHECK(steep() != nullptr);
  const auto over =
      apply_act(bench.build(), "cut-seam overlap" + twice.substr(std::string("cut-seam two-cuts").size()));
  REQUIRE(over);
  CHECK(over->foam.cuts.front().cut == EdgeCut::overlap);
  CHECK(apply_act(bench.build(), "cut-seam overlap 2").error().text == "Which of its seams is meant?");
}
