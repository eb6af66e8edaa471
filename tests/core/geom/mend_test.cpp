#include "core/geom/mending/mend.hpp"

#include <Eigen/Geometry>
#include <catch2/catch.hpp>
#include <cmath>

#include "core/base/random.hpp"
#include "core/form/import.hpp"
#include "core/geom/nearest.hpp"
#include "core/geom/offset.hpp"
#include "core/geom/polygon.hpp"
#include "core/geom/triangulate.hpp"
#include "core/geom/walls.hpp"
#include "support/bench_data.hpp"
#include "support/solids.hpp"

using namespace awl;

namespace {

/// A box from -1 to 1 scaled, closed, normals outwards.
Mesh box_mesh(const Vec3& half) {
  Mesh mesh;
  for (int i = 0; i < 8; ++i)
    mesh.vertices.push_back({(i & 1 ? 1 : -1) * half.x(), (i & 2 ? 1 : -1) * half.y(), (i & 4 ? 1 : -1) * half.z()});
  const int quads[6][4] = {{0, 2, 3, 1}, {4, 5, 7, 6}, {0, 1, 5, 4}, {2, 6, 7, 3}, {0, 4, 6, 2}, {1, 3, 7, 5}};
  for (const auto& q : quads)
    mesh.triangles.push_back({q[0], q[1], q[2]}), mesh.triangles.push_back({q[0], q[2], q[3]});
  return mesh;
}

bool says(const std::vector<std::string>& sentences, const char* word) {
  for (const std::string& s : sentences)
    if (s.find(word) != std::string::npos) return true;
  return false;
}

/// Every triangle with corners of its own, as some files have them.
Mesh soup(const Mesh& mesh, double noise, Random& random) {
  Mesh loose;
  for (const Tri& t : mesh.triangles) {
    const int first = static_cast<int>(loose.vertices.size());
    for (const int v : t)
      loose.vertices.push_back(
          mesh.vertices[v] + noise * Vec3(random.uniform(-1, 1), random.uniform(-1, 1), random.uniform(-1, 1)));
    loose.triangles.push_back({first, first + 1, first + 2});
  }
  return loose;
}

}  // namespace

TEST_CASE("a sound mesh comes back as it was, and nothing is said to have been done", "[geom][mend]") {
  const Mesh box = box_mesh({50, 60, 70});
  const auto mended = mend(box);
  REQUIRE(mended);
  CHECK(mended->did.empty());
  CHECK(mended->openings == 0);
  CHECK(mended->mesh.triangles.size() == 12);
  CHECK(volume_mm3(mended->mesh) == Approx(8.0 * 50 * 60 * 70));
}

TEST_CASE("a loose soup is joined to a closed surface, and what was done is told", "[geom][mend]") {
  Random random(2);
  const Mesh box = box_mesh({50, 60, 70});
  const auto mended = mend(soup(box, 1e-6, random));
  REQUIRE(mended);
  CHECK(says(mended->did, "joined"));
  CHECK(mended->mesh.vertices.size() == 8);
  CHECK(euler_characteristic(mended->mesh) == 2);
  CHECK(std::abs(volume_mm3(mended->mesh)) == Approx(8.0 * 50 * 60 * 70).epsilon(1e-5));
}

TEST_CASE("inside-out, doubled, and crumbs are put right", "[geom][mend]") {
  Mesh box = box_mesh({50, 60, 70});
  for (Tri& t : box.triangles) std::swap(t[1], t[2]);
  const auto turned = mend(box);
  REQUIRE(turned);
  CHECK(volume_mm3(turned->mesh) > 0.0);
  CHECK(says(turned->did, "inside out"));
  Mesh crumbed = box_mesh({50, 60, 70});
  crumbed.triangles.push_back(crumbed.triangles[3]);
  const int n = static_cast<int>(crumbed.vertices.size());
  for (const Vec3& p : {Vec3(200, 0, 0), Vec3(201, 0, 0), Vec3(200, 1, 0)}) crumbed.vertices.push_back(p);
  crumbed.triangles.push_back({n, n + 1, n + 2});
  const auto clean = mend(crumbed);
  REQUIRE(clean);
  CHECK(says(clean->did, "double"));
  CHECK(says(clean->did, "crumb"));
  CHECK(clean->mesh.triangles.size() == 12);
}

