#include <catch2/catch.hpp>

#include "core/base/numbers.hpp"
#include "core/chain/to_cut.hpp"
#include "core/piece/drawing.hpp"
#include "support/bench_data.hpp"
#include "support/numbers.hpp"

using namespace awl;

namespace {

double width_across(const std::vector<Vec2>& line, const Vec2& way) {
  double low = 1e9, high = -1e9;
  for (const Vec2& p : line) low = std::min(low, p.dot(way)), high = std::max(high, p.dot(way));
  return high - low;
}

/// Overlap of the two sheets by counting cells of 0.1 mm.
double shared_mm2(const CrossSection& s) {
  double sum = 0.0;
  for (double x = -20.0; x < 20.0; x += 0.1)
    for (double y = -20.0; y < 20.0; y += 0.1) sum += inside(s.left, {x, y}) && inside(s.right, {x, y}) ? 0.01 : 0.0;
  return sum;
}

Piece square_piece(double side) {
  Piece p = plate_piece("lid", 1, {{0, 0}, {side, 0}, {side, side}, {0, side}}, {}, 5.0);
  return p;
}

}  // namespace

TEST_CASE("a ridge of 90 degrees in 10 mm foam is cut at 45 and its outer face is 10 mm longer", "[piece][edges]") {
  const auto s = cross_section(EdgeCut::tilted, 10.0, 90.0);
  REQUIRE(s);
  CHECK(std::abs(s->tilt_deg) == Approx(45.0));
  CHECK(s->outer_longer_mm == Approx(10.0));
  const auto furrow = cross_section(EdgeCut::tilted, 10.0, -90.0);
  CHECK(furrow->outer_longer_mm == Approx(-10.0));
  CHECK(furrow->words.find("10.0 mm shorter") != std::string::npos);
}

TEST_CASE("beyond what a blade leans a seam is cut in two: square farther out, then the wedge", "[piece][edges]") {
  const auto s = cross_section(EdgeCut::two_cuts, 5.0, 120.0), leaned = cross_section(EdgeCut::tilted, 5.0, 120.0);
  REQUIRE(s);
  const double out = 5.0 * std::tan(radians(60.0));
  CHECK(s->outer_longer_mm == Approx(out));
  CHECK(s->tilt_deg == Approx(0.0).margin(1e-9));  // the first cut is square
  CHECK(s->left == leaned->left);                  // and what is left is the same
  CHECK(first_cut_out_mm(5.0, 60.0) == Approx(out));
  CHECK(first_cut_out_mm(5.0, -60.0) == 0.0);
  REQUIRE(s->second_blade);
  CHECK(std::abs(s->second_blade->first.x()) < 1e-9);  // in the plane between the sheets
  CHECK(std::abs(s->second_blade->second.x()) < 1e-9);
  CHECK(s->words.find("8.7 mm outside the line") != std::string::npos);
  CHECK(s->words.find("30 degrees from the sheet") != std::string::npos);
  const auto furrow = cross_section(EdgeCut::two_cuts, 5.0, -120.0);
  CHECK(furrow->words.find("square on the line") != std::string::npos);
  CHECK(furrow->blade_to.y() < furrow->blade_from.y());
}

TEST_CASE("sheets of every cut touch and never run into each other, at any turn", "[piece][edges][property]") {
  const double turn = GENERATE(-80.0, -35.0, -4.0, 0.0, 7.0, 40.0, 100.0);
  for (int i = 0; i < kEdgeCuts; ++i) {
    const auto cut = static_cast<EdgeCut>(i);
    CAPTURE(turn, name_of(cut));
    const auto s = cross_section(cut, 6.0, turn);
    REQUIRE(s);
    if (cut != EdgeCut::overlap) CHECK(shared_mm2(*s) < 0.8);  // a row of cells at the joint
    double closest = 1e9;
    for (const Vec2& a : s->left)
      for (const Vec2& b : s->right) closest = std::min(closest, (a - b).norm());
    CHECK(closest < 0.01);
    CHECK_FALSE(s->words.empty());
    CHECK(edge_cut_from(name_of(cut)).value() == cut);
  }
}

