#include "core/piece/fold.hpp"

#include <catch2/catch.hpp>
#include <set>

#include "core/base/numbers.hpp"
#include "core/steps/assembly.hpp"
#include "core/steps/shopping.hpp"
#include "support/bench_data.hpp"
#include "support/plain_shapes.hpp"

using namespace awl;

namespace {

constexpr double kThick = 6.0, kSideMm = 100.0, kHighMm = 80.0;
constexpr int kColumns = 20, kRows = 8;

/// Two flat halves that meet at an angle along the middle column, which is a seam; + a ridge seen from outside.
SeamMesh bent_plate(double turn_deg, double bow_mm = 0.0) {
  const double half = 0.5 * radians(turn_deg);
  SeamMesh form;
  form.mesh = test::structured(kColumns, kRows, false, false, [&](double u, double v) {
    const double bow = bow_mm * (1.0 - std::pow(2.0 * v - 1.0, 2.0)), along = kSideMm * (2.0 * u - 1.0);
    const double from = along >= 0.0 ? along + bow * (1.0 - u) * 2.0 : along - bow * u * 2.0;
    return Vec3(from * std::cos(half), kHighMm * v, -std::abs(from) * std::sin(half));
  });
  form.seam_names = {"fold"};
  const auto at = [](int i, int j) { return j * (kColumns + 1) + i; };
  for (int j = 0; j < kRows; ++j) form.seam_of[edge_of(at(kColumns / 2, j), at(kColumns / 2, j + 1))] = SeamId{0};
  return form;
}

/// The same, drafted as the wearer's left half and its image.
SeamMesh mirrored_plate(double turn_deg) {
  const double half = 0.5 * radians(turn_deg);
  Draft draft;
  draft.mesh = test::structured(kColumns / 2, kRows, false, false, [&](double u, double v) {
    return Vec3(kSideMm * u * std::cos(half), kHighMm * v, -kSideMm * u * std::sin(half));
  });
  const int fold = draft.seam("fold");
  for (int j = 0; j < kRows; ++j) draft.seams[edge_of(j * (kColumns / 2 + 1), (j + 1) * (kColumns / 2 + 1))] = fold;
  return seams_of(draft);
}

struct Cut {
  PanelSet panels;
  std::vector<Piece> pieces;
};

Cut folded(const SeamMesh& form) {
  PanelOptions options;
  options.thickness_mm = kThick, options.least_mm2 = 0.0;
  auto set = make_panels(form, options);
  REQUIRE(set);
  Cut cut{std::move(*set), {}};
  cut.pieces = make_pieces(cut.panels);
  set_edges(cut.pieces, cut.panels, {1}, {{1, cut.panels.seams[0].name, EdgeCut::trench, 12.0}}, {});
  fold_pieces(cut.pieces, cut.panels);
  return cut;
}

double length_of_path(const std::vector<Vec2>& line) {
  double mm = 0.0;
  for (std::size_t i = 0; i + 1 < line.size(); ++i) mm += (line[i + 1] - line[i]).norm();
  return mm;
}

double extent(const Piece& piece, bool larger) {
  Box box;
  for (const Vec2& p : piece.outline) box.include(Vec3(p.x(), p.y(), 0.0));
  const Vec3 size = box.size();
  return larger ? std::max(size.x(), size.y()) : std::min(size.x(), size.y());
}

const PieceTrace* fold_of(const Piece& piece) {
  for (const PieceTrace& t : piece.traces)
    if (t.kind == TraceKind::fold) return &t;
  return nullptr;
}

}  // namespace

TEST_CASE("two flats that meet at a ridge are one piece as long as their whole outer face", "[piece][fold]") {
  const double turn = GENERATE(20.0, 60.0, 90.0);
  CAPTURE(turn);
  const Cut cut = folded(bent_plate(turn));
  REQUIRE(cut.pieces.size() == 1);
  const Piece& piece = cut.pieces[0];
  CHECK(extent(piece, true) == Approx(2.0 * (kSideMm + kThick * std::tan(0.5 * radians(turn)))).margin(0.8));
  CHECK(extent(piece, false) == Approx(kHighMm).margin(0.5));
  CHECK(signed_area_mm2(piece.outline) == Approx(extent(piece, true) * kHighMm).epsilon(0.01));
  CHECK(piece.also.size() == 1);
  CHECK(piece.panels().size() == 2);
  REQUIRE(fold_of(piece) != nullptr);
  CHECK(length_of_path(fold_of(piece)->line) == Approx(kHighMm).margin(0.5));
  CHECK(fold_of(piece)->label.starts_with("groove the inside 4.8 mm deep"));
  for (const PieceEdge& e : piece.edges) CHECK_FALSE(e.seam.valid());
}

