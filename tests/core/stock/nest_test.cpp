#include "core/stock/nest.hpp"

#include <catch2/catch.hpp>
#include <set>

#include "core/base/numbers.hpp"
#include "core/base/random.hpp"
#include "core/stuff/materials.hpp"
#include "support/bench_data.hpp"

using namespace awl;

namespace {

Piece shape(int number, std::vector<Vec2> outline, int copies = 1) {
  Piece p;
  p.id = PieceId{number - 1};
  p.number = number;
  p.name = "piece " + std::to_string(number);
  p.outline = std::move(outline);
  p.copies = copies;
  p.area_mm2 = signed_area_mm2(p.outline);
  return p;
}

/// A random star: concave, counter-clockwise.
Piece star(int number, Random& random) {
  std::vector<Vec2> outline;
  const int tips = 5 + static_cast<int>(random.next() % 5);
  for (int i = 0; i < 2 * tips; ++i) {
    const double r = (i % 2 == 0 ? 1.0 : 0.45) * random.uniform(30, 60), a = kPi * i / tips;
    outline.push_back(r * Vec2(std::cos(a), std::sin(a)));
  }
  return shape(number, outline, 1 + number % 2);
}

}  // namespace

TEST_CASE("squares fill a sheet row by row without overlap", "[stock][nest]") {
  std::vector<Piece> pieces;
  for (int i = 1; i <= 8; ++i) pieces.push_back(shape(i, {{0, 0}, {90, 0}, {90, 90}, {0, 90}}));
  const auto layout = nest(pieces, {400, 220}, {.gap_mm = 2.0, .margin_mm = 2.0});
  REQUIRE(layout);
  CHECK(layout->sheets == 1);
  CHECK(layout->overlap_mm2 == 0.0);
  CHECK(layout->density == Approx(8 * 8100.0 / (400 * 220)));
}

TEST_CASE("random concave pieces never overlap, keep their gap and stay on the sheet", "[stock][nest][property]") {
  Random random(GENERATE(range(1, 7)));
  std::vector<Piece> pieces;
  for (int i = 1; i <= 24; ++i) pieces.push_back(star(i, random));
  const NestOptions options{.gap_mm = 6.0, .margin_mm = 5.0};
  const auto layout = nest(pieces, {600, 400}, options);
  REQUIRE(layout);
  CHECK(overlap_area_mm2(pieces, *layout) < 0.01);
  std::size_t copies = 0;
  for (const Piece& p : pieces) copies += static_cast<std::size_t>(p.copies);
  CHECK(layout->placements.size() == copies);
  double closest = 1e9;
  for (std::size_t i = 0; i < layout->placements.size(); ++i) {
    const Placement& a = layout->placements[i];
    std::vector<Vec2> outline;
    for (const Vec2& q : pieces[a.piece.value].outline) {
      outline.push_back(a.pose(q));
      CHECK(outline.back().x() >= options.margin_mm - 0.01);
      CHECK(outline.back().y() >= options.margin_mm - 0.01);
      CHECK(outline.back().x() <= 600 - options.margin_mm + 0.01);
      CHECK(outline.back().y() <= 400 - options.margin_mm + 0.01);
    }
    for (std::size_t j = i + 1; j < layout->placements.size(); ++j) {
      const Placement& b = layout->placements[j];
      if (a.sheet != b.sheet) continue;
      for (const Vec2& q : pieces[b.piece.value].outline)
        closest = std::min(closest, distance_to_outline(outline, b.pose(q)));
    }
  }
  CHECK(closest >= options.gap_mm - 0.01);
}

TEST_CASE("what falls out of a large hole is stock for smaller pieces, with its gap", "[stock][nest]") {
  Piece frame = shape(1, {{0, 0}, {180, 0}, {180, 180}, {0, 180}});
  frame.holes = {{{30, 30}, {30, 150}, {150, 150}, {150, 30}}};
  std::vector<Piece> pieces{frame};
  for (int i = 0; i < 4; ++i) pieces.push_back(shape(i + 2, {{0, 0}, {50, 0}, {50, 50}, {0, 50}}));
  NestOptions options;
  options.gap_mm = 4.0;
  const auto layout = nest(pieces, {200, 200}, options);
  REQUIRE(layout);
  CHECK(layout->sheets == 1);  // by outlines alone a second one would be needed
  CHECK(layout->overlap_mm2 == 0.0);
  const Pose& pose = layout->placements[0].pose;
  REQUIRE(layout->placements[0].piece.value == 0);
  const std::vector<Vec2> room{pose({33.9, 33.9}), pose({146.1, 33.9}), pose({146.1, 146.1}), pose({33.9, 146.1})};
  for (const Placement& p : layout->placements)
    if (p.piece.value != 0)
      for (const Vec2& q : pieces[p.piece.value].outline) CHECK(inside(room, p.pose(q)));
  // A hole that is smaller than a postcard serves nobody, and none is ever cut into.
  pieces.front().holes = {{{80, 80}, {80, 100}, {100, 100}, {100, 80}}};
  const auto apart = nest(pieces, {200, 200}, options);
  REQUIRE(apart);
  CHECK(apart->sheets == 2);
  CHECK(claim_of(pieces.front(), 2.0).size() < 40);
}

