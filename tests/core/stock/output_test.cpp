#include <catch2/catch.hpp>
#include <set>

#include "core/io/cutting_machine.hpp"
#include "core/base/numbers.hpp"
#include "core/geom/polygon.hpp"
#include "core/io/drawing_file.hpp"
#include "core/stock/trace.hpp"
#include "support/bench_data.hpp"

using namespace awl;

namespace {

std::vector<Vec2> rectangle(double w, double h) { return {{0, 0}, {w, 0}, {w, h}, {0, h}}; }

Piece plate(const std::string& name, int number, double w, double h, double mm = 5.0) {
  return plate_piece(name, number, rectangle(w, h), {}, mm);
}

std::string of_part(const Piece& p) { return p.name.substr(0, p.name.find(',')); }

/// Corners of all outlines on the cut layer of an SVG, y upwards.
std::vector<Vec2> corners_of(const std::string& svg) {
  std::vector<Vec2> corners;
  const auto job = read_cut_job(svg);
  REQUIRE(job);
  for (const CutMove& m : job->moves) corners.insert(corners.end(), m.line.begin(), m.line.end());
  return corners;
}

double worst_off(const std::vector<Vec2>& wanted, const std::vector<Vec2>& got) {
  double worst = 0.0;
  for (const Vec2& w : wanted) {
    double best = 1e9;
    for (const Vec2& g : got) best = std::min(best, (w - g).norm());
    worst = std::max(worst, best);
  }
  return worst;
}

/// A job of one piece, with a hole if asked, cut in the order given.
CutJob job_of(const std::vector<std::vector<Vec2>>& lines, double thickness = 5.0) {
  CutJob job{"test", 300.0, 600.0, {}};
  for (const auto& line : lines) job.moves.push_back({line, true, "piece-1", "crown", thickness});
  return job;
}

}  // namespace

TEST_CASE("one file a sheet, a part or a piece holds together what one file holds", "[stock][output]") {
  const std::vector<Piece>& pieces = *test::derived().pieces;
  const Layout& layout = *test::derived().layout;
  const auto per = GENERATE(OutputPer::all, OutputPer::sheet, OutputPer::part, OutputPer::piece);
  CAPTURE(name_of(per));
  CHECK(output_per_from(name_of(per)).value() == per);
  std::size_t copies = 0;
  std::set<std::string> names;
  for (const Output& o : outputs_of(pieces, layout, per, of_part)) {
    copies += o.layout.placements.size();
    CHECK(names.insert(o.name).second);
    CHECK(o.name.find_first_not_of("abcdefghijklmnopqrstuvwxyz0123456789-") == std::string::npos);
    CHECK(static_cast<int>(o.layout.blanks.size()) == o.layout.sheets);
    CHECK(overlap_area_mm2(pieces, o.layout) < 0.01);
    for (const Placement& p : o.layout.placements) CHECK(p.sheet < o.layout.sheets);
    // Each is a whole SVG with those copies in it, at 1:1.
    const auto job = read_cut_job(sheets_svg(pieces, o.layout, "t"));
    REQUIRE(job);
    std::set<std::string> groups;
    for (const CutMove& m : job->moves) groups.insert(m.piece);
    CHECK(groups.size() == o.layout.placements.size());
  }
  CHECK(copies == layout.placements.size());
  CHECK(output_per_from("shoe").error().text.find("piece") != std::string::npos);
}

TEST_CASE(
    "outlines are the same on the mat, in SVG, in a piece's own file and on the machine's mats", "[stock][output]") {
  const std::vector<Piece>& pieces = *test::derived().pieces;
  const Layout& layout = *test::derived().layout;
  for (const Piece& piece : pieces) {
    const Layout alone = one_piece(piece);
    std::vector<Vec2> wanted;
    for (const Placement& p : alone.placements)
      for (const Vec2& q : piece.knife_line()) wanted.push_back(p.pose(q));
    CHECK(worst_off(wanted, corners_of(sheets_svg(pieces, alone, "t"))) < 0.01);
  }
  const MachineMat mat{700.0, 620.0, 300.0};
  const auto windows = mat_windows(pieces, layout, mat);
  REQUIRE(windows);
  const auto svgs = machine_svgs(pieces, layout, *windows, mat, "t");
  REQUIRE(svgs.size() == windows->size());
  std::size_t cut = 0;
  for (std::size_t w = 0; w < svgs.size(); ++w) {
    std::vector<Vec2> wanted;
    for (const int i : (*windows)[w].placements) {
      const Placement& p = layout.placements[i];
      for (const Vec2& q : pieces[p.piece.value].knife_line()) wanted.push_back(p.pose(q) - (*windows)[w].low);
      ++cut;
    }
    CHECK(worst_off(wanted, corners_of(svgs[w])) < 0.01);
    CHECK((*windows)[w].in_parts.empty());
  }
  CHECK(cut == layout.placements.size());
}