TEST_CASE("openings stay and are asked about, as are double walls and surfaces that cut themselves", "[geom][mend]") {
  Mesh open = box_mesh({50, 60, 70});
  open.triangles.resize(10);
  const auto kept = mend(open);
  REQUIRE(kept);
  CHECK(kept->openings == 1);
  CHECK(says(kept->asks, "opening"));
  Mesh two = box_mesh({50, 60, 70});
  Mesh inner = box_mesh({45, 55, 65});
  for (const Tri& t : inner.triangles) two.triangles.push_back({t[0] + 8, t[2] + 8, t[1] + 8});
  two.vertices.insert(two.vertices.end(), inner.vertices.begin(), inner.vertices.end());
  const auto walls = mend(two);
  REQUIRE(walls);
  CHECK(says(walls->asks, "inner and an outer wall"));
  Mesh crossed = box_mesh({50, 60, 70});
  Mesh other = box_mesh({50, 20, 20});
  for (Vec3& p : other.vertices) p += Vec3(40, 0, 0);
  for (const Tri& t : other.triangles) crossed.triangles.push_back({t[0] + 8, t[1] + 8, t[2] + 8});
  crossed.vertices.insert(crossed.vertices.end(), other.vertices.begin(), other.vertices.end());
  const auto cuts = mend(crossed);
  REQUIRE(cuts);
  CHECK(cuts->crosses_itself);
  CHECK(says(cuts->asks, "cuts through itself"));
}

TEST_CASE("what is no mesh is refused with a sentence", "[geom][mend]") {
  CHECK(mend({}).error().code == Errc::empty_input);
  Mesh bad = box_mesh({1, 1, 1});
  bad.vertices[3].x() = std::nan("");
  CHECK(mend(bad).error().code == Errc::bad_file);
  bad = box_mesh({1, 1, 1});
  bad.triangles[2][1] = 99;
  CHECK(mend(bad).error().text.find("99") != std::string::npos);
}

TEST_CASE("a finely meshed ball is brought down to fewer triangles and stays a ball", "[geom][mend]") {
  Mesh ball = test::fitter().head().mesh;
  const auto fewer = simplified(ball, 2000);
  REQUIRE(fewer);
  CHECK(fewer->triangles.size() < 2600);
  CHECK(volume_mm3(*fewer) == Approx(volume_mm3(ball)).epsilon(0.01));
  CHECK(simplified(ball, 10).error().code == Errc::out_of_range);
}

TEST_CASE("the unit of a mesh is guessed by what could be worn, and said", "[form][import]") {
  const Headform head = *test::fitter().fit(MeasureSet{{MeasureId::HC, 566.0}});
  const Mesh in_mm = box_mesh({90, 110, 100});
  for (const auto& [factor, name, to_mm] : {std::tuple{1.0, "millimetres", 1.0}, {0.1, "centimetres", 10.0},
           {1 / 25.4, "inches", 25.4}, {0.001, "metres", 1000.0}}) {
    Mesh mesh = in_mm;
    for (Vec3& p : mesh.vertices) p *= factor;
    const UnitGuess guess = guess_unit(mesh, head);
    CHECK(guess.to_mm == Approx(to_mm));
    CHECK(guess.sentence.find(name) != std::string::npos);
    CHECK(guess.scale_to_fit ==
        Approx(std::max(
            (head.reading(MeasureId::HB).reads_mm + 30) / 180.0, (head.reading(MeasureId::HL).reads_mm + 30) / 200.0)));
  }
}

TEST_CASE("three places shown on a mesh and on the head bring it there", "[form][import]") {
  const Headform head = *test::fitter().fit(MeasureSet{{MeasureId::HC, 566.0}});
  const Site site(head);
  ImportSpec spec;
  spec.mesh = std::make_shared<const Mesh>(box_mesh({40, 50, 60}));
  spec.turn_deg = 30, spec.tip_deg = -12, spec.roll_deg = 8, spec.aside_mm = 20, spec.up_mm = -15, spec.forward_mm = 40,
  spec.scale = 1.3;
  const Mesh goal = draft_import(spec, site)->mesh;
  ImportSpec start = spec;
  start.turn_deg = start.tip_deg = start.roll_deg = start.aside_mm = start.up_mm = start.forward_mm = 0.0,
  start.scale = 1.0;
  const Mesh now = draft_import(start, site)->mesh;
  const auto found = matched(start, site, {now.vertices[0], now.vertices[3], now.vertices[5]},
      {goal.vertices[0], goal.vertices[3], goal.vertices[5]}, false);
  REQUIRE(found);
  CHECK(found->scale == Approx(1.3).epsilon(1e-6));
  const Mesh back = draft_import(*found, site)->mesh;
  for (std::size_t v = 0; v < goal.vertices.size(); ++v) CHECK((back.vertices[v] - goal.vertices[v]).norm() < 1e-6);
  CHECK_FALSE(matched(start, site, {Vec3(0, 0, 0), Vec3(1, 0, 0), Vec3(2, 0, 0)},
      {Vec3(0, 0, 0), Vec3(10, 0, 0), Vec3(0, 20, 0)}, false));
}