TEST_CASE("pieces of different thickness never share a sheet", "[stock][nest]") {
  std::vector<Piece> pieces;
  for (int i = 1; i <= 6; ++i) {
    pieces.push_back(shape(i, {{0, 0}, {90, 0}, {90, 90}, {0, 90}}));
    pieces.back().thickness_mm = i % 2 == 0 ? 2.0 : 10.0;
  }
  const auto layout = nest(pieces, {1000.0, 600.0});
  REQUIRE(layout);
  CHECK(layout->sheets == 2);
  for (const Placement& p : layout->placements) CHECK(p.sheet == (pieces[p.piece.value].thickness_mm == 2.0 ? 0 : 1));
}

TEST_CASE("the second copy is flipped", "[stock][nest]") {
  const auto layout = nest({shape(1, {{0, 0}, {100, 0}, {0, 60}}, 2)}, {400, 400});
  REQUIRE(layout);
  CHECK(layout->placements[0].pose.flipped != layout->placements[1].pose.flipped);
}

TEST_CASE("a piece larger than the sheet is named with both sizes", "[stock][nest]") {
  const auto layout = nest({shape(1, {{0, 0}, {300, 0}, {300, 200}, {0, 200}})}, {250, 150});
  REQUIRE_FALSE(layout);
  CHECK(layout.error().code == Errc::out_of_range);
  CHECK(layout.error().where == "pieces/piece 1");
  CHECK(layout.error().text.find("300 x 200") != std::string::npos);
  CHECK(layout.error().text.find("250 x 150") != std::string::npos);
}

TEST_CASE("what is no sheet is refused, and nesting stops when asked", "[stock][nest]") {
  CHECK(nest({}, {10, 400}).error().where == "foam/sheet");
  const auto stopped =
      nest({shape(1, {{0, 0}, {30, 0}, {0, 30}})}, {400, 400}, {}, {}, Progress([](double) { return false; }));
  CHECK(stopped.error().code == Errc::cancelled);
}

TEST_CASE("an overlap is seen by the exact check", "[stock][nest]") {
  const std::vector<Piece> pieces{shape(1, {{0, 0}, {100, 0}, {100, 100}, {0, 100}}, 2)};
  Layout layout;
  layout.sheet = {500, 500};
  layout.sheets = 1;
  layout.placements = {{PieceId{0}, 0, {Vec2(10, 10), 0.0, false}}, {PieceId{0}, 0, {Vec2(60, 10), 0.0, false}}};
  CHECK(overlap_area_mm2(pieces, layout) == Approx(5000.0));
  layout.placements[1].pose.at = Vec2(450, 10);
  CHECK(overlap_area_mm2(pieces, layout) == Approx(5000.0));  // half of it hangs over the sheet's edge
  layout.placements[1].pose.at = Vec2(110, 10);
  CHECK(overlap_area_mm2(pieces, layout) == 0.0);  // edge to edge
  layout.placements[1].pose.at = Vec2(300, 300);
  layout.sheets = 2, layout.placements[1].sheet = 1;
  layout.blanks.resize(2);
  layout.blanks[0].outline = {{0, 0}, {500, 0}, {500, 500}, {0, 500}};
  layout.blanks[1].outline = {{0, 0}, {500, 0}, {500, 350}, {350, 350}, {350, 500}, {0, 500}};
  // The box of that offcut holds the piece, its outline does not.
  CHECK(overlap_area_mm2(pieces, layout) == Approx(2500.0));
}

TEST_CASE("a sheet's drawing shows its border and each copy once", "[stock][nest]") {
  const Derived d = test::chain()->derive(test::demo());
  REQUIRE(d.layout);
  const Drawing drawing = draw_sheet(*d.pieces, *d.layout, 0);
  const auto outlines =
      std::count_if(drawing.marks.begin(), drawing.marks.end(), [](const Mark& m) { return m.layer == Layer::cut; });
  CHECK(outlines == std::count_if(d.layout->placements.begin(), d.layout->placements.end(), [](const Placement& p) {
    return p.sheet == 0;
  }));
}