TEST_CASE(
    "pieces on the border of a mat are whole on one of two, and what no mat holds is cut in parts", "[stock][output]") {
  std::vector<Piece> pieces{plate("a", 1, 80, 80), plate("b", 2, 80, 80), plate("long", 3, 500, 60)};
  Layout layout;
  layout.sheet = {600, 300}, layout.sheets = 1;
  layout.blanks = {{0, "", 5.0, rectangle(600, 300), 180000.0, "", 0}};
  layout.placements = {{PieceId{0}, 0, {Vec2(50, 50), 0, false}, 0, false},
      {PieceId{1}, 0, {Vec2(300, 60), 0, false}, 0, false}, {PieceId{2}, 0, {Vec2(300, 200), 0, false}, 0, false}};
  const auto windows = mat_windows(pieces, layout, {300.0, 300.0, 100.0});
  REQUIRE(windows);
  int whole_a = 0, whole_b = 0, parts = 0;
  for (const MatWindow& w : *windows) {
    whole_a += std::count(w.placements.begin(), w.placements.end(), 0);
    whole_b += std::count(w.placements.begin(), w.placements.end(), 1);
    parts += std::count(w.in_parts.begin(), w.in_parts.end(), 2);
    // Nothing is cut outside the mat.
    for (const Mark& m : draw_window(pieces, layout, w, {300.0, 300.0, 100.0}).marks)
      for (const Vec2& p : m.line)
        CHECK((p.x() >= -1e-6 && p.y() >= -1e-6 && p.x() <= 300.0 + 1e-6 && p.y() <= 300.0 + 1e-6));
  }
  CHECK(whole_a == 1);
  CHECK(whole_b == 1);
  CHECK(parts >= 2);
  CHECK(mat_windows(pieces, layout, {40.0, 300.0, 10.0}).error().code == Errc::out_of_range);
  CHECK(mat_windows(pieces, layout, {300.0, 300.0, 200.0}).error().text.find("150") != std::string::npos);
}

TEST_CASE("the machine's file keeps the pieces' order, one group each, holes before outlines", "[io][machine]") {
  std::vector<Piece> pieces{
      plate("a", 1, 60, 60), plate_piece("b", 2, rectangle(60, 60), {{{20, 20}, {20, 40}, {40, 40}, {40, 20}}}, 5.0)};
  Layout layout;
  layout.sheet = {300, 200}, layout.sheets = 1;
  layout.blanks = {{0, "", 5.0, rectangle(300, 200), 60000.0, "", 0}};
  layout.placements = {
      {PieceId{1}, 0, {Vec2(200, 50), 0, false}, 0, false}, {PieceId{0}, 0, {Vec2(50, 50), 0, false}, 0, false}};
  const MachineMat mat{300, 300, 20};
  const auto svgs = machine_svgs(pieces, layout, *mat_windows(pieces, layout, mat), mat, "two & more");
  REQUIRE(svgs.size() == 1);
  const auto job = read_cut_job(svgs[0]);
  REQUIRE(job);
  CHECK(job->name == "two & more, mat 1 of 1");
  CHECK(job->width_mm == 300.0);
  REQUIRE(job->moves.size() == 3);
  CHECK(job->moves[0].piece == "piece-1");
  CHECK(job->moves[1].piece == "piece-2");
  CHECK(std::abs(signed_area_mm2(job->moves[1].line)) == Approx(400.0));
  CHECK(std::abs(signed_area_mm2(job->moves[2].line)) == Approx(3600.0));
  for (const CutMove& m : job->moves) CHECK(m.thickness_mm == 5.0);
  CHECK(svgs[0].find("tape") != std::string::npos);
}