TEST_CASE("a furrow is grooved on the outside and is as long as the whole inner face", "[piece][fold]") {
  const Cut cut = folded(bent_plate(-60.0));
  REQUIRE(cut.pieces.size() == 1);
  CHECK(extent(cut.pieces[0], true) == Approx(2.0 * kSideMm).margin(0.8));
  CHECK(fold_of(cut.pieces[0])->label.starts_with("groove the outside"));
}

TEST_CASE("a trench in the middle makes one piece of both sides, cut once", "[piece][fold]") {
  const Cut cut = folded(mirrored_plate(50.0));
  REQUIRE(cut.pieces.size() == 1);
  const Piece& piece = cut.pieces[0];
  CHECK(piece.copies == 1);
  CHECK_FALSE(piece.twin);
  CHECK(piece.panels().size() == 2);
  CHECK(piece.name.ends_with(", both sides"));
  CHECK(extent(piece, true) == Approx(2.0 * (kSideMm + kThick * std::tan(radians(25.0)))).margin(0.8));
  int folds = 0;
  for (const PieceTrace& t : piece.traces) folds += t.kind == TraceKind::fold ? 1 : 0;
  CHECK(folds == 1);
}

TEST_CASE("a seam that does not turn is no cut at all: one piece, no groove", "[piece][fold]") {
  const Cut cut = folded(bent_plate(0.0));
  REQUIRE(cut.pieces.size() == 1);
  CHECK(extent(cut.pieces[0], true) == Approx(2.0 * kSideMm).margin(0.3));
  CHECK(fold_of(cut.pieces[0]) == nullptr);
  CHECK(cut.pieces[0].folds == std::vector<SeamId>{SeamId{0}});
}

TEST_CASE("a belt with a panel in front and one at each side is one strip, none of them upside down", "[piece][fold]") {
  // Its left half: half of the front, round a sharp corner the side, round a bend half of the back.
  constexpr double kWide = 40.0, kDeep = 80.0;
  constexpr int kNu = 32, kNv = 6, kCorner = 8;
  Draft draft;
  draft.mesh = test::structured(kNu, kNv, false, false, [&](double u, double v) {
    const double along = 160.0 * u, up = 60.0 * v;
    if (along <= kWide) return Vec3(along, up, 0.5 * kDeep);
    if (along <= kWide + kDeep) return Vec3(kWide, up, 0.5 * kDeep - (along - kWide));
    return Vec3(2.0 * kWide + kDeep - along, up, -0.5 * kDeep);
  });
  for (Tri& t : draft.mesh.triangles) std::swap(t[1], t[2]);
  const int corner = draft.seam("corner"), back = draft.seam("back");
  const auto at = [](int i, int j) { return j * (kNu + 1) + i; };
  for (int j = 0; j < kNv; ++j) {
    draft.seams[edge_of(at(kCorner, j), at(kCorner, j + 1))] = corner;
    draft.seams[edge_of(at(kNu, j), at(kNu, j + 1))] = back;
  }
  PanelOptions options;
  options.thickness_mm = kThick, options.least_mm2 = 0.0;
  auto set = make_panels(seams_of(draft), options);
  REQUIRE(set);
  REQUIRE(set->panels.size() == 3);
  auto pieces = make_pieces(*set);
  std::vector<SeamCut> cuts;
  for (const Seam& seam : set->seams) cuts.push_back({1, seam.name, EdgeCut::trench, 12.0});
  set_edges(pieces, *set, {1}, cuts, {});
  fold_pieces(pieces, *set);
  REQUIRE(pieces.size() == 1);
  CHECK(pieces[0].copies == 1);
  CHECK(pieces[0].panels().size() == 3);
  CHECK(extent(pieces[0], false) == Approx(60.0).margin(1.0));
  for (const FoldedOn& on : pieces[0].also) {
    const Vec2 up = on.pose.turned(Vec2::UnitY());
    CAPTURE(on.panel.value, up.x(), up.y());
    CHECK(up.y() > 0.99);
  }
  // What is left to glue is the other corner.
  std::set<int> left;
  for (const PieceEdge& e : pieces[0].edges)
    if (e.seam.valid()) left.insert(e.seam.value);
  CHECK(left.size() == 1);
  CHECK(pieces[0].folds.size() + left.size() == set->seams.size());
}