TEST_CASE("a mesh brought in is cut away where asked and laid in panels", "[form][import]") {
  Build b = test::demo();
  b.parts.clear();
  ImportSpec spec;
  spec.mesh = std::make_shared<const Mesh>(*simplified(test::fitter().head().mesh, 4000));
  spec.file = "bust.obj", spec.edge_mm = 9, spec.cut_low = 0.45, spec.belts = 1, spec.cut_across = true,
  spec.scale = 1.2;
  Part part;
  part.name = "bust", part.shape = spec;
  (void)add_part(b, part);
  const Derived d = test::chain()->derive(b);
  REQUIRE(d.form);
  CHECK(border_loops(d.form->surface.mesh).size() == 1);
  REQUIRE(d.panels);
  CHECK(d.panels->panels.size() == 8);
  std::get<ImportSpec>(b.parts[0].shape).cut_middle = std::get<ImportSpec>(b.parts[0].shape).cut_across = false;
  std::get<ImportSpec>(b.parts[0].shape).belts = 0, std::get<ImportSpec>(b.parts[0].shape).cut_low = 0.0;
  const Derived whole = test::chain()->derive(b);
  REQUIRE(whole.error);
  CHECK(whole.error->text.find("closed all round") != std::string::npos);
}

TEST_CASE("a mesh brought in is rounded to its sheet and made alike on both sides", "[form][import][foam-shape]") {
  // A bust turned aside, with a needle on its brow.
  Mesh bust = *simplified(test::fitter().head().mesh, 6000);
  const Eigen::Matrix3d aside = Eigen::AngleAxisd(0.6, Vec3::UnitY()).toRotationMatrix();
  const Vec3 front = box_of(bust.vertices).high;
  for (Vec3& p : bust.vertices) {
    if (p.z() > front.z() - 1.0) p.z() += 70.0;
    p = aside * p;
  }
  Build b = test::demo();
  b.parts.clear();
  ImportSpec spec;
  spec.mesh = std::make_shared<const Mesh>(bust);
  spec.file = "bust.obj", spec.foam_mm = 5.0;
  spec = with_sides_alike(spec, aside * Vec3::UnitX());
  CHECK(spec.mirror);
  CHECK(std::abs(std::abs(spec.turn_deg) - 34.38) < 0.5);
  spec.cut_low = 0.3;
  Part part;
  part.name = "bust", part.shape = spec;
  (void)add_part(b, part);
  const Derived d = test::chain()->derive(b);
  REQUIRE(d.form);
  CHECK(is_mirrored(d.form->parts.front()->surface));
  CHECK(std::any_of(d.remarks.begin(), d.remarks.end(), [](const Remark& r) { return r.id == "form.foam-shape"; }));
  CHECK(std::any_of(d.form->surface.seam_names.begin(), d.form->surface.seam_names.end(),
      [](const std::string& name) { return name.starts_with("middle"); }));
  // Moved up it keeps its shape, triangle for triangle.
  Build up = b;
  std::get<ImportSpec>(up.parts[0].shape).up_mm = 25.0;
  const Derived moved = test::chain()->derive(up);
  REQUIRE(moved.form);
  const Mesh &was = d.form->surface.mesh, &is = moved.form->surface.mesh;
  REQUIRE(was.triangles == is.triangles);
  for (std::size_t v = 0; v < was.vertices.size(); v += 13)
    CHECK((is.vertices[v] - was.vertices[v] - Vec3(0, 25, 0)).norm() < 1e-6);
  // Wholly on the other side nothing of it is left to be mirrored.
  Build away = b;
  std::get<ImportSpec>(away.parts[0].shape).aside_mm = -500.0;
  const Derived gone = test::chain()->derive(away);
  REQUIRE(gone.error);
  CHECK(gone.error->text.find("left side") != std::string::npos);
}

TEST_CASE("an outline is filled with good triangles, its corners kept and its holes left out", "[geom][triangulate]") {
  const std::vector<Vec2> square{{0, 0}, {100, 0}, {100, 100}, {0, 100}};
  const std::vector<Vec2> hole{{40, 40}, {60, 40}, {60, 60}, {40, 60}};
  const auto flat = triangulate(square, {hole}, 8.0);
  REQUIRE(flat);
  double area = 0.0, worst = 180.0;
  for (const Tri& t : flat->triangles) {
    const Vec2 a = flat->vertices[t[0]], b = flat->vertices[t[1]], c = flat->vertices[t[2]];
    const double twice = (b - a).x() * (c - a).y() - (b - a).y() * (c - a).x();
    CHECK(twice > 0.0);
    area += 0.5 * twice;
    for (const auto& [p, q, r] : {std::tuple{a, b, c}, {b, c, a}, {c, a, b}})
      worst = std::min(worst, std::acos((q - p).normalized().dot((r - p).normalized())) * 57.3);
  }
  CHECK(area == Approx(100.0 * 100.0 - 20.0 * 20.0));
  CHECK(worst > 19.0);
  for (const Vec2& corner : square)
    CHECK(std::any_of(
        flat->vertices.begin(), flat->vertices.end(), [&](const Vec2& v) { return (v - corner).norm() < 1e-9; }));
  CHECK(
      triangulate({{0, 0}, {100, 100}, {100, 0}, {0, 60}}, {}, 8.0).error().text.find("crosses") != std::string::npos);
  CHECK(triangulate({{0, 0}, {1, 0}}, {}, 8.0).error().code == Errc::degenerate_shape);
}

