#include <Eigen/Geometry>
#include <catch2/catch.hpp>

#include "core/base/random.hpp"
#include "core/steps/assembly.hpp"
#include "core/steps/shopping.hpp"
#include "core/chain/ways.hpp"
#include "core/geom/nearest.hpp"
#include "core/io/build_file.hpp"
#include "core/make/carve.hpp"
#include "core/make/drawn_visor.hpp"
#include "core/make/paper_net.hpp"
#include "core/make/slabs.hpp"
#include "support/bench_data.hpp"
#include "support/numbers.hpp"
#include "support/solids.hpp"
#include "support/turned.hpp"

using namespace awl;

namespace {

Body body_of(Mesh open, const std::string& name = "cone") { return {capped(open), open, false, name}; }

Build with_way(const std::string& demo, Way way, int part = -1) {
  Build b = *demo_by_name(demo, Day{20731});
  b.dress = {};  // the pieces of its way alone
  Part& p = part < 0 ? b.parts.back() : *find_part(b, part);
  p.way.way = way;
  return b;
}

}  // namespace

TEST_CASE("slabs hold the whole form and waste the least of all stacks", "[make][slabs]") {
  SlabOptions options;
  options.heights_mm = {12.0, 25.0, 38.0}, options.spare_mm = 0.0;
  const Mesh solid = capped(test::upright_cone(60.0, 100.0));
  const auto plan = plan_slabs(solid, options);
  REQUIRE(plan);
  double height = 0.0;
  for (const Slab& s : plan->slabs) {
    CHECK(s.from_mm == Approx(height));
    height += s.thickness_mm;
    // All sections of the form within the slab lie within its outline.
    for (const double f : {0.05, 0.5, 0.95}) {
      const double z = s.from_mm + f * s.thickness_mm;
      if (z >= 100.0) continue;
      const double radius = 60.0 * (1.0 - z / 100.0);
      for (int i = 0; i < 36; ++i)
        CHECK(inside(s.cut[0], 0.99 * radius * Vec2(std::cos(i * kTwoPi / 36), std::sin(i * kTwoPi / 36))));
    }
    CHECK(s.upper_trim_mm == Approx(60.0 * std::min(s.thickness_mm, 100.0 - s.from_mm) / 100.0).margin(1.5));
  }
  CHECK(height >= 100.0 - 1e-9);
  // Worked by hand for a cone: nothing beats a stack of the thinnest where the outline shrinks, but every glue plane
  // costs.
  double all_thick = 0.0;
  for (double z = 0.0; z < 100.0; z += 38.0) all_thick += kPi * std::pow(60.0 * (1.0 - z / 100.0), 2) * 38.0;
  CHECK(plan->slabs_mm3 < 0.95 * all_thick);
  CHECK(plan->form_mm3 == Approx(kPi * 3600.0 * 100.0 / 3.0).epsilon(0.01));
}

TEST_CASE("upright walls take thick slabs: fewer glue planes for the same stuff", "[make][slabs]") {
  SlabOptions options;
  options.heights_mm = {12.0, 38.0}, options.spare_mm = 0.0;
  Mesh box = test::cube(76.0);
  const auto plan = plan_slabs(box, options);
  REQUIRE(plan);
  REQUIRE(plan->slabs.size() == 2);
  for (const Slab& s : plan->slabs) CHECK(s.thickness_mm == 38.0);
  CHECK(plan->slabs_mm3 == Approx(76.0 * 76.0 * 76.0).epsilon(1e-3));
  CHECK(plan->glue_mm2 == Approx(76.0 * 76.0).epsilon(1e-3));
}