TEST_CASE("edges that bow apart stay two pieces and say by how much", "[piece][fold]") {
  const double bow = 6.0;
  const Cut cut = folded(bent_plate(60.0, bow));
  REQUIRE(cut.pieces.size() == 2);
  for (const Piece& piece : cut.pieces) {
    CHECK(piece.also.empty());
    CHECK(fold_of(piece) == nullptr);
    bool said = false;
    for (const PieceEdge& e : piece.edges)
      said = said || (e.seam.valid() && e.stays_apart.find("mm apart") != std::string::npos);
    CHECK(said);
  }
}

TEST_CASE("a panel on a folded piece lies where its own outline is", "[piece][fold]") {
  for (const bool mirrored : {false, true}) {
    const Cut cut = folded(mirrored ? mirrored_plate(40.0) : bent_plate(40.0));
    REQUIRE(cut.pieces.size() == 1);
    for (const FoldedOn& on : cut.pieces[0].also) {
      const Panel& panel = cut.panels.panels[on.panel.value];
      // The flat of a right-hand panel is its own; on the piece it lies as the image of the left one's.
      const Panel& drawn = panel.mirror_of ? cut.panels.panels[panel.mirror_of->value] : panel;
      int outside = 0;
      for (const Vec2& p : drawn.flat)
        outside +=
            !inside(cut.pieces[0].outline, on.pose(p)) && distance_to_outline(cut.pieces[0].outline, on.pose(p)) > 0.5
            ? 1
            : 0;
      CHECK(outside == 0);
    }
  }
}

TEST_CASE("poses one after the other are one pose", "[piece][fold]") {
  Random random(3);
  for (int i = 0; i < 200; ++i) {
    const auto any = [&] {
      return Pose{{random.uniform(-50.0, 50.0), random.uniform(-50.0, 50.0)}, random.uniform(-4.0, 4.0),
          random.uniform() < 0.5};
    };
    const Pose first = any(), second = any();
    const Vec2 p(random.uniform(-80.0, 80.0), random.uniform(-80.0, 80.0));
    CHECK((second.after(first)(p) - second(first(p))).norm() < 1e-9);
  }
}

TEST_CASE("every demo with all its seams as trenches keeps every panel on one piece", "[piece][fold][demos]") {
  int folded_in_all = 0, told = 0;
  double glued = 0.0;
  for (const char* demo : {"lamp-post", "thicket-ram", "heron-warden", "marsh-guard"}) {
    CAPTURE(demo);
    Build build = *demo_by_name(demo, Day{20794});
    const Derived plain = test::chain()->derive(build);
    REQUIRE(plain.panels);
    for (std::size_t i = 0; i < plain.part_panels.size(); ++i)
      for (const Seam& seam : plain.part_panels[i]->seams)
        build.foam.cuts.push_back({plain.form->parts[i]->part, seam.name, EdgeCut::trench, 12.0});
    const Derived d = test::chain()->derive(build);
    CAPTURE(d.error ? d.error->text : std::string());
    REQUIRE(d.complete());
    std::multiset<int> plainly, now;
    for (const Piece& p : *plain.pieces)
      for (const PanelId id : p.panels()) plainly.insert(id.value);
    for (const Piece& p : *d.pieces) {
      for (const PanelId id : p.panels()) now.insert(id.value);
      folded_in_all += static_cast<int>(p.also.size());
      CHECK(signed_area_mm2(p.outline) > 0.0);
      if (!p.cut_line.empty()) CHECK(signed_area_mm2(p.cut_line) > 0.0);
    }
    CHECK(plainly == now);
    // Glue is bought for the walls of the grooves: twice the depth where a right angle is folded, more with the sheet.
    double walls = 0.0;
    for (const Piece& p : *d.pieces)
      for (const SeamId id : p.folds) {
        const Seam& seam = d.panels->seams[static_cast<std::size_t>(id.value)];
        const FoldGroove groove = fold_groove(p.thickness_mm, degrees(seam.mean_turn_rad));
        const double half = radians(0.5 * std::abs(groove.turn_deg));
        if (groove.needed()) walls += 2.0 * groove.depth_mm / std::cos(half) * seam.length_3d_mm;
      }
    const auto list = shopping(build, d, test::materials(), {});
    REQUIRE(list);
    double yields = 0.0, edges = 0.0;
    for (const Yield* y : yields_of(d)) yields += y->glue_mm2;
    for (const Piece& p : *d.pieces)
      for (const PieceEdge& e : p.edges)
        if (e.seam.valid() && e.cut == EdgeCut::square) edges += e.length_mm * p.thickness_mm * p.copies;
    CAPTURE(walls, yields, edges);
    CHECK(list->joint_mm2 == Approx(walls + yields + edges).epsilon(0.02));
    glued += walls;
    // The build sheet puts every panel on once, and tells the folds.
    const auto sheet = assemble(build, d, test::materials());
    REQUIRE(sheet);
    std::multiset<int> on;
    for (const BuildStep& step : sheet->steps) {
      if (step.kind != StepKind::glue) continue;
      for (const PanelId id : step.adds) on.insert(id.value);
      for (const std::string& line : step.lines) told += line.starts_with("Fold it at ") ? 1 : 0;
    }
    std::multiset<int> sheets;
    for (const Piece& p : *d.pieces)
      for (const PanelId id : p.panels()) sheets.insert(id.value);
    CHECK(on == sheets);
  }
  CHECK(folded_in_all > 0);
  CHECK(told > 0);
  CHECK(glued > 1000.0);
}