TEST_CASE("a file the machine cannot cut is refused in words", "[io][machine]") {
  CHECK(read_cut_job("no svg at all").error().code == Errc::bad_file);
  const auto thick =
      read_cut_job("<svg width=\"100mm\" height=\"50mm\"><g id=\"piece-1\" data-thickness-mm=\"thick\"/></svg>");
  REQUIRE_FALSE(thick);
  CHECK(thick.error().text.find("piece-1") != std::string::npos);
  CHECK(read_cut_job("<svg></svg>").error().text.find("millimetres") != std::string::npos);
  const std::string head = "<svg width=\"100mm\" height=\"100mm\"><g class=\"cut\"><path d=\"", tail = "\"/></g></svg>";
  CHECK(read_cut_job(head + "M1 1 L2 2 Z" + tail).value().moves.size() == 1);
  const auto curve = read_cut_job(head + "M10 50 C10 80 60 80 60 50" + tail);
  REQUIRE(curve);
  CHECK(curve->moves.at(0).line.size() > 8);
  CHECK((curve->moves.at(0).line.back() - Vec2(60, 50)).norm() < 1e-9);
  CHECK(read_cut_job(head + "M1 1 Q2 2 3 3" + tail).error().text.find("\"Q\"") != std::string::npos);
  CHECK(read_cut_job(head + "M1 1 C2 2 3 3 4" + tail).error().text.find("breaks off") != std::string::npos);
  CHECK(read_cut_job(head + "C2 2 3 3 4 4" + tail).error().text.find("breaks off") != std::string::npos);
  CHECK(read_cut_job(head + "M1" + tail).error().text.find("breaks off") != std::string::npos);
  CHECK(read_cut_job(head + "M1 1 L2 2 M3 3 L4 4" + tail).error().code == Errc::bad_file);
  auto machine = simulated_machine({});
  CHECK(machine->load({}).error().code == Errc::empty_input);
}

TEST_CASE("the simulated machine takes the time its speeds say", "[io][machine]") {
  MachineFacts facts;
  facts.cut_mm_s = 50.0, facts.travel_mm_s = 100.0, facts.lift_s = 0.5, facts.depth_a_pass_mm = 2.5;
  auto machine = simulated_machine(facts);
  // 30 mm to get there, 400 mm of cut in two passes, one lift: worked by hand.
  REQUIRE(machine->load(job_of({{{30, 0}, {130, 0}, {130, 100}, {30, 100}}})));
  CHECK(machine->state().total_s == Approx(0.3 + 16.0 + 0.5));
  machine->start();
  CHECK(machine->advance(0.15));
  CHECK((machine->state().knife - Vec2(15, 0)).norm() == Approx(0.0).margin(1e-9));
  CHECK_FALSE(machine->state().down);
  CHECK(machine->advance(0.15 + 1.0));
  CHECK((machine->state().knife - Vec2(80, 0)).norm() == Approx(0.0).margin(1e-6));
  CHECK(machine->state().down);
  CHECK(machine->advance(8.0));
  CHECK(machine->state().pass == 1);
  CHECK((machine->state().knife - Vec2(80, 0)).norm() == Approx(0.0).margin(1e-6));
  CHECK_FALSE(machine->advance(60.0));
  CHECK(machine->state().at_s == Approx(16.8));
  REQUIRE(machine->events().size() == 1);
  CHECK(machine->events()[0].kind == MachineEvent::Kind::finished);
}

TEST_CASE("stopped it stays where it is, started again it goes on", "[io][machine]") {
  auto machine = simulated_machine({});
  REQUIRE(machine->load(job_of({{{30, 0}, {130, 0}, {130, 100}, {30, 100}}})));
  machine->start();
  machine->advance(2.0);
  const MachineState there = machine->state();
  machine->stop();
  CHECK_FALSE(machine->advance(5.0));
  CHECK(machine->state().at_s == there.at_s);
  machine->start();
  machine->advance(1.0);
  CHECK(machine->state().at_s == Approx(there.at_s + 1.0));
}

TEST_CASE("what would go wrong is told once: loose, out of the mat, too short a blade", "[io][machine]") {
  const std::vector<Vec2> outline{{10, 10}, {110, 10}, {110, 110}, {10, 110}},
      hole{{40, 40}, {60, 40}, {60, 60}, {40, 60}};
  const auto kinds = [](const MachineFacts& facts, CutJob job) {
    auto machine = simulated_machine(facts);
    REQUIRE(machine->load(std::move(job)));
    machine->start();
    while (machine->advance(30.0)) {
    }
    std::vector<MachineEvent::Kind> found;
    for (const MachineEvent& e : machine->events()) found.push_back(e.kind);
    return found;
  };
  using K = MachineEvent::Kind;
  MachineFacts facts;
  facts.backed = false;
  CHECK(kinds(facts, job_of({hole, outline})) == std::vector<K>{K::finished});
  CHECK(kinds(facts, job_of({outline, hole, hole})) == std::vector<K>{K::loose, K::finished});
  facts.backed = true;
  CHECK(kinds(facts, job_of({outline, hole})) == std::vector<K>{K::finished});
  CHECK(kinds(facts, job_of({outline}, 10.0)) == std::vector<K>{K::blade_short, K::finished});
  CHECK(kinds(facts, job_of({{{250, 10}, {350, 10}, {350, 60}}})) == std::vector<K>{K::out_of_mat, K::finished});
}

