#include "core/form/foam_head.hpp"

#include <catch2/catch.hpp>

#include "core/geom/nearest.hpp"
#include "core/geom/offset.hpp"
#include "core/geom/polygon.hpp"
#include "support/bench_data.hpp"
#include "support/self_intersection.hpp"
#include "support/solids.hpp"

using namespace awl;
using M = MeasureId;

namespace {

/// The demo's headform in foam, run through the whole chain once.
const Derived& bust() {
  static const Derived d = [] {
    Build build = test::demo();
    build.making = Making::headform;
    build.foam.thickness_mm = 10.0;
    build.foam_head.pipe_mm = 40.0;
    build.foam_head.plan = 1;
    return test::chain()->derive(build);
  }();
  REQUIRE(d.complete());
  return d;
}

}  // namespace

TEST_CASE("the foam headform has the wearer's skin outside, but for ears and hollows", "[form][bust]") {
  const Nearest near_head(bust().head->mesh);
  const Mesh& mesh = bust().form->surface.mesh;
  int close = 0;
  for (const Vec3& p : mesh.vertices) {
    const double off = near_head.to(p).signed_mm;
    CHECK(off > -16.0);  // inside an ear at the most
    CHECK(off < 14.0);   // over an eye or under the lip
    close += std::abs(off) < 1.5 ? 1 : 0;
  }
  CHECK(close > 0.7 * static_cast<double>(mesh.vertices.size()));
  CHECK(bust().panels->spans.front().outside);
}

TEST_CASE("its neck is cut level and its girth is the wearer's", "[form][bust]") {
  const Mesh& mesh = bust().form->surface.mesh;
  const auto loops = border_loops(mesh);
  REQUIRE(loops.size() == 1);
  double low = 1e9, high = -1e9;
  for (const int v : loops[0]) low = std::min(low, mesh.vertices[v].y()), high = std::max(high, mesh.vertices[v].y());
  CHECK(high - low < 0.5);
  Build build = test::demo();
  build.making = Making::headform, build.foam_head.plan = 0, build.foam_head.neck_up_mm = 30.0;
  const Derived shorter = test::chain()->derive(build);
  REQUIRE(shorter.form);
  CHECK(box_of(shorter.form->surface.mesh.vertices).low.y() == Approx(low + 30.0).margin(1.5));
}

TEST_CASE("the plates fit the neck, carry the pipe and stand", "[form][bust]") {
  const NeckPlates& plates = *bust().form->plates;
  CHECK(signed_area_mm2(plates.neck) > 3000.0);
  CHECK(signed_area_mm2(plates.base) > signed_area_mm2(plates.neck));
  for (const Vec2& p : plates.pipe) {
    CHECK(inside(plates.neck, p));
    CHECK(distance_to_outline(plates.neck, p) > 11.0);
  }
  const Box box = box_of(bust().form->surface.mesh.vertices);
  double weight_y = 0.0, area = 0.0;
  for (const Tri& t : bust().form->surface.mesh.triangles) {
    const auto& v = bust().form->surface.mesh.vertices;
    const double a = area_vector(bust().form->surface.mesh, t).norm();
    weight_y += a / 3.0 * (v[t[0]].y() + v[t[1]].y() + v[t[2]].y()), area += a;
  }
  const double height = weight_y / area - box.low.y() + 10.0;
  CHECK(inside(plates.base, plates.balance));
  CHECK(distance_to_outline(plates.base, plates.balance) >= height * std::tan(10.0 * M_PI / 180.0) - 0.5);
}

TEST_CASE("plates are pieces with their hole, and the marks of the check stand on the pieces", "[form][bust][piece]") {
  const auto& pieces = *bust().pieces;
  const Piece& base = pieces.back();
  CHECK(base.name.find("base") == 0);
  CHECK_FALSE(base.panel.valid());
  REQUIRE(base.holes.size() == 1);
  CHECK(std::abs(signed_area_mm2(base.holes[0])) == Approx(M_PI * 20.0 * 20.0).epsilon(0.01));
  CHECK(base.area_mm2 == Approx(signed_area_mm2(base.outline) - std::abs(signed_area_mm2(base.holes[0]))));
  for (const Vec2& p : base.holes[0]) CHECK(inside(base.outline, p));
  std::set<std::string> crosses;
  for (const Piece& p : pieces) {
    for (const PieceCross& c : p.crosses) {
      crosses.insert(c.name);
      CHECK((inside(p.outline, c.at) || distance_to_outline(p.outline, c.at) < 0.5));
    }
    if (p.panel.valid()) CHECK_FALSE(p.heat_note.empty());
  }
  for (const char* name : {"crown", "brow", "chin", "back", "ear", "jaw", "widest"}) {
    CAPTURE(name);
    CHECK(crosses.count(name) == 1);
  }
}