TEST_CASE("a hollow leaves its wall on every side and a lid on top", "[make][slabs]") {
  SlabOptions options;
  options.heights_mm = {12.0, 25.0}, options.spare_mm = 0.0, options.wall_mm = 15.0;
  const Mesh ball = test::ball(70.0, 5.0);
  const auto plan = plan_slabs(ball, options);
  REQUIRE(plan);
  const Nearest skin(ball);
  int hollow = 0;
  for (const Slab& s : plan->slabs)
    for (const auto& ring : s.cut) {
      if (signed_area_mm2(ring) > 0.0) continue;
      ++hollow;
      for (const Vec2& p : ring)
        for (const double z : {s.from_mm, s.from_mm + s.thickness_mm}) {
          // The floor may run out at the bottom, where the hollow is open.
          const Vec3 at = plan->frame.origin + p.x() * plan->frame.u + p.y() * plan->frame.v + z * Vec3::UnitY();
          if (at.y() > -50.0) CHECK(-skin.to(at).signed_mm > 0.7 * options.wall_mm);
        }
    }
  CHECK(hollow >= 3);
  CHECK(plan->slabs.back().cut.size() == 1);
  options.open_below = false;
  const auto closed = plan_slabs(ball, options);
  REQUIRE(closed);
  CHECK(closed->slabs.front().cut.size() == 1);
}

TEST_CASE("what is drawn on a slab lies on it, and is where the next one stands", "[make][slabs]") {
  // Two towers on one foot: each slab of a tower shows only its own next one.
  Mesh towers;
  for (const double x : {-40.0, 40.0}) {
    Mesh one = test::cube(50.0);
    const int n = static_cast<int>(towers.vertices.size());
    for (const Vec3& p : one.vertices) towers.vertices.push_back(p + Vec3(x + (p.y() > 25.0 ? 8.0 : 0.0), 0, 0));
    for (const Tri& t : one.triangles) towers.triangles.push_back({t[0] + n, t[1] + n, t[2] + n});
  }
  SlabOptions options;
  options.heights_mm = {25.0};
  const auto plan = plan_slabs(towers, options);
  REQUIRE(plan);
  const auto pieces = slab_pieces(*plan, {towers, towers, false, "towers"}, "soft-block");
  REQUIRE(pieces.size() == 4);
  for (const Piece& p : pieces) {
    CHECK(p.guides.size() == (p.name.find("slab 1") != std::string::npos ? 1 : 0));
    for (const auto& guide : p.guides)
      for (const Vec2& q : guide) CHECK((inside(p.outline, q) || distance_to_outline(p.outline, q) < 0.01));
  }
}

TEST_CASE("what cannot be stacked is refused in words", "[make][slabs]") {
  SlabOptions options;
  options.heights_mm.clear();
  CHECK(plan_slabs(test::cube(20.0), options).error().code == Errc::empty_input);
  options.heights_mm = {12.0};
  CHECK(plan_slabs(test::cube(2.0), options).error().code == Errc::degenerate_shape);
  CHECK(plan_slabs(test::cube(1600.0), options).error().code == Errc::out_of_range);
  CHECK(plan_slabs(test::cube(50.0), options, Progress([](double) { return false; })).error().code == Errc::cancelled);
}

TEST_CASE("a leaning horn's block has the templates' size and its foot the lean", "[make][carve]") {
  const double lean_deg = GENERATE(0.0, 12.0, -20.0);
  Mesh open = test::upright_cone(30.0, 160.0);
  // The base stays level while the horn leans to the wearer's left: a shear, so that the foot is known.
  const double slope = std::tan(radians(lean_deg));
  for (Vec3& p : open.vertices) p.x() += slope * p.y();
  const Body body = body_of(open, "horn");
  CarveOptions options;
  options.axes = own_axes(body.solid), options.spare_mm = 0.0;
  const auto plan = plan_carving(body, options);
  REQUIRE(plan);
  CHECK(plan->has_base);
  CHECK(plan->base_off_flat_mm == Approx(0.0).margin(1e-6));
  // Along the block the level foot rises towards the side it leans to.
  const double along_deg = degrees(std::atan2(options.axes.along.x(), options.axes.along.y()));
  CHECK(plan->mitre_front_deg == Approx(along_deg).margin(0.01));
  CHECK(along_deg == Approx(lean_deg).margin(4.0));
  CHECK(plan->mitre_side_deg == Approx(0.0).margin(0.3));
  CHECK(plan->block_mm.y() >= 160.0 - 1e-6);
  CHECK(plan->block_mm.y() < 190.0);
  CHECK(plan->block_mm.z() == Approx(60.0).epsilon(0.02));
  CHECK(plan->layers == 1);
  const auto templates = carve_templates(*plan, body, 1.0);
  REQUIRE(templates.size() == 2);
  for (const Piece& t : templates) {
    Vec2 low = t.outline[0], high = low;
    for (const Vec2& p : t.outline) low = low.cwiseMin(p), high = high.cwiseMax(p);
    CHECK((high - low).x() ==
        Approx(t.name.find("front") != std::string::npos ? plan->block_mm.x() : plan->block_mm.z()).margin(0.2));
  }
}