TEST_CASE("the shipped materials are complete and a missing one is named", "[stock][materials]") {
  const auto m = load_materials(data_folder() / "materials");
  REQUIRE(m);
  CHECK(m->foams.size() >= 4);
  for (const Foam& f : m->foams) {
    CHECK(f.strain_cold <= f.strain_heated);
    CHECK_FALSE(f.thickness_mm.empty());
  }
  for (const Glue& g : m->glues) CHECK_FALSE(g.caution.empty());
  CHECK(m->foam("moon-cheese").error().text.find("moon-cheese") != std::string::npos);
  const test::TempFolder folder;
  CHECK(load_materials(folder.path()).error().code == Errc::cannot_read);
  for (const char* name : {"foams.json", "glues.json", "coats.json"}) REQUIRE(write_file_safely(folder / name, "{}"));
  CHECK(load_materials(folder.path()).error().code == Errc::bad_file);
}

TEST_CASE("pieces of other kinds lie on sheets of their own, in the size that kind is sold in", "[stock][nest]") {
  std::vector<Piece> pieces{shape(1, {{0, 0}, {80, 0}, {80, 60}, {0, 60}}, 2),
      shape(2, {{0, 0}, {120, 0}, {120, 90}, {0, 90}}), shape(3, {{0, 0}, {50, 0}, {50, 50}, {0, 50}})};
  for (Piece& p : pieces) p.thickness_mm = 5.0;
  pieces[1].stuff = "soft-block", pieces[1].thickness_mm = 25.0;
  pieces[2].stuff = "fabric";
  NestStock stock;
  stock.others = {{"soft-block", 25.0, {400.0, 300.0}}};
  const auto layout = nest(pieces, {600.0, 400.0}, {}, stock);
  REQUIRE(layout);
  REQUIRE(layout->sheets == 3);
  for (const Placement& p : layout->placements) {
    const Blank& blank = layout->blanks[static_cast<std::size_t>(p.sheet)];
    CHECK(blank.stuff == pieces[static_cast<std::size_t>(p.piece.value)].stuff);
    CHECK(blank.thickness_mm == pieces[static_cast<std::size_t>(p.piece.value)].thickness_mm);
    CHECK(blank.area_mm2 == Approx(blank.stuff == "soft-block" ? 120000.0 : 240000.0));
  }
  CHECK(layout->blanks.front().stuff.empty());
  CHECK(layout->overlap_mm2 < 0.01);
  // What is left keeps its kind.
  std::set<std::string> kinds;
  for (const Offcut& o : leftovers(pieces, *layout, "eva-firm", 4.0)) kinds.insert(o.foam);
  CHECK(kinds == std::set<std::string>{"eva-firm", "fabric", "soft-block"});
  // Too large for its own sheet, though not for the build's.
  pieces[1].outline = {{0, 0}, {500, 0}, {500, 90}, {0, 90}};
  const auto large = nest(pieces, {600.0, 400.0}, {}, stock);
  REQUIRE_FALSE(large);
  CHECK(large.error().text.find("400 x 300") != std::string::npos);
}

TEST_CASE("an offcut of the build's foam is not cut up for another kind", "[stock][nest]") {
  std::vector<Piece> pieces{shape(1, {{0, 0}, {80, 0}, {80, 60}, {0, 60}})};
  pieces[0].thickness_mm = 5.0, pieces[0].stuff = "fabric";
  NestStock stock;
  stock.offcuts = {*make_offcut({4, "blue", "eva-firm", 5.0, {{0, 0}, {300, 0}, {300, 200}, {0, 200}}, {}})};
  const auto layout = nest(pieces, {600.0, 400.0}, {}, stock);
  REQUIRE(layout);
  CHECK(layout->blanks.front().offcut == 0);
  pieces[0].stuff.clear();
  CHECK(nest(pieces, {600.0, 400.0}, {}, stock)->blanks.front().offcut == 4);
}

TEST_CASE("a search on two threads gives the same layout every time", "[stock][nest][property]") {
  Random random(11);
  std::vector<Piece> pieces;
  for (int i = 1; i <= 14; ++i) pieces.push_back(star(i, random));
  for (Piece& p : pieces) p.thickness_mm = 5.0;
  const NestOptions options{.turns = 16, .tries = 9};
  const auto first = nest(pieces, {600.0, 400.0}, options), again = nest(pieces, {600.0, 400.0}, options);
  REQUIRE(first);
  REQUIRE(again);
  REQUIRE(first->placements.size() == again->placements.size());
  for (std::size_t i = 0; i < first->placements.size(); ++i) {
    CHECK(first->placements[i].pose.at == again->placements[i].pose.at);
    CHECK(first->placements[i].pose.angle_rad == again->placements[i].pose.angle_rad);
  }
}