TEST_CASE("every demo goes to the machine's mats whole or in parts, and nothing leaves them", "[io][machine]") {
  for (const char* name : {"reed-mask", "toll-clerk"}) {
    const Derived d = test::chain()->derive(*demo_by_name(name, Day{20731}));
    REQUIRE(d.complete());
    MachineFacts facts;
    facts.backed = false;
    const auto windows = mat_windows(*d.pieces, *d.layout, facts.mat);
    REQUIRE(windows);
    for (const std::string& svg : machine_svgs(*d.pieces, *d.layout, *windows, facts.mat, name)) {
      auto job = read_cut_job(svg);
      REQUIRE(job);
      auto machine = simulated_machine(facts);
      REQUIRE(machine->load(std::move(*job)));
      machine->start();
      while (machine->advance(60.0)) {
      }
      for (const MachineEvent& e : machine->events()) {
        CAPTURE(name, e.sentence);
        CHECK(e.kind != MachineEvent::Kind::out_of_mat);
        CHECK(e.kind != MachineEvent::Kind::loose);
      }
      CHECK(machine->state().at_s == Approx(machine->state().total_s).epsilon(1e-6));
    }
  }
}

TEST_CASE("an outline traced on a slanted photograph comes out in millimetres", "[stock][trace][property]") {
  Random r(GENERATE(range(1, 25)));
  // A camera somewhere over the table, looking at it askew: any projective map that keeps what is seen in front of it.
  const double turn = r.uniform(0.0, kTwoPi), scale = r.uniform(1.0, 6.0), slant_x = r.uniform(-4e-4, 4e-4),
               slant_y = r.uniform(-4e-4, 4e-4);
  const auto seen = [&](const Vec2& mm) {
    const Vec2 turned(
        std::cos(turn) * mm.x() - std::sin(turn) * mm.y(), std::sin(turn) * mm.x() + std::cos(turn) * mm.y());
    return Vec2(Vec2(2000.0, 1500.0) +
        scale * Vec2(turned.x(), -turned.y()) / (1.0 + slant_x * mm.x() + slant_y * mm.y()));  // y down in a picture
  };
  const double side = r.uniform(40.0, 200.0);
  const Vec2 at(r.uniform(-100, 100), r.uniform(-100, 100));
  std::array<Vec2, 4> corners{
      seen(at), seen(at + Vec2(side, 0)), seen(at + Vec2(side, side)), seen(at + Vec2(0, side))};
  if (r.uniform() < 0.5) std::reverse(corners.begin(), corners.end());
  const auto plane = PhotoPlane::of(corners, side);
  REQUIRE(plane);
  const std::vector<Vec2> outline{{0, 0}, {310, 12}, {280, 220}, {90, 160}};
  std::vector<Vec2> pixels;
  for (const Vec2& p : outline) pixels.push_back(seen(p));
  const auto traced = plane->on_table(pixels);
  for (std::size_t i = 0; i < outline.size(); ++i)
    for (std::size_t k = 0; k < i; ++k)
      CHECK((traced[i] - traced[k]).norm() == Approx((outline[i] - outline[k]).norm()).epsilon(1e-6));
  // Not mirrored: whatever way round the square was clicked.
  CHECK(signed_area_mm2(traced) == Approx(signed_area_mm2(outline)).epsilon(1e-6));
}

TEST_CASE("what is no square is refused", "[stock][trace]") {
  CHECK(PhotoPlane::of({Vec2(0, 0), Vec2(100, 0), Vec2(200, 0), Vec2(0, 100)}, 100.0).error().code ==
      Errc::degenerate_shape);
  CHECK(PhotoPlane::of({Vec2(0, 0), Vec2(100, 100), Vec2(100, 0), Vec2(0, 100)}, 100.0)
            .error()
            .text.find("one after the other") != std::string::npos);
  CHECK(PhotoPlane::of({Vec2(0, 0), Vec2(100, 0), Vec2(100, 100), Vec2(0, 100)}, 5.0).error().text.find("2000") !=
      std::string::npos);
}

