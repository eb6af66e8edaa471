#include <catch2/catch.hpp>

#include "core/base/numbers.hpp"
#include "core/stock/bit_sheet.hpp"
#include "core/stuff/materials.hpp"
#include "core/stock/nest.hpp"
#include "core/base/random.hpp"
#include "support/bench_data.hpp"

using namespace awl;

namespace {

Piece box(int number, double w, double h, int copies = 1) {
  Piece p = plate_piece("box " + std::to_string(number), number, {{0, 0}, {w, 0}, {w, h}, {0, h}}, {}, 5.0);
  p.copies = copies;
  return p;
}

Offcut offcut(int id, std::vector<Vec2> outline) {
  return {id, "odd " + std::to_string(id), "eva-firm", 5.0, std::move(outline), Day{20000}};
}

/// Lumps with bays, as helmets' pieces are.
std::vector<Piece> lumps(std::uint64_t seed, int count) {
  Random r(seed);
  std::vector<Piece> pieces;
  for (int n = 1; n <= count; ++n) {
    std::vector<Vec2> line;
    const double wide = r.uniform(30, 90), tall = r.uniform(30, 120), bay = r.uniform(0.0, 0.6),
                 turn = r.uniform(0, 6.28);
    for (int i = 0; i < 40; ++i) {
      const double a = kTwoPi * i / 40, s = 1.0 - bay * bell(std::remainder(a - turn, kTwoPi), 0.5);
      line.push_back({wide * s * std::cos(a), tall * s * std::sin(a)});
    }
    pieces.push_back(plate_piece("lump " + std::to_string(n), n, line, {}, 5.0));
    pieces.back().copies = 1 + n % 2;
  }
  return pieces;
}

}  // namespace

TEST_CASE("a mask tried at all heights at once finds what trying cell by cell finds", "[stock][nest][property]") {
  Random r(GENERATE(range(1, 25)));
  const int columns = 40, rows = 90 + static_cast<int>(r.next() % 60);
  BitSheet sheet(columns, rows);
  std::vector<std::vector<char>> taken(columns, std::vector<char>(rows, 0));
  const auto blob = [&](double most) {
    std::vector<Vec2> line;
    for (int i = 0; i < 9; ++i)
      line.push_back(r.uniform(0.3, 1.0) * most * Vec2(std::cos(kTwoPi * i / 9), std::sin(kTwoPi * i / 9)));
    return CellMask::of(line, 1.0);
  };
  for (int i = 0; i < 12; ++i) {
    const CellMask mask = blob(9.0);
    const int c = static_cast<int>(r.next() % static_cast<unsigned>(columns - mask.columns + 1)),
              row = static_cast<int>(r.next() % static_cast<unsigned>(rows - mask.rows + 1));
    sheet.take(mask, c, row);
    for (const auto& run : mask.runs)
      for (int y = run.from; y <= run.to; ++y) taken[c + run.column][row + y] = 1;
  }
  const CellMask probe = blob(7.0);
  for (int c = 0; c + probe.columns <= columns; ++c) {
    int first = -1;
    for (int row = 0; row + probe.rows <= rows && first < 0; ++row) {
      bool free = true;
      for (const auto& run : probe.runs)
        for (int y = run.from; y <= run.to; ++y) free = free && !taken[c + run.column][row + y];
      if (free) first = row;
    }
    CHECK(sheet.lowest_free(probe, c) == first);
  }
}

TEST_CASE("the cells of a mask are those whose middle lies within its outline", "[stock][nest][property]") {
  for (const Piece& piece : lumps(17, 30)) {
    const double cell_mm = 3.0;
    const CellMask mask = CellMask::of(piece.outline, cell_mm);
    std::vector<std::vector<char>> in(mask.columns, std::vector<char>(mask.rows, 0));
    for (const auto& run : mask.runs)
      for (int r = run.from; r <= run.to; ++r) in[run.column][r] = 1;
    int differ = 0, many = 0;
    for (int c = 0; c < mask.columns; ++c)
      for (int r = 0; r < mask.rows; ++r) {
        differ += (in[c][r] != 0) != inside(piece.outline, mask.low + cell_mm * Vec2(c + 0.5, r + 0.5)) ? 1 : 0;
        many += in[c][r];
      }
    CHECK(differ == 0);
    CHECK(many * cell_mm * cell_mm == Approx(piece.area_mm2).epsilon(0.05));
  }
}

