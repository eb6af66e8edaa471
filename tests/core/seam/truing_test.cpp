#include "core/seam/truing.hpp"

#include <catch2/catch.hpp>
#include <cmath>

#include "core/base/random.hpp"
#include "core/chain/corrected.hpp"
#include "core/io/build_file.hpp"
#include "core/piece/piece.hpp"
#include "core/seam/correction.hpp"
#include "core/seam/finer.hpp"
#include "core/seam/joined_sheets.hpp"
#include "core/seam/truing_moves.hpp"
#include "support/bench_data.hpp"
#include "support/plain_shapes.hpp"

using namespace awl;

namespace {

/// The snout of the Otter Pup: an open shell of eight panels that springs wide. And its head, which is closed.
const PanelSet& otter(const std::string& part) {
  static const Derived d = test::chain()->derive(*demo_by_name("otter-pup", Day{20731}));
  for (const auto& set : d.part_panels)
    if (set->spans.front().name == part) return *set;
  FAIL("no such part");
  return *d.part_panels.front();
}

GlueUpOptions warm_foam() { return {.squeeze = 0.6, .keeps_bend = 0.8}; }

std::vector<std::vector<Vec2>> flats_of(const PanelSet& set) {
  std::vector<std::vector<Vec2>> flats;
  for (const Panel& p : set.panels) flats.push_back(p.flat);
  return flats;
}

/// The largest difference of the sides of any edge of any seam.
double uneven_mm(const PanelSet& set, const std::vector<std::vector<Vec2>>& flats) {
  std::map<std::pair<int, int>, std::vector<double>> sides;
  for (std::size_t p = 0; p < set.panels.size(); ++p)
    for (const BorderEdge& e : set.panels[p].border)
      if (e.seam.valid())
        sides[edge_of(set.panels[p].vertex_of[e.a], set.panels[p].vertex_of[e.b])].push_back(
            (flats[p][e.a] - flats[p][e.b]).norm());
  double worst = 0.0;
  for (const auto& [edge, mm] : sides)
    if (mm.size() == 2) worst = std::max(worst, std::abs(mm[0] - mm[1]));
  return worst;
}

}  // namespace

TEST_CASE("a finer set is the same pieces on four times the triangles", "[seam][truing]") {
  const PanelSet& set = otter("snout");
  const PanelSet fine = finer(set);
  CHECK(fine.form.mesh.triangles.size() == 4 * set.form.mesh.triangles.size());
  CHECK(is_mirrored(fine.form));
  REQUIRE(fine.panels.size() == set.panels.size());
  for (std::size_t p = 0; p < set.panels.size(); ++p) {
    const Panel &coarse = set.panels[p], &own = fine.panels[p];
    CHECK(own.solid.triangles.size() == 4 * coarse.solid.triangles.size());
    CHECK(own.border.size() == 2 * coarse.border.size());
    CHECK(own.solid.vertices.size() == own.flat.size());
    CHECK(own.vertex_of.size() == own.flat.size());
    double coarse_mm2 = 0.0, fine_mm2 = 0.0;
    for (const Tri& t : coarse.solid.triangles)
      coarse_mm2 += signed_area_mm2({coarse.flat[t[0]], coarse.flat[t[1]], coarse.flat[t[2]]});
    for (const Tri& t : own.solid.triangles) {
      const double part = signed_area_mm2({own.flat[t[0]], own.flat[t[1]], own.flat[t[2]]});
      CHECK(part > 0.0);
      fine_mm2 += part;
    }
    CHECK(fine_mm2 == Approx(coarse_mm2));
    // What both panels of a seam say of its middle is one place.
    for (std::size_t v = 0; v < own.vertex_of.size(); ++v)
      CHECK(own.vertex_of[v] < static_cast<int>(fine.form.mesh.vertices.size()));
  }
  const auto meant = joined_sheets(fine, 0.8).meant;
  for (const Panel& p : fine.panels)
    for (std::size_t v = 0; v < p.vertex_of.size(); ++v)
      CHECK((meant[p.vertex_of[v]] - p.solid.vertices[v]).norm() < 1e-6);
}