TEST_CASE("what is no block is refused in words", "[make][carve]") {
  CarveOptions options;
  options.axes = {Vec3::UnitY(), Vec3::UnitX(), Vec3::UnitZ()};
  Mesh thin = test::cube(50.0);
  for (Vec3& p : thin.vertices) p.z() *= 0.02;
  CHECK(plan_carving({thin, thin, false, "leaf"}, options).error().text.find("leaf") != std::string::npos);
  options.heights_mm.clear();
  CHECK(plan_carving({test::cube(50.0), test::cube(50.0), false, "b"}, options).error().code == Errc::empty_input);
}

TEST_CASE("a block higher than what is sold is glued up", "[make][carve]") {
  CarveOptions options;
  options.axes = {Vec3::UnitY(), Vec3::UnitX(), Vec3::UnitZ()}, options.spare_mm = 0.0,
  options.heights_mm = {25.0, 50.0};
  const auto plan = plan_carving({test::cube(120.0), test::cube(120.0), false, "cube"}, options);
  REQUIRE(plan);
  CHECK(plan->layers == 3);
  CHECK(plan->layer_mm == 50.0);
}

TEST_CASE("a cube's net is one sheet of twelve faces with every edge in its length", "[make][net]") {
  Mesh cube = test::cube(40.0);
  const auto plan = plan_net(cube, {});
  REQUIRE(plan);
  CHECK(plan->mesh == cube);
  CHECK(plan->islands.size() == 1);
  CHECK(plan->folds == 11);
  CHECK(plan->joins.size() == 7);
  CHECK(plan->off_mm == Approx(0.0).margin(1e-6));
  CHECK(plan_net(cube, {.faces = 19}).error().code == Errc::out_of_range);
  CHECK(plan_net(cube, {.faces = 1001}).error().code == Errc::out_of_range);
  CHECK(plan_net({}, {}).error().code == Errc::degenerate_shape);
}

