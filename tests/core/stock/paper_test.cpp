// Patterns on printed pages.
#include "core/stock/paper.hpp"

#include <catch2/catch.hpp>
#include <cmath>

#include "core/geom/polygon.hpp"
#include "support/bench_data.hpp"
#include "support/plain_shapes.hpp"

using namespace awl;

namespace {

Piece rectangle(int number, double wide, double high) {
  const std::vector<Vec2> outline{{0, 0}, {wide, 0}, {wide, high}, {0, high}};
  return plate_piece("plate " + std::to_string(number), number, outline, {}, 5.0);
}

/// Every place of every outline lies on a page of its spread that is printed.
void check_covered(const Spread& s, const std::vector<Piece>& pieces, const PaperPage& page) {
  const Vec2 step(page.width_mm - page.overlap_mm, page.height_mm - page.overlap_mm);
  for (std::size_t i = 0; i < s.pieces.size(); ++i) {
    const Piece& piece = pieces[static_cast<std::size_t>(s.pieces[i].value)];
    for (const Vec2& place : piece.knife_line()) {
      const Vec2 p = s.poses[i](place);
      bool seen = false;
      for (int r = 0; r < s.rows; ++r)
        for (int c = 0; c < s.columns; ++c) {
          const Vec2 on = p - Vec2(c * step.x(), r * step.y());
          seen = seen ||
              (s.uses(c, r) && on.x() > -1e-6 && on.y() > -1e-6 && on.x() < page.width_mm + 1e-6 &&
                  on.y() < page.height_mm + 1e-6);
        }
      CAPTURE(piece.name, p.x(), p.y(), s.columns, s.rows);
      CHECK(seen);
    }
  }
}

}  // namespace

TEST_CASE(
    "a pattern that fits a page is whole on one, a larger one lies over as few as any turn needs", "[stock][paper]") {
  const PaperPage page{194.0, 257.0, 10.0};
  std::vector<Piece> pieces{rectangle(1, 180.0, 240.0), rectangle(2, 240.0, 180.0), rectangle(3, 60.0, 60.0),
      rectangle(4, 60.0, 60.0), rectangle(5, 190.0, 480.0), rectangle(6, 280.0, 15.0)};
  const auto spreads = spread_on_paper(pieces, page);
  REQUIRE(spreads);
  std::vector<int> pages_of(pieces.size() + 1, 0);
  int laid = 0;
  for (const Spread& s : *spreads) {
    check_covered(s, pieces, page);
    for (const PieceId id : s.pieces) pages_of[static_cast<std::size_t>(id.value) + 1] = s.pages(), ++laid;
  }
  CHECK(laid == 6);
  CHECK(pages_of == std::vector<int>{0, 1, 1, 1, 1, 2, 1});  // 280 x 15 lies aslant
  for (const Spread& s : *spreads)
    if (s.pages() == 2) CHECK(s.joins() == 1);
  // The small ones and the long one share a page.
  CHECK(spreads->size() == 4);
}

TEST_CASE("patterns of one part stay together, in the order of their numbers", "[stock][paper]") {
  std::vector<Piece> pieces;
  for (int i = 1; i <= 6; ++i) pieces.push_back(rectangle(i, 40.0 + i, 50.0));
  const auto part_of = [](const Piece& p) { return std::string(p.number % 2 == 0 ? "even" : "odd"); };
  const auto spreads = spread_on_paper(pieces, {}, part_of);
  REQUIRE(spreads);
  REQUIRE(spreads->size() == 2);
  CHECK((*spreads)[0].title == "odd: pieces 1, 3, 5");
  CHECK((*spreads)[1].title == "even: pieces 2, 4, 6");
}

TEST_CASE("pages without room, and stopping, are told", "[stock][paper]") {
  const std::vector<Piece> pieces{rectangle(1, 40.0, 50.0)};
  const auto none = spread_on_paper(pieces, {50.0, 250.0, 10.0});
  REQUIRE_FALSE(none);
  CHECK(none.error().text.find("50 x 250 mm") != std::string::npos);
  const auto stopped = spread_on_paper(pieces, {}, {}, Progress([](double) { return false; }));
  REQUIRE_FALSE(stopped);
  CHECK(stopped.error().code == Errc::cancelled);
}

TEST_CASE(
    "of every demo each pattern is printed once, and far fewer pages are glued than for its sheets", "[stock][paper]") {
  const PaperPage page{194.0, 257.0, 10.0};
  for (const char* demo : {"hood", "heron-warden", "reed-mask"}) {
    CAPTURE(demo);
    const Derived d = test::chain()->derive(*demo_by_name(demo, Day{20731}));
    REQUIRE(d.layout);
    const auto spreads = spread_on_paper(*d.pieces, page, {});
    REQUIRE(spreads);
    std::multiset<int> laid;
    for (const Spread& s : *spreads) {
      check_covered(s, *d.pieces, page);
      for (const PieceId id : s.pieces) laid.insert(id.value);
      if (s.pages() == 1) {
        double area = 0.0;
        Rings all;
        for (std::size_t i = 0; i < s.pieces.size(); ++i) {
          std::vector<Vec2> outline = (*d.pieces)[static_cast<std::size_t>(s.pieces[i].value)].outline;
          for (Vec2& p : outline) p = s.poses[i](p);
          area += std::abs(signed_area_mm2(outline)), all.push_back(outline);
        }
        CHECK(region_area_mm2(united(all)) == Approx(area).epsilon(1e-4));  // none over another
      }
    }
    CHECK(laid.size() == d.pieces->size());
    CHECK(std::set<int>(laid.begin(), laid.end()).size() == d.pieces->size());
  }
}