TEST_CASE("a curve goes through its points, and only corners are sharp", "[geom][triangulate]") {
  const std::vector<CurvePoint> points{{{0, 50}, true}, {{40, 40}, false}, {{60, 0}, false}, {{0, -50}, true}};
  const auto curve = smooth_curve(points, false, 1.0);
  for (const CurvePoint& p : points)
    CHECK(std::any_of(curve.begin(), curve.end(), [&](const Vec2& c) { return (c - p.at).norm() < 1e-9; }));
  for (std::size_t i = 1; i + 1 < curve.size(); ++i) {
    const Vec2 before = (curve[i] - curve[i - 1]).normalized(), after = (curve[i + 1] - curve[i]).normalized();
    CHECK(before.dot(after) > 0.97);
  }
  CHECK(without({{0, 0}, {10, 0}, {10, 10}, {0, 10}}, {{{-1, -1}, {11, -1}, {11, 4}, {-1, 4}}}).size() == 4);
  CHECK(without({{0, 0}, {10, 0}, {10, 10}, {0, 10}}, {{{-1, -1}, {11, -1}, {11, 14}, {-1, 14}}}).empty());
}

TEST_CASE("of a box within a box the outer one stays, a single wall stays whole", "[geom][walls]") {
  Mesh both = box_mesh({50, 60, 70});
  const Mesh inner = box_mesh({46, 56, 66});
  for (const Tri& t : inner.triangles) both.triangles.push_back({t[0] + 8, t[2] + 8, t[1] + 8});
  both.vertices.insert(both.vertices.end(), inner.vertices.begin(), inner.vertices.end());
  const auto wall = outer_wall(both);
  REQUIRE(wall);
  CHECK(wall->mesh.triangles.size() == 12);
  CHECK(box_of(wall->mesh.vertices).high.x() == 50.0);
  CHECK(wall->kept_share > 0.5);
  CHECK(wall->kept_share < 0.6);
  const auto same = outer_wall(box_mesh({50, 60, 70}));
  REQUIRE(same);
  CHECK(same->mesh.triangles.size() == 12);
  CHECK(same->kept_share == Approx(1.0));
}

TEST_CASE("of a bowl made with an inside and a rim the outside is kept", "[geom][walls]") {
  const Mesh shell = test::ball(60.0, 8.0);
  EdgeLabels held;
  Mesh bowl = shell;
  split_along(
      bowl, [](const Vec3& p) { return 25.0 - p.y(); }, held);
  bowl = keep_where(
      bowl, [](const Vec3& p) { return 25.0 - p.y(); }, held);
  Mesh inside = bowl;
  for (Vec3& p : inside.vertices) p *= 0.92;
  const Mesh hollow = solid_between(bowl, inside);
  const auto wall = outer_wall(hollow);
  REQUIRE(wall);
  CHECK(area_mm2(wall->mesh) == Approx(area_mm2(bowl)).epsilon(0.08));
  for (const Tri& t : wall->mesh.triangles) {
    const Vec3 c = (wall->mesh.vertices[t[0]] + wall->mesh.vertices[t[1]] + wall->mesh.vertices[t[2]]) / 3.0;
    CHECK((c.norm() > 57.0 || c.y() > 20.0));
  }
}

TEST_CASE("a surface that cuts through itself is smoothed there when asked", "[geom][mend]") {
  Mesh dented = test::ball(50.0, 7.0);
  for (Vec3& p : dented.vertices)
    if (p.y() > 44.0) p.y() -= 101.0;  // pushed out through the other side
  REQUIRE(mend(dented)->crosses_itself);
  const auto mended = without_self_cuts(dented);
  REQUIRE(mended);
  CHECK_FALSE(mend(*mended)->crosses_itself);
  CHECK(box_of(mended->vertices).size().x() == Approx(100.0).margin(3.0));
  const Mesh sound = box_mesh({5, 6, 7});
  CHECK(*without_self_cuts(sound) == sound);
}