TEST_CASE("no net overlaps, every face keeps its shape and every cut has both its numbers", "[make][net][property]") {
  const int faces = GENERATE(60, 200, 600, 1000);
  const Mesh form = faces % 400 == 200 ? test::ball(70.0, 6.0) : test::upright_cone(70.0, 180.0);
  const auto plan = plan_net(form, {.faces = faces});
  REQUIRE(plan);
  CHECK(static_cast<int>(plan->mesh.triangles.size()) <= 1000);
  CHECK(static_cast<double>(plan->mesh.triangles.size()) > 0.5 * faces);
  std::size_t placed = 0;
  for (const NetIsland& island : plan->islands) {
    placed += island.faces.size();
    for (std::size_t i = 0; i < island.faces.size(); ++i) {
      const Tri& t = plan->mesh.triangles[island.faces[i]];
      for (int k = 0; k < 3; ++k)
        CHECK((island.flat[i][(k + 1) % 3] - island.flat[i][k]).norm() ==
            Approx((plan->mesh.vertices[t[(k + 1) % 3]] - plan->mesh.vertices[t[k]]).norm()).margin(1e-6));
    }
  }
  CHECK(placed == plan->mesh.triangles.size());
  const auto pieces = net_pieces(*plan, "ball", 0.3);
  REQUIRE(pieces.size() == plan->islands.size());
  std::map<std::string, int> numbers;
  for (std::size_t i = 0; i < pieces.size(); ++i) {
    // The outline holds exactly the faces and the tabs: were two of them over each other, it would hold less.
    double own = 0.0;
    for (const auto& f : plan->islands[i].flat) own += signed_area_mm2({f[0], f[1], f[2]});
    double tabs = 0.0;
    for (const NetJoin& j : plan->joins)
      if (std::count(plan->islands[i].faces.begin(), plan->islands[i].faces.end(), j.face[0]) != 0)
        tabs += j.tab_mm * (j.length_mm - std::min(j.tab_mm, 0.3 * j.length_mm));
    CHECK(region_area_mm2(united({pieces[i].outline})) == Approx(own + tabs).epsilon(2e-3));
    for (const PieceEdge& e : pieces[i].edges)
      if (!e.letter.empty()) ++numbers[e.letter];
    Vec2 low = pieces[i].outline[0], high = low;
    for (const Vec2& p : pieces[i].outline) low = low.cwiseMin(p), high = high.cwiseMax(p);
    CHECK((high - low).minCoeff() <= 190.0 + 1e-6);
    CHECK((high - low).maxCoeff() <= 277.0 + 1e-6);
  }
  CHECK(numbers.size() == plan->joins.size());
  for (const auto& [number, count] : numbers) CHECK(count == 2);
}

TEST_CASE("a cone's net lies within its developed sector", "[make][net]") {
  const auto plan = plan_net(test::upright_cone(50.0, 120.0, 24, 6), {.faces = 400});
  REQUIRE(plan);
  // A cone unrolls exactly: all its faces in one sheet, cut once from base to tip.
  CHECK(plan->islands.size() == 1);
  double cut = 0.0;
  for (const NetJoin& j : plan->joins) cut += j.length_mm;
  CHECK(cut == Approx(std::hypot(50.0, 120.0)).epsilon(0.15));
}

TEST_CASE("a flat sheet stays as thick as it was, a deeper draw gets thinner", "[make][drawn]") {
  const auto dome = [](double deep) {
    return test::turned(
        [](double s) { return 60.0 * (1.0 - s); }, [=](double s) { return deep * s * (2.0 - s); }, 40, 80, 1)
        .mesh;
  };
  DrawnOptions options;
  options.skirt_mm = 0.0, options.pull = Vec3::UnitY();
  double last = options.sheet_mm;
  const auto flat = plan_drawing(dome(0.5), options);
  REQUIRE(flat);
  CHECK(flat->thinnest_mm == Approx(options.sheet_mm).epsilon(0.02));
  for (const double deep : {15.0, 40.0, 80.0}) {
    const auto plan = plan_drawing(dome(deep), options);
    REQUIRE(plan);
    CHECK(plan->depth_mm == Approx(deep));
    CHECK(plan->thinnest_mm < last);
    CHECK(plan->thinnest_mm > 0.0);
    CHECK(plan->undercut_mm2 == Approx(0.0).margin(1e-6));
    last = plan->thinnest_mm;
    // The top is touched first and keeps its thickness; the foot is thinnest.
    CHECK(plan->thinnest_at.y() < 0.2 * deep);
  }
}

TEST_CASE("a plunger's wall thins as the differential equation says", "[make][drawn]") {
  // A drum of radius R and height H under a round dome that hardly rises, frame W x W: worked out by hand with eq.
  // (3)-(6).
  const double radius = 50.0, height = 60.0;
  const Mesh drum = test::turned([=](double s) { return radius * std::min(1.0, 2.0 - 2.0 * s); },
      [=](double s) { return height * std::min(1.0, 2.0 * s); }, 60, 120, 1)
                        .mesh;
  DrawnOptions options;
  options.skirt_mm = 0.0, options.sheet_mm = 2.0, options.pull = Vec3::UnitY();
  const auto plan = plan_drawing(drum, options);
  REQUIRE(plan);
  const double inner = radius - 2.0, wall = height - 2.0;  // the buck is the inner face
  const double frame = plan->frame_mm.x() * plan->frame_mm.y(), disc = kPi * inner * inner;
  const double gap = 2.0 * (frame - disc) / (kTwoPi * inner + 2.0 * plan->frame_mm.sum());
  double t = 2.0, volume = 2.0 * (frame - disc);
  constexpr int kSteps = 20000;
  for (int i = 0; i < kSteps; ++i) {
    volume -= t * kTwoPi * inner * wall / kSteps;
    t = volume / ((frame - disc) * std::hypot(1.0, wall * (i + 1.0) / kSteps / gap));
  }
  CHECK(plan->thinnest_mm == Approx(t).epsilon(0.03));
}