namespace {

/// A pale four-cornered card on a dark table, each pixel the mean of 8 x 8 looks, with a little noise.
GreyPicture card_on_table(const std::array<Vec2, 4>& corners, int width, int height, double noise, std::uint64_t seed) {
  Random random(seed);
  GreyPicture picture{width, height, {}};
  const std::vector<Vec2> outline(corners.begin(), corners.end());
  for (int y = 0; y < height; ++y)
    for (int x = 0; x < width; ++x) {
      double grey = 0.0;
      for (int k = 0; k < 64; ++k)
        grey += inside(outline, Vec2(x + (k % 8 + 0.5) / 8.0, y + (k / 8 + 0.5) / 8.0)) ? 220.0 / 64 : 60.0 / 64;
      picture.grey.push_back(static_cast<float>(grey + noise * random.normal()));
    }
  return picture;
}

}  // namespace

TEST_CASE("a corner clicked roughly is found to a fraction of a pixel", "[stock][trace][property]") {
  Random random(GENERATE(range(1, 7)));
  const double turn = random.uniform(0.0, kTwoPi), half = random.uniform(28.0, 40.0);
  std::array<Vec2, 4> corners;
  for (int k = 0; k < 4; ++k)
    corners[k] = Vec2(64.0, 64.0) + half * Vec2(std::cos(turn + 0.5 * kPi * k), std::sin(turn + 0.5 * kPi * k)) +
        Vec2(random.uniform(-3, 3), random.uniform(-3, 3));
  const GreyPicture picture = card_on_table(corners, 128, 128, 2.0, 5);
  for (const Vec2& corner : corners)
    for (int i = 0; i < 6; ++i) {
      const auto found = corner_near(picture, corner + Vec2(random.uniform(-4, 4), random.uniform(-4, 4)), 9.0);
      REQUIRE(found);
      CHECK((*found - corner).norm() < 0.2);
    }
}

TEST_CASE("where there is no corner none is found", "[stock][trace]") {
  const std::array<Vec2, 4> half_plane{Vec2(-50, -50), Vec2(40.3, -50), Vec2(60.3, 300), Vec2(-50, 300)};
  const GreyPicture edge = card_on_table(half_plane, 100, 100, 0.0, 1),
                    plain{100, 100, std::vector<float>(10000, 90.0f)};
  CHECK_FALSE(corner_near(edge, {45.0, 50.0}, 9.0));  // an edge has no end here
  CHECK_FALSE(corner_near(plain, {50.0, 50.0}, 9.0));
  CHECK_FALSE(corner_near(plain, {-40.0, 900.0}, 9.0));  // beside the picture
  const GreyPicture card = card_on_table({Vec2(30, 30), Vec2(70, 30), Vec2(70, 70), Vec2(30, 70)}, 100, 100, 0.0, 1);
  CHECK_FALSE(corner_near(card, {50.0, 50.0}, 9.0));  // in the middle of the card
  REQUIRE(corner_near(card, {33.0, 28.0}, 9.0));
  CHECK((*corner_near(card, {33.0, 28.0}, 9.0) - Vec2(30, 30)).norm() < 0.2);
}

TEST_CASE(
    "what a slip of the square's corners does is told: nothing hidden far from a small square", "[stock][trace]") {
  const auto square = [](double px) { return std::array<Vec2, 4>{Vec2(0, 0), Vec2(px, 0), Vec2(px, px), Vec2(0, px)}; };
  // At a corner of the square only its own slip counts, across and along.
  CHECK(slip_mm(square(200.0), 100.0, {Vec2(0, 0)}, 1.0) == Approx(std::sqrt(2.0) * 0.5).epsilon(0.02));
  const std::vector<Vec2> far{Vec2(900, 700)};
  const double small = slip_mm(square(100.0), 100.0, far, 1.0), large = slip_mm(square(300.0), 300.0, far, 1.0);
  CHECK(small > 5.0 * large);
  CHECK(slip_mm(square(100.0), 100.0, far, 0.2) == Approx(0.2 * small).epsilon(0.15));
  CHECK(slip_mm(square(100.0), 100.0, {}, 1.0) == 0.0);
  CHECK(slip_mm(square(0.0), 100.0, far, 1.0) == 0.0);  // no square: nothing to tell
}