TEST_CASE("a sheet rolled tighter than it bears gets slots across the roll, and a dome none", "[piece][fold]") {
  const double radius = 22.0;
  SeamMesh roll;
  roll.mesh = test::structured(24, 8, false, false, [&](double u, double v) {
    const double a = kPi * (u - 0.5);
    return Vec3(radius * std::sin(a), 90.0 * v, radius * std::cos(a));
  });
  PanelOptions options;
  options.thickness_mm = kThick;
  const auto set = make_panels(roll, options);
  REQUIRE(set);
  auto pieces = make_pieces(*set);
  REQUIRE(pieces.size() == 1);
  REQUIRE(draw_slots(pieces[0], set->panels[0], 0.08));
  const auto plan = plan_slots(kThick, radius, 180.0, 0.08);
  REQUIRE(plan);
  int slots = 0;
  for (const PieceTrace& t : pieces[0].traces) {
    if (t.kind != TraceKind::slot) continue;
    ++slots;
    CHECK(std::abs(t.line.back().y() - t.line.front().y()) == Approx(90.0).margin(2.0));
    CHECK(std::abs(t.line.back().x() - t.line.front().x()) < 2.0);
  }
  CHECK(std::abs(slots - plan->count) <= 1);
  CHECK(pieces[0].traces.front().label.find(" slots inside") != std::string::npos);
  // What bears it as it is needs none; nor does a dome get any, they would not help.
  CHECK_FALSE(draw_slots(pieces[0], set->panels[0], 0.5));
  SeamMesh dome;
  dome.mesh = test::structured(16, 6, false, false, [&](double u, double v) -> Vec3 {
    const double a = 0.9 * (u - 0.5), b = 0.9 * (v - 0.5);
    return 30.0 * Vec3(std::sin(a) * std::cos(b), std::sin(b), std::cos(a) * std::cos(b));
  });
  const auto round = make_panels(dome, options);
  CAPTURE(round ? std::string() : round.error().text);
  REQUIRE(round);
  auto cap = make_pieces(*round);
  CHECK_FALSE(draw_slots(cap[0], round->panels[0], 0.02));
}

TEST_CASE("for templates of card every mark across a seam is a notch in both edges", "[piece][fold]") {
  Build build = test::demo();
  const Derived plain = test::chain()->derive(build);
  build.foam.notched = true;
  const Derived d = test::chain()->derive(build);
  REQUIRE(d.pieces);
  REQUIRE(plain.pieces->size() == d.pieces->size());
  int notches = 0;
  for (std::size_t i = 0; i < d.pieces->size(); ++i) {
    const Piece& piece = (*d.pieces)[i];
    std::size_t ticks = 0;
    for (const PieceEdge& e : piece.edges) ticks += e.seam.valid() ? e.ticks.size() : 0;
    REQUIRE(piece.clips.size() == (*plain.pieces)[i].clips.size() + ticks);
    for (const auto& notch : piece.clips) {
      REQUIRE(notch.size() == 3);
      CHECK(inside(piece.outline, notch[1]));
      CHECK(distance_to_outline(piece.outline, notch[1]) == Approx(4.0).margin(1.2));
      CHECK(distance_to_outline(piece.outline, 0.5 * (notch[0] + notch[2])) < 0.2);
      ++notches;
    }
  }
  CHECK(notches > 20);
}