TEST_CASE("undercuts are found, told where, and the buck is a closed solid with its skirt", "[make][drawn]") {
  Mesh ball = test::ball(50.0, 5.0);
  EdgeLabels held;
  const auto keep = [](const Vec3& p) { return p.z() + 20.0; };  // a little more than half: it comes in again behind
  split_along(ball, keep, held);
  ball = keep_where(ball, keep, held);
  const auto plan = plan_drawing(ball, {});
  REQUIRE(plan);
  CHECK(plan->undercut_mm2 == Approx(kTwoPi * 50.0 * 20.0).epsilon(0.05));
  CHECK(plan->undercut_at.z() < 0.0);
  CHECK(border_loops(plan->buck).empty());
  CHECK(volume_mm3(plan->buck) > 0.0);
  const Box box = box_of(plan->buck.vertices);
  CHECK(box.size().z() == Approx(70.0 + 20.0).margin(0.3));
  CHECK(plan->blank_mm.x() == Approx(plan->frame_mm.x() + 50.0));
  CHECK(plan_drawing(test::cube(40.0), {}).error().code == Errc::degenerate_shape);
}

TEST_CASE("a pair of horns is one body made twice", "[make]") {
  Mesh left = test::upright_cone(20.0, 80.0), both;
  for (Vec3& p : left.vertices) p.x() += 60.0;
  both = left;
  const int n = static_cast<int>(left.vertices.size());
  for (const Vec3& p : left.vertices) both.vertices.push_back(Vec3(-p.x(), p.y(), p.z()));
  for (const Tri& t : left.triangles) both.triangles.push_back({t[0] + n, t[2] + n, t[1] + n});
  const auto bodies = bodies_of(both, true, "horns");
  REQUIRE(bodies.size() == 1);
  CHECK(bodies[0].paired);
  CHECK(bodies[0].open.triangles.size() == left.triangles.size());
  CHECK(box_of(bodies[0].open.vertices).low == box_of(left.vertices).low);
  CHECK(bodies_of(both, false, "horns").size() == 2);
}

TEST_CASE("limits of a way are named", "[make]") {
  WaySpec spec;
  CHECK(check_way(spec));
  spec.net_faces = 1200;
  CHECK(check_way(spec).error().text.find("1200") != std::string::npos);
  CHECK(check_way(spec).error().text.find("1000") != std::string::npos);
  CHECK(way_from("knitted").error().text.find("slabs") != std::string::npos);
  for (const Way w : {Way::skin, Way::slabs, Way::carve, Way::net, Way::drawn})
    CHECK(way_from(name_of(w)).value() == w);
  for (const Axis a : {Axis::up, Axis::front, Axis::side, Axis::own}) CHECK(axis_from(name_of(a)).value() == a);
}