TEST_CASE("a square cut stands open by what the turn leaves, and thin foam is not worth tilting", "[piece][edges]") {
  const auto s = cross_section(EdgeCut::square, 10.0, 60.0);
  CHECK(s->gap_mm == Approx(2.0 * 10.0 * std::sin(radians(30.0))));
  CHECK(s->words.find("outside") != std::string::npos);
  CHECK(cross_section(EdgeCut::square, 10.0, -60.0)->words.find("inside") != std::string::npos);
  CHECK(least_tilt_deg(2.0) > 10.0);
  CHECK(least_tilt_deg(12.0) < 2.5);
  // At the limit the gap is what glue fills.
  for (const double t : {2.0, 5.0, 10.0}) CHECK(2.0 * t * std::tan(radians(least_tilt_deg(t))) == Approx(0.8));
}

TEST_CASE("edges refuse what is no sheet and no seam", "[piece][edges]") {
  CHECK(cross_section(EdgeCut::square, 0.0, 10.0).error().text.find("0.0 mm") != std::string::npos);
  CHECK(cross_section(EdgeCut::square, 5.0, 170.0).error().code == Errc::out_of_range);
  CHECK(edge_cut_from("sawn").error().text.find("sawn") != std::string::npos);
}

TEST_CASE("smallest bends are those of the recipe: 45 mm for 10 mm foam at 10 percent", "[piece][bend]") {
  CHECK(least_bend_radius_mm(10.0, 0.1) == Approx(45.0));
  CHECK(least_bend_radius_mm(5.0, 0.1) == Approx(22.5));
  CHECK(least_bend_radius_mm(2.0, 0.1) == Approx(9.0));
}

TEST_CASE("slots let a sheet bend: they close as it bends, do not meet, and what is left bears it",
    "[piece][bend][property]") {
  const double t = GENERATE(4.0, 6.0, 10.0), radius = GENERATE(5.0, 12.0, 25.0), angle = GENERATE(30.0, 90.0, 180.0);
  CAPTURE(t, radius, angle);
  const auto plan = plan_slots(t, radius, angle, 0.12);
  if (!plan) {
    CHECK(plan.error().code == Errc::no_solution);
    // What it names does go.
    const auto at = plan.error().text.find("It goes from ");
    REQUIRE(at != std::string::npos);
    CHECK(plan_slots(t, test::numbers_in(plan.error().text, at).at(0) + 0.5, angle, 0.12));
    return;
  }
  if (!plan->needed) {
    CHECK(radius >= least_bend_radius_mm(t, 0.12));
    return;
  }
  CHECK(plan->count * plan->wide_mm >= plan->depth_mm * radians(angle) - 1e-9);
  CHECK(plan->apart_mm >= plan->wide_mm + 2.0);
  CHECK(plan->strain <= 0.12 + 1e-9);
  CHECK(plan->depth_mm + plan->left_mm == Approx(t));
}

TEST_CASE("a bend that is none is refused", "[piece][bend]") {
  CHECK(plan_slots(5.0, 0.0, 90.0, 0.1).error().where == "bend/radius");
  CHECK(plan_slots(5.0, 20.0, 0.0, 0.1).error().where == "bend/angle");
}

TEST_CASE("margins go all round a piece, the line stays as the fold", "[piece][edges]") {
  std::vector<Piece> pieces{square_piece(100.0)};
  const PanelSet none;
  set_edges(pieces, none, {}, {}, {.rim_mm = 12.0});
  CHECK(width_across(pieces[0].cut_line, Vec2::UnitX()) == Approx(124.0).margin(0.01));
  CHECK(width_across(pieces[0].outline, Vec2::UnitX()) == Approx(100.0));
  CHECK(signed_area_mm2(pieces[0].cut_line) == Approx(100.0 * 100 + 4 * 100 * 12 + kPi * 12 * 12).epsilon(0.001));
  const Drawing drawing = draw_piece(pieces[0]);
  CHECK(std::count_if(drawing.marks.begin(), drawing.marks.end(),
            [](const Mark& m) { return m.layer == Layer::fold && m.closed && m.line.size() == 4; }) == 1);
  CHECK(drawing.marks[0].line == pieces[0].cut_line);
  set_edges(pieces, none, {}, {}, {});
  CHECK(pieces[0].cut_line.empty());
}