TEST_CASE("few numbers move outlines, and what lies within follows", "[seam][truing]") {
  const PanelSet& set = otter("otter head");
  const TruingMoves moves(set, true, 25.0);
  CHECK(moves.count() > 60);
  CHECK(moves.count() < 900);
  Random random(5);
  Eigen::VectorXd by(moves.count());
  for (Eigen::Index i = 0; i < by.size(); ++i) by[i] = random.uniform(-0.5, 0.5);
  const auto flats = moves.moved(set, flats_of(set), by);
  double moved = 0.0;
  for (const Panel& p : set.panels) {
    const auto& flat = flats[p.id.value];
    for (std::size_t v = 0; v < flat.size(); ++v) {
      const double mm = (flat[v] - p.flat[v]).norm();
      moved = std::max(moved, mm);
      CHECK(mm < 2.0);
    }
    // A mirrored pair stays one.
    if (p.mirror_of)
      for (std::size_t v = 0; v < flat.size(); ++v)
        CHECK((flat[v] - Vec2(-flats[p.mirror_of->value][v].x(), flats[p.mirror_of->value][v].y())).norm() < 1e-9);
  }
  CHECK(moved > 0.3);
  // Moved all alike a panel keeps its shape: shares of knots add up to one.
  const auto none = moves.moved(set, flats_of(set), Eigen::VectorXd::Zero(moves.count()));
  CHECK(none == flats_of(set));
}

TEST_CASE("sides of seams that moves made unequal are evened by the least moves", "[seam][truing]") {
  const PanelSet& set = otter("otter head");
  const TruingMoves moves(set, true, 25.0);
  Random random(6);
  Eigen::VectorXd by(moves.count());
  for (Eigen::Index i = 0; i < by.size(); ++i) by[i] = random.uniform(-0.4, 0.4);
  auto flats = moves.moved(set, flats_of(set), by);
  const auto before = flats;
  const double was = uneven_mm(set, flats);
  CHECK(was > 0.05);
  const double left = even_seams(set, true, flats);
  CHECK(left < 1e-3);
  CHECK(uneven_mm(set, flats) < 2e-3);
  double most = 0.0;
  for (std::size_t p = 0; p < flats.size(); ++p)
    for (std::size_t v = 0; v < flats[p].size(); ++v) most = std::max(most, (flats[p][v] - before[p][v]).norm());
  CHECK(most < 3.0 * was + 0.5);
}

TEST_CASE("places answer to loads as the glued sheets are stiff", "[seam][truing]") {
  const PanelSet& set = otter("snout");
  JoinedSheets sheets = joined_sheets(set, 0.8);
  std::vector<Vec3> places = sheets.start();
  const int n = static_cast<int>(places.size());
  ShellEnergy energy(n, sheets.faces, sheets.hinges, 0.6);
  energy.hold_in_middle(sheets.middle);
  energy.minimise(places, 60, 1e-4, {});
  // A small load: places move so that the gradient takes it up.
  Eigen::MatrixXd load = Eigen::MatrixXd::Zero(3 * n, 1);
  Random random(7);
  std::set<int> middle(sheets.middle.begin(), sheets.middle.end());
  for (int v = 0; v < n; ++v)
    for (int c = 0; c < 3; ++c)
      if (c != 0 || middle.count(v) == 0) load(3 * v + c, 0) = random.uniform(-1e-7, 1e-7);
  const Eigen::VectorXd was = energy.gradient_at(places);
  const auto moved = energy.response(places, load);
  REQUIRE(moved);
  std::vector<Vec3> next = places;
  for (int v = 0; v < n; ++v) next[v] += moved->block<3, 1>(3 * v, 0);
  const Eigen::VectorXd off = energy.gradient_at(next) - was - load;
  CHECK(off.norm() < 0.05 * load.norm());
}