TEST_CASE("offcuts are used before a new sheet, the smallest that holds something first", "[stock][nest]") {
  NestStock stock;
  stock.offcuts = {
      offcut(7, {{0, 0}, {400, 0}, {400, 300}, {0, 300}}), offcut(4, {{0, 0}, {150, 0}, {150, 120}, {0, 120}})};
  const auto layout = nest({box(1, 100, 80)}, {1000, 600}, {}, stock);
  REQUIRE(layout);
  REQUIRE(layout->blanks.size() == 1);
  CHECK(layout->blanks[0].offcut == 4);
  CHECK(layout->density == Approx(8000.0 / (150 * 120)));
  const auto more = nest({box(1, 100, 80), box(2, 300, 200), box(3, 700, 400)}, {1000, 600}, {}, stock);
  REQUIRE(more);
  REQUIRE(more->blanks.size() == 3);
  CHECK(more->blanks[0].offcut == 4);
  CHECK(more->blanks[1].offcut == 7);
  CHECK(more->blanks[2].offcut == 0);
  CHECK(more->overlap_mm2 == 0.0);
}

TEST_CASE("pieces on an odd offcut keep inside its outline, margin and all", "[stock][nest][property]") {
  Random r(GENERATE(range(1, 9)));
  std::vector<Vec2> outline;
  for (int i = 0; i < 11; ++i)
    outline.push_back(r.uniform(180, 320) * Vec2(std::cos(kTwoPi * i / 11), std::sin(kTwoPi * i / 11)));
  NestStock stock;
  stock.offcuts = {*make_offcut(offcut(1, outline))};
  std::vector<Piece> pieces;
  for (int n = 1; n <= 9; ++n) pieces.push_back(box(n, r.uniform(20, 90), r.uniform(20, 60)));
  const NestOptions options;
  const auto layout = nest(pieces, {1000, 600}, options, stock);
  REQUIRE(layout);
  CHECK(layout->blanks[0].offcut == 1);
  CHECK(layout->overlap_mm2 == 0.0);
  for (const Placement& p : layout->placements) {
    if (p.sheet != 0) continue;
    for (const Vec2& q : pieces[p.piece.value].outline) {
      CHECK(inside(layout->blanks[0].outline, p.pose(q)));
      CHECK(distance_to_outline(layout->blanks[0].outline, p.pose(q)) >= options.margin_mm - 0.01);
    }
  }
}

TEST_CASE("a piece larger than a sheet may still lie on an offcut that holds it", "[stock][nest]") {
  NestStock stock;
  stock.offcuts = {offcut(1, {{0, 0}, {800, 0}, {800, 200}, {0, 200}})};
  CHECK_FALSE(nest({box(1, 700, 100)}, {500, 500}));
  CHECK(nest({box(1, 700, 100)}, {500, 500}, {}, stock));
}

TEST_CASE("searching is never worse than the first order, and the same every time", "[stock][nest][property]") {
  const auto pieces = lumps(GENERATE(1, 2, 3, 4), 10);
  const auto extent = [&](const Layout& l) {
    double right = 0.0;
    for (const Placement& p : l.placements)
      if (p.sheet == l.sheets - 1)
        for (const Vec2& q : pieces[p.piece.value].outline) right = std::max(right, p.pose(q).x());
    return (l.sheets - 1) * 700.0 + right;
  };
  const auto once = nest(pieces, {700, 500}), search = nest(pieces, {700, 500}, {.tries = 12}),
             again = nest(pieces, {700, 500}, {.tries = 12});
  REQUIRE((once && search && again));
  CHECK(extent(*search) <= extent(*once) + 2.0);
  CHECK(search->overlap_mm2 == 0.0);
  for (std::size_t i = 0; i < search->placements.size(); ++i)
    CHECK(search->placements[i].pose.at == again->placements[i].pose.at);
}

TEST_CASE("where the sheet has a grain pieces are only turned about", "[stock][nest]") {
  const auto layout = nest(lumps(5, 8), {700, 500}, {.turn_freely = false});
  REQUIRE(layout);
  for (const Placement& p : layout->placements) CHECK(std::abs(std::sin(p.pose.angle_rad)) < 1e-9);
}

TEST_CASE("what the maker has put down stays there and the rest goes round it", "[stock][nest]") {
  const std::vector<Piece> pieces{box(1, 100, 100), box(2, 80, 80, 2)};
  NestStock stock;
  stock.held = {{"box 2", 1, 0, Vec2(300, 250), 0.4}};
  const auto layout = nest(pieces, {600, 400}, {}, stock);
  REQUIRE(layout);
  int held = 0;
  for (const Placement& p : layout->placements)
    if (p.held) {
      ++held;
      CHECK(p.pose.at == Vec2(300, 250));
      CHECK(p.pose.flipped);
    }
  CHECK(held == 1);
  CHECK(layout->placements.size() == 3);
  CHECK(layout->overlap_mm2 == 0.0);
  stock.held.push_back({"box 1", 0, 0, Vec2(310, 250), 0.0});
  const auto clash = nest(pieces, {600, 400}, {}, stock);
  REQUIRE_FALSE(clash);
  CHECK(clash.error().text.find("by hand") != std::string::npos);
}