TEST_CASE("pen and kerf move the knife by half their width each", "[piece][edges]") {
  std::vector<Piece> pieces{square_piece(80.0)};
  set_edges(pieces, {}, {}, {}, {.pen_mm = 1.0});
  CHECK(width_across(pieces[0].knife_line(), Vec2::UnitX()) == Approx(79.0).margin(0.01));
  set_edges(pieces, {}, {}, {}, {.kerf_mm = 0.4});
  CHECK(width_across(pieces[0].knife_line(), Vec2::UnitX()) == Approx(80.4).margin(0.01));
}

TEST_CASE("a round flap is clipped by triangles outwards, a hollow one by snips", "[piece][edges]") {
  std::vector<Vec2> circle, bay;
  for (int i = 0; i < 72; ++i) circle.push_back(60.0 * Vec2(std::cos(radians(5.0 * i)), std::sin(radians(5.0 * i))));
  std::vector<Piece> pieces{plate_piece("disk", 1, circle, {}, 2.0)};
  set_edges(pieces, {}, {}, {}, {.rim_mm = 10.0});
  REQUIRE(pieces[0].clips.size() >= 15);
  for (const auto& clip : pieces[0].clips) {
    CHECK(clip.size() == 3);
    for (const Vec2& p : clip) CHECK(p.norm() > 60.0);
  }
  // A square with a bay: its hollow side gets snips.
  bay = {{-80, -80}, {80, -80}, {80, 80}};
  for (int i = 1; i < 18; ++i)
    bay.push_back(Vec2(0, 80) + 50.0 * Vec2(std::cos(radians(-10.0 * i)), std::sin(radians(-10.0 * i))));
  bay.push_back({-80, 80});
  pieces = {plate_piece("bay", 1, bay, {}, 2.0)};
  set_edges(pieces, {}, {}, {}, {.rim_mm = 8.0});
  CHECK(
      std::count_if(pieces[0].clips.begin(), pieces[0].clips.end(), [](const auto& c) { return c.size() == 2; }) >= 6);
}

TEST_CASE("a chosen edge changes both sides of its seam, a flap only one of them", "[piece][edges]") {
  Build b = test::demo();
  const Derived& before = test::derived();
  const Seam* seam = nullptr;
  for (const Seam& s : before.panels->seams)
    if (s.panels[0] != s.panels[1] && !before.panels->panels[s.panels[0].value].mirror_of &&
        !before.panels->panels[s.panels[1].value].mirror_of)
      seam = &s;
  REQUIRE(seam != nullptr);
  b.foam.cuts = {{b.parts[0].id, seam->name, EdgeCut::flap, 14.0}};
  const auto pieces = pieces_of(cut_choices(b), *before.panels, *before.form, nullptr);
  int sides = 0, with_margin = 0;
  for (const Piece& p : pieces)
    for (const PieceEdge& e : p.edges)
      if (e.letter == seam->letter) {
        ++sides, with_margin += e.margin_mm == 14.0 ? 1 : 0;
        CHECK(e.cut == EdgeCut::flap);
      }
  CHECK(sides == 2);
  CHECK(with_margin == 1);
  for (const Piece& p : pieces) CHECK((p.cut_line.empty() || signed_area_mm2(p.cut_line) > p.area_mm2));
}

TEST_CASE("the tilt along a seam averages to the edge's own", "[piece][edges]") {
  for (const Piece& p : *test::derived().pieces)
    for (const PieceEdge& e : p.edges) {
      REQUIRE(e.tilts_deg.size() + 1 == e.line.size());
      double sum = 0.0;
      for (std::size_t i = 0; i < e.tilts_deg.size(); ++i) sum += e.tilts_deg[i] * (e.line[i + 1] - e.line[i]).norm();
      CHECK(sum / e.length_mm == Approx(e.tilt_deg).margin(2e-3));
    }
}

TEST_CASE("what was cut on the foam is printed on the piece, so that it is not cut off again", "[piece][alter]") {
  Build b = test::demo();
  const Derived& before = test::derived();
  Alteration a;
  a.part = b.parts[0].id, a.seam = before.panels->seams[0].name, a.on_foam = true, a.middle_mm = 6.0;
  b.alterations = {a};
  const auto pieces = pieces_of(cut_choices(b), *before.panels, *before.form, nullptr);
  int noted = 0;
  for (const Piece& p : pieces) noted += static_cast<int>(p.notes.size());
  CHECK(noted >= 1);
  b.alterations[0].on_foam = false;
  for (const Piece& p : pieces_of(cut_choices(b), *before.panels, *before.form, nullptr)) CHECK(p.notes.empty());
}