TEST_CASE("a suggested plan is one the foam can nearly follow, and a maker's choice is kept", "[form][bust]") {
  Build build = test::demo();
  build.making = Making::headform;
  const Derived d = test::chain()->derive(build);
  REQUIRE(d.complete());
  CHECK(d.form->head_plan >= 1);
  double worst = 0.0;
  for (const Panel& p : d.panels->panels) {
    worst = std::max(worst, p.strain.p99);
    CHECK_FALSE(p.overlaps);
    CHECK(p.flipped == 0);
  }
  CHECK(worst <= 1.5 * 0.04 + 1e-9);
  const auto remark =
      std::find_if(d.remarks.begin(), d.remarks.end(), [](const Remark& r) { return r.id == "seam.strain"; });
  REQUIRE(remark != d.remarks.end());
  const auto next = apply_act(build, remark->remedies.at(0).act);
  REQUIRE(next);
  CHECK(next->foam_head.plan == d.form->head_plan + 1);
}

TEST_CASE("a crooked head is halved when mirrored, and kept whole when not", "[form][bust]") {
  Build build = test::demo();
  build.making = Making::headform, build.foam_head.plan = 0;
  build.tape.set(MeasureId::HBL, 82.0), build.tape.set(MeasureId::HBR, 76.0);
  const Derived mirrored = test::chain()->derive(build);
  build.foam_head.mirrored = false;
  const Derived whole = test::chain()->derive(build);
  REQUIRE((mirrored.complete() && whole.complete()));
  CHECK(mirrored.pieces->front().copies == 2);
  CHECK(whole.pieces->front().copies == 1);
  CHECK(whole.pieces->size() > mirrored.pieces->size());
}

TEST_CASE("what cannot be built is refused with value and limit", "[form][bust]") {
  CHECK(check_foam_head({80.0, 0.0, true, -1}).error().where == "headform/neck");
  CHECK(check_foam_head({0.0, 200.0, true, -1}).error().where == "headform/pipe");
  CHECK(check_foam_head({0.0, 0.0, true, 99}).error().where == "headform/plan");
  const auto too_wide = neck_plates(bust().form->surface.mesh, 10.0, 79.0);
  REQUIRE_FALSE(too_wide);
  CHECK(too_wide.error().text.find("79 mm does not fit") != std::string::npos);
  CHECK(neck_plates(bust().form->surface.mesh, 70.0, 0.0).error().code == Errc::degenerate_shape);
}

TEST_CASE("a form with its thickness is closed and turned outwards", "[geom][offset]") {
  const Derived& hood = test::derived();
  for (const double mm : {5.0, -5.0}) {
    const Mesh solid = thickened(hood.form->surface.mesh, mm);
    CHECK(border_loops(solid).empty());
    CHECK(volume_mm3(solid) == Approx(5.0 * hood.form->area_mm2).epsilon(0.1));
    for (const auto& e : topology_of(solid).edges) REQUIRE((e.right >= 0 && e.more == 0));
  }
}

TEST_CASE("two hundred heads and thirty children do not cross themselves", "[head][fit][cgal]") {
  int crossing = 0, heads = 0;
  const auto look = [&](const char* people, int count, std::uint64_t seed) {
    test::Subjects subjects(seed, people);
    for (int n = 0; n < count; ++n) {
      const MeasureVector m = subjects.next();
      const auto form =
          test::fitter().fit(WearerMeasures{test::pick(m, {M::HC, M::HL, M::HB, M::TOP, M::FH, M::NC}), people, {}});
      REQUIRE(form);
      ++heads;
      crossing += test::crosses_itself(form->mesh) ? 1 : 0;
    }
  };
  look("adult", 200, 7);
  for (const char* band : {"child-2", "child-5", "child-8", "child-11", "child-14"}) look(band, 6, 17);
  CHECK(heads == 230);
  CHECK(crossing == 0);
}