TEST_CASE("what is left of a sheet can be kept, and nothing of it lies under a piece", "[stock][offcuts]") {
  const auto pieces = lumps(8, 6);
  const auto layout = nest(pieces, {1000, 600});
  REQUIRE(layout);
  const auto kept = leftovers(pieces, *layout, "eva-firm", 4.0);
  REQUIRE_FALSE(kept.empty());
  double area = 0.0, used = 0.0;
  for (const Offcut& o : kept) {
    area += signed_area_mm2(o.outline);
    CHECK(make_offcut(o));
  }
  for (const Placement& p : layout->placements) used += pieces[p.piece.value].area_mm2;
  CHECK(area + used < 1000.0 * 600.0 * layout->sheets);
  CHECK(area > 0.4 * (1000.0 * 600.0 * layout->sheets - used));
  NestStock stock;
  stock.offcuts = kept;
  for (std::size_t i = 0; i < stock.offcuts.size(); ++i) stock.offcuts[i].id = static_cast<int>(i) + 1;
  const auto second = nest({box(1, 90, 60)}, {1000, 600}, {}, stock);
  REQUIRE(second);
  CHECK(second->blanks[0].offcut > 0);
}

TEST_CASE("an offcut's outline is put right, or refused with the place", "[stock][offcuts]") {
  const auto made =
      make_offcut(offcut(1, {{10, 10}, {10, 110}, {210, 110}, {210, 10}, {10, 10}}));  // clockwise, closed twice
  REQUIRE(made);
  CHECK(signed_area_mm2(made->outline) == Approx(20000.0));
  CHECK(made->outline.size() == 4);
  const auto bow = make_offcut(offcut(1, {{0, 0}, {100, 100}, {100, 0}, {0, 100}}));
  REQUIRE_FALSE(bow);
  CHECK(bow.error().code == Errc::overlap);
  CHECK(bow.error().text.find("corners 1 and 2") != std::string::npos);
  CHECK(make_offcut(offcut(1, {{0, 0}, {100, 0}})).error().text.find("2 corners") != std::string::npos);
  CHECK(make_offcut(offcut(1, {{0, 0}, {10, 0}, {0, 10}})).error().text.find("cm\u00b2") != std::string::npos);
  CHECK(make_offcut(offcut(1, {{0, 0}, {9000, 0}, {0, 100}})).error().code == Errc::out_of_range);
}

TEST_CASE("a material goes to text and back, and its limits are named", "[stock][materials]") {
  const auto m = load_materials(data_folder() / "materials");
  REQUIRE(m);
  std::set<SheetKind> kinds;
  for (const Foam& f : m->foams) {
    CHECK(foam_from_text(foam_text(f)).value() == f);
    CHECK_FALSE(f.sold.empty());
    kinds.insert(f.kind);
    CHECK(sheet_kind_from(name_of(f.kind)).value() == f.kind);
  }
  CHECK(kinds.size() == 9);
  Foam own = *m->foam("eva-firm");
  own.density_kg_m3 = -3.0;
  CHECK(check_foam_kind(own).error().text.find("-3.000") != std::string::npos);
  own.density_kg_m3 = 110.0, own.sold[0].price = 99.0;
  const Materials mine = with_own(*m, {own});
  CHECK(mine.foam("eva-firm")->sold[0].price == 99.0);
  CHECK(mine.foams.size() == m->foams.size());
  own.id = "own-blue", own.name = "Blue mat";
  CHECK(with_own(*m, {own}).foams.size() == m->foams.size() + 1);
  CHECK(foam_from_text("{\"id\": 3}").error().code == Errc::bad_file);
  CHECK(foam_from_text("nonsense").error().code == Errc::bad_file);
}

TEST_CASE("what a material must not meet is told with the reason", "[stock][materials]") {
  const auto m = load_materials(data_folder() / "materials");
  CHECK(m->foam("insulation-board")->taboo("hot-glue")->why.find("melts") != std::string::npos);
  CHECK(m->foam("rigid-pvc")->taboo("heat indoors")->why.find("toxic") != std::string::npos);
  CHECK(m->foam("eva-firm")->taboo("contact") == nullptr);
}