TEST_CASE("corrected outlines come out nearer to the form, on a finer mesh too", "[seam][truing][slow]") {
  TruingOptions options;
  options.glue = warm_foam();
  options.rounds = 2;
  const PanelSet& set = otter("snout");
  const auto trued = true_outlines(set, options);
  REQUIRE(trued);
  REQUIRE(trued->better);
  CHECK(trued->after.p95_mm < 0.7 * trued->before.p95_mm);
  CHECK(trued->finer_after.p95_mm < 0.7 * trued->finer_before.p95_mm);
  CHECK(trued->after.rim_mm < 0.8);
  CHECK(trued->moved_most_mm < 2.0);
  CHECK(uneven_mm(set, trued->flat) < 0.01);

  const Correction kept = correction_of(set, *trued, 2, false);
  const auto again = corrected(set, kept);
  REQUIRE(again);
  for (const Panel& p : again->panels)
    for (std::size_t v = 0; v < p.flat.size(); ++v) CHECK((p.flat[v] - trued->flat[p.id.value][v]).norm() < 0.25);
  for (const Panel& p : again->panels)
    for (const BorderEdge& e : p.border) CHECK((p.flat[e.a] - trued->flat[p.id.value][e.a]).norm() < 2e-4);

  // Other pieces are left as they are, with a sentence and its place.
  PanelSet other = set;
  for (Vec2& at : other.panels.front().flat) at *= 1.01;
  const auto stale = corrected(other, kept);
  REQUIRE_FALSE(stale);
  CHECK(stale.error().where == "corrections/2");
  CHECK(stale.error().text.find("other pieces") != std::string::npos);
}

TEST_CASE("correcting can be stopped, and nothing can be corrected that is not there", "[seam][truing]") {
  const auto stopped = true_outlines(otter("snout"), {}, Progress([](double) { return false; }));
  REQUIRE_FALSE(stopped);
  CHECK(stopped.error().code == Errc::cancelled);
  CHECK(true_outlines(PanelSet{}).error().code == Errc::empty_input);
  CHECK(correct_outlines(Derived{}, test::demo(), test::materials(), 0, false).error().code == Errc::empty_input);
  const Derived d = test::derived();
  CHECK(correct_outlines(d, test::demo(), test::materials(), 99, false).error().code == Errc::unknown_name);
}

TEST_CASE("a build keeps its corrections, cuts by them and says when they are of other pieces", "[seam][truing][io]") {
  Build b = *demo_by_name("otter-pup", Day{20731});
  const Derived plain = test::chain()->derive(b);
  const PanelSet& set = *plain.part_panels.front();
  // Any small moves will do here: every border a tenth outwards.
  Trued trued;
  trued.flat = flats_of(set);
  for (const Panel& p : set.panels)
    for (const BorderEdge& e : p.border) trued.flat[p.id.value][e.a] *= 1.001;
  b.corrections = {correction_of(set, trued, plain.form->parts.front()->part, false)};
  const test::TempFolder folder;
  REQUIRE(save_build((folder / "c.noggin").string(), b));
  const auto read = open_build((folder / "c.noggin").string());
  REQUIRE(read);
  CHECK(read->corrections == b.corrections);
  const Derived d = test::chain()->derive(*read);
  REQUIRE(d.complete());
  const auto area = [](const Derived& of) {
    double sum = 0.0;
    for (const Piece& p : *of.pieces)
      if (p.panel.valid() && of.panels->panels[p.panel.value].part == 0) sum += p.area_mm2;
    return sum;
  };
  CHECK(area(d) > 1.001 * area(plain));
  for (const Remark& r : d.remarks) CHECK(r.id != "seam.corrected");

  Build other = *read;
  other.parts.front().thickness_mm = other.foam.thickness_mm + 3.0;
  const Derived stale = test::chain()->derive(other);
  const auto told = std::find_if(
      stale.remarks.begin(), stale.remarks.end(), [](const Remark& r) { return r.id == "seam.corrected"; });
  REQUIRE(told != stale.remarks.end());
  REQUIRE_FALSE(told->remedies.empty());
  const auto undone = apply_act(other, told->remedies.front().act);
  REQUIRE(undone);
  CHECK(undone->corrections.empty());

  Build wild = b;
  wild.corrections.front().panels.front().moves.front() = Vec2(500, 0);
  CHECK_FALSE(check_inputs(wild));
  wild.corrections = {b.corrections.front(), b.corrections.front()};
  CHECK_FALSE(check_inputs(wild));
}