TEST_CASE("every way of making goes through to sheets, shopping and the build sheet", "[make][chain]") {
  const auto [demo, way] = GENERATE(table<std::string, Way>({{"otter-pup", Way::slabs}, {"thicket-ram", Way::carve},
      {"almanac-seller", Way::net}, {"reed-mask", Way::drawn}, {"thicket-ram", Way::slabs}}));
  Build b = with_way(demo, way);
  if (way == Way::slabs) b.parts.back().way.along = Axis::own;
  const Part& part = b.parts.back();
  CAPTURE(demo, name_of(way), part.name);
  const Derived d = test::chain()->derive(b);
  for (const Remark& r : d.remarks)
    if (r.severity == Severity::stop) WARN(r.sentence);
  REQUIRE(d.complete());
  REQUIRE(d.ways.size() == d.form->parts.size());
  const auto made = std::find_if(d.ways.begin(), d.ways.end(), [](const auto& w) { return w != nullptr; });
  REQUIRE(made != d.ways.end());
  CHECK((*made)->way == way);
  CHECK((*made)->part == part.id);
  CHECK_FALSE((*made)->facts.empty());
  CHECK_FALSE((*made)->steps.empty());
  int own = 0;
  for (std::size_t i = 0; i < d.pieces->size(); ++i) {
    const Piece& p = (*d.pieces)[i];
    CHECK(p.id.value == static_cast<int>(i));
    CHECK(p.number == static_cast<int>(i) + 1);
    if (p.part == part.id) {
      ++own;
      CHECK_FALSE(p.panel.valid());
    }
    // No panel of that part is cut from sheet any more.
    if (p.panel.valid()) CHECK(d.is_skin(d.panels->panels[p.panel.value].part));
  }
  CHECK(own == static_cast<int>((*made)->pieces.size()));
  CHECK(d.layout->overlap_mm2 < 0.01);
  // Each lies on sheet of its own kind and thickness.
  for (const Placement& p : d.layout->placements) {
    CHECK(d.layout->blanks[p.sheet].stuff == (*d.pieces)[p.piece.value].stuff);
    CHECK(d.layout->blanks[p.sheet].thickness_mm == (*d.pieces)[p.piece.value].thickness_mm);
  }
  const auto list = shopping(b, d, test::chain()->materials());
  REQUIRE(list);
  const std::string kind = (*made)->pieces.front().stuff;
  CHECK(std::any_of(list->lines.begin(), list->lines.end(),
      [&](const Purchase& p) { return p.id.find("sheet/" + kind + "/") == 0; }));
  const auto sheet = assemble(b, d, test::chain()->materials());
  REQUIRE(sheet);
  const auto steps = std::count_if(sheet->steps.begin(), sheet->steps.end(), [&](const BuildStep& s) {
    return std::find(s.lines.begin(), s.lines.end(), (*made)->steps.front().lines.front()) != s.lines.end();
  });
  CHECK(steps == 1);
  // Nothing is lost in the file.
  const auto bytes = build_bytes(b);
  REQUIRE(bytes);
  const auto back = build_from_bytes(*bytes);
  REQUIRE(back);
  CHECK(*back == b);
}

TEST_CASE("slabs of a form hold all of it", "[make][chain]") {
  Build b = with_way("otter-pup", Way::slabs, 1);
  const Derived d = test::chain()->derive(b);
  REQUIRE(d.complete());
  const auto& way = *d.ways.front();
  double slabs = 0.0;
  for (const Piece& p : way.pieces) slabs += p.area_mm2 * p.thickness_mm * p.copies;
  const PartForm& form = *d.form->parts.front();
  const Mesh outer =
      sheet_face(form.surface.mesh, {span_of(form.surface, form.name, form.outside, form.thickness_mm)}, true);
  CHECK(slabs > std::abs(volume_mm3(capped(outer))));
  b.parts.front().way.wall_mm = 25.0;
  const Derived hollow = test::chain()->derive(b);
  REQUIRE(hollow.complete());
  double less = 0.0;
  for (const Piece& p : hollow.ways.front()->pieces) less += p.area_mm2 * p.thickness_mm * p.copies;
  CHECK(less < 0.85 * slabs);
}

TEST_CASE("an opening along a block is no foot", "[make][carve]") {
  // A ring to be worn: its open ends lie across the block's longest way, or along it, as the axes are chosen.
  Mesh tube = test::turned([](double) { return 60.0; }, [](double s) { return 30.0 * s; }, 6, 48, 1).mesh;
  const Body body = body_of(tube, "band");
  CarveOptions upright;
  upright.axes = {Vec3::UnitY(), Vec3::UnitX(), Vec3::UnitZ()};
  CHECK(plan_carving(body, upright)->has_base);
  CHECK(plan_carving(body, upright)->mitre_front_deg == Approx(0.0).margin(1e-6));
  CarveOptions lying;
  lying.axes = {Vec3::UnitX(), Vec3::UnitZ(), Vec3::UnitY()};
  const auto plan = plan_carving(body, lying);
  REQUIRE(plan);
  CHECK_FALSE(plan->has_base);
  for (const std::string& step : carve_steps(*plan, body)) CHECK(step.find("Foot") == std::string::npos);
}

TEST_CASE("carving steps go from the foot to the corners, and name the mirror image of a pair", "[make][carve]") {
  Mesh open = test::upright_cone(30.0, 120.0);
  for (Vec3& p : open.vertices) p.x() += 0.3 * p.y();
  Body body = body_of(open, "horn");
  body.paired = true;
  CarveOptions options;
  options.axes = own_axes(body.solid);
  const auto steps = carve_steps(*plan_carving(body, options), body);
  const auto at = [&](const char* word) {
    return std::find_if(steps.begin(), steps.end(), [&](const std::string& s) {
      return s.find(word) != std::string::npos;
    }) - steps.begin();
  };
  CHECK(at("block") < at("Foot first"));
  CHECK(at("Foot first") < at("front template on the front"));
  CHECK(at("pin the offcuts back") < at("four corners"));
  CHECK(at("mirror image") == static_cast<long>(steps.size()) - 1);
}

TEST_CASE("a pull chosen badly is told with the side that is better", "[make][drawn][chain]") {
  Build b = with_way("reed-mask", Way::drawn);
  b.parts.back().way.pull = Axis::up;
  const Derived d = test::chain()->derive(b);
  REQUIRE(d.complete());
  const auto remark =
      std::find_if(d.remarks.begin(), d.remarks.end(), [](const Remark& r) { return r.id == "make.undercut"; });
  REQUIRE(remark != d.remarks.end());
  REQUIRE_FALSE(remark->remedies.empty());
  const auto mended = apply_act(b, remark->remedies.front().act);
  REQUIRE(mended);
  CHECK(mended->parts.back().way.pull != Axis::up);
  const Derived better = test::chain()->derive(*mended);
  double left = 0.0;
  for (const Remark& r : better.remarks)
    if (r.id == "make.undercut") left = *r.measured;
  CHECK(left < 0.5 * *remark->measured);
  CHECK(apply_act(b, "set-way 99 slabs").error().text.find("99") != std::string::npos);
  CHECK(apply_act(b, "set-way 1 knitted").error().code == Errc::unknown_name);
  CHECK(apply_act(b, "set-way 1 net")->parts.front().way.way == Way::net);
}

TEST_CASE("of a pair of horns both are made: nets and blanks twice, two bucks", "[make][chain]") {
  const auto way = GENERATE(Way::net, Way::drawn, Way::slabs);
  Build b = *demo_by_name("thicket-ram", Day{20731});
  for (Part& p : b.parts)
    if (std::holds_alternative<SweepSpec>(p.shape)) p.way.way = way, p.way.pull = Axis::side;
  const Derived d = test::chain()->derive(b);
  const auto made = std::find_if(d.ways.begin(), d.ways.end(), [](const auto& w) { return w != nullptr; });
  REQUIRE(made != d.ways.end());
  for (const Piece& p : (*made)->pieces) CHECK(p.copies == 2);
  if (way != Way::drawn) return;
  REQUIRE((*made)->buck);
  const Box box = box_of((*made)->buck->vertices);
  CHECK(box.low.x() == Approx(-box.high.x()));
  CHECK(border_loops(*(*made)->buck).empty());
  CHECK(volume_mm3(*(*made)->buck) > 0.0);
}

TEST_CASE("a tint is paler where the sheet is thinner, and too dark a one is told", "[make][drawn][chain]") {
  Build b = with_way("reed-mask", Way::drawn);
  const Part& part = b.parts.back();
  const auto shares = [](const MadeWay& way) {
    std::array<double, 3> found{};
    for (const std::string& fact : way.facts)
      if (const auto shares_in = test::numbers_in(fact);
          fact.find("of the light through as a flat sheet") != std::string::npos && shares_in.size() == 3) {
        std::copy(shares_in.begin(), shares_in.end(), found.begin());
        return found;
      }
    FAIL("no word of light");
    return found;
  };
  Materials materials = test::chain()->materials();
  const Derived formed = test::formed(b);
  REQUIRE(formed.form);
  const PartForm& form = *formed.form->parts.back();
  WaySpec spec = part.way;
  spec.sheet = "tinted-sheet";
  const auto tinted = make_way(form, spec, materials);
  REQUIRE(tinted);
  const auto pale = shares(*tinted);
  CHECK(pale[0] == 33.0);
  CHECK(pale[1] > pale[0]);
  CHECK(pale[2] > pale[1]);
  CHECK(pale[2] < 100.0);
  Foam& dark = *std::find_if(
      materials.foams.begin(), materials.foams.end(), [](const Foam& f) { return f.id == "tinted-sheet"; });
  dark.light = 0.02;
  const auto night = make_way(form, spec, materials);
  REQUIRE(night);
  CHECK(std::any_of(night->remarks.begin(), night->remarks.end(),
      [](const Remark& r) { return r.id == "make.dim" && r.measured < r.limit; }));
  dark.light = 0.0;  // not made to be looked through: nothing is said of light
  const auto blind = make_way(form, spec, materials);
  REQUIRE(blind);
  CHECK(std::none_of(blind->facts.begin(), blind->facts.end(),
      [](const std::string& f) { return f.find("light") != std::string::npos; }));
  dark.light = 1.5;
  CHECK(check_foam_kind(dark).error().text.find("1.500") != std::string::npos);
  CHECK(foam_from_text(foam_text(materials.foams.front()))->light == materials.foams.front().light);
}

TEST_CASE("fabric is not drawn over a buck", "[make][drawn][chain]") {
  Build b = with_way("reed-mask", Way::drawn);
  b.parts.back().way.sheet = "fabric";
  const Derived d = test::chain()->derive(b);
  CHECK(std::any_of(d.remarks.begin(), d.remarks.end(), [](const Remark& r) {
    return r.id == "form.part" && r.severity == Severity::stop &&
        r.sentence.find("No heat on Fabric") != std::string::npos;
  }));
  b.parts.back().way.sheet = "eva-firm";
  const Derived foam = test::chain()->derive(b);
  CHECK(std::any_of(foam.remarks.begin(), foam.remarks.end(),
      [](const Remark& r) { return r.id == "make.not-drawn" && r.severity == Severity::stop; }));
  b.parts.back().way.sheet = "moon-cheese";
  const Derived none = test::chain()->derive(b);
  CHECK(std::any_of(none.part_errors.begin(), none.part_errors.end(),
      [](const Error& e) { return e.text.find("moon-cheese") != std::string::npos; }));
  // It is made as a skin meanwhile, so that nothing is lost.
  CHECK(none.complete());
  CHECK(none.is_skin(0));
}

TEST_CASE("a closed form that will not lie flat can still be carved", "[make][chain]") {
  Build b = test::demo();
  ImportSpec import;
  import.mesh = std::make_shared<const Mesh>(test::ball(40.0, 8.0)), import.file = "ball.stl";
  import.cut_middle = false;
  b.parts.clear();
  Part part;
  part.name = "ball", part.shape = import, part.own_seams = false;
  REQUIRE(add_part(b, part));
  CHECK_FALSE(test::chain()->derive(b).complete());
  b.parts.front().way.way = Way::carve;
  const Derived d = test::chain()->derive(b);
  if (d.error) UNSCOPED_INFO(d.error->text);
  REQUIRE(d.complete());
  CHECK(d.panels->panels.empty());
  CHECK(d.pieces->size() >= 3);
}
